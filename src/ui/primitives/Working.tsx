'use client';

/** What work that is cancelled is refused with. */
export const CANCELLED = 'Cancelled; nothing has changed.';

/** Work under way: what it is, how far it has come (0 to 1), and the way to end it. */
export function Working({
  what,
  part,
  end,
  ending = 'Cancel',
}: {
  what: string;
  part: number;
  end(): void;
  ending?: string;
}) {
  return (
    <div role="status">
      <p className="text-[13px]">{what}</p>
      <div className="my-2 h-2 bg-ground">
        <div className="h-2 bg-text" style={{ width: `${part * 100}%` }} />
      </div>
      <button type="button" className="btn" onClick={end}>
        {ending}
      </button>
    </div>
  );
}
