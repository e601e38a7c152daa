// What to stop doing, and what carries the rest: groups of trades that lose, or make, more than chance would explain.
import { studentBelow } from '../statistics/index.ts';
import { DIMENSION_LIST, type DimensionId } from './dimensions.ts';
import { type Group, groupsOf, inUnit, type Unit } from './groups.ts';
import { isIn, type Ledger } from './ledger.ts';

/** A group of trades that stands out. */
export interface Finding {
  dimension: DimensionId;
  heading: string;
  group: Group;
  /** How probably chance alone would show one group so far off among all that were looked at. */
  chance: number;
  /** What all trades made, and what they would have made without these. */
  all: number;
  without: number;
}

/** Trades that a group has to have. */
const FEWEST_TRADES = 10;
/** The most of all trades that it may be. */
const MOST_PART = 2 / 3;
/** Of findings that are about nearly the same trades the first one is kept: this share of the smaller one. */
const SAME = 0.6;
const SURE = 0.05;

/**
 * Groups whose mean result differs from zero: by Student's t over days, one-sided, with chances made larger for every group that was looked at
 * (S. Holm, "A simple sequentially rejective multiple test procedure", Scandinavian Journal of Statistics 6, 1979), so that looking in many places
 * finds nothing where nothing is. The dearest first. `suspect` is the losing group that chance would show least often, where none is beyond it.
 */
export function findingsOf(
  l: Ledger,
  places: Int32Array,
  unit: Unit,
): { stop: Finding[]; carries: Finding[]; suspect: Finding | null; looked: number } {
  const values = unit === 'R' ? l.r : l.net;
  let all = 0;
  for (const i of places) if (!Number.isNaN(values[i] as number)) all += values[i] as number;
  const looked = DIMENSION_LIST.flatMap((d) =>
    groupsOf(l, places, d.id)
      // A group that is nearly all trades says nothing of what to leave out.
      .filter(
        (g) =>
          !Number.isNaN(inUnit(g, unit).t) &&
          g.trades >= FEWEST_TRADES &&
          g.trades <= MOST_PART * places.length,
      )
      .map((group) => ({ dimension: d.id, heading: d.name, group })),
  );
  const ranked = looked
    .map((x) => ({ ...x, p: studentBelow(-Math.abs(inUnit(x.group, unit).t), x.group.days - 1) }))
    .sort((a, b) => a.p - b.p);
  let most = 0;
  const found = ranked.map(({ p, ...x }, k): Finding => {
    most = Math.max(most, Math.min(1, 2 * p * (ranked.length - k)));
    return { ...x, chance: most, all, without: all - inUnit(x.group, unit).sum };
  });
  const sure = found.filter((f) => f.chance < SURE);
  const side = (sign: number) =>
    apart(
      l,
      places,
      sure
        .filter((f) => Math.sign(inUnit(f.group, unit).sum) === sign)
        .sort((a, b) => Math.abs(inUnit(b.group, unit).sum) - Math.abs(inUnit(a.group, unit).sum)),
    );
  const stop = side(-1);
  const suspect = stop.length > 0 ? null : found.find((f) => inUnit(f.group, unit).sum < 0);
  return { stop, carries: side(1), suspect: suspect ?? null, looked: looked.length };
}

function apart(l: Ledger, places: Int32Array, list: readonly Finding[]): Finding[] {
  const kept: { finding: Finding; who: Set<number> }[] = [];
  for (const finding of list) {
    const groups = l.groups.get(finding.dimension);
    const place = groups?.names.indexOf(finding.group.name) ?? -1;
    const who = new Set<number>();
    for (const i of places) if (groups && isIn(groups, i, place)) who.add(i);
    const same = kept.some(({ who: other }) => {
      let both = 0;
      for (const i of who) if (other.has(i)) both++;
      return both >= SAME * Math.min(who.size, other.size);
    });
    if (!same) kept.push({ finding, who });
  }
  return kept.map((k) => k.finding);
}
