// When what is held of options is looked at: they trade too seldom to be told each time, and follow their underlying.
import { isOption, rootOf } from '../core/instruments/index.ts';
import { type Holding, openTrade, optionsHeld } from '../core/orders/index.ts';
import { MINUTE, SECOND } from '../core/units/index.ts';
import type { Engine } from './circuit.ts';
import type { Reach } from './state.ts';

/**
 * When all that is held of options is looked at next: twice a second where exits wait for their price, each minute otherwise; never outside the
 * session. In between, an option is looked at whenever its underlying goes farther than it did in this minute ({@link goesFarther}).
 */
export function dueOptions({ state, market }: Engine): number {
  if (state.session !== 'regular') return Number.POSITIVE_INFINITY;
  let every = Number.POSITIVE_INFINITY;
  for (const key in state.broker.holdings) {
    const h = state.broker.holdings[key] as Holding;
    if (!isOption(h.symbol)) continue;
    const waits = h.scopes.length > 0 || h.orders.some((o) => o.phase.k === 'armed');
    every = Math.min(every, waits ? SECOND / 2 : MINUTE);
  }
  return every === Number.POSITIVE_INFINITY ? every : (Math.floor(market.now() / every) + 1) * every;
}

/** What is held or ordered of options on an underlying. */
export const optionsOn = (e: Engine, root: string): string[] =>
  optionsHeld(e.state.broker).filter((name) => rootOf(name) === root);

/**
 * Whether the quote of an underlying on which options are held is beyond all that it was in this minute, and notes it. What closing would bring is
 * best and worst at such moments: the price of a call, a put and a vertical rises or falls with the underlying all along, and time and volatility
 * change it little in a minute.
 */
export function goesFarther(e: Engine, root: string): boolean {
  const { state, market } = e;
  if (state.session !== 'regular' || isOption(root) || !holdsOptionsOn(e, root)) return false;
  const { bid, ask } = market.quote(root);
  if (bid === null || ask === null) return false;
  const minute = Math.floor(market.now() / MINUTE);
  const before = state.reach[root];
  const known = before?.minute === minute ? before : null;
  if (known && within(bid, known.bid) && within(ask, known.ask)) return false;
  const reach: Reach = { minute, bid: widened(known?.bid, bid), ask: widened(known?.ask, ask) };
  e.state = { ...state, reach: { ...state.reach, [root]: reach } };
  return true;
}

const within = (x: number, [low, high]: Reach['bid']): boolean => x >= low && x <= high;
const widened = (range: Reach['bid'] | undefined, x: number): Reach['bid'] =>
  range ? [Math.min(range[0], x), Math.max(range[1], x)] : [x, x];

function holdsOptionsOn({ state }: Engine, root: string): boolean {
  for (const key in state.broker.holdings) {
    const h = state.broker.holdings[key] as Holding;
    if (isOption(h.symbol) && rootOf(h.symbol) === root && openTrade(h)) return true;
  }
  return false;
}
