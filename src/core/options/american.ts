import { below, density, exp, ln, normal, ROOT_2PI_INVERSE } from './elementary.ts';
import { european, europeanGreeks, impliedVolatility, type Priced, type Terms } from './european.ts';
import { chebyshevPoints, interpolation, legendre } from './quadrature.ts';

/*
 * American options after L. Andersen, M. Lake and D. Offengenden, "High-performance American option
 * pricing" (Journal of Computational Finance 20, 2016; from memory): the boundary B(τ) at which a put is
 * exercised solves a fixed-point equation; its shape h = ln²(B/B(0)) is nearly straight over √τ, so few
 * Chebyshev points hold it. The premium over the European price is an integral along it. A call is the put
 * with spot and strike, rate and dividend exchanged (R. McDonald and M. Schroder 1998).
 *
 * Integrals over the time u before τ run over left = √(τ − u), where their kernels have no singularity:
 * left = √τ (1+y)/2 at Gauss points y, du = √τ left dy. Then √u is always the same part of √τ, so the
 * values of h there are fixed sums of its values at the Chebyshev points.
 */

const POINTS = 7;
const INNER = legendre(8);
const OUTER = legendre(15);
/** Rounds of the equation, each a part of a step of Newton's; whole steps would swing about the solution. */
const ROUNDS = 4;
const PART = 0.75;

/** √τ of the points, as parts of √T; the first one is zero. */
const PLACES = chebyshevPoints(POINTS).map((z) => (1 + z) / 2);
/** For each point and each Gauss point within its time: h there, as a sum of the values at the points. */
const WITHIN = PLACES.map((place) =>
  Array.from(INNER.x, (y) => interpolation(PLACES, place * besides((1 + y) / 2))),
);
const ALONG = Array.from(OUTER.x, (y) => interpolation(PLACES, besides((1 + y) / 2)));
function besides(part: number): number {
  return Math.sqrt(1 - part * part);
}

/** The exercise boundary of a put with a strike of 1: where it begins at expiry, and h at the points. */
interface Boundary {
  logStart: number;
  h: Float64Array;
}

const sum = (weights: Float64Array, values: Float64Array): number => {
  let s = 0;
  for (let k = 0; k <= POINTS; k++) s += (weights[k] as number) * (values[k] as number);
  return s;
};

interface Market {
  years: number;
  rate: number;
  dividend: number;
  volatility: number;
}

function boundaryOf(m: Market): Boundary {
  const start = m.dividend > m.rate ? m.rate / m.dividend : 1;
  const b: Boundary = { logStart: ln(start), h: new Float64Array(POINTS + 1) };
  const root = Math.sqrt(m.years);
  const next = new Float64Array(POINTS + 1);
  const keep = (i: number, value: number) => {
    const y = Math.min(0, ln(value) - b.logStart);
    next[i] = y * y;
  };
  const forever = perpetual(m);
  for (let i = 1; i <= POINTS; i++) keep(i, firstGuess(m, root * (PLACES[i] as number), start, forever));
  b.h.set(next);
  for (let round = 0; round < ROUNDS; round++) {
    for (let i = 1; i <= POINTS; i++) {
      const own = b.logStart - Math.sqrt(b.h[i] as number);
      const value = exp(own);
      keep(i, Math.max(value / 2, value + PART * step(m, b, i, value, own, root * (PLACES[i] as number))));
    }
    b.h.set(next);
  }
  return b;
}

/** The boundary of a put that never expires, in parts of the strike (R. C. Merton 1973). */
function perpetual({ rate, dividend, volatility }: Market): number {
  const v = volatility * volatility;
  const m = rate - dividend - v / 2;
  const power = (-m - Math.sqrt(m * m + 2 * v * rate)) / v;
  return power / (power - 1);
}

/** The boundary by the quadratic approximation of G. Barone-Adesi and R. E. Whaley (Journal of Finance 42, 1987): two steps of Newton's from their seed. */
function firstGuess(m: Market, root: number, start: number, forever: number): number {
  const { rate, dividend, volatility } = m;
  const t = root * root;
  const v = volatility * volatility;
  const total = volatility * root;
  const speed = ((rate - dividend) * t - 2 * total) * (forever / Math.max(1e-9, start - forever));
  let s = Math.min(start, forever + (start - forever) * exp(Math.min(0, speed)));
  const n = (2 * (rate - dividend)) / v;
  const byRate = exp(-rate * t);
  const byDividend = exp(-dividend * t);
  const power = 0.5 * (1 - n - Math.sqrt((n - 1) * (n - 1) + (8 * rate) / (v * (1 - byRate))));
  for (let k = 0; k < 2; k++) {
    const d1 = (ln(s) + (rate - dividend + 0.5 * v) * t) / total;
    const held = byDividend * normal(-d1);
    const put = byRate * normal(total - d1) - s * held;
    const f = 1 - s - put + (s / power) * (1 - held);
    const slope = held - 1 + (1 - held) / power + (byDividend * density(d1)) / (power * total);
    s = Math.min(start, Math.max(forever, s - f / slope));
  }
  return s;
}

/** Newton's step on the equation B = K e^(−(r−q)τ) N/D (FP-A of the paper) at one point, with the others as they are. */
function step(m: Market, b: Boundary, i: number, own: number, logOwn: number, root: number): number {
  const { rate, dividend, volatility } = m;
  const t = root * root;
  const drift = rate - dividend - 0.5 * volatility * volatility;
  const { x, w } = INNER;
  const within = WITHIN[i] as Float64Array[];
  // The integrals of N and D, and their derivatives by the logarithm of the boundary.
  let [n, d, ns, ds] = [0, 0, 0, 0];
  for (let k = 0; k < x.length; k++) {
    const left = root * 0.5 * (1 + (x[k] as number));
    const square = left * left;
    const u = t - square;
    const total = volatility * left;
    const h = sum(within[k] as Float64Array, b.h);
    const ratio = logOwn - b.logStart + (h > 0 ? Math.sqrt(h) : 0);
    const d2 = (ratio + drift * square) / total;
    const p2 = (w[k] as number) * exp(rate * u - 0.5 * d2 * d2);
    n += p2;
    ns -= (p2 * d2) / total;
    if (dividend > 0) {
      const d1 = d2 + total;
      const p1 = (w[k] as number) * exp(dividend * u - 0.5 * d1 * d1);
      d += ROOT_2PI_INVERSE * p1 + total * (w[k] as number) * exp(dividend * u) * normal(d1);
      ds += ROOT_2PI_INVERSE * p1 * (1 - d1 / total);
    }
  }
  const scale = root / volatility;
  const total = volatility * root;
  const d2 = (logOwn + drift * t) / total;
  const d1 = d2 + total;
  const p2 = density(d2) / total;
  const p1 = density(d1) / total;
  const top = p2 + rate * scale * ROOT_2PI_INVERSE * n;
  const bottom = p1 + normal(d1) + dividend * scale * d;
  const f = exp((dividend - rate) * t) * (top / bottom);
  const slope =
    (f / own) *
    ((rate * scale * ROOT_2PI_INVERSE * ns - (p2 * d2) / total) / top -
      (p1 - (p1 * d1) / total + dividend * scale * ds) / bottom);
  return (own - f) / (slope - 1);
}

/** What early exercise adds to a put, with its first and second derivative by the spot; strike 1. */
interface Premium {
  value: number;
  delta: number;
  gamma: number;
}

/** Interest on the strike, less dividends forgone, while the spot will be beyond the boundary. */
function premiumOf(m: Market, b: Boundary, spot: number): Premium {
  const { rate, dividend, volatility } = m;
  const root = Math.sqrt(m.years);
  const drift = rate - dividend - 0.5 * volatility * volatility;
  const logSpot = ln(spot) - b.logStart;
  const { x, w } = OUTER;
  let [value, slope, bend] = [0, 0, 0];
  for (let k = 0; k < x.length; k++) {
    const left = root * 0.5 * (1 + (x[k] as number));
    const square = left * left;
    const total = volatility * left;
    const h = sum(ALONG[k] as Float64Array, b.h);
    const d2 = (logSpot + (h > 0 ? Math.sqrt(h) : 0) + drift * square) / total;
    const n2 = density(d2);
    const byRate = (w[k] as number) * left * rate * exp(-rate * square);
    value += byRate * below(-d2, n2);
    slope -= (byRate * n2) / total;
    bend += (byRate * n2 * d2) / (total * total);
    if (dividend > 0) {
      const d1 = d2 + total;
      const n1 = density(d1);
      const held = below(-d1, n1);
      const byDividend = (w[k] as number) * left * dividend * exp(-dividend * square) * spot;
      value -= byDividend * held;
      slope -= byDividend * (held - n1 / total);
      bend -= byDividend * (held - (2 * n1) / total + (n1 * d1) / (total * total));
    }
  }
  // By the spot, from derivatives by its logarithm.
  return {
    value: value * root,
    delta: (slope * root) / spot,
    gamma: ((bend - slope) * root) / (spot * spot),
  };
}

/** The put that an option is, in parts of its strike: itself, or with spot and strike, rate and dividend exchanged. Null where it is never exercised early. */
function asPut(o: Terms, volatility: number): { market: Market; spot: number; strike: number } | null {
  const [spot, strike, rate, dividend] =
    o.way === -1 ? [o.spot, o.strike, o.rate, o.dividend] : [o.strike, o.spot, o.dividend, o.rate];
  if (!(rate > 0 && o.years > 0 && volatility > 0)) return null;
  return { market: { years: o.years, rate, dividend, volatility }, spot: spot / strike, strike };
}

const beyond = (b: Boundary, spot: number): boolean =>
  ln(spot) <= b.logStart - Math.sqrt(b.h[POINTS] as number);
const insideOf = (o: Terms): number => Math.max(0, o.way * (o.spot - o.strike));

/**
 * Price of an American option; the least exact where the yield is above the rate and volatility is low. Rate and
 * dividend yield must not be below zero. A put that bears no interest, and a call on what pays no dividend, are worth what the European one is.
 */
export function american(o: Terms, volatility: number): number {
  const plain = Math.max(insideOf(o), european(o, volatility));
  const put = asPut(o, volatility);
  if (!put) return plain;
  const b = boundaryOf(put.market);
  if (beyond(b, put.spot)) return insideOf(o);
  return Math.max(plain, european(o, volatility) + put.strike * premiumOf(put.market, b, put.spot).value);
}

/** Beyond any volatility that is looked for. */
const HIGHEST = 20;

/** By how much the volatility is moved to see what that brings. */
const NUDGE = 1e-3;

/** Price, delta and gamma of an American option, and what its boundary is for who wants more of it. */
function early(o: Terms, volatility: number) {
  const plain = europeanGreeks(o, volatility);
  const put = asPut(o, volatility);
  if (!put)
    return { plain, put: null, price: plain.price, delta: plain.delta, gamma: plain.gamma, premium: 0 };
  const b = boundaryOf(put.market);
  if (beyond(b, put.spot))
    return { plain, put: null, price: insideOf(o), delta: o.way as number, gamma: 0, premium: null };
  const p = premiumOf(put.market, b, put.spot);
  // The strike's part of a call is its spot: value = S p(K/S), so its derivatives go through both.
  return {
    plain,
    put,
    price: Math.max(insideOf(o), plain.price + put.strike * p.value),
    delta: plain.delta + (o.way === -1 ? p.delta : p.value - put.spot * p.delta),
    gamma: plain.gamma + (o.way === -1 ? p.gamma / o.strike : (put.spot * put.spot * p.gamma) / o.spot),
    premium: p.value,
  };
}

/** Price and delta of an American option, and the vega of the European one: what a quote is made of, at a third of the work of all greeks. */
export function americanQuick(o: Terms, volatility: number): Pick<Priced, 'price' | 'delta' | 'vega'> {
  const { price, delta, plain } = early(o, volatility);
  return { price, delta, vega: plain.vega };
}

/** Price and greeks of an American option. Theta follows from the others (Black and Scholes' equation, which holds until exercise). */
export function americanGreeks(o: Terms, volatility: number): Omit<Priced, 'rho'> {
  const { plain, put, price, delta, gamma, premium } = early(o, volatility);
  if (premium === null) return { price, delta, gamma, vega: 0, theta: 0 };
  if (!put) return { price, delta, gamma, vega: plain.vega, theta: plain.theta };
  const more = { ...put.market, volatility: volatility + NUDGE };
  const vega =
    plain.vega + (put.strike * (premiumOf(more, boundaryOf(more), put.spot).value - premium)) / NUDGE;
  const theta =
    o.rate * price -
    (o.rate - o.dividend) * o.spot * delta -
    0.5 * volatility * volatility * o.spot * o.spot * gamma;
  return { price, delta, gamma, vega: Math.max(0, vega), theta };
}

/**
 * The volatility at which an American option has a price. Null where there is none: at or below what exercise brings now, or above
 * what any volatility gives.
 */
export function americanVolatility(o: Terms, price: number): number | null {
  if (!(price > insideOf(o)) || !(o.years > 0)) return null;
  const early = asPut(o, 1) !== null;
  // Exercised at any time it can be worth more than the European one at any volatility, so it takes less of it.
  const whole = o.way === 1 ? o.spot : o.strike;
  const most = impliedVolatility(o, price) ?? (early && price < whole ? HIGHEST : null);
  if (most === null || !early) return most;
  let [from, to] = [0, most];
  let s = to;
  let gap = american(o, s) - price;
  let slope = europeanGreeks(o, s).vega;
  for (let k = 0; k < 60 && Math.abs(gap) > 1e-8 * o.strike && to - from > 1e-10; k++) {
    if (gap > 0) to = s;
    else from = s;
    const next = s - gap / slope;
    const there = next > from && next < to ? next : 0.5 * (from + to);
    const gapThere = american(o, there) - price;
    // From the second step on by the slope that was seen.
    if (gapThere !== gap) slope = (gapThere - gap) / (there - s);
    [s, gap] = [there, gapThere];
  }
  return s;
}
