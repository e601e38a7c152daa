import { isOption, occOf } from '../instruments/index.ts';
import { formatTime, PRICE_SCALE } from '../units/index.ts';

// JSON of executions as a table: a list of flat objects, or trades as this app writes them.

const asText = (v: unknown): string =>
  v === null || v === undefined ? '' : typeof v === 'object' ? JSON.stringify(v) : String(v);
const isObject = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);

/** Rows of cells, the names first. @throws Error in words where it is neither. */
export function rowsOfTradesJson(name: string, text: string): string[][] {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new Error(`${name} is no JSON: it breaks off or has a mistake. Export it again, or as CSV.`);
  }
  const ours = isObject(value) && value.format === 'keen-fox trades';
  // Executions each once, with their identity; files of before have them within their trades.
  if (isObject(value) && ours && Array.isArray(value.executions)) value = value.executions;
  else if (isObject(value) && ours && Array.isArray(value.trades)) return ofTrades(value.trades);
  if (isObject(value)) {
    const lists = Object.values(value).filter((v) => Array.isArray(v) && v.length > 0 && v.every(isObject));
    if (lists.length === 1) value = lists[0];
  }
  if (!Array.isArray(value) || value.length === 0 || !value.every(isObject))
    throw new Error(
      `${name} holds no executions: a list of objects is read, such as [{"date":"2027-03-09 09:31:05","symbol":"ABCDE","side":"buy","qty":100,"price":5.2}].`,
    );
  const heads = [...new Set(value.slice(0, 200).flatMap((x) => Object.keys(x)))];
  return [heads, ...value.map((x) => heads.map((h) => (Object.hasOwn(x, h) ? asText(x[h]) : '')))];
}

/** Our own trades: their executions, with what a trade risked beside each. */
function ofTrades(trades: readonly unknown[]): string[][] {
  const heads = [
    'date',
    'time',
    'account',
    'symbol',
    'side',
    'qty',
    'price',
    'commission',
    'fees',
    'liquidity',
    'route',
    'order',
    'execution',
    'risk',
    'planned stop',
    'planned target',
  ];
  const rows = trades
    .filter(isObject)
    .flatMap((t) => (Array.isArray(t.executions) ? executionsOf(t) : fillsOf(t)))
    .map((cells) => cells.map(asText));
  return [heads, ...rows];
}

const listOf = (x: unknown): Record<string, unknown>[] => (Array.isArray(x) ? x.filter(isObject) : []);
const number = (x: unknown): number => (typeof x === 'number' ? x : 0);
const feesOf = (c: Record<string, unknown>): number => number(c.venue) + number(c.sec) + number(c.taf);

/** As they are kept: times of day in ms, money in 1/10,000 dollar. */
const executionsOf = (t: Record<string, unknown>): unknown[][] =>
  listOf(t.executions).map((x) => {
    const costs = isObject(x.costs) ? x.costs : {};
    const dollars = (units: unknown) => (typeof units === 'number' ? units / PRICE_SCALE : '');
    const at = typeof x.at === 'number' && x.at >= 0 ? formatTime(x.at, 'millis') : '';
    const symbol = String(t.symbol ?? '');
    const exits = isObject(t.exits) ? t.exits : {};
    const id = (of: unknown) => (of === null || of === undefined ? '' : `${t.ref}-${of}`);
    return [
      x.date,
      at,
      t.account,
      isOption(symbol) ? occOf(symbol) : symbol,
      x.side,
      x.qty,
      dollars(x.price),
      dollars(number(costs.commission)),
      dollars(feesOf(costs)),
      x.liquidity,
      x.route,
      id(x.order),
      id(x.id),
      t.risk === null ? '' : dollars(t.risk),
      dollars(exits.stop),
      dollars(exits.target),
    ];
  });

/** As one session's were written: in dollars, R beside the net. */
const fillsOf = (t: Record<string, unknown>): unknown[][] =>
  listOf(t.fills).map((f) => {
    const costs = isObject(f.costs) ? f.costs : {};
    const [net, r] = [Number(t.net), Number(t.r)];
    return [
      f.date,
      f.at,
      f.account,
      f.occ ?? f.symbol,
      f.side,
      f.qty,
      f.price,
      costs.commission,
      feesOf(costs).toFixed(4),
      f.liquidity,
      f.venue,
      f.orderId,
      f.id,
      r ? (net / r).toFixed(2) : '',
    ];
  });
