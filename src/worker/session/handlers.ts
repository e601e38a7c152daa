import { barsOf } from '../../core/market/index.ts';
import { type AccountId, MINUTE, SECOND } from '../../core/units/index.ts';
import { dayEnd } from '../../session/engine.ts';
import { journalOf } from '../../session/journal.ts';
import type { PressedBy } from '../../session/log.ts';
import { DONE as NOTHING_DONE } from '../../session/run-result.ts';
import { runInput } from '../../session/scripts.ts';
import { begin, choices } from './attempts.ts';
import { findVerticals } from './find-verticals.ts';
import type { Hosted } from './hosted.ts';
import { keep, lookAgain, obey, publish, standing, takeOver } from './keeping.ts';
import { sourceOf } from './opening.ts';
import { PAUSED } from './pace.ts';
import { peekedAt } from './peeked.ts';
import { runSessions, runToEnd } from './run-on.ts';
import type { Answer, AnswerTo, Proposal, Request } from './session-messages.ts';
import type { Peeked } from './slices.ts';
import { sparkOf } from './table.ts';
import { passTo } from './watch-again.ts';

/** Settings have a desk of their own; see settings-desk.ts. */
type Handled = Exclude<Request['kind'], 'settings' | 'keep settings'>;
type Handlers = {
  [K in Handled]: (h: Hosted, r: Extract<Request, { kind: K }>) => AnswerTo<K> | Promise<AnswerTo<K>>;
};

const DONE = { kind: 'done' } as const;
/** How many proposals are remembered. */
const PROPOSALS_KEPT = 50;

/** What a text would do now, remembered so that it can be sent as it was shown. */
function propose(h: Hosted, text: string, cursor: number | null, by?: PressedBy): Proposal {
  const id = 1 + Math.max(0, ...h.proposals.keys());
  const peeked = { id, ...peekedAt(h.engine, text, h.focus, cursor) };
  h.proposals.set(id, { ...peeked, cursor, account: h.engine.state.desk.account, by });
  for (const old of h.proposals.keys()) if (old <= id - PROPOSALS_KEPT) h.proposals.delete(old);
  return peeked;
}

/** Why nothing is done where the trader saw another focus than the one that is on; null where it is the same. */
const otherFocus = (h: Hosted, seen: string | undefined): string | null =>
  seen === undefined || seen === h.focus
    ? null
    : `This was meant for ${seen}; ${h.focus} is in focus now. Press the key again.`;
/** Why nothing is done where another account is in use than the one that a proposal was made in. */
const otherAccount = (h: Hosted, account: AccountId): string | null => {
  const { broker, desk } = h.engine.state;
  if (desk.account === account) return null;
  const name = (id: AccountId) => broker.accounts[id]?.rules.name ?? id;
  return `This was meant for “${name(account)}”; “${name(desk.account)}” is in use now. Press the key again.`;
};
const notDone = (h: Hosted, problem: string): AnswerTo<'run'> => ({
  kind: 'run',
  result: { ...NOTHING_DONE, ok: false, at: h.engine.market.now(), problem },
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

function numberOf(h: Hosted, symbol: string): number {
  if (!h.engine.market.has(symbol)) throw new Error(`“${symbol}” does not trade today.`);
  return h.engine.market.number(symbol);
}

/** One handler a request: what it answers follows from the protocol. */
const HANDLERS: Handlers = {
  async run(h, r) {
    const other = otherFocus(h, r.seen);
    if (other !== null) return notDone(h, other);
    return { kind: 'run', result: await obey(h, runInput(r.text, h.focus, r.cursor ?? null, r.by)) };
  },
  async act(h, r) {
    const other = otherFocus(h, r.seen);
    if (other !== null) return notDone(h, other);
    const peeked = propose(h, r.text, r.cursor ?? null, r.by);
    const asks = r.asks === 'always' || (r.asks === 'risk' && peeked.addsRisk) || peeked.asks.length > 0;
    if (asks && peeked.problem === null) return { kind: 'peek', peeked };
    h.proposals.delete(peeked.id);
    return { kind: 'run', result: await obey(h, runInput(r.text, h.focus, r.cursor ?? null, r.by)) };
  },
  peek(h, r) {
    const other = otherFocus(h, r.seen);
    const peeked = propose(h, r.text, r.cursor ?? null);
    return {
      kind: 'peek',
      peeked: other === null ? peeked : { ...peeked, problem: other, fixes: [], lasting: false },
    };
  },
  async send(h, r) {
    const p = h.proposals.get(r.proposal);
    if (!p) return notDone(h, 'What was shown is not known any more. Press the key again.');
    const other = otherFocus(h, p.focus) ?? otherAccount(h, p.account);
    if (other !== null) return notDone(h, other);
    h.proposals.delete(r.proposal);
    const result = await obey(h, runInput(p.text, p.focus, p.cursor, p.by, p.asks));
    return {
      kind: 'run',
      result: { ...result, warnings: [...result.warnings, ...movedSince(p, result.done)] },
    };
  },
  async alert(h, r) {
    await obey(h, { kind: 'alert', id: r.id, change: r.change });
    return DONE;
  },
  async plans(h, r) {
    if (JSON.stringify(r.book) !== JSON.stringify(h.engine.state.desk.plans))
      await obey(h, { kind: 'plans', book: r.book });
    return DONE;
  },
  async account(h, r) {
    await obey(h, { kind: 'account', id: r.id, rules: r.rules, fees: r.fees });
    return DONE;
  },
  async 'risk unit'(h, r) {
    await obey(h, { kind: 'set risk unit', dollars: r.dollars });
    return DONE;
  },
  async line(h, r) {
    await obey(h, { kind: 'line', change: r.change });
    return DONE;
  },
  async focus(h, r) {
    numberOf(h, r.symbol);
    h.focus = r.symbol;
    await publish(h);
    return DONE;
  },
  async subscribe(h, r) {
    for (const question of r.questions) h.subscriptions.add(question);
    await publish(h);
    return DONE;
  },
  unsubscribe(h, r) {
    h.subscriptions.remove(r.question);
    return DONE;
  },
  journal: async (h) => ({ kind: 'journal', lines: journalOf(await h.store.log(h.attempt.id)) }),
  'find verticals': (h, r) => ({ kind: 'find verticals', ...findVerticals(h.engine, r.asked) }),
  sparks: (h, r) => ({ kind: 'sparks', lines: r.who.map((i) => sparkOf(h.engine.market, i)) }),
  'day start': async (h) => ({
    kind: 'day start',
    source: await sourceOf(h.store, h.attempt.day),
    start: h.engine.market.start(),
  }),

  async speed(h, r) {
    const over = h.engine.market.now() >= dayEnd(h.engine);
    h.pace = r.speed === 0 || over ? PAUSED : { k: 'running', speed: r.speed, owed: 0, wall: h.clock.now() };
    if (h.pace.k === 'paused') await keep(h);
    await publish(h);
    return DONE;
  },
  jump(h, r) {
    h.pace = { k: 'jumping', to: r.to };
    return DONE;
  },
  'next event'(h, r) {
    h.pace = {
      k: 'seeking',
      symbols: [...r.symbols, ...Object.values(h.engine.state.broker.holdings).map((x) => x.symbol)],
    };
    return DONE;
  },
  async step(h, r) {
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
    await publish(
      h,
      passTo(h, until, () => r.what === 'print' && tape.prints > prints),
    );
    await keep(h);
    return DONE;
  },
  async 'next day'(h) {
    h.pace = PAUSED;
    await takeOver(h);
    await runToEnd(h);
    const asked = await obey(h, { kind: 'next day' });
    lookAgain(h);
    await publish(h);
    await keep(h);
    if (!asked.ok) throw new Error(asked.problem ?? 'The next day could not be started.');
    return DONE;
  },
  async 'run on'(h, r) {
    await takeOver(h);
    return { kind: 'came', text: await runSessions(h, r.until) };
  },
  async 'go back'(h, r) {
    if (r.to >= h.engine.market.now()) throw new Error('That moment is still to come. Jump there instead.');
    const log = await h.store.log(h.attempt.id);
    await h.store.note(standing(h));
    await begin(h, { day: h.attempt.day, from: { attempt: h.attempt.id, at: r.to, log } });
    return DONE;
  },
  async 'take again'(h, r) {
    const info = (await h.store.attempts()).find((a) => a.id === r.attempt);
    if (!info) throw new Error(`Attempt ${r.attempt} is not there any more.`);
    await h.store.note(standing(h));
    const log = await h.store.log(r.attempt);
    await begin(h, {
      day: info.day,
      from: { attempt: r.attempt, at: r.at, log },
      accounts: info.accounts,
      watch: r.watch,
    });
    return DONE;
  },
  async 'take over'(h) {
    await takeOver(h);
    return DONE;
  },
  async 'start day'(h, r) {
    await h.store.note(standing(h));
    await begin(h, { day: r.day, known: r.known });
    return DONE;
  },
  'stop work': () => DONE,

  days: async (h) => ({ kind: 'days', days: await choices(h) }),
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
  async 'drop own day'(h, r) {
    if (h.attempt.day.kind === 'own' && h.attempt.day.id === r.id)
      throw new Error('This day is under way. Start another day before you remove it.');
    await h.store.dropOwnDay(r.id);
    return DONE;
  },
  history({ engine }, r) {
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

/** The answer to a request. @throws Error in words where it cannot be done. */
export async function answer(h: Hosted, request: Request): Promise<Answer> {
  return (HANDLERS[request.kind as Handled] as (h: Hosted, r: Request) => Answer | Promise<Answer>)(
    h,
    request,
  );
}
