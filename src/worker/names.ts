import { namedText, REFERENCES, type SymbolView } from '../core/market/index.ts';

/** A price by its name, with its value now. */
export interface NamedNow {
  text: string;
  price: number | null;
  meaning: string;
}

/** Prices that a script can name: of references with choices, the usual ones. */
export function namedPrices(v: SymbolView, levels: readonly string[]): NamedNow[] {
  return REFERENCES.flatMap((r) =>
    instancesOf(r.words, levels).map((args) => ({
      text: namedText({ words: r.words, args }),
      price: r.value(v, args),
      meaning: r.meaning,
    })),
  );
}

const HIGH_LOW = ['high', 'low'] as const;
/** The usual arguments of a reference. */
function instancesOf(words: string, levels: readonly string[]): (string | number | null)[][] {
  switch (words) {
    case 'opening range MINUTES high|low':
      return [5, 15].flatMap((m) => HIGH_LOW.map((e) => [m, e]));
    case 'CANDLE high|low|open|close [BACK back]':
      return [1, 2, 5, 15].flatMap((m) => ['high', 'low', 'open', 'close'].map((e) => [m, e, null]));
    case 'ema LENGTH on CANDLES':
    case 'sma LENGTH on CANDLES':
      return [
        [9, 2],
        [20, 5],
        [20, 'day'],
      ];
    case 'level NAME':
      return levels.map((name) => [name]);
    default: {
      const choice = words.split(' ').find((w) => w.includes('|'));
      return choice ? choice.split('|').map((w) => [w]) : [[]];
    }
  }
}
