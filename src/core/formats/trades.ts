import type { TradeReview } from '../review/index.ts';
import { type DayTime, formatTime, PRICE_SCALE } from '../units/index.ts';

/**
 * One CSV cell: quoted where needed, and never the start of a formula: a text cell that a
 * spreadsheet would run gets a leading apostrophe (CSV as in RFC 4180; the guard as OWASP advises).
 */
function cell(value: string | number | null): string {
  if (value === null) return '';
  if (typeof value === 'number') return String(value);
  const safe = /^[=+\-@\t\r]/.test(value) ? `'${value}` : value;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

const rows = (lines: (string | number | null)[][]): string =>
  lines
    .map((l) => l.map(cell).join(','))
    .join('\r\n')
    .concat('\r\n');
const dollars = (units: number): number => Number((units / PRICE_SCALE).toFixed(4));
const time = (t: number | null): string | null => (t === null ? null : formatTime(t as DayTime, 'millis'));

/** One row a trade. Money in dollars, times of day in New York. */
export function tradesCsv(date: string, trades: readonly TradeReview[]): string {
  return rows([
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
      'net',
      'R',
      'MFE',
      'MAE',
      'script',
    ],
    ...trades.map((t) => [
      date,
      t.id,
      t.symbol,
      t.direction,
      t.shares,
      time(t.openedAt),
      time(t.closedAt),
      dollars(t.averageEntry),
      t.averageExit === null ? null : dollars(t.averageExit),
      dollars(t.gross),
      dollars(t.commission),
      dollars(t.net),
      t.r === null ? null : Number(t.r.toFixed(4)),
      dollars(t.mfe),
      dollars(t.mae),
      t.sentence,
    ]),
  ]);
}

/** One row an execution, in the order they happened. */
export function executionsCsv(date: string, trades: readonly TradeReview[]): string {
  const fills = trades.flatMap((t) => t.fills).sort((a, b) => a.id - b.id);
  return rows([
    ['date', 'time', 'execution', 'order', 'trade', 'symbol', 'side', 'role', 'shares', 'price', 'liquidity', 'commission'],
    ...fills.map((f) => [date, time(f.at), f.id, f.orderId, f.tradeId, f.symbol, f.side, f.role, f.qty, dollars(f.price), f.liquidity, dollars(f.commission)]),
  ]);
}

/** Trades with their executions as JSON: prices in dollars, the layout named and numbered. */
export function tradesJson(date: string, trades: readonly TradeReview[]): string {
  const plain = trades.map((t) => ({
    ...t,
    averageEntry: dollars(t.averageEntry),
    averageExit: t.averageExit === null ? null : dollars(t.averageExit),
    gross: dollars(t.gross),
    commission: dollars(t.commission),
    net: dollars(t.net),
    mfe: dollars(t.mfe),
    mae: dollars(t.mae),
    openedAt: time(t.openedAt),
    closedAt: time(t.closedAt),
    fills: t.fills.map((f) => ({ ...f, at: time(f.at), price: dollars(f.price), commission: dollars(f.commission) })),
  }));
  return JSON.stringify({ format: 'keen-fox trades', version: 1, date, trades: plain }, null, 2);
}
