// The option chain of a symbol, for who looks at it.
import { legsOf, nameOf, type OptionContract, rootOf } from '../../core/instruments/index.ts';
import {
  type ChainMoment,
  classOf,
  contractGreeks,
  expiriesOn,
  impliedYear,
  interestOf,
  type Measured,
  makersQuote,
  marketYearsLeft,
  newsDates,
  strikesListed,
  varianceUntil,
  yearsLeft,
} from '../../core/options/index.ts';
import { openTrade, positionOf } from '../../core/orders/index.ts';
import { daysBetween, epochDay, type Price } from '../../core/units/index.ts';
import type { Engine } from '../../session/engine.ts';
import { chainOf } from '../../session/moment.ts';
import type { ChainRow, ChainSide, ChainSlice, Exposure } from './slices.ts';

/** A chain as it stands now; null for a symbol without options, or without a quote. `expiry` null: the first one that is not over in a week. */
export function chainSlice(e: Engine, symbol: string, expiry: string | null): ChainSlice | null {
  const m = chainOf(e, symbol);
  if (m === null) return null;
  const { listing, date, ms } = m.under;
  const dates = expiriesOn(date, classOf(listing).weeklies);
  const shown =
    expiry !== null && dates.includes(expiry)
      ? expiry
      : (dates.find((d) => daysBetween(date, d) >= 7) ?? (dates[0] as string));
  const strikes = strikesListed(listing, date, shown);
  const row = (strike: Price): ChainRow => ({
    strike,
    call: sideOf(m, shown, strike, 'call'),
    put: sideOf(m, shown, strike, 'put'),
  });
  const options = listing.options as NonNullable<typeof listing.options>;
  const { low, high } = options.band ?? { low: options.ivLow, high: options.ivHigh };
  const year = impliedYear(symbol, low, high, date);
  return {
    symbol,
    date,
    spot: m.spot,
    open: e.state.session === 'regular',
    expiry: shown,
    expiries: dates.map((d) => {
      const years = yearsLeft(date, ms, d);
      const move = Math.sqrt(varianceUntil(m.surface, marketYearsLeft(date, ms, d)));
      return { date: d, days: daysBetween(date, d), move, iv: years > 0 ? move / Math.sqrt(years) : 0 };
    }),
    iv: Math.sqrt(varianceUntil(m.surface, MONTH) / MONTH),
    rank: rankOf(
      options.iv,
      year.map((w) => w.iv),
    ),
    reports: reportsAfter(symbol, date),
    year: year.map((w) => ({ ago: epochDay(date) - w.day, iv: w.iv })),
    rows: strikes.map(row),
    mine: exposureOf(e, symbol),
    all: exposureOf(e, null),
  };
}

/** The next scheduled report after a date; those of the day itself are out before the open. */
function reportsAfter(symbol: string, today: string): ChainSlice['reports'] {
  const date = newsDates(symbol, today, 280).find((d) => d > today);
  return date === undefined ? null : { date, days: daysBetween(today, date) };
}

/** A month, in years. */
const MONTH = 30 / 365;

/** Where a value stands between the least and the most of a list, 0 to 100 (common practice: IV rank). */
function rankOf(value: number, list: readonly number[]): number {
  const [low, high] = [Math.min(...list, value), Math.max(...list, value)];
  return high > low ? ((value - low) / (high - low)) * 100 : 50;
}

function sideOf(m: ChainMoment, expiry: string, strike: Price, right: 'call' | 'put'): ChainSide {
  const c: OptionContract = { kind: 'option', root: m.under.listing.symbol, expiry, right, strike };
  const { bid, ask, bidSize, askSize } = makersQuote(c, m);
  const { open, volume } = interestOf(c, m);
  return {
    name: nameOf(c),
    bid,
    ask,
    bidSize,
    askSize,
    ...measured(contractGreeks(c, m, bid, ask)),
    open,
    volume,
  };
}

const round = (x: number, places: number): number => Math.round(x * 10 ** places) / 10 ** places;
const measured = (g: Measured): Measured => ({
  iv: g.iv === null ? null : round(g.iv, 4),
  delta: round(g.delta, 3),
  gamma: round(g.gamma, 4),
  theta: round(g.theta, 4),
  vega: round(g.vega, 4),
  inside: round(g.inside, 3),
});

/** What the account's positions come to in shares of delta, and in dollars a day of theta; of one symbol, or of all (delta then in dollars). */
function exposureOf(e: Engine, symbol: string | null): Exposure {
  const sum: Exposure = { delta: 0, gamma: 0, theta: 0, vega: 0, dollars: 0 };
  const moments = new Map<string, ChainMoment | null>();
  for (const h of Object.values(e.state.broker.holdings)) {
    const t = openTrade(h);
    const root = rootOf(h.symbol);
    if (h.account !== e.state.desk.account || !t || (symbol !== null && root !== symbol)) continue;
    const held = t.sign * positionOf(t);
    const legs = legsOf(h.symbol);
    const last = e.market.last(root) ?? 0;
    if (legs.length === 0) {
      sum.delta += held;
      sum.dollars += (held * last) / 10_000;
      continue;
    }
    if (!moments.has(root)) moments.set(root, chainOf(e, root));
    const m = moments.get(root);
    if (!m) continue;
    for (const l of legs) {
      const g = contractGreeks(l.contract, m, null, null);
      const many = l.sign * held * 100;
      sum.delta += g.delta * many;
      sum.dollars += (g.delta * many * last) / 10_000;
      sum.gamma += g.gamma * many;
      sum.theta += g.theta * many;
      sum.vega += g.vega * many;
    }
  }
  return {
    delta: round(sum.delta, 1),
    gamma: round(sum.gamma, 2),
    theta: round(sum.theta, 2),
    vega: round(sum.vega, 2),
    dollars: round(sum.dollars, 0),
  };
}
