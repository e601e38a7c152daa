// How a session is opened: from its saved state, or by living through its day again.
import type { AccountSetup } from '../../core/account/index.ts';
import { PRACTICE_DAYS } from '../../core/sim/index.ts';
import { type DayRef, type DaySource, scenarioOf } from '../../session/day-ref.ts';
import { apply, createEngine, type Engine } from '../../session/engine.ts';
import { fromBefore, logFromBefore } from '../../session/from-before.ts';
import type { AttemptInfo, LogEntry } from '../../session/log.ts';
import type { Store } from '../../session/ports.ts';
import { restore } from '../../session/saving.ts';
import { simMarket } from '../../session/sim-market.ts';
import { journalOf } from '../../store/migrations.ts';
import { wrongWithSession } from '../../store/session-shape.ts';
import type { Outside, Work } from './hosted.ts';
import { runTo } from './long-work.ts';

/** What a day is made from. */
export const sourceOf = async (store: Store, ref: DayRef): Promise<DaySource> => ({
  ref,
  own: ref.kind === 'own' ? ((await store.ownDays()).find((d) => d.id === ref.id) ?? null) : null,
});

/** Whether this version has what the day is made from. */
const isKnown = ({ ref, own }: DaySource): boolean =>
  ref.kind === 'own' ? own !== null : PRACTICE_DAYS.some((d) => d.id === ref.id);

/** An engine that stands at `to` with the trader's inputs up to then obeyed again at their own times. */
export async function rebuild(
  outside: Outside,
  {
    work,
    day,
    inputs,
    to,
    what,
    accounts,
  }: {
    work: Work;
    day: DayRef;
    inputs: readonly LogEntry[];
    to: number | null;
    what: string;
    accounts: readonly AccountSetup[] | undefined;
  },
): Promise<{ engine: Engine; log: LogEntry[] }> {
  const { store, clock, starts } = outside;
  const source = await sourceOf(store, day);
  // A fresh day may have been made elsewhere up to where the trader comes in.
  const asked = to === null && inputs.length === 0 ? starts(day) : null;
  // Drawn while that is on its way.
  await clock.breathe();
  scenarioOf(source, 0, null);
  const e = createEngine(simMarket(source, await asked), accounts);
  const goal = to ?? e.market.startAt;
  const log: LogEntry[] = [];
  const running = {
    work,
    what,
    ending: 'as before' as const,
    take: (entries: LogEntry[]) => void log.push(...entries),
  };
  for (const { at: when, input, deeds } of inputs) {
    if (input === null || when > goal) continue;
    await runTo(e, when, outside, running);
    log.push(...apply(e, input, deeds ?? null).entries);
  }
  await runTo(e, goal, outside, running);
  return { engine: e, log };
}

/**
 * The session that is kept, as it stood; null where none is under way. One whose day this version does not know is put
 * aside, its trades and its journal kept. `hear` is told its log.
 */
export async function openKept(
  outside: Outside,
  hear: (log: readonly LogEntry[]) => void = () => {},
): Promise<{ engine: Engine; attempt: AttemptInfo } | null> {
  const { store, tell } = outside;
  const { attempt, saved, heartbeat, ...kept } = await store.load();
  const log = logFromBefore(kept.log);
  if (!attempt) return null;
  const source = await sourceOf(store, attempt.day);
  if (!isKnown(source)) {
    const { id, day, reached } = attempt;
    await store.setAside({
      id,
      day,
      reached: Math.max(reached, heartbeat ?? 0),
      trades: [],
      journal: journalOf(log),
    });
    return null;
  }
  hear(log);
  if (saved) {
    const wrong = wrongWithSession(saved);
    if (wrong !== null) throw new Error(`What is kept of the session is damaged: ${wrong}.`);
    const now = fromBefore(saved);
    return { engine: restore(now, simMarket(source, now.market), log, heartbeat), attempt };
  }
  const reached = Math.max(heartbeat ?? 0, ...log.map((l) => l.at)) || null;
  const again = await rebuild(outside, {
    work: { stopped: false },
    day: attempt.day,
    inputs: log,
    to: reached,
    what: 'Bringing the session back',
    accounts: attempt.accounts,
  });
  tell({ kind: 'worked' });
  return { engine: again.engine, attempt };
}
