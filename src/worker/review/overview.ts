import {
  ALL,
  dayPoints,
  excursions,
  type Filter,
  figuresOf,
  findingsOf,
  groupsOf,
  hoursByWeekday,
  type Ledger,
  leavingEarly,
  sift,
  type TradeRecord,
  type Unit,
  unitOf,
} from '../../core/review/index.ts';
import { PRICE_SCALE } from '../../core/units/index.ts';
import type { Overview, Sorting } from './review-messages.ts';
import type { ReviewRecords } from './review-records.ts';

/** Trades that a picture of single ones shows at most. */
const MOST_POINTS = 1_500;

/** The page of figures of the trades that a filter leaves; `unit` null: whichever says more. */
export function overviewOf(
  { ledger, hindsight, open, imports, afters }: ReviewRecords,
  filter: Filter,
  asked: Unit | null,
): Overview {
  const places = sift(ledger, filter);
  const unit = asked ?? unitOf(ledger, places);
  const left = leavingEarly(ledger, places, afters);
  return {
    unit,
    all: ledger.records.length - hindsight.size,
    hindsight: hindsight.size,
    open: open.map((t) => `${t.direction} ${t.symbol}`),
    from: ledger.dates[0] ?? '',
    to: ledger.dates[ledger.dates.length - 1] ?? '',
    choices: choicesOf(ledger),
    figures: figuresOf(ledger, places),
    days: dayPoints(ledger, places),
    hours: hoursByWeekday(ledger, places),
    excursions: excursions(ledger, places, MOST_POINTS),
    results: Float64Array.from(places, (i) =>
      unit === 'R' ? (ledger.r[i] as number) : (ledger.net[i] as number) / PRICE_SCALE,
    ).filter((x) => !Number.isNaN(x)),
    findings: findingsOf(ledger, places, unit),
    early: {
      trades: left.touched.length,
      notYet: left.unknown['not yet'],
      costR: left.costR,
      mean: left.mean,
      interval: left.interval,
    },
    imports,
  };
}

/** Results in R of the trades at some places, day by day. */
export function resultsByDay(l: Ledger, places: Int32Array): number[][] {
  const days = new Map<number, number[]>();
  for (const i of places) {
    const r = l.r[i] as number;
    if (Number.isNaN(r)) continue;
    const day = l.day[i] as number;
    const list = days.get(day);
    if (list) list.push(r);
    else days.set(day, [r]);
  }
  return [...days.values()];
}

function choicesOf(l: Ledger): Overview['choices'] {
  const places = sift(l, ALL);
  const out: Overview['choices'] = {};
  for (const [id] of l.groups) out[id] = groupsOf(l, places, id).map((g) => g.name);
  return out;
}

/** Places in the order that is asked for. */
export function inOrder(l: Ledger, places: Int32Array, { by, down }: Sorting): Int32Array {
  const of = (i: number) => l.records[i] as TradeRecord;
  const value: Record<Exclude<Sorting['by'], 'closed' | 'symbol'>, (i: number) => number> = {
    net: (i) => l.net[i] as number,
    r: (i) => l.r[i] as number,
    held: (i) => l.held[i] as number,
    shares: (i) => of(i).shares,
    costs: (i) => l.costs[i] as number,
    mae: (i) => of(i).mae ?? Number.NaN,
    mfe: (i) => of(i).mfe ?? Number.NaN,
  };
  const out = places.slice();
  if (by === 'symbol')
    out.sort((a, b) => (of(a).symbol < of(b).symbol ? -1 : of(a).symbol > of(b).symbol ? 1 : a - b));
  else if (by !== 'closed') {
    // What is not known stands last, whichever way.
    const v = value[by];
    const last = down ? Number.NEGATIVE_INFINITY : Number.POSITIVE_INFINITY;
    const key = (i: number) => (Number.isNaN(v(i)) ? last : v(i));
    out.sort((a, b) => key(a) - key(b) || a - b);
  }
  return down ? out.reverse() : out;
}
