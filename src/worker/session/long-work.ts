import { formatTime, SECOND } from '../../core/units/index.ts';
import { advance, dayEnd, type Engine } from '../../session/engine.ts';
import type { LogEntry } from '../../session/log.ts';
import type { Clock } from '../../session/ports.ts';
import type { FromWorker, WorkingNow } from './session-messages.ts';

/** Long work was ended by the trader. */
export class Stopped extends Error {}

/** One piece of long work. Ending it ends this one only; work that begins after it is its own. */
export interface Work {
  stopped: boolean;
}

/** Wall time that one piece of long work may take, in ms. */
export const PIECE = 100;
const STEP = 10 * SECOND;

export interface Running {
  work: Work;
  what: string;
  ending: 'as before' | 'here';
  /** Takes the entries of each piece, before the next one begins. */
  take(entries: LogEntry[]): void | Promise<void>;
  /** Where it may stop before its goal, by what has happened. */
  enough?(entries: readonly LogEntry[]): boolean;
  /** How far it has come; by the time of day where nothing is said. */
  way?(): Pick<WorkingNow, 'part' | 'words'>;
  /** Session time run at once, in ms. */
  step?: number;
}

/** Runs an engine on in pieces, telling how far it has come. @throws Stopped when the trader ended it; what was run until then has been handed over. */
export async function runTo(
  e: Engine,
  to: number,
  clock: Clock,
  tell: (m: FromWorker) => void,
  { work, what, ending, take, enough, way, step = STEP }: Running,
): Promise<void> {
  const from = e.market.now();
  const until = () => Math.min(to, dayEnd(e));
  const byClock = () => ({
    part: (e.market.now() - from) / Math.max(1, until() - from),
    words: `${formatTime(e.market.now(), 'minutes')} of ${formatTime(until(), 'minutes')}`,
  });
  let piece = clock.now();
  let entries: LogEntry[] = [];
  while (e.market.now() < until() && !enough?.(entries)) {
    entries.push(...advance(e, Math.min(e.market.now() + step, until()), enough));
    if (clock.now() - piece < PIECE || enough?.(entries)) continue;
    tell({ kind: 'working', what, ...(way ?? byClock)(), ending });
    await take(entries);
    entries = [];
    await clock.breathe();
    if (work.stopped) throw new Stopped();
    piece = clock.now();
  }
  await take(entries);
}
