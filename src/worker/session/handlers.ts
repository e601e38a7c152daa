import { explain } from '../../core/language/index.ts';
import { barsOf } from '../../core/market/index.ts';
import { type AccountId, MINUTE, SECOND } from '../../core/units/index.ts';
import { dayEnd } from '../../session/engine.ts';
import { journalOf } from '../../session/journal.ts';
import type { PressedBy } from '../../session/log.ts';
import { symbolView } from '../../session/moment.ts';
import { DONE as NOTHING_DONE, runInput } from '../../session/scripts.ts';
import { findVerticals } from './find-verticals.ts';
import type { Desk } from './hosted.ts';
import { namedPrices } from './names.ts';
import { PAUSED } from './pace.ts';
import { peekedAt } from './peeked.ts';
import { planSeen } from './plan.ts';
import { runSessions, runToEnd } from './run-on.ts';
import type { AnswerTo, Peeked, Proposal, Request } from './session-messages.ts';
import { sheetOf } from './sheet.ts';
import { readTable, sparkOf, valuesOf, whyOf } from './table.ts';
import { createWatch } from './watch.ts';
import { passTo } from './watch-again.ts';

/** Settings have a desk of their own; see settings-desk.ts. */
export type Handled = Exclude<Request['kind'], 'settings' | 'keep settings'>;
type Handlers = {
  [K in Handled]: (d: Desk, r: Extract<Request, { kind: K }>) => AnswerTo<K> | Promise<AnswerTo<K>>;
};

const DONE = { kind: 'done' } as const;
/** How many proposals are remembered. */
const PROPOSALS_KEPT = 50;

/** What a text would do now, remembered so that it can be sent as it was shown. */
function propose({ h }: Desk, text: string, cursor: number | null, by?: PressedBy): Proposal {
  const id = 1 + Math.max(0, ...h.proposals.keys());
  const peeked = { id, ...peekedAt(h.engine, text, h.focus, cursor) };
  h.proposals.set(id, { ...peeked, cursor, account: h.engine.state.desk.account, by });
  for (const old of h.proposals.keys()) if (old <= id - PROPOSALS_KEPT) h.proposals.delete(old);
  return peeked;
}

/** Why nothing is done where the trader saw another focus than the one that is on; null where it is the same. */
const otherFocus = ({ h }: Desk, seen: string | undefined): string | null =>
  seen === undefined || seen === h.focus
    ? null
    : `This was meant for ${seen}; ${h.focus} is in focus now. Press the key again.`;
/** Why nothing is done where another account is in use than the one that a proposal was made in. */
const otherAccount = ({ h }: Desk, account: AccountId): string | null => {
  const { broker, desk } = h.engine.state;
  if (desk.account === account) return null;
  const name = (id: AccountId) => broker.accounts[id]?.rules.name ?? id;
  return `This was meant for “${name(account)}”; “${name(desk.account)}” is in use now. Press the key again.`;
};
const notDone = (d: Desk, problem: string): AnswerTo<'run'> => ({
  kind: 'run',
  result: { ...NOTHING_DONE, ok: false, at: d.h.engine.market.now(), problem },
});

/** What of a proposal came out otherwise than it was last shown. */
function movedSince(p: Peeked, done: readonly string[]): string[] {
  const moved = done.flatMap((line, k) =>
    p.sayBack[k] !== undefined && p.sayBack[k] !== line
      ? [`was shown as: ${p.sayBack[k]?.replaceAll(/\n */g, ', ')}`]
      : [],
  );
  return moved.length > 0 ? [`The numbers moved; it ${moved.join('; ')}.`] : [];
}

function numberOf({ h }: Desk, symbol: string): number {
  if (!h.engine.market.has(symbol)) throw new Error(`“${symbol}” does not trade today.`);
  return h.engine.market.number(symbol);
}

/** One handler a request: what it answers follows from the protocol. */
export const handlers: Handlers = {
  async run(d, r) {
    const other = otherFocus(d, r.seen);
    if (other !== null) return notDone(d, other);
    return { kind: 'run', result: await d.obey(runInput(r.text, d.h.focus, r.cursor ?? null, r.by)) };
  },
  async act(d, r) {
    const other = otherFocus(d, r.seen);
    if (other !== null) return notDone(d, other);
    const peeked = propose(d, r.text, r.cursor ?? null, r.by);
    const asks = r.asks === 'always' || (r.asks === 'risk' && peeked.addsRisk) || peeked.asks.length > 0;
    if (asks && peeked.problem === null) return { kind: 'peek', peeked };
    d.h.proposals.delete(peeked.id);
    return { kind: 'run', result: await d.obey(runInput(r.text, d.h.focus, r.cursor ?? null, r.by)) };
  },
  peek(d, r) {
    const other = otherFocus(d, r.seen);
    const peeked = propose(d, r.text, r.cursor ?? null);
    return {
      kind: 'peek',
      peeked: other === null ? peeked : { ...peeked, problem: other, fixes: [], lasting: false },
    };
  },
  async send(d, r) {
    const p = d.h.proposals.get(r.proposal);
    if (!p) return notDone(d, 'What was shown is not known any more. Press the key again.');
    const other = otherFocus(d, p.focus) ?? otherAccount(d, p.account);
    if (other !== null) return notDone(d, other);
    d.h.proposals.delete(r.proposal);
    const result = await d.obey(runInput(p.text, p.focus, p.cursor, p.by, p.asks));
    return {
      kind: 'run',
      result: { ...result, warnings: [...result.warnings, ...movedSince(p, result.done)] },
    };
  },
  async alert(d, r) {
    await d.obey({ kind: 'alert', id: r.id, change: r.change });
    return DONE;
  },
  async plans(d, r) {
    if (JSON.stringify(r.book) !== JSON.stringify(d.h.engine.state.desk.plans))
      await d.obey({ kind: 'plans', book: r.book });
    return DONE;
  },
  async account(d, r) {
    d.h.slices.soon();
    await d.obey({ kind: 'account', id: r.id, rules: r.rules, fees: r.fees });
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
  async watch(d, r) {
    const read = r.query.kind === 'table' ? readTable(r.query.table) : null;
    if (read && !read.ok)
      return { kind: 'watch', ok: false, problem: explain(read.problem), ...read.problem.span };
    if (read) d.h.table = read.table;
    d.h.watches.set(r.id, createWatch(r.query, read ? read.table : null));
    await d.publish([]);
    return { kind: 'watch', ok: true };
  },
  unwatch({ h }, r) {
    h.watches.delete(r.id);
    return DONE;
  },
  names({ h }) {
    const view = symbolView(h.engine, h.focus);
    const levels = Object.keys(h.engine.state.desk.levels[h.focus] ?? {});
    return {
      kind: 'names',
      symbol: h.focus,
      names: view ? namedPrices(view, levels) : [],
      plans: h.engine.state.desk.plans.plans.map((p) => p.name),
      levels,
    };
  },
  journal: async ({ h, store }) => ({ kind: 'journal', lines: journalOf(await store.log(h.attempt.id)) }),
  plan: ({ h }, r) => ({ kind: 'plan', seen: planSeen(h.engine, h.focus, r.text, r) }),
  why: (d, r) => ({ kind: 'why', ...whyOf(d.h.engine.market, d.h.table, numberOf(d, r.symbol)) }),
  'find verticals': ({ h }, r) => ({ kind: 'find verticals', ...findVerticals(h.engine, r.asked) }),
  values: (d, r) => ({ kind: 'values', values: valuesOf(d.h.engine.market, numberOf(d, r.symbol)) }),
  sparks: ({ h }, r) => ({ kind: 'sparks', lines: r.who.map((i) => sparkOf(h.engine.market, i)) }),
  'day start': async (d) => ({
    kind: 'day start',
    source: await d.sourceOf(d.h.attempt.day),
    start: d.h.engine.market.start(),
  }),
  sheet: (d, r) => ({
    kind: 'sheet',
    sheet: sheetOf(d.h.engine, d.h.engine.market.instruments[numberOf(d, r.symbol)]?.symbol ?? ''),
  }),

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
    h.pace = {
      k: 'seeking',
      symbols: [...r.symbols, ...Object.values(h.engine.state.broker.holdings).map((x) => x.symbol)],
    };
    return DONE;
  },
  async step(d, r) {
    const { h } = d;
    h.pace = PAUSED;
    const now = h.engine.market.now();
    const tape = h.engine.market.tape(h.focus);
    const { prints } = tape;
    const until =
      r.what === 'print'
        ? dayEnd(h.engine)
        : r.what === 'second'
          ? now - (now % SECOND) + SECOND
          : now - (now % MINUTE) + MINUTE;
    await d.publish(passTo(h, until, () => r.what === 'print' && tape.prints > prints));
    await d.keep();
    return DONE;
  },
  async 'next day'(d) {
    const { h } = d;
    h.pace = PAUSED;
    await d.takeOver();
    await runToEnd(d);
    const asked = await d.obey({ kind: 'next day' });
    d.lookAgain();
    await d.publish([]);
    await d.keep();
    if (!asked.ok) throw new Error(asked.problem ?? 'The next day could not be started.');
    return DONE;
  },
  async 'run on'(d, r) {
    await d.takeOver();
    return { kind: 'came', text: await runSessions(d, r.until) };
  },
  async 'go back'(d, r) {
    if (r.to >= d.h.engine.market.now()) throw new Error('That moment is still to come. Jump there instead.');
    const log = await d.store.log(d.h.attempt.id);
    await d.store.note(d.standing());
    await d.begin(d.h.attempt.day, { attempt: d.h.attempt.id, at: r.to }, log, r.to);
    return DONE;
  },
  async 'take again'(d, r) {
    const info = (await d.store.attempts()).find((a) => a.id === r.attempt);
    if (!info) throw new Error(`Attempt ${r.attempt} is not there any more.`);
    await d.store.note(d.standing());
    const log = await d.store.log(r.attempt);
    await d.begin(info.day, { attempt: r.attempt, at: r.at }, log, r.at, {
      accounts: info.accounts,
      watch: r.watch,
    });
    return DONE;
  },
  async 'take over'(d) {
    await d.takeOver();
    return DONE;
  },
  async 'start day'(d, r) {
    await d.store.note(d.standing());
    await d.begin(r.day, null, [], null, { known: r.known });
    return DONE;
  },
  'stop work': () => DONE,

  days: async (d) => ({ kind: 'days', days: await d.choices() }),
  async 'keep own day'({ store }, r) {
    const own = await store.ownDays();
    const content = JSON.stringify(r.day.symbols);
    if (own.some((o) => o.title === r.day.title && JSON.stringify(o.symbols) === content)) return DONE;
    // Ids of days that were removed are not used again: attempts may speak of them.
    const used = [
      ...own.map((o) => o.id),
      ...(await store.attempts()).flatMap((a) => (a.day.kind === 'own' ? [a.day.id] : [])),
    ];
    const last = Math.max(0, ...used.map((id) => Number(/^own (\d+)$/.exec(id)?.[1] ?? 0)));
    await store.keepOwnDay({ id: `own ${last + 1}`, ...r.day });
    return DONE;
  },
  'own day': async ({ store }, r) => ({
    kind: 'own day',
    day: (await store.ownDays()).find((o) => o.id === r.id) ?? null,
  }),
  async 'drop own day'({ h, store }, r) {
    if (h.attempt.day.kind === 'own' && h.attempt.day.id === r.id)
      throw new Error('This day is under way. Start another day before you remove it.');
    await store.dropOwnDay(r.id);
    return DONE;
  },
  history({ h: { engine } }, r) {
    const { market } = engine;
    if (!market.has(r.symbol)) throw new Error(`“${r.symbol}” does not trade today.`);
    const bars = r.what === 'bars' ? barsOf(market.tape(r.symbol), 1) : [];
    return {
      kind: 'history',
      date: market.date,
      bars,
      prints: r.what === 'prints' ? market.history(r.symbol) : [],
    };
  },
  past: async ({ store }) => ({ kind: 'past', sessions: await store.past() }),
};
