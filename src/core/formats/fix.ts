// Execution reports as FIX 4.4 writes them (FIX Protocol, version 4.4, volume 4): read for import, written for export.

import { totalOf } from '../account/index.ts';
import { instrumentOf, isOption, occOf, rootOf } from '../instruments/index.ts';
import type { TradeRecord } from '../review/index.ts';
import { formatTime, PRICE_SCALE } from '../units/index.ts';
import { type Exported, exportedOf, identityOf } from './identity.ts';

const SOH = '\u0001';

/** Sum of all bytes before the trailer, modulo 256 (FIX 4.4, CheckSum <10>). */
const checksum = (text: string): string =>
  String(bytesOf(text).reduce((a, b) => a + b, 0) % 256).padStart(3, '0');

const utf8 = new TextEncoder();
const bytesOf = (text: string): Uint8Array => utf8.encode(text);
/** The text with real separators: people print bars for them. */
const separated = (text: string): string =>
  text.includes(SOH) || !text.includes('|9=') ? text : text.replaceAll('|', SOH);

/** A message that cannot be taken, and why. `number` counts messages from 1. */
export interface BadMessage {
  number: number;
  reason: string;
}

/** Cells of a table of executions, headings first, from the execution reports of a text; and what could not be taken. */
export function rowsOfFix(text: string): { rows: string[][]; bad: BadMessage[] } {
  const heads = [
    'execution',
    'order',
    'account',
    'date',
    'symbol',
    'side',
    'qty',
    'price',
    'commission',
    'fees',
    'route',
    'liquidity',
    'their number',
  ];
  const bad: BadMessage[] = [];
  const taken = new Map<string, string[]>();
  // A message ends with a separator and the next begins with its version; lines between them are for the eye.
  const messages = separated(text)
    .replaceAll(/[\r\n]+/g, '')
    .split(`${SOH}8=FIX`)
    .map((m, k, all) => `${k === 0 ? '' : '8=FIX'}${m}${k < all.length - 1 ? SOH : ''}`)
    .filter((m) => m.trim() !== '');
  messages.forEach((message, k) => {
    const why = wrongWith(message.trimEnd()) ?? take(fieldsOf(message), taken);
    if (why !== null) bad.push({ number: k + 1, reason: why });
  });
  return { rows: [heads, ...taken.values()], bad };
}

/** Takes a report that tells of a trade, or takes one back; others tell nothing that is wanted. @returns why it cannot be taken. */
function take(of: ReadonlyMap<string, string>, taken: Map<string, string[]>): string | null {
  const type = of.get('150') ?? '';
  if (of.get('35') !== '8' || !['F', 'G', 'H'].includes(type)) return null;
  // A trade that was cancelled or corrected is named by the number of its execution. Numbers hold for their trading day (ExecID <17>).
  const day = of.get('75') ?? (of.get('60') ?? '').slice(0, 8);
  const key = (id: string) => `${of.get('1') ?? ''} ${day} ${id}`;
  if (type !== 'F') taken.delete(key(of.get('19') ?? ''));
  if (type === 'H') return null;
  const time = /^(\d{4})(\d\d)(\d\d)-(\d\d:\d\d:\d\d(?:\.\d+)?)$/.exec(of.get('60') ?? '');
  if (!time) return 'TransactTime <60> is no UTC time';
  const said = (tag: string) => of.get(tag) ?? '';
  const id = said('17');
  if (id === '') return 'ExecID <17> is missing';
  taken.set(key(id), [
    id,
    said('37'),
    said('1'),
    `${time[1]}-${time[2]}-${time[3]} ${time[4]}`,
    of.get('455') ?? of.get('107') ?? said('55'),
    said('54'),
    said('32'),
    said('31'),
    said('12'),
    said('137'),
    said('30'),
    { '1': 'added', '2': 'removed' }[said('851')] ?? '',
    said('527'),
  ]);
  return null;
}

function wrongWith(message: string): string | null {
  const [first, second] = message.split(SOH, 2);
  if (first !== '8=FIX.4.4' || !second?.startsWith('9='))
    return 'no FIX 4.4 message: it begins with 8=FIX.4.4 and 9=';
  const end = message.lastIndexOf(`${SOH}10=`);
  if (end < 0) return 'CheckSum <10> is missing';
  const said = message.slice(end + 4).split(SOH, 1)[0];
  const right = checksum(message.slice(0, end + 1));
  if (said !== right) return `CheckSum <10> is ${said}, where ${right} would be right`;
  const length = bytesOf(message.slice(first.length + second.length + 2, end + 1)).length;
  return second === `9=${length}`
    ? null
    : `BodyLength <9> is ${second.slice(2)}, where ${length} would be right`;
}

function fieldsOf(message: string): Map<string, string> {
  const out = new Map<string, string>();
  for (const field of message.split(SOH)) {
    const at = field.indexOf('=');
    if (at > 0 && !out.has(field.slice(0, at))) out.set(field.slice(0, at), field.slice(at + 1));
  }
  return out;
}

/** UTC as FIX writes it: 20270309-14:31:05.123. */
export type UtcOf = (date: string, at: number) => { date: string; at: number };

/** Every execution of some trades as an execution report, each a message of its own. `utc` says when a New York time was; `all`: every trade that is kept. */
export function fixReports(
  trades: readonly TradeRecord[],
  utc: UtcOf,
  all: readonly TradeRecord[] = trades,
): string {
  const done = new Map<string, number>();
  return exportedOf(trades, all)
    .map((e, k) => report(e, k + 1, done, utc))
    .join('');
}

function report(
  { trade: t, x, placed }: Exported,
  number: number,
  done: Map<string, number>,
  utc: UtcOf,
): string {
  const identity = identityOf({ ...x, account: t.account, symbol: t.symbol }, placed);
  const order = x.order ? `${t.ref}-${x.order}` : identity;
  const cum = (done.get(order) ?? 0) + x.qty;
  done.set(order, cum);
  const when = utc(x.date, x.at);
  const time = `${when.date.replaceAll('-', '')}-${formatTime(when.at, 'millis')}`;
  const price = String(x.price / PRICE_SCALE);
  const option = isOption(t.symbol) ? instrumentOf(t.symbol) : null;
  const side =
    x.side === 'buy'
      ? '1'
      : t.direction === 'short' && x.role !== 'stop' && x.role !== 'target' && x.role !== 'close'
        ? '5'
        : '2';
  const fields: [number, string | number][] = [
    [35, '8'],
    [49, 'KEENFOX'],
    [56, 'TRADER'],
    [34, number],
    [52, time],
    [37, order],
    // Its own identity; the number that it had first as the secondary one.
    [17, identity],
    ...(x.id === ''
      ? []
      : ([[527, t.source.kind === 'import' ? x.id : `${t.ref}-${x.id}`]] as [number, string][])),
    [150, 'F'],
    // Of one execution alone it is not known whether more of its order came.
    [39, '1'],
    [1, t.account],
    [55, rootOf(t.symbol)],
    ...(option?.kind === 'option'
      ? ([
          [455, occOf(t.symbol)],
          [456, '8'],
          [167, 'OPT'],
        ] as [number, string][])
      : []),
    [54, side],
    [32, x.qty],
    [31, price],
    ...(x.route ? ([[30, x.route]] as [number, string][]) : []),
    [151, 0],
    [14, cum],
    [6, price],
    [60, time],
    ...(isOption(t.symbol) && option?.kind !== 'option' ? ([[107, t.symbol]] as [number, string][]) : []),
    [12, x.costs.commission / PRICE_SCALE],
    [13, '3'],
    // Everything beside the commission as one fee (MiscFeeType <139> 7: other).
    [136, 1],
    [137, (totalOf(x.costs) - x.costs.commission) / PRICE_SCALE],
    [139, '7'],
    ...(x.liquidity ? ([[851, x.liquidity === 'added' ? '1' : '2']] as [number, string][]) : []),
  ];
  const body = fields.map(([tag, value]) => `${tag}=${String(value).split(SOH).join(' ')}${SOH}`).join('');
  const head = `8=FIX.4.4${SOH}9=${bytesOf(body).length}${SOH}${body}`;
  return `${head}10=${checksum(head)}${SOH}\n`;
}
