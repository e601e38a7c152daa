// The crowd’s resting shares: brought to the plan’s quote, thinned where the trader took, grown behind the best prices.
import { mix, type Price, REGULAR_OPEN, roundToTick, SECOND, type Side, tickSize } from '../units/index.ts';
import { crowdAt, submit, trimCrowd } from '../venue/index.ts';
import { match } from './executions.ts';
import type { Floor, FloorContext } from './floor-types.ts';
import { flickerFrom } from './quote.ts';
import { takenAt, whatIsMissing } from './refill.ts';

const LEVELS = 22;

const FAR_LEVELS = 8;

/**
 * Brings the crowd to a quote of the plan, and to the levels behind it: a function of the quote and of
 * the time since which it is shown. Where the trader is, they are made at every happening.
 */
export function grow(
  f: Floor,
  c: FloorContext,
  { bid, ask, bidSize, askSize }: { bid: number; ask: number; bidSize: number; askSize: number },
): void {
  if (bid <= 0 || ask <= 0) return;
  const buy = bid as Price;
  const sell = ask as Price;
  if (f.best[0] !== buy || f.best[1] !== sell) {
    f.best = [buy, sell];
    f.bids = remember(f, trimTo(f, 'buy', buy), buy);
    f.asks = remember(f, trimTo(f, 'sell', sell), sell);
  }
  const missing = f.taken.length > 0;
  if (missing) f.taken = f.taken.filter((t) => whatIsMissing(t, c) > 0);
  setLevel(f, c, 'buy', buy, Math.max(0, bidSize - takenAt(f, c, 'buy', buy)));
  setLevel(f, c, 'sell', sell, Math.max(0, askSize - takenAt(f, c, 'sell', sell)));
  const clock = flickerFrom(c.sketches, f.i, c.plan, c.now - c.dayStart);
  if (!missing && f.best[2] === clock) return;
  f.best[2] = clock;
  const at = { spread: (sell - buy) / tickSize(buy), clock };
  deepen(f, c, 'buy', buy, at);
  deepen(f, c, 'sell', sell, at);
}

/**
 * The prices at which the crowd may rest, so that they can be cleared later. Of many the far ones
 * are cleared now: whoever looks gets them anew.
 */
function remember(f: Floor, list: Price[], at: Price): Price[] {
  if (list.indexOf(at) < 0) list.push(at);
  if (list.length <= 64) return list;
  list.sort((a, b) => Math.abs(a - at) - Math.abs(b - at));
  for (const p of list.splice(16)) trimCrowd(f.book, p, Number.MAX_SAFE_INTEGER, true);
  return list;
}

/**
 * Nobody of the crowd bids above the plan's bid or offers below its offer.
 * @returns the prices that are left: a price that has changed sides must not be cleared for the old one.
 */
function trimTo(f: Floor, side: Side, best: Price): Price[] {
  const list = side === 'buy' ? f.bids : f.asks;
  let n = 0;
  for (const p of list) {
    if (side === 'buy' ? p > best : p < best) trimCrowd(f.book, p, Number.MAX_SAFE_INTEGER, true);
    else list[n++] = p;
  }
  list.length = n;
  return list;
}

/** The levels behind the best price: quoting interest near it, reverting interest further out and at round prices. */
// biome-ignore lint/complexity/noExcessiveCognitiveComplexity: a hot loop over the levels of a book
function deepen(
  f: Floor,
  c: FloorContext,
  side: Side,
  best: Price,
  { spread, clock }: { spread: number; clock: number },
): void {
  const { plan } = c;
  const tick = tickSize(best);
  const away = side === 'buy' ? -1 : 1;
  const density = Math.min(0.85, Math.max(0.18, 2.4 / Math.max(1, spread)));
  const wanted: Price[] = [best];
  const sign = side === 'buy' ? 0 : 1;
  const sparse = clock < REGULAR_OPEN || clock >= c.day.hours.close ? 0.5 : 1;
  const far = Math.max(5 * tick, Math.floor(best / 100 / (5 * tick)) * 5 * tick);
  for (let k = 1; k <= LEVELS + FAR_LEVELS; k++) {
    const raw =
      k <= LEVELS
        ? best + away * k * tick
        : Math.floor((best + away * LEVELS * tick) / far) * far + away * (k - LEVELS) * far;
    if (raw < tick || (side === 'buy' ? raw >= best : raw <= best)) continue;
    const at = roundToTick(raw);
    const base = mix(f.key + sign, at);
    const life = 5 * SECOND + (base % 20) * SECOND;
    const draw = mix(base, Math.floor((clock + (base % 8192)) / life));
    const round = at % 5000 === 0 ? 3 : at % 1000 === 0 ? 1.4 : 1;
    const chance = k > LEVELS ? 0.9 : density * (round > 1 ? 1.5 : 1) * (0.6 + 0.4 * sparse);
    let qty = 0;
    if ((draw & 1023) < chance * 1024) {
      const u = ((draw >>> 10) & 4095) / 4096;
      qty =
        100 *
        (1 + Math.floor((plan.depth / 170) * sparse * round * (u / (1.08 - u)) * (1 + Math.min(2, k / 8))));
      if (u < 0.08) qty += 1 + (draw & 63);
    }
    qty = Math.max(0, qty - takenAt(f, c, side, at));
    setLevel(f, c, side, at, qty);
    if (qty > 0) wanted.push(at);
  }
  // A price that was an offer a moment ago may be a bid now: only this side's own prices are cleared.
  const list = side === 'buy' ? f.bids : f.asks;
  for (const p of list)
    if ((side === 'buy' ? p < best : p > best) && wanted.indexOf(p) < 0)
      trimCrowd(f.book, p, Number.MAX_SAFE_INTEGER, true);
  if (side === 'buy') f.bids = wanted;
  else f.asks = wanted;
}

function setLevel(f: Floor, c: FloorContext, side: Side, at: Price, wanted: number): void {
  const now = crowdAt(f.book, at);
  if (wanted < now) trimCrowd(f.book, at, now - wanted, (mix(f.key, c.now + at) & 1) === 0);
  else if (wanted > now) {
    match(f, c, { aggressor: side, taker: null, reference: null }, (sink) =>
      submit(f.book, { side, limit: at, qty: wanted - now, owner: 0, rest: true }, sink),
    );
  }
}
