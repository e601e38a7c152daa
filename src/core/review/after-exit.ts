// How far the price went a trade's way after it was over.
import { DAY, MINUTE } from '../units/index.ts';
import type { Aftermath } from './aftermath.ts';
import type { Minute } from './excursion.ts';

/** A trade that is over: when (ms, of any day), at what average price, how many shares times what one is worth, and which way. */
export interface Ended {
  at: number;
  price: number;
  size: number;
  sign: 1 | -1;
}

/**
 * In money for all its shares: five and thirty minutes on, at the close, and at best, by the minute candles that begin after it; null where there are none.
 * `close`: the regular close, in ms after midnight.
 */
export function afterExit(t: Ended, minutes: readonly Minute[], close: number): Aftermath['after'] {
  const ended = t.at % DAY;
  // Candles of a session's later days begin at session times.
  const startOf = (m: Minute) => m.start % DAY;
  const later = minutes.filter((m) => startOf(m) >= ended && startOf(m) < close);
  const worth = (price: number) => t.sign * (price - t.price) * t.size;
  const at = (ms: number): number | null => {
    const before = later.filter((m) => startOf(m) <= ended + ms);
    const last = before[before.length - 1];
    return ended + ms <= close && last ? worth(last.close) : null;
  };
  const last = later[later.length - 1];
  if (ended >= close || !last) return null;
  return {
    five: at(5 * MINUTE),
    thirty: at(30 * MINUTE),
    close: worth(last.close),
    best: Math.max(0, ...later.map((m) => worth(t.sign === 1 ? m.high : m.low))),
  };
}
