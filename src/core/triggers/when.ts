import { MINUTE, SECOND, unreachable } from '../units/index.ts';
import { type Seen, type Tick, touched, type Way } from './tick.ts';

/** When a test is looked at: at each trade or quote of a symbol, when a candle of it has finished, or on whole seconds. */
export type Look =
  | { at: 'ticks'; symbol: string }
  | { at: 'candle'; symbol: string; minutes: number }
  | { at: 'seconds' };

/** What something waits for. `T` is a test that only somebody else can make, such as a rule over the fields of a scan. */
export type When<T = never> =
  | { kind: 'touch'; symbol: string; on: Seen; way: Way; price: number }
  | { kind: 'time'; at: number }
  /** `crossing`: it holds only after it has been false. */
  | { kind: 'test'; test: T; looks: readonly Look[]; crossing?: true }
  | { kind: 'all' | 'any'; of: readonly When<T>[] }
  | { kind: 'not'; of: When<T> };

/** Whether something holds; null: not known yet. */
export type Truth = boolean | null;

/** A condition at work, with what it has seen: the truth of each of its leaves, in reading order. */
export interface Trigger<T = never> {
  when: When<T>;
  /** Fires only after the whole of it has been false once. */
  newly: boolean;
  paused: boolean;
  /** Session time at which the waiting ends; null: never. */
  until: number | null;
  truth: readonly Truth[];
  /** Which leaves have been false once. */
  been: readonly boolean[];
  seenFalse: boolean;
}

export type Happening =
  | { kind: 'tick'; tick: Tick }
  /** A candle that traded has finished. */
  | { kind: 'candle'; symbol: string; minutes: number; at: number }
  /** It is set: everything but candles is looked at. */
  | { kind: 'set'; at: number }
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
  truth: leaves(when).map(() => null),
  been: leaves(when).map(() => false),
  seenFalse: false,
  ...over,
});

const symbols = new WeakMap<object, readonly string[]>();
/** The symbols whose ticks and candles it has to be told. */
export function symbolsOf<T>({ when }: Trigger<T>): readonly string[] {
  const known = symbols.get(when);
  if (known) return known;
  const all = leaves(when).flatMap((l) => {
    if (l.kind === 'touch') return [l.symbol];
    return l.kind === 'test' ? l.looks.flatMap((x) => ('symbol' in x ? [x.symbol] : [])) : [];
  });
  const each = [...new Set(all)];
  symbols.set(when, each);
  return each;
}

/** The candles that it has to be told of. */
export const candlesOf = <T>(t: Trigger<T>): { symbol: string; minutes: number }[] =>
  leaves(t.when).flatMap((l) =>
    l.kind === 'test' ? l.looks.flatMap((x) => (x.at === 'candle' ? [x] : [])) : [],
  );

/** What a condition has come to after something happened: `fired` once it is true, `over` when its time has run out. */
interface Told<T> {
  trigger: Trigger<T>;
  outcome: 'waits' | 'fired' | 'over';
}

/**
 * Tells a condition what happened. One that is paused goes on seeing, and fires when it is resumed
 * and told again while it is true. What is not known makes nothing fire.
 * @returns the same trigger when nothing it sees has changed.
 */
export function tell<T>(t: Trigger<T>, h: Happening, passes: (test: T) => Truth): Told<T> {
  const at = h.kind === 'tick' ? h.tick.at : h.at;
  if (t.until !== null && at >= t.until) return { trigger: t, outcome: 'over' };
  let { truth, been } = t;
  leaves(t.when).forEach((leaf, i) => {
    const raw = leafAfter(leaf, h, passes);
    if (raw === undefined) return;
    if (raw === false && !been[i]) been = been.with(i, true);
    const now = raw && leaf.kind === 'test' && leaf.crossing ? (been[i] as boolean) : raw;
    if (now !== truth[i]) truth = truth.with(i, now);
  });
  const whole = holds(t.when, { seen: truth, next: 0 });
  const seenFalse = t.seenFalse || whole === false;
  const same = truth === t.truth && been === t.been && seenFalse === t.seenFalse;
  const may = !t.newly || t.seenFalse;
  return {
    trigger: same ? t : { ...t, truth, been, seenFalse },
    outcome: whole === true && may && !t.paused ? 'fired' : 'waits',
  };
}

/** When it next has to be told the clock or a candle after `now`; null: ticks are enough. So nobody has to look in vain. */
export function dueAt<T>(t: Trigger<T>, now: number): number | null {
  const times = leaves(t.when).flatMap((l) => {
    switch (l.kind) {
      case 'touch':
        return [];
      case 'time':
        return l.at > now ? [l.at] : [];
      case 'test':
        return l.looks.flatMap((x) =>
          x.at === 'ticks' ? [] : [after(now, x.at === 'candle' ? x.minutes * MINUTE : SECOND)],
        );
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

const known = new WeakMap<object, readonly Leaf<never>[]>();
/** The leaves of a condition in reading order; worked out once, as it never changes. */
function leaves<T>(w: When<T>): readonly Leaf<T>[] {
  let list = known.get(w) as readonly Leaf<T>[] | undefined;
  if (!list) {
    list = leavesOf(w);
    known.set(w, list as readonly Leaf<never>[]);
  }
  return list;
}

function leavesOf<T>(w: When<T>): Leaf<T>[] {
  switch (w.kind) {
    case 'all':
    case 'any':
      return w.of.flatMap(leavesOf);
    case 'not':
      return leavesOf(w.of);
    default:
      return [w];
  }
}

/** What a leaf comes to by a happening; undefined: it does not look at that. */
function leafAfter<T>(l: Leaf<T>, h: Happening, passes: (test: T) => Truth): Truth | undefined {
  switch (l.kind) {
    case 'touch':
      return h.kind === 'tick' && h.tick.symbol === l.symbol
        ? touched(l.way, l.price, h.tick[l.on])
        : undefined;
    case 'time':
      return (h.kind === 'tick' ? h.tick.at : h.at) >= l.at;
    case 'test':
      return l.looks.some((x) => looksAt(x, h)) ? passes(l.test) : undefined;
    default:
      return unreachable(l);
  }
}

function looksAt(x: Look, h: Happening): boolean {
  switch (h.kind) {
    case 'tick':
      return x.at === 'ticks' && x.symbol === h.tick.symbol;
    case 'candle':
      return x.at === 'candle' && x.symbol === h.symbol && x.minutes === h.minutes;
    case 'set':
      return x.at !== 'candle';
    case 'clock':
      return x.at === 'seconds';
    default:
      return unreachable(h);
  }
}

/** By the rules of three-valued logic: what is not known decides nothing (Kleene). */
function holds<T>(w: When<T>, read: { seen: readonly Truth[]; next: number }): Truth {
  switch (w.kind) {
    case 'all':
    case 'any': {
      const decides = w.kind === 'any';
      const of = w.of.map((x) => holds(x, read));
      if (of.includes(decides)) return decides;
      return of.includes(null) ? null : !decides;
    }
    case 'not': {
      const inner = holds(w.of, read);
      return inner === null ? null : !inner;
    }
    default:
      return read.seen[read.next++] as Truth;
  }
}
