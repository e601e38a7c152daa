// The moment that a sentence is read against.

import { isOption, rootOf } from '../core/instruments/index.ts';
import { drawnPriceAt, fieldOf, fieldValue, type SymbolView, sightOf } from '../core/market/index.ts';
import { type ChainMoment, chainMoment } from '../core/options/index.ts';
import {
  admit,
  averageEntry,
  holdingOf,
  openTrade,
  riskPerShare,
  stepBroker,
  stopPriceOf,
} from '../core/orders/index.ts';
import { exitsOf, type PlanBook, type RunContext } from '../core/reading/index.ts';
import { sift } from '../core/scan/index.ts';
import { pitTicks } from '../core/sim/index.ts';
import { type AccountId, DAY, isTradingDay, nextTradingDay, type Price } from '../core/units/index.ts';
import { brokerContext, type Engine, markOf } from './circuit.ts';
import { marketView } from './view.ts';

/** What a script may know of a symbol now, or null when it does not trade. */
export function symbolView(
  e: Engine,
  symbol: string,
  account: AccountId = e.state.desk.account,
): SymbolView | null {
  if (!e.market.has(symbol)) return null;
  const { market, state } = e;
  const holding = holdingOf(state.broker, account, symbol);
  const trade = openTrade(holding);
  const sight = isOption(symbol)
    ? optionSight(e, symbol)
    : sightOf({
        tape: market.tape(symbol),
        instrument: market.instrument(symbol),
        quote: market.quote(symbol),
        status: market.status(symbol),
        restricted: market.restricted(symbol),
        now: market.now(),
        daily: () => market.daily(symbol),
      });
  if (!isOption(symbol))
    sight.level = (name) => {
      const level = state.desk.levels[symbol]?.[name];
      return level === undefined ? null : drawnPriceAt(level, market.now());
    };
  if (!trade) return sight;
  const scopes = holding.scopes.filter((s) => s.tradeId === trade.id);
  const stops = scopes.flatMap((s) => stopPriceOf(s) ?? []);
  const nearest = stops.length === 0 ? null : stops.reduce((a, b) => (trade.sign * (b - a) > 0 ? b : a));
  sight.trade = {
    sign: trade.sign,
    averageEntry: averageEntry(trade) as number,
    stop: nearest,
    riskPerShare: riskPerShare(trade, holding.multiplier),
  };
  return sight;
}

/** What is public of an option or a vertical: its quote, and its underlying's listing and status. It keeps no candles. */
function optionSight(e: Engine, name: string): SymbolView {
  const { market } = e;
  const instrument = market.instrument(name);
  return {
    symbol: name,
    instrument,
    ticks: pitTicks(name, instrument),
    quote: market.quote(name),
    status: market.status(name),
    restricted: false,
    last: markOf(e, name),
    underlying: market.last(rootOf(name)) as Price | null,
    vwap: null,
    open: null,
    dayHigh: null,
    dayLow: null,
    premarketHigh: null,
    premarketLow: null,
    candle: () => null,
    premarketCandle: () => null,
    openingRange: () => null,
    average: () => null,
    atrOn: () => null,
    level: () => null,
    cursor: null,
    trade: null,
  };
}

/** What a company's options are priced by now; null where it has none, or no quote. */
export function chainOf({ market }: Engine, root: string): ChainMoment | null {
  if (isOption(root) || !market.has(root)) return null;
  const { bid, ask } = market.quote(root);
  const listing = market.instrument(root);
  if (!listing.options || bid === null || ask === null) return null;
  return chainMoment({ listing, date: market.date, ms: market.now() - market.dayStart, bid, ask });
}

/** Everything that a sentence may look at. */
export function runContext(
  e: Engine,
  focus: string | null,
  cursor: number | null,
  account: AccountId = e.state.desk.account,
): RunContext {
  const { broker, session, desk } = e.state;
  const seen = brokerContext(e);
  const views = new Map<string, SymbolView | null>();
  return {
    now: e.market.now(),
    date: e.market.date,
    session,
    hours: e.market.hours,
    dayStart: e.market.dayStart,
    midnightOf: (date) => midnightOf(e, date),
    focus,
    view(s) {
      let view = views.get(s);
      if (view === undefined) {
        const sight = symbolView(e, s, account);
        view = sight && s === focus ? { ...sight, cursor } : sight;
        views.set(s, view);
      }
      return view;
    },
    chain: (root) => chainOf(e, root),
    unlisted: (s) => e.market.unlisted(s),
    passes: (s, rule) =>
      e.market.has(s) && sift(rule, marketView(e.market), Int32Array.of(e.market.number(s)), 1) === 1,
    field: (s, name) =>
      e.market.has(s) ? fieldValue(fieldOf(name), marketView(e.market), e.market.number(s)) : Number.NaN,
    broker,
    account,
    in: (other) => runContext(e, focus, cursor, other),
    locate: seen.locate,
    admit: (intent) => admit(broker, intent, seen),
    would: (intent) => stepBroker(broker, { kind: 'intent', intent }, seen)[0],
    levels: (s) => Object.keys(desk.levels[s] ?? {}),
    ticket: desk.ticket,
    staged: desk.staged.filter((x) => x.account === account),
    waiting: desk.waiting.filter((x) => x.account === account),
    plans: plansOf(desk.plans),
    planFor: desk.plans,
    usual: desk.plans.usual,
  };
}

const read = new WeakMap<PlanBook, RunContext['plans']>();
/** The plans by their names, read once. */
function plansOf(book: PlanBook): RunContext['plans'] {
  let plans = read.get(book);
  if (!plans) {
    plans = Object.fromEntries(
      book.plans.map(({ name, text, hours }) => [name, { exits: exitsOf(text), hours }]),
    );
    read.set(book, plans);
  }
  return plans;
}

/** Far beyond any order's life. */
const MOST_DAYS = 800;

/** Session time of the midnight of a date, or of the last trading day before it; null when it is over. */
function midnightOf({ market }: Engine, date: string): number | null {
  if (date < market.date) return null;
  let day = market.date;
  let days = 0;
  while (days < MOST_DAYS) {
    const next = nextTradingDay(day);
    if (next > date) break;
    day = next;
    days++;
  }
  return isTradingDay(day) ? market.dayStart + days * DAY : null;
}
