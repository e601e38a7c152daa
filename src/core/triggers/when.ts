import { MINUTE, SECOND, unreachable } from '../units/index.ts';
import { type Seen, type Tick, touched, type Way } from './tick.ts';

/**
 * What something waits for. `T` is a test that only somebody else can make, such as a rule over the
 * fields of a scan; it is looked at on whole seconds.
 */
export type When<T = never> =
  | { kind: 'touch'; symbol: string; on: Seen; way: Way; price: number }
  /** The last trade of the finished candle lies above (`up`) or below a level; a candle without trades says nothing. */
  | { kind: 'candle close'; symbol: string; minutes: number; way: Way; price: number }
  | { kind: 'time'; at: number }
  | { kind: 'test'; test: T }
  | { kind: 'all' | 'any'; of: readonly When<T>[] }
  | { kind: 'not'; of: When<T> };

/** A condition at work, with what it has seen: the truth of each of its leaves, in reading order. */
export interface Trigger<T = never> {
  when: When<T>;
  /** Fires only after the whole of it has been false once. */
  newly: boolean;
  paused: boolean;
  /** Session time at which the waiting ends; null: never. */
  until: number | null;
  truth: readonly boolean[];
  seenFalse: boolean;
}

/** A candle that has just finished. */
export interface Candle {
  symbol: string;
  minutes: number;
  close: number;
}

export type Happening =
  | { kind: 'tick'; tick: Tick }
  | { kind: 'candle'; candle: Candle; at: number }
  /** The clock stands at a time that {@link dueAt} asked for. */
  | { kind: 'clock'; at: number };

/** A condition at work that has seen nothing yet. */
export const trigger = <T = never>(
  when: When<T>,
  over: Partial<Pick<Trigger<T>, 'newly' | 'until'>> = {},
): Trigger<T> => ({
  when,
  newly: false,
  paused: false,
  until: null,
  truth: leaves(when).map(() => false),
  seenFalse: false,
  ...over,
});

/** The symbols whose ticks and candles it has to be told. */
export const symbolsOf = <T>(t: Trigger<T>): string[] => [
  ...new Set(leaves(t.when).flatMap((l) => ('symbol' in l ? [l.symbol] : []))),
];

/** What a condition has come to after something happened: `fired` once it is true, `over` when its time has run out. */
interface Told<T> {
  trigger: Trigger<T>;
  outcome: 'waits' | 'fired' | 'over';
}

/**
 * Tells a condition what happened. One that is paused goes on seeing, and fires when it is resumed
 * and told again while it is true.
 * @returns the same trigger when nothing it sees has changed.
 */
export function tell<T>(t: Trigger<T>, h: Happening, passes: (test: T) => boolean): Told<T> {
  const at = h.kind === 'tick' ? h.tick.at : h.at;
  if (t.until !== null && at >= t.until) return { trigger: t, outcome: 'over' };
  let truth: boolean[] | null = null;
  leaves(t.when).forEach((leaf, i) => {
    const now = leafAfter(leaf, h, t.truth[i] as boolean, passes);
    if (now === t.truth[i]) return;
    truth ??= t.truth.slice();
    truth[i] = now;
  });
  const seen = truth ?? t.truth;
  const whole = holds(t.when, { seen, next: 0 });
  const may = !t.newly || t.seenFalse;
  const next =
    truth === null && (whole || t.seenFalse) ? t : { ...t, truth: seen, seenFalse: t.seenFalse || !whole };
  return { trigger: next, outcome: whole && may && !t.paused ? 'fired' : 'waits' };
}

/** When it next has to be told the clock or a candle after `now`; null: ticks are enough. So nobody has to look in vain. */
export function dueAt<T>(t: Trigger<T>, now: number): number | null {
  const times = leaves(t.when).flatMap((l) => {
    switch (l.kind) {
      case 'touch':
        return [];
      case 'candle close':
        return [after(now, l.minutes * MINUTE)];
      case 'time':
        return l.at > now ? [l.at] : [];
      case 'test':
        return [after(now, SECOND)];
      default:
        return unreachable(l);
    }
  });
  if (t.until !== null && t.until > now) times.push(t.until);
  return times.length === 0 ? null : Math.min(...times);
}

/** The first whole multiple of a length of time after `now`. */
export const after = (now: number, every: number): number => now - (now % every) + every;

type Leaf<T> = Exclude<When<T>, { kind: 'all' | 'any' | 'not' }>;

function leaves<T>(w: When<T>): Leaf<T>[] {
  switch (w.kind) {
    case 'all':
    case 'any':
      return w.of.flatMap(leaves);
    case 'not':
      return leaves(w.of);
    default:
      return [w];
  }
}

function leafAfter<T>(l: Leaf<T>, h: Happening, before: boolean, passes: (test: T) => boolean): boolean {
  switch (l.kind) {
    case 'touch':
      return h.kind === 'tick' && h.tick.symbol === l.symbol ? touched(l.way, l.price, h.tick[l.on]) : before;
    case 'candle close': {
      if (h.kind !== 'candle' || h.candle.symbol !== l.symbol || h.candle.minutes !== l.minutes)
        return before;
      return l.way === 'up' ? h.candle.close > l.price : h.candle.close < l.price;
    }
    case 'time':
      return (h.kind === 'tick' ? h.tick.at : h.at) >= l.at;
    case 'test':
      return h.kind === 'clock' ? passes(l.test) : before;
    default:
      return unreachable(l);
  }
}

function holds<T>(w: When<T>, read: { seen: readonly boolean[]; next: number }): boolean {
  switch (w.kind) {
    case 'all':
      return w.of.map((x) => holds(x, read)).every(Boolean);
    case 'any':
      return w.of.map((x) => holds(x, read)).some(Boolean);
    case 'not':
      return !holds(w.of, read);
    default:
      return read.seen[read.next++] as boolean;
  }
}
