import { barsOf, contextOf, minuteOf, vwapOf } from '../core/market/index.ts';
import { type Broker, type Fill, type Holding, type OrderEvent, wireOf } from '../core/orders/index.ts';
import { reviewTrade } from '../core/review/index.ts';
import { MINUTE, shelf } from '../core/units/index.ts';
import { account, type Engine, rulesOf } from '../session/engine.ts';
import { peek } from '../session/scripts.ts';
import { marketView, stocksOf } from '../session/view.ts';
import type { BookSlice, FocusSlice, MarksSlice, Peeked, TableSlice, Update } from './protocol.ts';
import { type Table, tableSlice } from './table.ts';

/** What the interface looks at. */
export interface Watched {
  engine: Engine;
  speed: number;
  jumpingTo: number | null;
  focus: string;
  table: Table | null;
  rack: readonly string[];
  attempt: number;
}

/** Slices that are computed from everything are told at most so often, in ms of wall time. */
const TABLE_EVERY = 250;
const RACK_EVERY = 400;
const ACCOUNT_EVERY = 200;
const COUNTS_EVERY = 1_000;
const CONTEXT_EVERY = 1_000;

export interface Slices {
  /** What has changed since it was last asked, or null. `wall` is wall time in ms. */
  changes(w: Watched, wall: number): Update | null;
  /** Computes the slices with a pace of their own at the next chance. */
  soon(): void;
}

/** Remembers what was told, so that only slices that changed are told again. */
export function createSlices(): Slices {
  const due = { table: 0, rack: 0, account: 0, counts: 0, context: 0 };
  const told = {
    clock: '',
    focus: '',
    bars: '',
    news: -1,
    broker: null as unknown,
    rules: null as unknown,
    up: null as boolean | null,
    latency: null as unknown,
    rack: '',
    table: null as TableSlice | null,
    tableKey: '',
    instruments: null as unknown,
    alertList: null as unknown,
    fired: null as unknown,
    contextAt: -1,
  };
  const tellBook = bookTeller();
  return {
    soon: () => void Object.assign(due, { table: 0, rack: 0, account: 0 }),
    changes(w, wall) {
      const update: Update = {};
      const { market, state } = w.engine;
      const now = market.now();
      const minute = minuteOf(now);
      const clockKey = `${Math.floor(now / 1000)} ${w.speed} ${state.session} ${w.jumpingTo} ${w.attempt} ${market.date}`;
      if (clockKey !== told.clock) {
        const { date, dates, title, character, hours, dayStart } = market;
        update.clock = {
          now,
          session: state.session,
          speed: w.speed,
          date,
          dates,
          title,
          character,
          hours,
          dayStart,
          attempt: w.attempt,
          jumpingTo: w.jumpingTo,
        };
      }
      const depth = market.depth(w.focus, 5);
      const status = market.status(w.focus);
      const second = market.auction(w.focus) ? Math.floor(now / 1000) : 0;
      const focusKey = `${w.focus} ${status} ${second} ${minute} ${market.tape(w.focus).prints} ${JSON.stringify(depth)}`;
      if (focusKey !== told.focus) update.focus = focusSlice(w, depth);
      const barsKey = `${w.focus} ${minute}`;
      if (barsKey !== told.bars)
        update.bars = { formingFrom: now - (now % MINUTE), symbol: w.focus, bars: barsOf(market.tape(w.focus), 1).filter((b) => minuteOf(b.start) < minute) };
      if (minute !== told.news) update.news = market.news.filter((n) => n.at <= now);
      const booked = state.broker !== told.broker;
      const rules = rulesOf(w.engine);
      const ruled = rules !== told.rules;
      if (booked) {
        update.book = tellBook(state.broker, state.events);
        due.rack = 0;
      }
      if (booked || ruled || (wall >= due.account && (update.focus || update.clock))) {
        due.account = wall + ACCOUNT_EVERY;
        update.account = { ...account(w.engine), riskUnit: rules.riskUnit, name: rules.name };
        update.marks = marksSlice(w.engine);
      }
      const { up, latency } = market.line();
      if (up !== told.up || latency !== told.latency) update.line = { up, latency };
      const { list, fired } = state.alerts;
      if (list !== told.alertList || fired !== told.fired) update.alerts = { list, fired };
      if (market.instruments !== told.instruments) update.symbols = market.instruments.map((i) => i.symbol);
      const tableKey = `${now} ${market.date} ${state.seq}`;
      if (w.table && wall >= due.table && (tableKey !== told.tableKey || told.table?.asked !== w.table.asked)) {
        due.table = wall + TABLE_EVERY;
        const recount = wall >= due.counts || told.table?.asked !== w.table.asked;
        if (recount) due.counts = wall + COUNTS_EVERY;
        update.table = tableSlice(market, w.table, recount ? null : (told.table?.clauses ?? null));
        told.table = update.table;
        told.tableKey = tableKey;
      }
      if (wall >= due.context && now !== told.contextAt) {
        due.context = wall + CONTEXT_EVERY;
        told.contextAt = now;
        const index = market.instruments.findIndex((i) => i.kind === 'index stand-in');
        update.context = contextOf(marketView(market), stocksOf(market), index);
      }
      if (w.rack.length > 0 && wall >= due.rack) {
        due.rack = wall + RACK_EVERY;
        const peeks = w.rack.map((text) => peekedAt(w.engine, text, w.focus));
        const key = JSON.stringify(peeks);
        if (key !== told.rack) update.rack = peeks;
        told.rack = key;
      }
      Object.assign(told, {
        clock: clockKey,
        focus: focusKey,
        bars: barsKey,
        news: minute,
        broker: state.broker,
        rules,
        up,
        latency,
        instruments: market.instruments,
        alertList: list,
        fired,
      });
      return Object.keys(update).length > 0 ? update : null;
    },
  };
}

/** What a script would do now, as the interface shows it. */
export function peekedAt(engine: Engine, text: string, focus: string, cursor: number | null = null): Peeked {
  const { readings, problem } = peek(engine, text, focus, cursor);
  const [refused] = readings.flatMap((r) => r.problems);
  return {
    text,
    problem,
    code: refused?.code ?? null,
    sayBack: readings.map((r) => r.sayBack),
    warnings: readings.flatMap((r) => r.warnings),
    facts: readings[0]?.facts ?? null,
    addsRisk: readings.some((r) => r.addsRisk),
    staged: readings.some((r) => r.staged),
  };
}

function focusSlice({ engine: { market }, focus }: Watched, depth: Pick<FocusSlice, 'bids' | 'asks'>): FocusSlice {
  const tape = market.tape(focus);
  const instrument = market.instrument(focus);
  const minute = minuteOf(market.now());
  const [forming] = tape.barVolume[minute] ? barsOf(tape, 1, minute) : [];
  return {
    symbol: focus,
    instrument,
    quote: market.quote(focus),
    last: tape.last,
    change: tape.last === null ? null : (tape.last / instrument.priorClose - 1) * 100,
    prints: tape.recent.slice(-24).reverse(),
    count: tape.prints,
    vwap: vwapOf(tape),
    premarketHigh: tape.premarketHigh,
    premarketLow: tape.premarketLow,
    status: market.status(focus),
    halt: market.halt(focus),
    restricted: market.restricted(focus),
    auction: market.auction(focus),
    stops: market.stops().filter((s) => s.symbol === focus),
    ...depth,
    forming: forming ?? null,
  };
}

/** Remembers what of the book was told, so that a step costs what it changed, not what has been. */
function bookTeller(): (b: Broker, events: readonly OrderEvent[]) => BookSlice {
  let told: Broker | null = null;
  let eventId = 0;
  const fills = new Map<number, Fill[]>();
  return (b, events) => {
    const before = told;
    told = b;
    for (const f of shelf.changed(before?.past.fills ?? null, b.past.fills)) {
      const list = fills.get(f.tradeId);
      if (list) list.push(f);
      else fills.set(f.tradeId, [f]);
    }
    const out: BookSlice = { whole: before === null, trades: [], orders: [], scopes: [], reviews: [], events: events.filter((e) => e.id > eventId) };
    eventId = events[events.length - 1]?.id ?? eventId;
    const fresh = <T extends { id: number }>(now: readonly T[], old: readonly T[] | undefined) => now.filter((x) => !old?.includes(x));
    for (const key in b.holdings) {
      const now = b.holdings[key] as Holding;
      const old = before?.holdings[key];
      if (now === old) continue;
      out.trades.push(...fresh(now.trades, old?.trades));
      out.orders.push(...fresh(now.orders, old?.orders));
      out.scopes.push(...fresh(now.scopes, old?.scopes));
    }
    out.trades.push(...shelf.changed(before?.past.trades ?? null, b.past.trades));
    out.orders.push(...shelf.changed(before?.past.orders ?? null, b.past.orders));
    out.scopes.push(...shelf.changed(before?.past.scopes ?? null, b.past.scopes));
    for (const list of [out.trades, out.orders, out.scopes]) list.sort((x, y) => x.id - y.id);
    out.reviews = out.trades.flatMap((t) => reviewTrade(t, fills.get(t.id) ?? []) ?? []);
    return out;
  };
}

function marksSlice({ state: { broker }, market }: Engine): MarksSlice {
  const last: Record<string, number | null> = {};
  const ahead: Record<number, number> = {};
  for (const h of Object.values(broker.holdings)) {
    if (!market.has(h.symbol)) continue;
    last[h.symbol] = market.last(h.symbol);
    for (const o of h.orders) {
      const wire = wireOf(o);
      const n = wire && market.ahead(o.symbol, wire.id);
      if (n !== null) ahead[o.id] = n;
    }
  }
  return { last, ahead };
}
