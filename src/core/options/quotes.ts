import { idOf, type OptionContract } from '../instruments/index.ts';
import type { Listing, Quote } from '../market/index.ts';
import {
  type Hours,
  hoursOn,
  keyOf,
  mix,
  PRICE_SCALE,
  type Price,
  REGULAR_OPEN,
  roundToTick,
  type Ticks,
  tickSize,
} from '../units/index.ts';
import { americanGreeks, americanQuick } from './american.ts';
import { classOf } from './contracts.ts';
import { ln } from './elementary.ts';
import type { Priced, Terms } from './european.ts';
import { marketYears } from './market-time.ts';
import { doubtOf, RATE, type Surface, surfaceOf, volatilityAt, yearsBetween } from './surface.ts';

/** The underlying of contracts at a moment of a date. */
export interface Underlying {
  listing: Listing;
  date: string;
  /** Milliseconds after midnight. */
  ms: number;
  bid: number;
  ask: number;
}

/** Everything about a company's contracts that does not depend on which one: worked out once for a look at its chain. */
export interface ChainMoment {
  under: Underlying;
  surface: Surface;
  spot: number;
  ticks: Ticks;
  doubt: number;
  hours: Hours;
}

/** What all contracts of a company share at a moment. */
export function chainMoment(under: Underlying): ChainMoment {
  const spot = (under.bid + under.ask) / 2;
  return {
    under,
    spot,
    surface: surfaceOf(under.listing, under.date, under.ms, spot),
    ticks: classOf(under.listing).penny ? 'penny class' : 'nickel class',
    doubt: doubtOf(under.listing),
    hours: hoursOn(under.date),
  };
}

/** Years until a contract expires, at the close of its last day; 0 when it has. */
export const yearsLeft = (date: string, ms: number, expiry: string): number =>
  Math.max(0, yearsBetween(date, ms, expiry, hoursOn(expiry).close));

/** The same as variance counts it. */
export const marketYearsLeft = (date: string, ms: number, expiry: string): number =>
  Math.max(0, marketYears(date, ms, expiry, hoursOn(expiry).close));

/** What a contract's price follows from. */
export function termsOf(c: OptionContract, m: ChainMoment): Terms {
  return {
    way: c.right === 'call' ? 1 : -1,
    spot: m.spot,
    strike: c.strike,
    years: yearsLeft(m.under.date, m.under.ms, c.expiry),
    rate: RATE,
    dividend: 0,
  };
}

/** The volatility at which makers price a contract. */
export function makersVolatility(c: OptionContract, m: ChainMoment, years: number): number {
  if (years <= 0) return 0;
  const market = marketYearsLeft(m.under.date, m.under.ms, c.expiry);
  return volatilityAt(m.surface, ln(c.strike / m.spot) - RATE * years, years, market);
}

/** What a quote of a contract is made of: what it is worth to those who quote it, and what it moves with. */
function fairQuick(c: OptionContract, m: ChainMoment): Pick<Priced, 'price' | 'delta' | 'vega'> {
  const o = termsOf(c, m);
  return americanQuick(o, makersVolatility(c, m, o.years));
}

/** What a contract is worth to those who quote it, with its greeks. Prices in price units, derivatives by price units. */
export function fairGreeks(
  c: OptionContract,
  m: ChainMoment,
): Omit<Priced, 'rho'> & { volatility: number; years: number } {
  const o = termsOf(c, m);
  const volatility = makersVolatility(c, m, o.years);
  return { ...americanGreeks(o, volatility), volatility, years: o.years };
}

/**
 * Makers' quote of a contract: around what it is worth to them, half a spread each way that grows with the spread of what it hedges in, with what
 * a doubt about volatility would cost, in the first minutes of the session, and toward expiry; then outward to a step. So nothing is ever bid above,
 * or offered below, one set of prices that has no free lunch in it. Outside the regular session there is none.
 */
export function makersQuote(c: OptionContract, m: ChainMoment): Quote & { fair: number } {
  const { under, hours } = m;
  const g = fairQuick(c, m);
  const fair = g.price;
  if (under.ms < REGULAR_OPEN || under.ms >= hours.close || under.bid <= 0 || under.ask <= 0)
    return { bid: null, ask: null, bidSize: 0, askSize: 0, fair };
  const minutes = (under.ms - REGULAR_OPEN) / 60_000;
  const early = 1 + 1.5 / (1 + minutes * minutes * 0.25);
  const half =
    early *
    (0.35 * Math.abs(g.delta) * (under.ask - under.bid) +
      m.doubt * g.vega +
      0.004 * g.price +
      0.25 * tickSize(g.price, m.ticks));
  const bid = outward(g.price - half, m.ticks, 'down');
  const ask = outward(g.price + half, m.ticks, 'up');
  const size = sizeOf(c, m, g.delta);
  return {
    bid: bid > 0 ? (bid as Price) : null,
    ask: ask as Price,
    bidSize: bid > 0 ? size(1) : 0,
    askSize: size(2),
    fair,
  };
}

/** Outward to a step; 0 where a bid would be less than one. */
function outward(units: number, ticks: Ticks, how: 'down' | 'up'): number {
  if (units < tickSize(0, ticks)) return how === 'down' ? 0 : tickSize(0, ticks);
  return roundToTick(units, how, ticks);
}

/** Contracts shown at a price: more near the money and in what trades much, another number every few seconds. */
function sizeOf(c: OptionContract, m: ChainMoment, delta: number): (side: number) => number {
  const key = mix(keyOf(31, idOf(c)), Math.floor(m.under.ms / 4_000));
  const near = 1 - Math.abs(Math.abs(delta) - 0.5) * 1.4;
  const mean = 4 + (0.35 / m.doubt) * near;
  return (side) => Math.max(1, Math.round(mean * (0.4 + 1.2 * ((mix(key, side) % 1_000) / 1_000))));
}

/** Open interest and what has traded of a contract today: by how near the money and how soon it expires, more at round strikes. */
export function interestOf(c: OptionContract, m: ChainMoment): { open: number; volume: number } {
  const years = yearsLeft(m.under.date, m.under.ms, c.expiry);
  const width = Math.max(0.08, 0.5 * Math.sqrt(years));
  const x = ln(c.strike / m.under.listing.priorClose) / width;
  const shape = 1 / ((1 + x * x) * (1 + x * x));
  const dollars = c.strike / PRICE_SCALE;
  const round = dollars % 10 === 0 ? 2.2 : dollars % 5 === 0 ? 1.6 : dollars % 1 === 0 ? 1 : 0.6;
  const key = keyOf(37, idOf(c));
  const own = 0.3 + 1.4 * ((mix(key, 1) % 1_000) / 1_000);
  const side = c.right === 'call' ? 1.25 : 0.85;
  const open = Math.round((26 / m.doubt) * shape * round * own * side * Math.sqrt(0.05 + years));
  const { hours } = m;
  const part = Math.max(0, Math.min(1, (m.under.ms - REGULAR_OPEN) / (hours.close - REGULAR_OPEN)));
  const day = keyOf(mix(key, 2), m.under.date);
  const today = (0.03 + 0.3 * ((mix(day, 1) % 1_000) / 1_000)) * shape;
  return { open, volume: Math.round(open * today * part) };
}
