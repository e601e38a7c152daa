import type { OptionContract } from '../instruments/index.ts';
import type { Listing } from '../market/index.ts';
import { PRICE_SCALE, type Price, REGULAR_OPEN } from '../units/index.ts';
import { americanVolatility } from './american.ts';
import { classOf, strikesAround } from './contracts.ts';
import { ln, normal } from './elementary.ts';
import { type ChainMoment, fairGreeks, marketYearsLeft, termsOf } from './quotes.ts';
import { RATE, surfaceOf, varianceUntil, YEAR_DAYS } from './surface.ts';

/** What a chain shows of a contract beside its quote: per share, theta by the day in dollars, vega by a point of volatility in dollars. */
export interface Measured {
  /** Null where no volatility has the middle as its price: at or below what exercise brings. */
  iv: number | null;
  delta: number;
  gamma: number;
  theta: number;
  vega: number;
  /** Probability that it expires in the money, after the lognormal distribution at its volatility. */
  inside: number;
}

/**
 * Greeks of a contract, in dollars a share, and the volatility at which the middle of a quote would be its price: one step from the makers' own where that
 * is near, otherwise searched for. Without a quote it is theirs.
 */
export function contractGreeks(
  c: OptionContract,
  m: ChainMoment,
  bid: number | null,
  ask: number | null,
): Measured {
  const g = fairGreeks(c, m);
  const off = ask === null ? 0 : ((bid ?? 0) + ask) / 2 - g.price;
  const one = off === 0 ? 0 : off / g.vega;
  return {
    iv:
      Math.abs(one) <= NEAR * g.volatility
        ? g.volatility + one * (1 - 0.5 * one * vegaBend(c, m, g))
        : americanVolatility(termsOf(c, m), g.price + off),
    delta: g.delta,
    gamma: g.gamma * PRICE_SCALE,
    theta: g.theta / PRICE_SCALE / YEAR_DAYS,
    vega: g.vega / PRICE_SCALE / 100,
    inside: insideProbability(c.right === 'call' ? 1 : -1, m.spot, c.strike, g.years, g.volatility),
  };
}

/** Within this part of a volatility one bent step to another is good to a tenth of a point. */
const NEAR = 0.05;

/** By what part vega grows for each whole of volatility, after the European one: volga over vega is d1 d2 / σ (the Black–Scholes formula differentiated; from memory). */
function vegaBend(
  c: OptionContract,
  m: ChainMoment,
  { volatility, years }: { volatility: number; years: number },
): number {
  const total = volatility * Math.sqrt(years);
  const d1 = (ln(m.spot / c.strike) + RATE * years) / total + total / 2;
  return (d1 * (d1 - total)) / volatility;
}

/** Probability that a spot ends beyond a level: above for `way` 1, below for −1; lognormal, drifting by the rate. */
export function insideProbability(
  way: 1 | -1,
  spot: number,
  level: number,
  years: number,
  volatility: number,
): number {
  const total = volatility * Math.sqrt(years);
  if (!(total > 0)) return way * (spot - level) > 0 ? 1 : 0;
  return normal((way * (ln(spot / level) + (RATE - (volatility * volatility) / 2) * years)) / total);
}

/** The strikes of an expiry on a date, rising: the same all day, by where the company closed before it. */
export function strikesListed(x: Listing, date: string, expiry: string): Price[] {
  const s = surfaceOf(x, date, REGULAR_OPEN, x.priorClose);
  const deviation = Math.sqrt(varianceUntil(s, marketYearsLeft(date, REGULAR_OPEN, expiry)));
  return strikesAround(x.priorClose, deviation, classOf(x).dense);
}
