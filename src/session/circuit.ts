// Broker and exchange: what the one asks, the other answers, until nothing more comes of it.

import { locateOffer } from '../core/account/index.ts';
import { isOption } from '../core/instruments/index.ts';
import { lastFinishedBar } from '../core/market/index.ts';
import {
  type BrokerContext,
  type BrokerInput,
  type OrderEvent,
  openTrade,
  type Refusal,
  stepBroker,
} from '../core/orders/index.ts';
import { pitTicks } from '../core/sim/index.ts';
import { type Price, price } from '../core/units/index.ts';
import type { LogEntry } from './log.ts';
import type { DayMarket } from './ports.ts';
import type { State } from './state.ts';

/** A session: the trader's state bound to a market. */
export interface Engine {
  state: State;
  market: DayMarket;
  /** While a session is brought back: what its log says that firings came to. */
  recorded?: ReadonlyMap<string, LogEntry[]>;
  /** What could not be done again when the session was brought back, each with why. */
  aside?: readonly string[];
}

/**
 * What an option or a vertical would bring if it were closed now: the bid of what is held long, the ask of what is held short, never a price of
 * before. Of what is not held the middle; outside the session what it is worth by its underlying.
 */
export function markOf({ market, state }: Pick<Engine, 'market' | 'state'>, name: string): Price | null {
  const { bid, ask } = market.quote(name);
  if (ask === null) {
    const worth = market.worth(name);
    return worth === null ? null : price(Math.max(1, Math.round(worth)));
  }
  const held = Object.values(state.broker.holdings).find((h) => h.symbol === name && openTrade(h));
  const sign = held && openTrade(held)?.sign;
  if (sign === 1) return bid ?? price(1);
  return sign === -1 ? ask : price(Math.max(1, Math.round(((bid ?? 0) + ask) / 2)));
}

/** Far more turns than any trade needs: what goes on beyond them is left for the next moment, and said. */
const MOST_TURNS = 1_000;

/** What the broker may see of the market now. */
export const brokerContext = ({ market, state }: Engine, now = market.now()): BrokerContext => ({
  now,
  date: market.date,
  session: state.session,
  quote: (s) => market.quote(s),
  last: (s) => (!market.has(s) ? null : isOption(s) ? markOf({ market, state }, s) : market.tape(s).last),
  listing: (s) =>
    isOption(s)
      ? { borrow: 'easy', restricted: false, ticks: pitTicks(s, market.instrument(s)) }
      : { borrow: market.instrument(s).borrow, restricted: market.restricted(s) },
  locate: (s) => locateOffer(market.last(s) ?? market.instrument(s).priorClose, market.instrument(s).float),
  candle: (s, minutes) => (isOption(s) ? null : lastFinishedBar(market.tape(s), minutes, now)),
});

/**
 * Hands one input to the broker and carries on until nothing more comes of it: requests go to the
 * exchange, all that it reports goes back in one piece, and the prices that the trader's own
 * trades made are looked at in turn.
 * @returns why the broker refused it; null when it did not.
 */
export function feed(
  e: Engine,
  input: BrokerInput,
  events: OrderEvent[],
  at = e.market.now(),
): Refusal | null {
  let refused: Refusal | null = null;
  let next: BrokerInput | null = input;
  const moved = new Set<string>();
  for (let turn = 0; next; turn++) {
    if (turn > MOST_TURNS) {
      events.push(restless(e, next, at));
      break;
    }
    const [broker, effects] = stepBroker(e.state.broker, next, brokerContext(e, at));
    if (broker !== e.state.broker) e.state = { ...e.state, broker };
    events.push(...effects.events);
    refused ??= effects.refused;
    for (const command of effects.venue) e.market.carryOut(command);
    const reports = e.market.drain();
    for (const r of reports) if (r.kind === 'fill') moved.add(r.symbol);
    if (reports.length > 0) next = { kind: 'reports', reports };
    else {
      const [symbol] = moved;
      next = symbol === undefined ? null : { kind: 'price', symbol };
      if (symbol !== undefined) moved.delete(symbol);
    }
  }
  return refused;
}

/** Says that the two did not come to rest; a session goes on all the same. */
function restless(e: Engine, over: BrokerInput, at: number): OrderEvent {
  const { broker } = e.state;
  const report = over.kind === 'reports' ? over.reports[0] : undefined;
  const symbol = report && 'symbol' in report ? report.symbol : '';
  e.state = { ...e.state, broker: { ...broker, next: { ...broker.next, event: broker.next.event + 1 } } };
  return {
    id: broker.next.event,
    at,
    account: e.state.desk.account,
    symbol,
    tradeId: 0 as OrderEvent['tradeId'],
    status: null,
    orderId: null,
    role: null,
    nth: null,
    side: null,
    open: 0,
    exec: 'OrderStatus',
    kind: 'restless',
  };
}

/** Takes in what has arrived from the exchange by itself. */
export function takeIn(e: Engine, events: OrderEvent[]): void {
  const reports = e.market.drain();
  if (reports.length > 0) feed(e, { kind: 'reports', reports }, events);
}
