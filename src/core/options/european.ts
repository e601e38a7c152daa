import { below, density, exp, ln, mills, normal, ROOT_2PI_INVERSE } from './elementary.ts';

/** +1 for a call, −1 for a put. */
export type Way = 1 | -1;

/**
 * What a price is worked out from. Spot and strike in one unit (which the price then has), time in years,
 * rate and dividend yield continuously compounded a year, volatility as a fraction a year.
 */
export interface Terms {
  way: Way;
  spot: number;
  strike: number;
  years: number;
  rate: number;
  dividend: number;
}

/** Price and its derivatives: delta and gamma by the spot, vega by a volatility of 1 (100 points), theta by a year, rho by a rate of 1. */
export interface Priced {
  price: number;
  delta: number;
  gamma: number;
  vega: number;
  theta: number;
  rho: number;
}

/** What a European option comes to: worked out for whichever of call and put is out of the money, the other one by put–call parity. */
interface Parts {
  /** Spot and strike, discounted. */
  s: number;
  k: number;
  total: number;
  /** Density at d1; distribution of way × d1 and way × d2. */
  n: number;
  n1: number;
  n2: number;
  price: number;
}

function partsOf(o: Terms, volatility: number): Parts {
  const { way, years } = o;
  const s = o.dividend === 0 ? o.spot : o.spot * exp(-o.dividend * years);
  const k = o.strike * exp(-o.rate * years);
  const total = volatility * Math.sqrt(years);
  const inside = Math.max(0, way * (s - k));
  if (!(total > 0))
    return { s, k, total, n: 0, n1: inside > 0 ? 1 : 0, n2: inside > 0 ? 1 : 0, price: inside };
  const d1 = ln(s / k) / total + total / 2;
  const n = density(d1);
  const out = s < k ? 1 : -1;
  const n1 = below(out * d1, n);
  const n2 = below(out * (d1 - total), (n * s) / k);
  const price = Math.max(0, out * (s * n1 - k * n2));
  if (way === out) return { s, k, total, n, n1, n2, price };
  return { s, k, total, n, n1: 1 - n1, n2: 1 - n2, price: inside + price };
}

/** Price of a European option (Black and Scholes 1973, Merton 1973). At no time or no volatility the discounted value at the forward. */
export const european = (o: Terms, volatility: number): number => partsOf(o, volatility).price;

/** Price and greeks of a European option. */
export function europeanGreeks(o: Terms, volatility: number): Priced {
  const { way, spot, years, rate, dividend } = o;
  const { s, k, total, n, n1, n2, price } = partsOf(o, volatility);
  const root = Math.sqrt(years);
  const decay = total > 0 ? (-s * n * volatility) / (2 * root) : 0;
  return {
    price,
    delta: (way * n1 * s) / spot,
    gamma: total > 0 ? (s * n) / (spot * spot * total) : 0,
    vega: s * n * root,
    theta: decay + way * (dividend * s * n1 - rate * k * n2),
    rho: way * years * k * n2,
  };
}

/** A call out of the money, over the root of forward times strike, by x = −|ln(forward/strike)| and total volatility s. */
function normalized(x: number, s: number): number {
  const h = -x / s;
  const t = s / 2;
  const v = ROOT_2PI_INVERSE * exp(-0.5 * (h * h + t * t));
  // Far out of the money as a difference of Mills's ratios, where the terms themselves would cancel.
  if (h - t >= 0.67) return v * (mills(h - t) - mills(h + t));
  return exp(x / 2) * normal(t - h) - exp(-x / 2) * normal(-h - t);
}

/**
 * The volatility at which a European option has a price: to 1e-9 and better wherever the price says it.
 * Null where no volatility gives the price (at or below what it is worth at none, at or above what it is worth at any).
 * Halley's method on the price out of the money, its logarithm where it is small, held between bounds.
 */
export function impliedVolatility(o: Terms, price: number): number | null {
  const { way, years } = o;
  const s = o.spot * exp(-o.dividend * years);
  const k = o.strike * exp(-o.rate * years);
  if (!(years > 0 && s > 0 && k > 0)) return null;
  const inside = Math.max(0, way * (s - k));
  const out = (price - inside) / Math.sqrt(s * k);
  const x = -Math.abs(ln(s / k));
  const most = exp(x / 2);
  if (!(out > 0 && out < most) || price <= inside) return null;
  return totalVolatility(x, out, most) / Math.sqrt(years);
}

function totalVolatility(x: number, out: number, most: number): number {
  const bend = Math.sqrt(-2 * x);
  const atBend = bend > 0 ? normalized(x, bend) : 0;
  const low = out < atBend;
  // Below the bend by how fast the logarithm falls, above it from the bend or, near the most, from the other end.
  let s = low ? -x / Math.sqrt((x * x) / (bend * bend) + 2 * ln(atBend / out)) : startAbove(out, most, bend);
  let [from, to] = low ? [0, bend] : [bend, Number.POSITIVE_INFINITY];
  for (let k = 0; k < 80; k++) {
    const b = normalized(x, s);
    const h = x / s;
    const v = ROOT_2PI_INVERSE * exp(-0.5 * (h * h + 0.25 * s * s));
    if (b > out) to = Math.min(to, s);
    else from = Math.max(from, s);
    const curve = (h * h) / s - s / 4;
    let step: number;
    if (low) {
      const slope = v / b;
      const f = ln(b / out) / slope;
      step = f / (1 - 0.5 * f * (curve - slope));
    } else if (out > 0.7 * most) {
      const slope = v / (most - b);
      const f = ln((most - out) / (most - b)) / slope;
      step = f / (1 - 0.5 * f * (curve + slope));
    } else {
      const f = (b - out) / v;
      step = f / (1 - 0.5 * f * curve);
    }
    if (Math.abs(step) <= 1e-12 * s) return s - step;
    let next = s - step;
    if (!(next > from && next < to)) next = to === Number.POSITIVE_INFINITY ? s * 2 : 0.5 * (from + to);
    s = next;
  }
  return s;
}

/** Where to begin above the bend: a price near the most by its complement, otherwise as at the money. */
function startAbove(out: number, most: number, bend: number): number {
  if (out > 0.7 * most) return Math.max(bend, 2 * Math.sqrt(-2 * ln(most - out)) || bend);
  return Math.max(bend, 2.5 * out);
}
