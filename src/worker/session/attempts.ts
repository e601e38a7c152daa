// Attempts at days: how one begins, and what the trader can choose to practise on.
import { ownDates, PRACTICE_DAYS } from '../../core/sim/index.ts';
import { dayOf } from '../../core/units/index.ts';
import type { DayRef } from '../../session/day-ref.ts';
import { apply, type Engine, setupsOf } from '../../session/engine.ts';
import type { AttemptInfo, LogEntry, SessionInput } from '../../session/log.ts';
import { dayKey, recordTeller } from '../../session/records.ts';
import type { Hosted, Outside } from './hosted.ts';
import { keepTrades, standing } from './keeping.ts';
import { longWork } from './long-work.ts';
import { openKept, rebuild } from './opening.ts';
import { PAUSED } from './pace.ts';
import { arrive } from './run-on.ts';
import type { DayChoice } from './session-messages.ts';

/** What an attempt begins with. */
export interface Beginning {
  day: DayRef;
  /** Where it comes from, and the log that is lived through again up to a session time. */
  from?: { attempt: number; at: number; log: readonly LogEntry[] };
  accounts?: AttemptInfo['accounts'];
  /** What was done then comes by itself, until the trader takes over. */
  watch?: boolean;
  /** The session up to which the trader knows the day already. */
  known?: number | undefined;
}

/** Starts an attempt and makes it the one under way; until then nothing of the old one has changed. */
export async function begin(
  h: Hosted,
  { day, from, watch = false, known, ...given }: Beginning,
): Promise<void> {
  h.pace = PAUSED;
  // Going back lives through the same again; a fresh day begins with the accounts as they have been set up.
  const accounts = given.accounts ?? (from ? h.attempt.accounts : setupsOf(h.engine));
  const fresh = await longWork(h, (work) =>
    rebuild(h, {
      work,
      day,
      inputs: from?.log ?? [],
      to: from?.at ?? null,
      what: from ? 'Running the day again up to there' : 'Setting up the day',
      accounts,
    }),
  );
  const id = await nextId(h);
  if (!watch)
    for (const input of await locksOn(h, day, fresh.engine))
      fresh.log.push(...apply(fresh.engine, input).entries);
  h.engine = fresh.engine;
  h.attempt = {
    ...newAttempt(id, day, fresh.engine),
    from: from ? { attempt: from.attempt, at: from.at } : null,
    ...(accounts ? { accounts } : {}),
    ...(watch && from ? { watches: from.attempt } : {}),
    ...(known === undefined ? {} : { known }),
  };
  h.coming = await comingOf(h, h.attempt, h.engine.market.now());
  await h.store.begin(h.attempt, fresh.log);
  h.records = recordTeller();
  h.records.hear(fresh.log);
  await keepTrades(h);
  // Brings on what stood still at that moment, where many sessions were being run.
  await arrive(h);
}

const nextId = async ({ store }: Outside): Promise<number> =>
  1 + Math.max(0, ...(await store.attempts()).map((a) => a.id));

const newAttempt = (id: number, day: DayRef, { market }: Engine): AttemptInfo => ({
  id,
  day,
  from: null,
  reached: market.now(),
  net: 0,
  r: 0,
  trades: 0,
});

/** The session that is kept, or the first day of a new trader. `hear` is told its log. */
export async function openAttempt(
  outside: Outside,
  firstDay: DayRef,
  hear: (log: readonly LogEntry[]) => void,
): Promise<{ engine: Engine; attempt: AttemptInfo }> {
  const kept = await openKept(outside, hear);
  if (kept) return kept;
  const fresh = await rebuild(outside, {
    work: { stopped: false },
    day: firstDay,
    inputs: [],
    to: null,
    what: 'Setting up the day',
    accounts: undefined,
  });
  outside.tell({ kind: 'worked' });
  const attempt = newAttempt(await nextId(outside), firstDay, fresh.engine);
  await outside.store.begin(attempt, fresh.log);
  await outside.store.beat(fresh.engine.market.now());
  return { engine: fresh.engine, attempt };
}

/** What is still to come of an attempt that is watched. */
export async function comingOf(
  { store }: Outside,
  { watches }: AttemptInfo,
  now: number,
): Promise<LogEntry[]> {
  if (watches === undefined) return [];
  return (await store.log(watches)).filter((x) => x.input !== null && x.at > now);
}

/** Daily losses that were reached later on the same day in another attempt: going back does not undo them. */
async function locksOn({ store }: Outside, day: DayRef, e: Engine): Promise<SessionInput[]> {
  const out: SessionInput[] = [];
  for (const a of await store.attempts()) {
    if (dayKey(a.day) !== dayKey(day)) continue;
    for (const { events } of await store.log(a.id))
      for (const x of events)
        if (
          x.kind === 'locked' &&
          dayOf(x.at) === dayOf(e.market.now()) &&
          !e.state.broker.accounts[x.account]?.locked
        )
          out.push({ kind: 'lock', account: x.account, loss: x.loss });
  }
  return out;
}

/** Practice days, own days and attempts to choose from. */
export async function choices(h: Hosted): Promise<DayChoice> {
  const own = await h.store.ownDays();
  const titleOf = (d: DayRef) =>
    d.kind === 'practice'
      ? (PRACTICE_DAYS.find((p) => p.id === d.id)?.title ?? d.id)
      : (own.find((o) => o.id === d.id)?.title ?? 'removed data');
  const now = standing(h);
  const attempts = (await h.store.attempts()).map((a) => (a.id === now.id ? now : a));
  return {
    practice: PRACTICE_DAYS.map(({ id, title, character, date, startAt }) => ({
      id,
      title,
      character,
      date,
      startAt,
    })),
    own: own.map((o) => ({ id: o.id, title: o.title, symbols: o.symbols.length, dates: ownDates(o) })),
    attempts: attempts.map((a) => ({ ...a, title: titleOf(a.day) })),
    current: now.id,
  };
}
