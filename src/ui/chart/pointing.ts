// What a click on the chart sends, as a sentence at its price.

import type { DrawnLevel, PricePoint } from '@/core/market';
import { formatPrice, formatTime, type Price } from '@/core/units';

/** What the next click on the chart sends. */
export type Pointing = 'buy' | 'short' | 'level' | 'alert';

/** What a sentence of the chart is made from: its symbol where that is not the focus, quote, hours, names taken, the plan of the side. */
export interface PointedAt {
  of: string | null;
  bid: number | null;
  ask: number | null;
  regular: boolean;
  names: readonly string[];
  plan: string;
}

/**
 * The sentence of a click. An entry on the side of the market where it would rest is a limit there; on the
 * other side it waits for the market to come through it. Its exits are the plan of its side, or the usual stop.
 */
export function pointedSentence(what: Pointing, price: Price, about: PointedAt): string {
  const at = formatPrice(price);
  const of = about.of === null ? '' : ` of ${about.of}`;
  if (what === 'alert') return `alert${of} at ${at}`;
  if (what === 'level') return levelSentence(freeName('line', about.names), about.of, price);
  const { bid, ask, plan } = about;
  const exits = plan === '' ? '\n  stop usual' : ` with plan "${plan}"`;
  const through = what === 'buy' ? ask !== null && price > ask : bid !== null && price < bid;
  const hours = about.regular ? '' : ' extended';
  if (!through) return `${what} risk 1R${of} at ${at}${hours}${exits}`;
  const beyond = what === 'buy' ? 'above' : 'below';
  // Before and after the regular session a stop has to name its limit.
  return `${what} risk 1R${of} ${beyond} ${at}${about.regular ? '' : ' limit 0.5% beyond'}${hours}${exits}`;
}

/** The sentence that names a price, or a trend line. */
export function levelSentence(name: string, symbol: string | null, level: DrawnLevel): string {
  const of = symbol === null ? '' : ` of ${symbol}`;
  const point = ({ at, price }: PricePoint) =>
    `${formatPrice(price as Price)} at ${formatTime(at, 'minutes')}`;
  return typeof level === 'number'
    ? `level "${name}"${of} at ${formatPrice(level)}`
    : `level "${name}"${of} from ${point(level.from)} to ${point(level.to)}`;
}

/** `line 1`, or the first number that is not taken. */
export function freeName(word: string, names: readonly string[]): string {
  for (let n = 1; ; n++) if (!names.includes(`${word} ${n}`)) return `${word} ${n}`;
}
