// What a click on the chart sends: a price that snaps to levels near it, and the sentence at that price.
import { formatPrice, type Price, roundToTick } from '@/core/units';

/** What the next click on the chart does. */
export type Pointing = 'buy' | 'short' | 'level' | 'alert';

/** A price under the pointer, or the level within `reach` of it that is nearest. */
export function snapped(price: number, levels: readonly number[], reach: number): Price {
  let best: number | null = null;
  for (const l of levels)
    if (Math.abs(l - price) <= reach && (best === null || Math.abs(l - price) < Math.abs(best - price)))
      best = l;
  return roundToTick(Math.max(1, best ?? price));
}

/**
 * The sentence of a click. An entry on the side of the market where it would rest is a limit there; on the
 * other side it waits for the market to come through it. Its exits are the plan of its side, or the usual stop.
 */
export function pointedSentence(
  what: Pointing,
  price: Price,
  about: { bid: number | null; ask: number | null; regular: boolean; names: readonly string[]; plan: string },
): string {
  const at = formatPrice(price);
  if (what === 'alert') return `alert at ${at}`;
  if (what === 'level') return `level "${freeName(about.names)}" at ${at}`;
  const { bid, ask, plan } = about;
  const exits = plan === '' ? '\n  stop usual' : ` with plan "${plan}"`;
  const through = what === 'buy' ? ask !== null && price > ask : bid !== null && price < bid;
  const hours = about.regular ? '' : ' extended';
  if (!through) return `${what} risk 1R at ${at}${hours}${exits}`;
  const beyond = what === 'buy' ? 'above' : 'below';
  // Before and after the regular session a stop has to name its limit.
  return `${what} risk 1R ${beyond} ${at}${about.regular ? '' : ' limit 0.5% beyond'}${hours}${exits}`;
}

function freeName(names: readonly string[]): string {
  for (let n = 1; ; n++) if (!names.includes(`line ${n}`)) return `line ${n}`;
}
