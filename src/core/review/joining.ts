// Executions joined into trades: from flat to flat, whatever pieces they came in, a flip of side being two trades.
import { NO_COSTS, plus } from '../account/index.ts';
import { multiplierOfSymbol } from '../instruments/index.ts';
import { DAY, daysBetween, money } from '../units/index.ts';
import { type Execution, type Exits, noExits, type TradeRecord } from './record.ts';

/** An execution with what it belongs to. */
export interface JoinedFrom extends Execution {
  account: string;
  symbol: string;
  /** What the trade risked, and where it was planned to end, where the source says it; the first that does counts. */
  risk: number | null;
  exits: Exits;
}

/** A trade as executions alone tell it. */
export type Joined = Pick<
  TradeRecord,
  | 'account'
  | 'symbol'
  | 'direction'
  | 'shares'
  | 'averageEntry'
  | 'averageExit'
  | 'opened'
  | 'closed'
  | 'held'
  | 'gross'
  | 'costs'
  | 'net'
  | 'risk'
  | 'exits'
  | 'executions'
>;

const order = (a: JoinedFrom, b: JoinedFrom): number =>
  a.date < b.date ? -1 : a.date > b.date ? 1 : a.at - b.at;

/** A part of an execution: its shares, and their part of its costs, to the last unit. */
function split(x: JoinedFrom, qty: number): [JoinedFrom, JoinedFrom] {
  const part = (c: number) => Math.round((c * qty) / x.qty);
  const { commission, venue, sec, taf } = x.costs;
  const one = {
    commission: money(part(commission)),
    venue: money(part(venue)),
    sec: money(part(sec)),
    taf: money(part(taf)),
  };
  const rest = {
    commission: money(commission - one.commission),
    venue: money(venue - one.venue),
    sec: money(sec - one.sec),
    taf: money(taf - one.taf),
  };
  return [
    // What was risked is said of the trade that it opens.
    { ...x, qty, costs: one, whole: x.qty, risk: null, exits: noExits },
    { ...x, qty: Math.round((x.qty - qty) * 1e8) / 1e8, costs: rest, whole: 0 },
  ];
}

/** By their times; those of one millisecond as their files say, where all of them do, else as they are given. */
function inOrder(list: readonly JoinedFrom[]): JoinedFrom[] {
  const moments = new Map<string, JoinedFrom[]>();
  for (const x of list) {
    const key = `${x.date} ${x.at}`;
    moments.set(key, [...(moments.get(key) ?? []), x]);
  }
  return [...moments.values()]
    .map((m) => (m.every((x) => x.nth !== undefined) ? m.sort((a, b) => (a.nth ?? 0) - (b.nth ?? 0)) : m))
    .sort((a, b) => order(a[0] as JoinedFrom, b[0] as JoinedFrom))
    .flat();
}

/** Joins executions by account and symbol, in the order of their times; those of one time in the order in which they are given. The last trade may be open. */
export function joinTrades(executions: readonly JoinedFrom[]): Joined[] {
  const by = new Map<string, JoinedFrom[]>();
  for (const x of executions) {
    const key = JSON.stringify([x.account, x.symbol]);
    const list = by.get(key);
    if (list) list.push(x);
    else by.set(key, [x]);
  }
  const lists = [...by.values()].map(inOrder).sort((a, b) => order(a[0] as JoinedFrom, b[0] as JoinedFrom));
  const out: Joined[] = [];
  for (const list of lists) {
    // Parts of a share are kept to the eighth place, so that sums of them come to nothing.
    let position = 0;
    let parts: JoinedFrom[] = [];
    for (let x of list) {
      const sign = x.side === 'buy' ? 1 : -1;
      if (position !== 0 && Math.sign(position) !== sign && x.qty > Math.abs(position)) {
        const [closing, opening] = split(x, Math.abs(position));
        out.push(joined([...parts, closing]));
        [position, parts, x] = [0, [], opening];
      }
      parts.push(x);
      position = Math.round((position + sign * x.qty) * 1e8) / 1e8;
      if (position === 0) {
        out.push(joined(parts));
        parts = [];
      }
    }
    if (parts.length > 0) out.push(joined(parts));
  }
  return out;
}

function joined(parts: readonly JoinedFrom[]): Joined {
  const first = parts[0] as JoinedFrom;
  const last = parts[parts.length - 1] as JoinedFrom;
  const multiplier = multiplierOfSymbol(first.symbol);
  const sums = { in: { qty: 0, notional: 0 }, out: { qty: 0, notional: 0 } };
  for (const x of parts) {
    const s = x.side === first.side ? sums.in : sums.out;
    s.qty += x.qty;
    s.notional += x.qty * x.price;
  }
  const isOver = Math.abs(sums.in.qty - sums.out.qty) < 1e-8;
  const gross = realizedOf(parts, 'average') * multiplier;
  const costs = parts.reduce((a, x) => plus(a, x.costs), NO_COSTS);
  const all = costs.commission + costs.venue + costs.sec + costs.taf;
  const exits = parts.find((x) => x.exits.stop !== null || x.exits.target !== null)?.exits ?? noExits;
  return {
    account: first.account,
    symbol: first.symbol,
    direction: first.side === 'buy' ? 'long' : 'short',
    shares: sums.in.qty,
    averageEntry: sums.in.notional / sums.in.qty,
    averageExit: sums.out.qty === 0 ? null : sums.out.notional / sums.out.qty,
    opened: { date: first.date, at: first.at },
    closed: isOver ? { date: last.date, at: last.at } : null,
    held: isOver ? daysBetween(first.date, last.date) * DAY + last.at - first.at : null,
    gross,
    costs,
    net: gross - all,
    risk: parts.find((x) => x.risk !== null)?.risk ?? null,
    exits,
    executions: parts.map(({ account: _, symbol: __, risk: ___, exits: ____, ...x }) => x),
  };
}

/**
 * What executions of one trade have realized, in price units times shares: against the first shares that came in, or against their average at the
 * time. Both come to the same once it is flat.
 */
export function realizedOf(
  parts: readonly Pick<Execution, 'side' | 'qty' | 'price'>[],
  basis: 'fifo' | 'average',
): number {
  const entering = parts[0]?.side;
  const sign = entering === 'buy' ? 1 : -1;
  const lots: { qty: number; price: number }[] = [];
  let realized = 0;
  for (const x of parts) {
    if (x.side === entering) {
      const one = lots[0];
      if (basis === 'average' && one) {
        one.price = (one.price * one.qty + x.price * x.qty) / (one.qty + x.qty);
        one.qty += x.qty;
      } else lots.push({ qty: x.qty, price: x.price });
      continue;
    }
    let left = x.qty;
    while (left > 0 && lots[0]) {
      const lot = lots[0];
      const qty = Math.min(left, lot.qty);
      realized += sign * (x.price - lot.price) * qty;
      lot.qty -= qty;
      left -= qty;
      if (lot.qty === 0) lots.shift();
    }
  }
  return realized;
}
