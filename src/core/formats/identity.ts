// The identity of an execution: what happened, and its place among those of which all of it is equal. Our files carry it in every format.
import { plus } from '../account/index.ts';
import { type Execution, inTime, type TradeRecord } from '../review/index.ts';

type Told = Pick<Execution, 'date' | 'at' | 'side' | 'qty' | 'price'> & { account: string; symbol: string };

/** What makes two executions the same one: for recognising what has been taken in before. */
export const sameness = (x: Told): string =>
  JSON.stringify([x.account, x.symbol, x.date, x.at, x.side, x.qty, x.price]);

/**
 * The identity as text: `KF-2027-03-09-34265123-VULPN-B-100-74125-1-1`: what happened, its place among equals, and the
 * how-manieth of its millisecond it was, so that files in pieces join in the right order. The account stands beside it.
 */
export const identityOf = (x: Told, { place, nth }: Placed): string =>
  `KF-${x.date}-${x.at}-${x.symbol.replaceAll(' ', '_')}-${x.side === 'buy' ? 'B' : 'S'}-${x.qty}-${x.price}-${place}-${nth}`;

/** The place of an execution among those of which everything is equal, and among those of its account, symbol and millisecond; from 1. */
export interface Placed {
  place: number;
  nth: number;
}

/** The places that an identity says; null where the text is none of ours, or speaks of something else. */
export function placeIn(text: string, x: Told): Placed | null {
  const found = /^KF-.*-(\d{1,6})-(\d{1,6})$/.exec(text);
  if (!found) return null;
  const at = { place: Number(found[1]), nth: Number(found[2]) };
  return at.place > 0 && identityOf(x, at) === text ? at : null;
}

/** An execution as a file has it: whole, also where it turned a position and belongs to two trades. */
export interface Exported {
  trade: TradeRecord;
  x: Execution;
  placed: Placed;
  /** What the trade risked that it opened or belongs to, and where that was planned to end. */
  said: TradeRecord;
}

/**
 * The executions of some trades for a file, in the order of their times. One that turned the position is one, whole,
 * whichever of its two trades is among them: who takes in only one of the two has the other one begun. Places are
 * counted among all trades, so that a file of some of them gives each execution the identity that a file of all would.
 */
export function exportedOf(trades: readonly TradeRecord[], all: readonly TradeRecord[] = trades): Exported[] {
  const wanted = new Set(trades.map((t) => t.ref));
  const sorted = [...all].sort(inTime);
  const each = sorted.flatMap((t) => wholeOf(t, sorted));
  const keyOf = (e: Whole) => sameness({ ...e.x, account: e.trade.account, symbol: e.trade.symbol });
  const taken = new Map<string, Set<number>>();
  const take = (e: Whole, place: number): number => {
    taken.set(keyOf(e), (taken.get(keyOf(e)) ?? new Set()).add(place));
    return place;
  };
  // Those that have a place from the file they came with keep it.
  for (const e of each) if (e.x.place !== undefined) take(e, e.x.place);
  const freePlace = (e: Whole): number => {
    let place = 1;
    while (taken.get(keyOf(e))?.has(place)) place++;
    return take(e, place);
  };
  const moments = new Map<string, number>();
  const placed = each.map((e): Whole & { placed: Placed } => {
    const moment = JSON.stringify([e.trade.account, e.trade.symbol, e.x.date, e.x.at]);
    const nth = (moments.get(moment) ?? 0) + 1;
    moments.set(moment, nth);
    return { ...e, placed: { place: e.x.place ?? freePlace(e), nth: e.x.nth ?? nth } };
  });
  return placed
    .filter((e) => e.of.some((ref) => wanted.has(ref)))
    .map((e, k) => ({ e, k }))
    .sort((a, b) => a.e.x.date.localeCompare(b.e.x.date) || a.e.x.at - b.e.x.at || a.k - b.k)
    .map(({ e }) => e);
}

/** An execution whole, with the trades that it is of. */
type Whole = Omit<Exported, 'placed'> & { of: string[] };

/** The executions of a trade, each whole: the part that turned the position joined with the one that it opened, which is then not there again. */
function wholeOf(t: TradeRecord, all: readonly TradeRecord[]): Whole[] {
  const other = (x: Execution, rest: boolean) =>
    all.find(
      (o) =>
        o.ref !== t.ref &&
        o.account === t.account &&
        o.symbol === t.symbol &&
        o.executions.some((y) => isPart(x, y, rest)),
    );
  return t.executions.flatMap((x): Whole[] => {
    const alone = { trade: t, said: t, of: [t.ref] };
    if (x.whole === undefined) return [{ ...alone, x }];
    const { whole: size, ...part } = x;
    if (size === 0) return other(x, false) ? [] : [{ ...alone, x: part }];
    const opened = other(x, true);
    const rest = opened?.executions.find((y) => isPart(x, y, true));
    if (!opened || !rest) return [{ ...alone, x: part }];
    return [
      {
        trade: t,
        said: opened,
        of: [t.ref, opened.ref],
        x: { ...part, qty: size, costs: plus(x.costs, rest.costs) },
      },
    ];
  });
}

/** Whether one is the other part of an execution that turned a position: the rest, or the part that closed. */
const isPart = (x: Execution, y: Execution, rest: boolean): boolean =>
  (rest ? y.whole === 0 : (y.whole ?? 0) > 0) &&
  y.date === x.date &&
  y.at === x.at &&
  y.side === x.side &&
  y.price === x.price &&
  y.id === x.id &&
  y.file === x.file &&
  Math.abs(x.qty + y.qty - Math.max(x.whole ?? 0, y.whole ?? 0)) < 1e-8;
