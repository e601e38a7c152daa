import { legsOf } from '../instruments/index.ts';
import { exp, ln, normal } from './elementary.ts';
import { european } from './european.ts';
import { type ChainMoment, makersVolatility, yearsLeft } from './quotes.ts';
import { RATE } from './surface.ts';

/** One contract of what is looked at: bought (1) or sold (−1), at its own volatility. */
interface Leg {
  sign: 1 | -1;
  way: 1 | -1;
  strike: number;
  volatility: number;
}

/** What comes of an option or a vertical that is opened at a price: per share, in price units, before costs. */
export interface Outlook {
  /** Null: without end. */
  most: number | null;
  /** What it can lose. */
  least: number | null;
  /** Where its underlying has to stand at expiry to make nothing. */
  even: number[];
  /** Probability that it ends with a profit, after the lognormal distribution at the volatility of the breakeven. */
  profit: number;
  /** Of what was sold: probability that it can be bought back for half of what it brought, at some time before it expires. */
  half: number | null;
  years: number;
  spot: number;
  legs: Leg[];
  sign: 1 | -1;
  paid: number;
}

/** What may come of buying (`sign` 1) or selling (−1) an option or a vertical by its name at a price, as it stands now; `withHalf`: with the probability of half, which takes the most work. */
export function outlookOf(
  name: string,
  sign: 1 | -1,
  paid: number,
  m: ChainMoment,
  withHalf = true,
): Outlook | null {
  const legs = legsOf(name).map(({ sign: s, contract }): Leg => {
    const years = yearsLeft(m.under.date, m.under.ms, contract.expiry);
    return {
      sign: s,
      way: contract.right === 'call' ? 1 : -1,
      strike: contract.strike,
      volatility: makersVolatility(contract, m, years),
    };
  });
  const first = legsOf(name)[0]?.contract;
  if (!first) return null;
  const years = yearsLeft(m.under.date, m.under.ms, first.expiry);
  const at = (spot: number) => sign * (atExpiry(legs, spot) - paid);
  const corners = [0, ...legs.map((l) => l.strike).sort((a, b) => a - b)];
  const top = (corners[corners.length - 1] as number) * 4 + m.spot;
  const far = at(top);
  const bounded = Math.abs(far - at(top * 2)) < 1e-6;
  const values = corners.map(at).concat(bounded ? [far] : []);
  const even = crossings(corners.concat(top), at);
  return {
    most: !bounded && far > 0 ? null : Math.max(...values, 0),
    least: !bounded && far < 0 ? null : Math.max(0, -Math.min(...values)),
    even,
    profit: profitOf(even, at, legs, m, years),
    half: sign === -1 && withHalf ? halfway(legs, paid / 2, m.spot, years) : null,
    years,
    spot: m.spot,
    legs,
    sign,
    paid,
  };
}

const atExpiry = (legs: readonly Leg[], spot: number): number =>
  legs.reduce((a, l) => a + l.sign * Math.max(0, l.way * (spot - l.strike)), 0);

/** What legs are worth with so many years left, if volatility and time stay what they are. */
export function worthAt(legs: readonly Leg[], spot: number, years: number, moreVolatility = 0): number {
  return legs.reduce(
    (a, l) =>
      a +
      l.sign *
        european(
          { way: l.way, spot, strike: l.strike, years, rate: RATE, dividend: 0 },
          Math.max(0.01, l.volatility + moreVolatility),
        ),
    0,
  );
}

/** Where a line of straight pieces between corners goes through nothing. */
function crossings(corners: readonly number[], at: (spot: number) => number): number[] {
  const out: number[] = [];
  for (let k = 1; k < corners.length; k++) {
    const [a, b] = [corners[k - 1] as number, corners[k] as number];
    const [va, vb] = [at(a), at(b)];
    if (va === 0 || va * vb >= 0) continue;
    out.push(a + ((b - a) * va) / (va - vb));
  }
  return out;
}

/** The probability of the stretches in which it makes something; at each of its ends the volatility of the nearest leg. */
function profitOf(
  even: readonly number[],
  at: (spot: number) => number,
  legs: readonly Leg[],
  m: ChainMoment,
  years: number,
): number {
  if (years <= 0) return at(m.spot) > 0 ? 1 : 0;
  const below = (level: number): number => {
    const near = legs.reduce((a, b) => (Math.abs(b.strike - level) < Math.abs(a.strike - level) ? b : a));
    const total = near.volatility * Math.sqrt(years);
    return normal((ln(level / m.spot) - (RATE - (near.volatility * near.volatility) / 2) * years) / total);
  };
  const bounds = [0, ...even];
  let p = 0;
  bounds.forEach((from, k) => {
    const to = bounds[k + 1];
    const inside = to === undefined ? from * 2 + m.spot : (from + to) / 2;
    if (at(inside) <= 0) return;
    p += (to === undefined ? 1 : below(to)) - (from === 0 ? 0 : below(from));
  });
  return Math.max(0, Math.min(1, p));
}

const STEPS = 120;
/**
 * Probability that what was sold can be bought back at a price before it expires: a spot that wanders by the mean volatility of the legs, on a lattice of three
 * branches (P. Boyle 1986), out of which goes what has come to where the legs are worth so little.
 */
function halfway(legs: readonly Leg[], target: number, spot: number, years: number): number {
  if (years <= 0) return 0;
  const mean = legs.reduce((a, l) => a + l.volatility, 0) / legs.length;
  const dt = years / STEPS;
  const dx = mean * Math.sqrt(3 * dt);
  const drift = (RATE - (mean * mean) / 2) * dt;
  const up = 1 / 6 + drift / (2 * dx);
  const down = 1 / 6 - drift / (2 * dx);
  const size = 2 * STEPS + 1;
  const spots = Float64Array.from({ length: size }, (_, i) => spot * exp((i - STEPS) * dx));
  let mass = new Float64Array(size);
  mass[STEPS] = 1;
  let reached = worthAt(legs, spot, years) <= target ? 1 : 0;
  if (reached === 1) return 1;
  for (let k = 1; k <= STEPS; k++) {
    const next = new Float64Array(size);
    const left = years - k * dt;
    for (let i = STEPS - k + 1; i <= STEPS + k - 1; i++) {
      const p = mass[i] as number;
      if (p === 0) continue;
      next[i + 1] = (next[i + 1] as number) + p * up;
      next[i] = (next[i] as number) + p * (1 - up - down);
      next[i - 1] = (next[i - 1] as number) + p * down;
    }
    for (let i = STEPS - k; i <= STEPS + k; i++) {
      const p = next[i] as number;
      if (p < 1e-12) continue;
      const worth =
        left > 1e-9 ? worthAt(legs, spots[i] as number, left) : atExpiry(legs, spots[i] as number);
      if (worth > target) continue;
      reached += p;
      next[i] = 0;
    }
    mass = next;
  }
  return Math.min(1, reached);
}
