import { isOption } from '../../core/instruments/index.ts';
import { barsOf, minuteOf, vwapOf } from '../../core/market/index.ts';
import { wireOf } from '../../core/orders/index.ts';
import { markOf } from '../../session/circuit.ts';
import type { Engine } from '../../session/engine.ts';
import type { MarksSlice, SymbolSlice } from './slices.ts';

/** How a symbol stands: its quote, its prints, its best prices, its halts. */
export function symbolSlice(market: Engine['market'], symbol: string): SymbolSlice {
  const tape = market.tape(symbol);
  const instrument = market.instrument(symbol);
  const minute = minuteOf(market.now());
  const [forming] = tape.barVolume[minute] ? barsOf(tape, 1, minute) : [];
  return {
    symbol,
    instrument,
    quote: market.quote(symbol),
    last: tape.last,
    change: tape.last === null ? null : (tape.last / instrument.priorClose - 1) * 100,
    prints: tape.recent.slice(-24).reverse(),
    count: tape.prints,
    vwap: vwapOf(tape),
    premarketHigh: tape.premarketHigh,
    premarketLow: tape.premarketLow,
    status: market.status(symbol),
    halt: market.halt(symbol),
    restricted: market.restricted(symbol),
    auction: market.auction(symbol),
    stops: market.stops().filter((s) => s.symbol === symbol),
    ...market.depth(symbol, 5),
    forming: forming ?? null,
  };
}

/** Last prices of what is held or ordered, and shares ahead of resting orders. */
export function marksSlice(e: Engine): MarksSlice {
  const { broker } = e.state;
  const { market } = e;
  const last: Record<string, number | null> = {};
  const ahead: Record<number, number> = {};
  for (const h of Object.values(broker.holdings)) {
    if (!market.has(h.symbol)) continue;
    last[h.symbol] = isOption(h.symbol) ? markOf(e, h.symbol) : market.last(h.symbol);
    for (const o of h.orders) {
      const wire = wireOf(o);
      const n = wire && market.ahead(o.symbol, wire.id);
      if (n !== null) ahead[o.id] = n;
    }
  }
  return { last, ahead };
}
