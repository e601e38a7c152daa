import { BASIS_POINTS, CENT, type Money, money, PRICE_SCALE, type Side } from '../units/index.ts';

/** What trading costs from a date on; amounts in 1/10,000 dollar unless said. An example of the usual shape, not of any firm. */
export interface FeeTable {
  /** First day on which it holds. */
  from: string;
  perShare: number;
  perOrder: number;
  minimumPerOrder: number;
  /** Most of an order's value that is commission, in basis points. */
  capBasisPoints: number;
  /** What the exchange takes for a share that takes liquidity, and for one that adds it; negative is paid back. */
  venueRemove: number;
  venueAdd: number;
  /** SEC fee on sales (Securities Exchange Act, Section 31), per million dollars. */
  secPerMillion: number;
  /** FINRA Trading Activity Fee on sales, in millionths of a dollar a share, and the most of an order. */
  tafMicros: number;
  tafMost: number;
  /** Commission of an option contract, and what exchanges, clearing and regulation take for one. Left out in tables of before. */
  perContract?: number;
  venueContract?: number;
  /** FINRA Trading Activity Fee on sales of options, in millionths of a dollar a contract. */
  tafContractMicros?: number;
}

/**
 * Half a cent a share, at least one dollar, at most 1 % of the order's value; what the exchange takes and
 * pays back is passed on. SEC fee $27.80 a million, TAF $0.000166 a share up to $8.30. An option contract
 * $0.65, with $0.05 for exchange and clearing and $0.00279 TAF when sold. All from memory.
 */
export const DEFAULT_FEES: FeeTable = {
  from: '2024-05-22',
  perShare: 50,
  perOrder: 0,
  minimumPerOrder: PRICE_SCALE,
  capBasisPoints: 100,
  venueRemove: 30,
  venueAdd: -20,
  secPerMillion: 27.8 * PRICE_SCALE,
  tafMicros: 166,
  tafMost: 8.3 * PRICE_SCALE,
  perContract: 6_500,
  venueContract: 500,
  tafContractMicros: 2_790,
};

/** What an order, a fill or a trade has cost, by who takes it; money in 1/10,000 dollar. What is paid back is negative. */
export interface Costs {
  commission: Money;
  venue: Money;
  sec: Money;
  taf: Money;
  /** What lenders took for the shares that a trade sold short. */
  borrow?: Money;
}
export const NO_COSTS: Costs = { commission: money(0), venue: money(0), sec: money(0), taf: money(0) };

/** All of it together. */
export const totalOf = (c: Costs): Money => money(c.commission + c.venue + c.sec + c.taf + (c.borrow ?? 0));
const each = (a: Costs, b: Costs, f: (x: number, y: number) => number): Costs => ({
  commission: money(f(a.commission, b.commission)),
  venue: money(f(a.venue, b.venue)),
  sec: money(f(a.sec, b.sec)),
  taf: money(f(a.taf, b.taf)),
  ...(a.borrow === undefined && b.borrow === undefined
    ? {}
    : { borrow: money(f(a.borrow ?? 0, b.borrow ?? 0)) }),
});
/** The sum of two. */
export const plus = (a: Costs, b: Costs): Costs => each(a, b, (x, y) => x + y);
/** What of the one the other has not. */
export const minus = (a: Costs, b: Costs): Costs => each(a, b, (x, y) => x - y);

/** The table that holds on a date: the newest that has begun, or the first where none has. */
export const tableOn = (tables: readonly FeeTable[], date: string): FeeTable =>
  [...tables].sort((a, b) => a.from.localeCompare(b.from)).reduce((a, b) => (b.from <= date ? b : a));

/** What an order has traded. `notional` is price × shares; `added` are the shares that added liquidity. */
export interface Traded {
  side: Side;
  shares: number;
  notional: number;
  added: number;
  /** Option contracts in it, all legs; 0 or left out for shares. */
  contracts?: number;
}

/** Commission of an order for the shares it filled: a share or an order rate, at least a minimum, at most a part of its value. */
function commissionFor(t: FeeTable, { shares, notional }: Traded): number {
  const wanted = Math.max(t.minimumPerOrder, t.perOrder + shares * t.perShare);
  return Math.min(wanted, Math.floor((notional * t.capBasisPoints) / BASIS_POINTS));
}

const toCentUp = (x: number): number => Math.ceil(Math.round(x * 1e6) / 1e6 / CENT) * CENT;

/**
 * What an order has cost so far. The fees on sales are of the whole order, rounded up to the cent
 * (Securities Exchange Act, Section 31; FINRA By-Laws, Schedule A, Section 1; the rounding from memory).
 */
export function costsFor(t: FeeTable, traded: Traded): Costs {
  if (traded.shares === 0) return NO_COSTS;
  const { side, shares, notional, added, contracts = 0 } = traded;
  const sells = side === 'sell';
  const sec = money(sells ? toCentUp((notional * t.secPerMillion) / (1e6 * PRICE_SCALE)) : 0);
  if (contracts > 0) {
    const { perContract = 0, venueContract = 0, tafContractMicros = 0 } = { ...DEFAULT_FEES, ...t };
    return {
      commission: money(Math.round(contracts * perContract)),
      venue: money(Math.round(contracts * venueContract)),
      sec,
      taf: money(sells ? toCentUp((contracts * tafContractMicros) / 100) : 0),
    };
  }
  return {
    commission: money(Math.round(commissionFor(t, traded))),
    venue: money(Math.round((shares - added) * t.venueRemove + added * t.venueAdd)),
    sec,
    taf: money(sells ? Math.min(Math.round(t.tafMost), toCentUp((shares * t.tafMicros) / 100)) : 0),
  };
}
