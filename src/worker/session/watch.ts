// What a view looks at: one watch a query, each with its own pace, each telling only what has changed.
import { barsOf, minuteOf, vwapOf } from '../../core/market/index.ts';
import { MINUTE } from '../../core/units/index.ts';
import type { Engine } from '../../session/engine.ts';
import { chainSlice } from './chain.ts';
import { payoffSlice } from './payoff.ts';
import { peekedAt } from './peeked.ts';
import type { Query, Seen, SymbolSlice, TableSlice } from './session-messages.ts';
import { type Table, tableSlice } from './table.ts';
import { waitingNow } from './waiting.ts';

/** The session as a watch sees it. */
export interface Scene {
  engine: Engine;
  focus: string;
}

export interface Watch {
  /** What has changed since it was last asked, or null. `wall` is wall time in ms. */
  changes(s: Scene, wall: number): Seen | null;
  /** The same watch, which has told nothing yet. */
  anew(): Watch;
}

/** What is computed from much is told at most so often, in ms of wall time. */
const TABLE_EVERY = 250;
const COUNTS_EVERY = 1_000;
const PEEKS_EVERY = 400;
const WAITS_EVERY = 250;
const CHAIN_EVERY = 300;
const PAYOFF_EVERY = 700;

/** A watch for a query. A table is read before, because a rule with a mistake is answered at once. */
export function createWatch(query: Query, table: Table | null): Watch {
  switch (query.kind) {
    case 'table':
      return watchTable(table as Table);
    case 'peeks':
      return watchPeeks(query.texts, query.every ?? PEEKS_EVERY);
    case 'symbol':
      return watchSymbol(query.symbol);
    case 'bars':
      return watchBars(query.symbol);
    case 'days':
      return watchDays(query.symbol);
    case 'earlier':
      return watchEarlier(query.symbol);
    case 'depth':
      return watchDepth(query.levels, query.contract);
    case 'waits':
      return watchWaits();
    case 'chain':
      return watchChain(query.symbol, query.expiry);
    case 'payoff':
      return watchPayoff(query.text);
  }
}

function watchTable(table: Table): Watch {
  let [due, recountAt] = [0, 0];
  let key = '';
  let last: TableSlice | null = null;
  return {
    anew: () => watchTable(table),
    changes({ engine: { market, state } }, wall) {
      const now = `${market.now()} ${market.date} ${state.seq}`;
      if (wall < due || now === key) return null;
      const recount = wall >= recountAt;
      due = wall + TABLE_EVERY;
      if (recount) recountAt = wall + COUNTS_EVERY;
      key = now;
      last = tableSlice(market, table, recount ? null : (last?.clauses ?? null));
      return { kind: 'table', table: last };
    },
  };
}

function watchPeeks(texts: readonly { text: string; symbol: string | null }[], every: number): Watch {
  let due = 0;
  let key = '';
  let broker: unknown = null;
  return {
    anew: () => watchPeeks(texts, every),
    changes({ engine, focus }, wall) {
      if (texts.length === 0 || (wall < due && engine.state.broker === broker)) return null;
      due = wall + every;
      broker = engine.state.broker;
      const peeks = texts.map((t) => peekedAt(engine, t.text, t.symbol ?? focus));
      const now = JSON.stringify(peeks);
      if (now === key) return null;
      key = now;
      return { kind: 'peeks', peeks };
    },
  };
}

function watchWaits(): Watch {
  let due = 0;
  let key = '';
  let seen: unknown = null;
  return {
    anew: watchWaits,
    changes({ engine }, wall) {
      const { waiting, waited } = engine.state.desk;
      const now = `${waiting.length === 0 ? '' : engine.market.now()} ${engine.state.seq}`;
      if (now === key || (wall < due && waiting === seen)) return null;
      due = wall + WAITS_EVERY;
      key = now;
      seen = waiting;
      return { kind: 'waits', waits: { waiting: waitingNow(engine), ended: waited } };
    },
  };
}

function watchChain(wanted: string | null, expiry: string | null): Watch {
  let due = 0;
  let key = '';
  return {
    anew: () => watchChain(wanted, expiry),
    changes({ engine, focus }, wall) {
      const symbol = wanted ?? focus;
      const now = `${symbol} ${engine.market.now()} ${engine.market.date} ${engine.state.seq}`;
      if (wall < due || now === key) return null;
      due = wall + CHAIN_EVERY;
      key = now;
      return { kind: 'chain', chain: chainSlice(engine, symbol, expiry) };
    },
  };
}

function watchPayoff(text: string): Watch {
  let due = 0;
  let key = '';
  return {
    anew: () => watchPayoff(text),
    changes({ engine, focus }, wall) {
      const now = `${focus} ${engine.market.now()} ${engine.state.seq}`;
      if (wall < due || now === key) return null;
      due = wall + PAYOFF_EVERY;
      key = now;
      return { kind: 'payoff', payoff: payoffSlice(engine, text, focus) };
    },
  };
}

/** Everything that is watched is told anew: the session is another one. */
export function rewatch(h: { watches: Map<string, Watch> }): void {
  for (const [id, watch] of h.watches) h.watches.set(id, watch.anew());
}

function watchSymbol(wanted: string | null): Watch {
  let key = '';
  return {
    anew: () => watchSymbol(wanted),
    changes({ engine: { market }, focus }) {
      const symbol = wanted ?? focus;
      if (!market.has(symbol)) return null;
      const depth = market.depth(symbol, 5);
      const second = market.auction(symbol) ? Math.floor(market.now() / 1000) : 0;
      const now = `${symbol} ${market.status(symbol)} ${second} ${minuteOf(market.now())} ${market.tape(symbol).prints} ${JSON.stringify(depth)}`;
      if (now === key) return null;
      key = now;
      return { kind: 'symbol', symbol: symbolSlice(market, symbol, depth) };
    },
  };
}

function watchBars(wanted: string | null): Watch {
  let key = '';
  return {
    anew: () => watchBars(wanted),
    changes({ engine: { market }, focus }) {
      const symbol = wanted ?? focus;
      if (!market.has(symbol)) return null;
      const now = market.now();
      const minute = minuteOf(now);
      const fresh = `${symbol} ${minute} ${market.date}`;
      if (fresh === key) return null;
      key = fresh;
      const bars = barsOf(market.tape(symbol), 1).filter((b) => minuteOf(b.start) < minute);
      return { kind: 'bars', bars: { formingFrom: now - (now % MINUTE), symbol, bars } };
    },
  };
}

function watchDays(wanted: string | null): Watch {
  let key = '';
  return {
    anew: () => watchDays(wanted),
    changes({ engine: { market }, focus }) {
      const symbol = wanted ?? focus;
      const fresh = `${symbol} ${market.date}`;
      if (!market.has(symbol) || fresh === key) return null;
      key = fresh;
      return { kind: 'days', days: { symbol, daily: market.daily(symbol) } };
    },
  };
}

/** Days of minutes before today that a chart can go back to. */
const EARLIER_DAYS = 5;

function watchEarlier(wanted: string | null): Watch {
  let key = '';
  return {
    anew: () => watchEarlier(wanted),
    changes({ engine: { market }, focus }) {
      const symbol = wanted ?? focus;
      const fresh = `${symbol} ${market.date}`;
      if (!market.has(symbol) || fresh === key) return null;
      key = fresh;
      return { kind: 'earlier', earlier: { symbol, bars: market.earlier(symbol, EARLIER_DAYS) } };
    },
  };
}

function watchDepth(levels: number, contract: string | null): Watch {
  let key = '';
  return {
    anew: () => watchDepth(levels, contract),
    changes({ engine: { market }, focus }) {
      const symbol = contract ?? focus;
      if (!market.has(symbol)) return null;
      const depth = { symbol, ...market.depth(symbol, levels) };
      const now = JSON.stringify(depth);
      if (now === key) return null;
      key = now;
      return { kind: 'depth', depth };
    },
  };
}

function symbolSlice(
  market: Engine['market'],
  symbol: string,
  depth: Pick<SymbolSlice, 'bids' | 'asks'>,
): SymbolSlice {
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
    ...depth,
    forming: forming ?? null,
  };
}
