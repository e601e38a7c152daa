import { oneLine } from '@/core/language';

/** Texts that may be meant instead, each taken by one press. */
export const Instead = ({ texts, take }: { texts: readonly string[]; take(text: string): void }) =>
  texts.map((text) => (
    <button key={text} type="button" className="btn num ml-3 px-2" onClick={() => take(text)}>
      {oneLine(text)}
    </button>
  ));
