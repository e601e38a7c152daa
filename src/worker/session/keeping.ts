// What of the session is stored, and when: always before it is told.
import { everything } from '../../core/orders/index.ts';
import { reviewTrade } from '../../core/review/index.ts';
import { account, apply, dayEnd } from '../../session/engine.ts';
import type { AttemptInfo, LogEntry, SessionInput } from '../../session/log.ts';
import type { RunResult } from '../../session/run-result.ts';
import { save } from '../../session/saving.ts';
import type { Hosted } from './hosted.ts';
import { goalOf, speedOf } from './pace.ts';

/** Wall time between two saves of the whole state, in ms. */
const SAVE_EVERY = 60_000;

/** The browser could not store what happened. */
export class NotStored extends Error {}

/** Stores what happened, without telling it yet. @throws NotStored */
export async function append(h: Hosted, entries: readonly LogEntry[]): Promise<void> {
  if (entries.length === 0) return;
  h.records.hear(entries);
  const trades = h.records.changes(h.engine, h.attempt);
  await h.store.append(h.attempt.id, entries, trades).catch((e: unknown) => {
    throw new NotStored(
      `The browser could not store this: ${e instanceof Error ? e.message : String(e)}. Free some disk space, then load the page again.`,
    );
  });
}

/** All trades of the attempt, where it has come from somewhere else than its own log growing. */
export async function keepTrades(h: Hosted): Promise<void> {
  const trades = h.records.changes(h.engine, h.attempt);
  if (trades.length > 0) await h.store.append(h.attempt.id, [], trades);
}

/** Stores the whole state. */
export async function keep(h: Hosted): Promise<void> {
  h.due.save = h.clock.now() + SAVE_EVERY;
  await h.store.save(save(h.engine));
  await h.store.beat(h.engine.market.now());
  await h.store.note(standing(h));
}

/** The attempt as it stands now. */
export function standing(h: Hosted): AttemptInfo {
  const { trades } = everything(h.engine.state.broker);
  const summed = trades.flatMap((t) => reviewTrade(t, []) ?? []);
  const a = account(h.engine);
  h.attempt = {
    ...h.attempt,
    reached: h.engine.market.now(),
    net: a.realized + a.unrealized - a.costs,
    r: summed.reduce((sum, t) => sum + (t.r ?? 0), 0),
    trades: summed.length,
  };
  return h.attempt;
}

/** Stores first, tells after: what is shown as accepted is durable. */
export async function publish(h: Hosted, entries: readonly LogEntry[] = []): Promise<void> {
  await append(h, entries);
  const { engine, focus, attempt, pace, coming } = h;
  const watching = attempt.watches === undefined ? null : { attempt: attempt.watches, coming: coming.length };
  const scene = {
    engine,
    focus,
    attempt: attempt.id,
    watching,
    speed: speedOf(pace),
    jumpingTo: goalOf(pace, dayEnd(engine)),
  };
  const replies = h.subscriptions.changes(scene, h.clock.now());
  if (replies) h.tell({ kind: 'update', replies });
}

/** Obeys an input of the trader, stores it and tells what came of it. */
export async function obey(h: Hosted, input: SessionInput): Promise<RunResult> {
  // Whoever acts has taken over.
  if (input.kind === 'run') await takeOver(h);
  const { entries, result } = apply(h.engine, input);
  await publish(h, entries);
  return result;
}

/** What is only watched goes on by the trader's hand. */
export async function takeOver(h: Hosted): Promise<void> {
  if (h.attempt.watches === undefined) return;
  const { watches: _, ...mine } = h.attempt;
  h.attempt = mine;
  h.coming = [];
  await h.store.note(standing(h));
  await publish(h);
}

/** Everything on screen is told anew: it may be another day. */
export function lookAgain(h: Hosted): void {
  if (!h.engine.market.has(h.focus)) h.focus = h.engine.market.instruments[0]?.symbol ?? '';
  h.subscriptions.startOver();
}
