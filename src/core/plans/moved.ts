// A plan whose exits are moved by hand: the same text with another distance in it.
import { type Exit, type OffsetTree, ONE } from '../language/index.ts';
import { CENT, type Part, tickSize } from '../units/index.ts';

type Measured = { price: number; atr: number | null; perShare: number | null };

/** A distance of so many price units, in the unit that it was written in; `usual` becomes cents. */
function inUnitsOf(old: OffsetTree, units: number, m: Measured): OffsetTree {
  const least = tickSize(Math.max(1, Math.round(m.price)) as never);
  const cents = (): OffsetTree => ({
    kind: 'cents',
    units: Math.max(least, Math.round(units / least) * least),
  });
  const parts = (of: number, step: number): number =>
    Math.max(step, Math.round((units / of) * (ONE / step)) * step);
  switch (old.kind) {
    case 'R':
      return m.perShare === null ? cents() : { kind: 'R', r: parts(m.perShare, ONE / 10) };
    case 'percent':
      return { kind: 'percent', percent: parts(m.price / 100, ONE / 10) };
    case 'atr':
      return m.atr === null || old.on !== null ? cents() : { ...old, atrs: parts(m.atr, ONE / 20) };
    case 'ticks':
      return { kind: 'ticks', ticks: Math.max(1, Math.round(units / least)) };
    case 'dollars':
      return { kind: 'dollars', units: Math.max(CENT, Math.round(units / CENT) * CENT) };
    default:
      return cents();
  }
}

/**
 * The exits with one of them at another distance, in price units a share from where it runs; unchanged where
 * it has none. Of a trail it is where it begins, or with `reach` how far it stays behind.
 */
export function movedExit(
  exits: readonly Exit[],
  line: number,
  units: number,
  m: Measured,
  reach = false,
): Exit[] {
  const other = (by: OffsetTree) => inUnitsOf(by, Math.abs(units), m);
  return exits.map((e, k) => {
    if (k !== line) return e;
    if ((e.kind === 'stop exit' || e.kind === 'target exit') && e.place.kind === 'away')
      return { ...e, place: { ...e.place, by: other(e.place.by) } } as Exit;
    if (e.kind === 'trail' && reach)
      return e.reach.kind === 'away' ? { ...e, reach: { ...e.reach, by: other(e.reach.by) } } : e;
    if ((e.kind === 'breakeven' || e.kind === 'trail') && e.after !== null && e.after.kind !== 'after target')
      return {
        ...e,
        after:
          e.after.kind === 'a share'
            ? { ...e.after, by: other(e.after.by) }
            : other(e.after.kind === 'in all' ? CENTS : e.after),
      } as Exit;
    return e;
  });
}

/** What is waited for in all becomes a gain of each share once it is moved. */
const CENTS: OffsetTree = { kind: 'cents', units: 100 };

/** Least part of the shares that a target may be given by hand, in percent. */
const LEAST = 5;

/**
 * The exits with another part for a target: after it so many percent of all shares are out. What it takes or
 * leaves goes to the next target, or to what no target has.
 */
export function partedExits(exits: readonly Exit[], target: number, percent: number): Exit[] {
  const lines = exits.flatMap((e, k) => (e.kind === 'target exit' ? [k] : []));
  const shares = lines.map((k) => shareOf((exits[k] as TargetTree).part));
  const sumTo = (n: number) => shares.slice(0, n).reduce<number>((a, b) => a + (b ?? 0), 0);
  const [own, next] = [shares[target], shares[target + 1]];
  if (own === undefined || own === null) return [...exits];
  const from = sumTo(target);
  const takesAll = target + 1 === lines.length;
  const until = next === undefined || next === null ? 100 : from + own + next;
  const to = Math.min(until - (takesAll ? 0 : LEAST), Math.max(from + LEAST, Math.round(percent)));
  const all = sumTo(lines.length) > 100 - 1e-9;
  return exits.map((e, k) => {
    if (e.kind !== 'target exit') return e;
    // Where the targets are all of it, the last one takes what is left.
    if (k === lines[lines.length - 1] && (takesAll ? to === 100 : all)) return { ...e, part: null };
    if (k === lines[target]) return { ...e, part: percentPart(to - from) };
    return k === lines[target + 1] && next != null ? { ...e, part: percentPart(until - to) } : e;
  });
}

type TargetTree = Extract<Exit, { kind: 'target exit' }>;
const shareOf = (p: Part | null): number | null =>
  p === null || p.kind === 'all' ? null : (100 * p.num) / p.den;
/** A part in percent; one that has a word of its own is that. */
const percentPart = (percent: number): Part => {
  const n = Math.floor(percent + 1e-9);
  const den = [2, 4].find((d) => n * d === 100);
  return den ? { kind: 'fraction', num: 1, den } : { kind: 'fraction', num: n, den: 100 };
};
