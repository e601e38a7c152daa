import type { Account } from '../account/index.ts';
import { type Broker, holdingOf, type Intent, type OrderType, openTrade, type Refusal, type Terms, type Trade } from '../orders/index.ts';
import {
  clockOf,
  formatPrice,
  formatTime,
  type Hours,
  MINUTE,
  type Money,
  type Price,
  REGULAR_OPEN,
  roundToTick,
  type SessionKind,
  type Side,
  signOf,
  unreachable,
} from '../units/index.ts';
import { described, limitPrice, literal, priceValue, type SymbolView } from './prices.ts';
import { printPrice } from './print.ts';
import type { Handling, Life, Pricing, Rule } from './tree.ts';

/** Everything a script may look at. Running is a pure function of (tree, this). */
export interface RunContext {
  now: number;
  session: SessionKind;
  hours: Hours;
  focus: string | null;
  view(symbol: string): SymbolView | null;
  /** Whether a symbol passes a rule now. */
  passes(symbol: string, rule: Rule): boolean;
  broker: Broker;
  /** The account that sentences act in. */
  account: string;
  /** The guards at the broker's door, as they stand now. */
  admit(intent: Intent): Refusal | null;
}

export const accountOf = (c: RunContext): Account => c.broker.accounts[c.account] as Account;

/** Why a sentence cannot go now: the rule, the value seen and what would pass, in one sentence. */
export interface RunProblem {
  code:
    | 'no focus'
    | 'unknown symbol'
    | 'unknown price'
    | 'wrong way'
    | 'size zero'
    | 'no such order'
    | 'no stop'
    | 'target side'
    | 'auction time'
    | 'midpoint'
    | 'at last'
    | Refusal['code'];
  text: string;
}

/** The numbers behind a sentence, before it is sent. Money in 1/10,000 dollar. */
export interface OrderFacts {
  side: Side;
  qty: number;
  price: Price;
  stop: Price | null;
  cost: Money;
  risk: Money | null;
  r: number | null;
  /** Reward of the targets, whole plan, before costs. */
  reward: Money | null;
  commission: Money;
}

/** An alert that a script asks for, with its prices as of now. */
export interface AlertAsked {
  /** Null: every symbol. */
  symbol: string | null;
  on: { kind: 'price'; price: Price; way: 'up' | 'down' } | { kind: 'rule'; rule: Rule } | { kind: 'news' | 'halt' };
}

export interface Reading {
  intents: Intent[];
  alert: AlertAsked | null;
  problems: RunProblem[];
  warnings: string[];
  /** The sentence with today's numbers, in the script language. */
  sayBack: string;
  facts: OrderFacts | null;
  symbol: string | null;
  /** Opens or adds risk, so that a confirmation is due. */
  addsRisk: boolean;
  staged: boolean;
}

export class Refused extends Error {
  constructor(readonly problem: RunProblem) {
    super(problem.text);
  }
}
export const refuse = (code: RunProblem['code'], text: string): never => {
  throw new Refused({ code, text });
};

export function viewOf(symbol: string | null, c: RunContext): SymbolView {
  const wanted = symbol ?? c.focus ?? refuse('no focus', 'No symbol is in focus. Choose one in the scan, or write “of SYMBOL”.');
  return c.view(wanted) ?? refuse('unknown symbol', `“${wanted}” does not trade today.`);
}

export function value(e: Parameters<typeof priceValue>[0], v: SymbolView): number {
  if (e.base.kind === 'name' && e.base.name === 'cursor' && v.cursor === null)
    refuse('unknown price', `Point at a price on the chart of ${v.symbol} first: “cursor” is where the pointer stands.`);
  return priceValue(e, v) ?? refuse('unknown price', `“${printPrice(e)}” has no value for ${v.symbol} now. Use a price that exists, such as last or a number.`);
}

export const openTradeOf = (c: RunContext, symbol: string): Trade | undefined => openTrade(holdingOf(c.broker, c.account, symbol));

export interface Priced {
  type: OrderType;
  limit: Price | null;
  stop: Price | null;
  /** What the order is expected to pay at worst, for size and cost. */
  expected: Price;
  shown: Pricing;
}

export function priceOrder(p: Pricing, side: Side, v: SymbolView, c: RunContext, closing: boolean): Priced {
  switch (p.kind) {
    case 'market': {
      if (c.session !== 'regular') {
        const touch = side === 'buy' ? 'ask' : 'bid';
        refuse(
          'market hours',
          `Market orders work in the regular session (09:30–16:00); it is ${c.session} now. A marketable limit would do: at ${touch} ${side === 'buy' ? '+' : '-'} 3c extended.`,
        );
      }
      const expected = (side === 'buy' ? v.quote.ask : v.quote.bid) ?? v.last ?? refuse('unknown price', `${v.symbol} has neither a quote nor a trade yet.`);
      return { type: 'Market', limit: null, stop: null, expected, shown: p };
    }
    case 'limit': {
      const limit = limitPrice(value(p.price, v), side);
      return { type: 'Limit', limit, stop: null, expected: limit, shown: { kind: 'limit', price: literal(limit) } };
    }
    case 'stop': {
      const wanted = side === 'buy' ? 'above' : 'below';
      const raw = value(p.trigger, v);
      if (p.way !== wanted) refuse('stop side', `A ${side} stop waits ${wanted} the market: write “${wanted} ${printPrice(p.trigger)}”.`);
      const stop = roundToTick(raw, side === 'buy' ? 'up' : 'down');
      if (v.last !== null && signOf(side) * (stop - v.last) <= 0) {
        refuse(
          'stop side',
          `The stop ${described(p.trigger, raw)} must be ${wanted} the last price ${formatPrice(v.last)}, or it would go at once.${closing ? '' : ` To enter now: at ${side === 'buy' ? 'ask + 3c' : 'bid - 3c'}.`}`,
        );
      }
      const limit = p.limit ? limitPrice(value(p.limit, v), side) : null;
      if (limit !== null && signOf(side) * (limit - stop) < 0) {
        refuse(
          'limit side',
          `The limit ${formatPrice(limit)} of a ${side} stop must be at ${formatPrice(stop)} or ${side === 'buy' ? 'above' : 'below'}; try ${wanted} ${formatPrice(stop)} limit ${formatPrice(stop + signOf(side) * 800)}.`,
        );
      }
      return {
        type: limit === null ? 'Stop' : 'StopLimit',
        limit,
        stop,
        expected: limit ?? stop,
        shown: { kind: 'stop', way: p.way, trigger: literal(stop), limit: limit === null ? null : literal(limit) },
      };
    }
    case 'mid': {
      if (c.session !== 'regular')
        refuse('midpoint', `Midpoint orders work in the regular session; it is ${c.session} now. A limit at the midpoint would do: at mid extended.`);
      if (v.status === 'volatility pause' || v.status === 'halted')
        refuse(
          'midpoint',
          `${v.symbol} is in a ${v.status === 'halted' ? 'halt' : v.status}; there is no midpoint until it reopens. Join the reopening with a limit order.`,
        );
      const expected = (side === 'buy' ? v.quote.ask : v.quote.bid) ?? refuse('midpoint', `${v.symbol} is quoted on one side only, so it has no midpoint.`);
      return { type: 'Pegged', limit: null, stop: null, expected, shown: p };
    }
    case 'sweep': {
      const limit = limitPrice(value(p.price, v), side);
      return { type: 'Limit', limit, stop: null, expected: limit, shown: { kind: 'sweep', price: literal(limit) } };
    }
    case 'auction': {
      checkAuction(p.which, c);
      const limit = p.price ? limitPrice(value(p.price, v), side) : null;
      const expected =
        limit ?? (side === 'buy' ? v.quote.ask : v.quote.bid) ?? v.last ?? refuse('unknown price', `${v.symbol} has neither a quote nor a trade yet.`);
      return { type: limit === null ? 'Market' : 'Limit', limit, stop: null, expected, shown: { ...p, price: limit === null ? null : literal(limit) } };
    }
    default:
      return unreachable(p);
  }
}

/** Orders for the opening auction are taken until 09:28, for the closing one until ten minutes before it (common practice). */
function checkAuction(which: 'open' | 'close', c: RunContext): void {
  const clock = clockOf(c.now);
  const last = which === 'open' ? REGULAR_OPEN - 2 * MINUTE : c.hours.close - 10 * MINUTE;
  if (clock < last) return;
  const name = which === 'open' ? 'opening' : 'closing';
  refuse(
    'auction time',
    `Orders for the ${name} auction are taken until ${formatTime(last, 'minutes')}; it is ${formatTime(c.now, 'minutes')}. To trade now: at ask + 3c.`,
  );
}

const LIVES: Record<Life, Terms['timeInForce']> = { day: 'Day', gtc: 'GoodTillCancel', ioc: 'ImmediateOrCancel', fok: 'FillOrKill' };

/** What the words after the price, and the price itself, ask of the exchange. */
export const termsOf = (p: Pricing, h: Handling): Terms => ({
  timeInForce: p.kind === 'auction' ? (p.which === 'open' ? 'AtTheOpening' : 'AtTheClose') : LIVES[h.life],
  route: p.kind === 'mid' || p.kind === 'sweep' ? p.kind : 'lit',
  postOnly: h.postOnly,
});

/** What the trader should know of a stock that does not trade freely now. */
export function haltWarning(v: SymbolView): string[] {
  if (v.status === 'volatility pause' || v.status === 'halted')
    return [`${v.symbol} is in a ${v.status === 'halted' ? 'halt' : v.status}: the order waits and joins the reopening auction.`];
  return v.status === 'trading' ? [] : [`${v.symbol} stands at its ${v.status} band: beyond it nothing trades, and a pause may follow within 15 seconds.`];
}

/** What the trader should know of a short sale: the guards at the broker's door refuse what may not be. */
export function shortWarnings(v: SymbolView): string[] {
  const warnings = v.instrument.borrow === 'hard' ? [`${v.symbol} is hard to borrow: shares may be called back.`] : [];
  if (!v.restricted) return warnings;
  return [...warnings, `Short-sale restriction: ${v.symbol} is sold short only above the best bid; a lower price is moved up to one tick above it.`];
}
