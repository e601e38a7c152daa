import { type Costs, totalOf } from '../account/index.ts';
import { isOption, occOf } from '../instruments/index.ts';
import type { TradeReview } from '../review/index.ts';
import { dayOf, formatTime, PRICE_SCALE } from '../units/index.ts';
import { csv } from './csv.ts';

const dollars = (units: number): number => Number((units / PRICE_SCALE).toFixed(4));
const feesOf = (c: Costs): number => totalOf(c) - c.commission;
const inDollars = (c: Costs) => ({
  commission: dollars(c.commission),
  venue: dollars(c.venue),
  sec: dollars(c.sec),
  taf: dollars(c.taf),
});
const time = (t: number | null): string | null => (t === null ? null : formatTime(t, 'millis'));

/** The calendar date of a session time; `dates` has one for each trading day of the session. */
const dateOf = (dates: readonly string[], at: number): string => dates[dayOf(at)] ?? '';

/** The symbols of an option or a vertical after the OCC; null for a stock. */
const occ = (symbol: string): string | null => (isOption(symbol) ? occOf(symbol) : null);

/** One row a trade; shares of options are contracts, prices are a share's. Money in dollars, times of day in New York. */
export function tradesCsv(dates: readonly string[], trades: readonly TradeReview[]): string {
  return csv([
    [
      'date',
      'trade',
      'symbol',
      'direction',
      'shares',
      'opened',
      'closed',
      'average entry',
      'average exit',
      'gross',
      'commission',
      'fees',
      'net',
      'R',
      'MFE',
      'MAE',
      'script',
      'OCC symbols',
    ],
    ...trades.map((t) => [
      dateOf(dates, t.openedAt),
      t.id,
      t.symbol,
      t.direction,
      t.shares,
      time(t.openedAt),
      time(t.closedAt),
      dollars(t.averageEntry),
      t.averageExit === null ? null : dollars(t.averageExit),
      dollars(t.gross),
      dollars(t.costs.commission),
      dollars(feesOf(t.costs)),
      dollars(t.net),
      t.r === null ? null : Number(t.r.toFixed(4)),
      dollars(t.mfe),
      dollars(t.mae),
      t.sentence,
      occ(t.symbol),
    ]),
  ]);
}

/** One row an execution, in the order they happened. */
export function executionsCsv(dates: readonly string[], trades: readonly TradeReview[]): string {
  const fills = trades.flatMap((t) => t.fills).sort((a, b) => a.id - b.id);
  return csv([
    [
      'date',
      'time',
      'execution',
      'order',
      'trade',
      'symbol',
      'side',
      'role',
      'shares',
      'price',
      'liquidity',
      'venue',
      'improvement',
      'commission',
      'venue fee',
      'SEC fee',
      'TAF',
      'OCC symbols',
    ],
    ...fills.map((f) => [
      dateOf(dates, f.at),
      time(f.at),
      f.id,
      f.orderId,
      f.tradeId,
      f.symbol,
      f.side,
      f.role,
      f.qty,
      dollars(f.price),
      f.liquidity,
      f.venue,
      dollars(f.better * f.qty),
      dollars(f.costs.commission),
      dollars(f.costs.venue),
      dollars(f.costs.sec),
      dollars(f.costs.taf),
      occ(f.symbol),
    ]),
  ]);
}

/** Trades with their executions as JSON: prices in dollars, the layout named and numbered. */
export function tradesJson(dates: readonly string[], trades: readonly TradeReview[]): string {
  const plain = trades.map((t) => ({
    ...t,
    occ: occ(t.symbol),
    averageEntry: dollars(t.averageEntry),
    averageExit: t.averageExit === null ? null : dollars(t.averageExit),
    gross: dollars(t.gross),
    costs: inDollars(t.costs),
    net: dollars(t.net),
    mfe: dollars(t.mfe),
    mae: dollars(t.mae),
    openedAt: time(t.openedAt),
    closedAt: time(t.closedAt),
    fills: t.fills.map((f) => ({
      ...f,
      occ: occ(f.symbol),
      date: dateOf(dates, f.at),
      better: dollars(f.better),
      at: time(f.at),
      price: dollars(f.price),
      costs: inDollars(f.costs),
    })),
  }));
  return JSON.stringify({ format: 'keen-fox trades', version: 4, dates, trades: plain }, null, 2);
}
