import { barsOf, minuteOf, vwapOf } from '../core/market/index.ts';
import { reviewTrade } from '../core/review/index.ts';
import { clauseCounts, rank, rowOf, type ScanRow } from '../core/scan/index.ts';
import type { ScanRule } from '../core/script/index.ts';
import { MINUTE } from '../core/units/index.ts';
import { account, type Engine, peek } from '../session/engine.ts';
import type { BookSlice, FocusSlice, MarksSlice, Peeked, ScanSlice, Update } from './protocol.ts';

/** What the interface looks at. */
export interface Watched {
  engine: Engine;
  speed: number;
  jumpingTo: number | null;
  focus: string;
  scan: { rule: ScanRule; rankBy: string } | null;
  rack: readonly string[];
}

/** Slices that are computed from everything are told at most so often, in ms of wall time. */
const SCAN_EVERY = 250;
const RACK_EVERY = 400;
const ACCOUNT_EVERY = 200;

export interface Slices {
  /** What has changed since it was last asked, or null. `wall` is wall time in ms. */
  changes(w: Watched, wall: number): Update | null;
  /** Computes the slices with a pace of their own at the next chance. */
  soon(): void;
}

/** Remembers what was told, so that only slices that changed are told again. */
export function createSlices(): Slices {
  const due = { scan: 0, rack: 0, account: 0 };
  const told = { clock: '', focus: '', bars: '', news: -1, broker: null as unknown, rules: null as unknown, rack: '' };
  return {
    soon: () => void Object.assign(due, { scan: 0, rack: 0, account: 0 }),
    changes(w, wall) {
      const update: Update = {};
      const { market, state } = w.engine;
      const now = market.now();
      const minute = minuteOf(now);
      const clockKey = `${Math.floor(now / 1000)} ${w.speed} ${state.session} ${w.jumpingTo}`;
      if (clockKey !== told.clock) update.clock = { now, session: state.session, speed: w.speed, date: market.date, jumpingTo: w.jumpingTo };
      const depth = market.depth(w.focus, 5);
      const focusKey = `${w.focus} ${minute} ${market.tape(w.focus).prints} ${JSON.stringify(depth)}`;
      if (focusKey !== told.focus) update.focus = focusSlice(w, depth);
      const barsKey = `${w.focus} ${minute}`;
      if (barsKey !== told.bars)
        update.bars = { formingFrom: now - (now % MINUTE), symbol: w.focus, bars: barsOf(market.tape(w.focus), 1).filter((b) => minuteOf(b.start) < minute) };
      if (minute !== told.news) update.news = market.news.filter((n) => n.at <= now);
      const booked = state.broker !== told.broker;
      const ruled = state.rules !== told.rules;
      if (booked) {
        update.book = bookSlice(w.engine);
        due.rack = 0;
      }
      if (booked || ruled || (wall >= due.account && (update.focus || update.clock))) {
        due.account = wall + ACCOUNT_EVERY;
        update.account = { ...account(w.engine), riskUnit: state.rules.riskUnit, name: state.rules.name };
        update.marks = marksSlice(w.engine);
      }
      if (w.scan && wall >= due.scan) {
        due.scan = wall + SCAN_EVERY;
        update.scan = scanSlice(w.engine, w.scan);
      }
      if (w.rack.length > 0 && wall >= due.rack) {
        due.rack = wall + RACK_EVERY;
        const peeks = w.rack.map((text) => peekedAt(w.engine, text, w.focus));
        const key = JSON.stringify(peeks);
        if (key !== told.rack) update.rack = peeks;
        told.rack = key;
      }
      Object.assign(told, { clock: clockKey, focus: focusKey, bars: barsKey, news: minute, broker: state.broker, rules: state.rules });
      return Object.keys(update).length > 0 ? update : null;
    },
  };
}

/** What a script would do now, as the interface shows it. */
export function peekedAt(engine: Engine, text: string, focus: string): Peeked {
  const { readings, problem } = peek(engine, text, focus);
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
  const instrument = market.instruments.find((i) => i.symbol === focus) as FocusSlice['instrument'];
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
    ...depth,
    forming: forming ?? null,
  };
}

function bookSlice({ state: { broker, events } }: Engine): BookSlice {
  const trades = Object.values(broker.trades);
  return {
    trades,
    orders: Object.values(broker.orders),
    groups: Object.values(broker.groups),
    events,
    reviews: trades.flatMap((t) => reviewTrade(t, broker.fills) ?? []),
  };
}

function marksSlice({ state: { broker }, market }: Engine): MarksSlice {
  const last: Record<string, number | null> = {};
  for (const t of Object.values(broker.trades)) last[t.symbol] = market.tape(t.symbol).last;
  const ahead: Record<number, number> = {};
  for (const o of Object.values(broker.orders)) {
    const n = o.venueId === null ? null : market.ahead(o.symbol, o.venueId);
    if (n !== null) ahead[o.id] = n;
  }
  return { last, ahead };
}

function scanSlice(engine: Engine, scan: NonNullable<Watched['scan']>): ScanSlice {
  const rows = scanRows(engine);
  return {
    total: rows.length,
    rows: rank(rows, scan.rule, scan.rankBy),
    clauses: clauseCounts(rows, scan.rule).map((c) => ({ ...c.span, passing: c.passing })),
  };
}

function scanRows({ market }: Engine): ScanRow[] {
  const now = market.now();
  const newsAt = new Map(market.news.filter((n) => n.at <= now).map((n) => [n.symbol, n.at]));
  return market.instruments
    .filter((i) => i.kind === 'stock')
    .map((instrument) =>
      rowOf({ instrument, tape: market.tape(instrument.symbol), quote: market.quote(instrument.symbol), now, newsAt: newsAt.get(instrument.symbol) ?? null }),
    );
}
