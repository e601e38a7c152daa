import { onTrade, watchesTrades } from '../core/alerts/index.ts';
import { isOption, legsOf, rootOf } from '../core/instruments/index.ts';
import { type Expired, type OrderEvent, optionsHeld, watches, watchesQuotes } from '../core/orders/index.ts';
import { CENT, type Price } from '../core/units/index.ts';
import { type Engine, feed, takeIn } from './circuit.ts';
import type { LogEntry } from './log.ts';
import { follow, write } from './log-entries.ts';
import { goesFarther, optionsOn } from './options-held.ts';
import { tellTick, waitsOn } from './waits.ts';

export function tellOptions(e: Engine, out: LogEntry[]): void {
  const events: OrderEvent[] = [];
  for (const symbol of optionsHeld(e.state.broker)) feed(e, { kind: 'price', symbol }, events);
  if (events.length > 0) out.push(write(e, null, events));
  follow(e, [], out);
}

/** The broker is told of a time that it waited for. */
export function tellTime(e: Engine, out: LogEntry[]): void {
  const events: OrderEvent[] = [];
  feed(e, { kind: 'clock' }, events);
  if (events.length > 0) out.push(write(e, null, events));
  follow(e, [], out);
}

/** What is held or ordered of options whose last day this is, by where their underlyings closed. */
export function expiring({ state, market }: Engine): Expired[] {
  return optionsHeld(state.broker).flatMap((symbol) => {
    const legs = legsOf(symbol);
    const root = rootOf(symbol);
    const spot = market.last(root);
    if (legs[0]?.contract.expiry !== market.date || spot === null) return [];
    let [worth, shares] = [0, 0];
    for (const { sign, contract } of legs) {
      const way = contract.right === 'call' ? 1 : -1;
      const inside = Math.max(0, way * (spot - contract.strike));
      worth += sign * inside;
      if (inside >= CENT) shares += sign * way;
    }
    return [{ symbol, root, spot: spot as Price, worth, shares }];
  });
}

export function step(
  e: Engine,
  until: number,
  enough: (entries: readonly LogEntry[]) => boolean,
  out: LogEntry[],
): boolean {
  for (let s = e.market.next(until); s; s = e.market.next(until)) {
    const { broker, alerts, desk } = e.state;
    const events: OrderEvent[] = [];
    takeIn(e, events);
    if (s.traded || watchesQuotes(e.state.broker, s.symbol)) priced(e, s.symbol, s.traded, events);
    if (goesFarther(e, s.symbol))
      for (const name of optionsOn(e, s.symbol)) feed(e, { kind: 'price', symbol: name }, events);
    if (events.length > 0) out.push(write(e, null, events));
    // A level that moves with the time is looked at with every tick.
    const waits = waitsOn(e, s.symbol);
    const same = waits && quoteTold(e, s.symbol) && !s.traded && events.length === 0 && !slopes(e);
    follow(e, waits && !same ? tellTick(e, s.symbol) : [], out);
    if (enough(out)) return false;
    const now = e.state;
    if (now.broker !== broker || now.alerts !== alerts || now.desk !== desk) return false;
  }
  return true;
}

/** Whether the trader has named a price that moves with the time. */
const slopes = ({ state }: Engine): boolean => {
  for (const symbol in state.desk.levels)
    for (const name in state.desk.levels[symbol])
      if (typeof state.desk.levels[symbol]?.[name] === 'object') return true;
  return false;
};

/** Whether bid and ask are as when conditions on a symbol were last told: sizes alone are nothing that a condition looks at. */
function quoteTold(e: Engine, symbol: string): boolean {
  const { bid, ask } = e.market.quote(symbol);
  const before = e.state.told[symbol];
  if (before && before.bid === bid && before.ask === ask) return true;
  e.state = { ...e.state, told: { ...e.state.told, [symbol]: { bid, ask } } };
  return false;
}

function priced(e: Engine, symbol: string, traded: boolean, events: OrderEvent[]): void {
  if (watches(e.state.broker, symbol)) feed(e, { kind: 'price', symbol }, events);
  if (!traded || isOption(symbol) || !watchesTrades(e.state.alerts, symbol)) return;
  const { last, lastAt } = e.market.tape(symbol);
  if (last !== null) e.state = { ...e.state, alerts: onTrade(e.state.alerts, symbol, last, lastAt) };
}
