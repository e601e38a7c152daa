import { barsOf } from '../core/market/index.ts';
import { explain } from '../core/script/index.ts';
import { MINUTE, SECOND } from '../core/units/index.ts';
import { advance, dayEnd } from '../session/engine.ts';
import type { Desk } from './hosted.ts';
import { PAUSED } from './pace.ts';
import type { AnswerTo, Request } from './protocol.ts';
import { sheetOf } from './sheet.ts';
import { createSlices, peekedAt } from './slices.ts';
import { readTable, sparkOf, valuesOf, whyOf } from './table.ts';

/** Settings have a desk of their own; see settings-desk.ts. */
export type Handled = Exclude<Request['kind'], 'settings' | 'keep settings'>;
type Handlers = { [K in Handled]: (d: Desk, r: Extract<Request, { kind: K }>) => AnswerTo<K> | Promise<AnswerTo<K>> };

const DONE = { kind: 'done' } as const;

function numberOf({ h }: Desk, symbol: string): number {
  if (!h.engine.market.has(symbol)) throw new Error(`“${symbol}” does not trade today.`);
  return h.engine.market.number(symbol);
}

/** One handler a request: what it answers follows from the protocol. */
export const handlers: Handlers = {
  run: async (d, r) => ({ kind: 'run', result: await d.obey({ kind: 'run', text: r.text, focus: d.h.focus, cursor: r.cursor ?? null }) }),
  peek: ({ h }, r) => ({ kind: 'peek', peeked: peekedAt(h.engine, r.text, h.focus, r.cursor ?? null) }),
  async alert(d, r) {
    await d.obey({ kind: 'alert', id: r.id, change: r.change });
    return DONE;
  },
  async 'risk unit'(d, r) {
    d.h.slices.soon();
    await d.obey({ kind: 'set risk unit', dollars: r.dollars });
    return DONE;
  },
  async line(d, r) {
    await d.obey({ kind: 'line', change: r.change });
    return DONE;
  },
  async focus(d, r) {
    numberOf(d, r.symbol);
    d.h.focus = r.symbol;
    await d.publish([]);
    return DONE;
  },
  async table(d, r) {
    const read = readTable(r.table);
    if (!read.ok) return { kind: 'table', ok: false, problem: explain(read.problem), ...read.problem.span };
    d.h.table = read.table;
    d.h.slices.soon();
    await d.publish([]);
    return { kind: 'table', ok: true };
  },
  why: (d, r) => ({ kind: 'why', ...whyOf(d.h.engine.market, d.h.table, numberOf(d, r.symbol)) }),
  values: (d, r) => ({ kind: 'values', values: valuesOf(d.h.engine.market, numberOf(d, r.symbol)) }),
  sparks: ({ h }, r) => ({ kind: 'sparks', lines: r.who.map((i) => sparkOf(h.engine.market, i)) }),
  'day start': async (d) => ({ kind: 'day start', source: await d.sourceOf(d.h.attempt.day), start: d.h.engine.market.start() }),
  sheet: (d, r) => ({ kind: 'sheet', sheet: sheetOf(d.h.engine, d.h.engine.market.instruments[numberOf(d, r.symbol)]?.symbol ?? '') }),
  async rack(d, r) {
    d.h.rack = r.scripts;
    d.h.slices.soon();
    await d.publish([]);
    return DONE;
  },

  async speed(d, r) {
    const { h } = d;
    const over = h.engine.market.now() >= dayEnd(h.engine);
    h.pace = r.speed === 0 || over ? PAUSED : { k: 'running', speed: r.speed, owed: 0, wall: d.clock.now() };
    if (h.pace.k === 'paused') await d.keep();
    await d.publish([]);
    return DONE;
  },
  jump({ h }, r) {
    h.pace = { k: 'jumping', to: r.to };
    return DONE;
  },
  'next event'({ h }, r) {
    h.pace = { k: 'seeking', symbols: [...r.symbols, ...Object.values(h.engine.state.broker.holdings).map((x) => x.symbol)] };
    return DONE;
  },
  async step(d, r) {
    const { h } = d;
    h.pace = PAUSED;
    const now = h.engine.market.now();
    const tape = h.engine.market.tape(h.focus);
    const { prints } = tape;
    const until = r.what === 'print' ? dayEnd(h.engine) : r.what === 'second' ? now - (now % SECOND) + SECOND : now - (now % MINUTE) + MINUTE;
    await d.publish(advance(h.engine, until, () => r.what === 'print' && tape.prints > prints));
    await d.keep();
    return DONE;
  },
  async 'next day'(d) {
    const { h } = d;
    h.pace = PAUSED;
    await d.runOn(dayEnd(h.engine), 'Running to the end of the day');
    const asked = await d.obey({ kind: 'next day' });
    if (!h.engine.market.has(h.focus)) h.focus = h.engine.market.instruments[0]?.symbol ?? '';
    h.slices = createSlices();
    await d.publish([]);
    await d.keep();
    if (!asked.ok) throw new Error(asked.problem ?? 'The next day could not be started.');
    return DONE;
  },
  async 'go back'(d, r) {
    if (r.to >= d.h.engine.market.now()) throw new Error('That moment is still to come. Jump there instead.');
    const log = await d.store.log(d.h.attempt.id);
    await d.store.note(d.standing());
    await d.begin(d.h.attempt.day, { attempt: d.h.attempt.id, at: r.to }, log, r.to);
    return DONE;
  },
  async 'start day'(d, r) {
    await d.store.note(d.standing());
    await d.begin(r.day, null, [], null);
    return DONE;
  },
  'stop work': () => DONE,

  days: async (d) => ({ kind: 'days', days: await d.choices() }),
  async 'keep own day'({ store }, r) {
    const own = await store.ownDays();
    const content = JSON.stringify(r.day.symbols);
    if (own.some((o) => o.title === r.day.title && JSON.stringify(o.symbols) === content)) return DONE;
    // Ids of days that were removed are not used again: attempts may speak of them.
    const used = [...own.map((o) => o.id), ...(await store.attempts()).flatMap((a) => (a.day.kind === 'own' ? [a.day.id] : []))];
    const last = Math.max(0, ...used.map((id) => Number(/^own (\d+)$/.exec(id)?.[1] ?? 0)));
    await store.keepOwnDay({ id: `own ${last + 1}`, ...r.day });
    return DONE;
  },
  async 'drop own day'({ h, store }, r) {
    if (h.attempt.day.kind === 'own' && h.attempt.day.id === r.id) throw new Error('This day is under way. Start another day before you remove it.');
    await store.dropOwnDay(r.id);
    return DONE;
  },
  history({ h: { engine } }, r) {
    const { market } = engine;
    if (!market.has(r.symbol)) throw new Error(`“${r.symbol}” does not trade today.`);
    const bars = r.what === 'bars' ? barsOf(market.tape(r.symbol), 1) : [];
    return { kind: 'history', date: market.date, bars, prints: r.what === 'prints' ? market.history(r.symbol) : [] };
  },
  past: async ({ store }) => ({ kind: 'past', sessions: await store.past() }),
};
