// Trades in columns: what figures are worked out of, fast enough to follow a filter as it is changed.
import { totalOf } from '../account/index.ts';
import { isOption, rootOf } from '../instruments/index.ts';
import { DAY, epochDay } from '../units/index.ts';
import type { Counted } from './counting.ts';
import { DIMENSION_LIST, type DimensionId } from './dimensions.ts';
import type { Remark, TradeRecord } from './record.ts';

/** The group of each trade in one dimension: places in `names`, −1 where it is not known; and those of trades that are in more than one. */
export interface Groups {
  names: string[];
  of: Int32Array;
  also: ReadonlyMap<number, readonly number[]>;
}

/** Whether a trade is in the group at a place. */
export const isIn = (g: Groups, trade: number, place: number): boolean =>
  g.of[trade] === place || g.also.get(trade)?.includes(place) === true;

/** Finished trades in the order in which they ended. Money in 1/10,000 dollar. */
export interface Ledger {
  records: readonly TradeRecord[];
  remarks: ReadonlyMap<string, Remark>;
  /** Dates on which trades ended, rising, and of each trade the place of its date. */
  dates: string[];
  day: Int32Array;
  /** In multiples of what was risked; NaN where nothing says what that was. */
  r: Float64Array;
  net: Float64Array;
  gross: Float64Array;
  costs: Float64Array;
  held: Float64Array;
  hindsight: Uint8Array;
  groups: ReadonlyMap<DimensionId, Groups>;
  /** What the search looks at, in small letters; made when it is first asked for. */
  texts(): readonly string[];
}

/** Puts trades into columns; those that are open, and copies of others, are left out. */
export function ledgerOf(
  all: readonly TradeRecord[],
  remarks: ReadonlyMap<string, Remark>,
  counted: ReadonlyMap<string, Counted>,
): Ledger {
  const key = (t: TradeRecord) => t.closed as NonNullable<TradeRecord['closed']>;
  const records = inOrder(all.filter((t) => t.closed !== null && counted.get(t.ref) !== 'copy'));
  const n = records.length;
  const dates: string[] = [];
  const day = new Int32Array(n);
  const column = (f: (t: TradeRecord) => number) => Float64Array.from(records, f);
  records.forEach((t, i) => {
    const { date } = key(t);
    if (dates[dates.length - 1] !== date) dates.push(date);
    day[i] = dates.length - 1;
  });
  let made: readonly string[] | null = null;
  return {
    records,
    remarks,
    dates,
    day,
    r: column((t) => (t.risk ? t.net / t.risk : Number.NaN)),
    net: column((t) => t.net),
    gross: column((t) => t.gross),
    costs: column((t) => totalOf(t.costs)),
    held: column((t) => t.held ?? 0),
    hindsight: Uint8Array.from(records, (t) => (counted.get(t.ref) === 'hindsight' ? 1 : 0)),
    groups: new Map(DIMENSION_LIST.map((d) => [d.id, groupsOf(records, remarks, d)])),
    texts: () => {
      made ??= records.map((t) => textOf(t, remarks.get(t.ref)));
      return made;
    },
  };
}

const textOf = (t: TradeRecord, r: Remark | undefined): string =>
  `${t.symbol} ${isOption(t.symbol) ? rootOf(t.symbol) : ''} ${t.direction} ${t.closed?.date} ${t.sentence ?? ''} ${t.script ?? ''} ${t.plan ?? ''} ${t.account} ${r ? `${r.setup} ${r.tags.join(' ')} ${r.broke} ${r.words}` : ''}`.toLowerCase();

/** Trades by when they ended, those of one millisecond by their numbers. */
function inOrder(records: readonly TradeRecord[]): TradeRecord[] {
  const days = new Map<string, number>();
  const ends = records.map((t, place) => {
    const { date, at } = t.closed as NonNullable<TradeRecord['closed']>;
    let day = days.get(date);
    if (day === undefined) {
      day = epochDay(date) * DAY;
      days.set(date, day);
    }
    return { place, end: day + at, ref: t.ref };
  });
  ends.sort((a, b) => a.end - b.end || a.ref.length - b.ref.length || (a.ref < b.ref ? -1 : 1));
  return ends.map((e) => records[e.place] as TradeRecord);
}

function groupsOf(
  records: readonly TradeRecord[],
  remarks: ReadonlyMap<string, Remark>,
  d: (typeof DIMENSION_LIST)[number],
): Groups {
  const names: string[] = [];
  const places = new Map<string, number>();
  const of = new Int32Array(records.length);
  const also = new Map<number, readonly number[]>();
  const placeOf = (name: string): number => {
    let place = places.get(name);
    if (place === undefined) {
      place = names.push(name) - 1;
      places.set(name, place);
    }
    return place;
  };
  records.forEach((t, i) => {
    const found = d.of(t, remarks.get(t.ref));
    if (found === null || typeof found === 'string') {
      of[i] = found === null ? -1 : placeOf(found);
      return;
    }
    const [first = -1, ...more] = found.map(placeOf);
    of[i] = first;
    if (more.length > 0) also.set(i, more);
  });
  return { names, of, also };
}

/** Which trades are looked at. */
export interface Filter {
  /** Dates on which trades ended, both included; empty: no bound. */
  from: string;
  to: string;
  /** Words that all have to be found. */
  search: string;
  /** Of each dimension the group that is shown; those that are not named are not looked at. */
  groups: Partial<Record<DimensionId, string>>;
  /** What counts, or what was done in hindsight: never both. */
  hindsight: boolean;
}

/** All that counts. */
export const ALL: Filter = { from: '', to: '', search: '', groups: {}, hindsight: false };

/** The places of the trades that a filter leaves, rising. */
export function sift(l: Ledger, f: Filter): Int32Array {
  const words = f.search.toLowerCase().split(/\s+/).filter(Boolean);
  const wanted = Object.entries(f.groups).flatMap(([id, name]) => {
    const g = l.groups.get(id as DimensionId);
    return name === undefined || !g ? [] : [{ g, place: g.names.indexOf(name) }];
  });
  const [low, high] = [f.from, f.to || '9999'];
  const inside = l.dates.map((d) => d >= low && d <= high);
  const texts = words.length > 0 ? l.texts() : [];
  const out = new Int32Array(l.records.length);
  let n = 0;
  for (let i = 0; i < out.length; i++) {
    if ((l.hindsight[i] === 1) !== f.hindsight || !inside[l.day[i] as number]) continue;
    if (wanted.some(({ g, place }) => place === -1 || !isIn(g, i, place))) continue;
    if (words.length > 0 && !words.every((w) => (texts[i] as string).includes(w))) continue;
    out[n++] = i;
  }
  return out.subarray(0, n);
}
