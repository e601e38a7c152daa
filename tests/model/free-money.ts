// What could be earned without a risk in a chain of options, looked for exhaustively.
import type { OptionContract } from '../../src/core/instruments/index.ts';
import {
  type ChainMoment,
  chainMoment,
  classOf,
  expiriesOn,
  makersQuote,
  marketYearsLeft,
  RATE,
  strikesAround,
  type Underlying,
  varianceUntil,
  yearsLeft,
} from '../../src/core/options/index.ts';
import type { Price } from '../../src/core/units/index.ts';

interface Leg {
  strike: Price;
  right: 'call' | 'put';
  years: number;
  bid: number;
  ask: number;
}
function legsOf(m: ChainMoment, expiry: string): Leg[] {
  const dense = classOf(m.under.listing).dense;
  const years = yearsLeft(m.under.date, m.under.ms, expiry);
  const deviation = Math.sqrt(varianceUntil(m.surface, marketYearsLeft(m.under.date, m.under.ms, expiry)));
  return (['call', 'put'] as const).flatMap((right) =>
    strikesAround(m.under.listing.priorClose, deviation, dense).map((strike): Leg => {
      const c: OptionContract = { kind: 'option', root: m.under.listing.symbol, expiry, right, strike };
      const q = makersQuote(c, m);
      return { strike, right, years, bid: q.bid ?? 0, ask: q.ask as number };
    }),
  );
}

/** What the best of all verticals, butterflies and early exercises of one expiry and right would bring, in price units. */
function freeWithin(legs: readonly Leg[], u: Underlying): number {
  let best = Number.NEGATIVE_INFINITY;
  legs.forEach((a, i) => {
    const exercise = a.right === 'call' ? u.bid - a.strike : a.strike - u.ask;
    best = Math.max(best, a.bid - a.ask, exercise - a.ask);
    for (let j = i + 1; j < legs.length; j++) {
      const b = legs[j] as Leg;
      const [dear, cheap] = a.right === 'call' ? [a, b] : [b, a];
      best = Math.max(best, cheap.bid - dear.ask, dear.bid - cheap.ask - (b.strike - a.strike));
      for (let k = j + 1; k < legs.length; k++) {
        const c = legs[k] as Leg;
        const part = (c.strike - b.strike) / (c.strike - a.strike);
        best = Math.max(best, b.bid - part * a.ask - (1 - part) * c.ask);
      }
    }
  });
  return best;
}

/** The best of all verticals, butterflies, calendars, conversions and early exercises of a company's options at a moment, in price units. */
export function freeMoney(u: Underlying): number {
  const m = chainMoment(u);
  const chains = expiriesOn(u.date, classOf(u.listing).weeklies).map((e) => legsOf(m, e));
  let best = Number.NEGATIVE_INFINITY;
  chains.forEach((chain, k) => {
    for (const right of ['call', 'put'])
      best = Math.max(
        best,
        freeWithin(
          chain.filter((l) => l.right === right),
          u,
        ),
      );
    for (const near of chain) {
      const later = chains[k + 1]?.find((l) => l.strike === near.strike && l.right === near.right);
      if (later) best = Math.max(best, near.bid - later.ask);
      const put = chain.find((l) => l.right === 'put' && l.strike === near.strike);
      if (near.right === 'put' || !put) continue;
      best = Math.max(best, u.bid + put.bid - near.ask - near.strike);
      best = Math.max(best, near.strike * Math.exp(-RATE * near.years) - (u.ask + put.ask - near.bid));
    }
  });
  return best;
}
