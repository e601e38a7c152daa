import { formatTime, SECOND } from '../../core/units/index.ts';
import { advance, dayEnd, type Engine } from '../../session/engine.ts';
import type { LogEntry } from '../../session/log.ts';
import type { Hosted, Outside, Work } from './hosted.ts';
import type { WorkingNow } from './session-messages.ts';

/** Long work was ended by the trader. */
export class Stopped extends Error {}

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
  { clock, tell }: Pick<Outside, 'clock' | 'tell'>,
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

/** Long work that the trader can end; each has its own end. */
export async function longWork<T>(h: Hosted, work: (w: Work) => Promise<T>): Promise<T> {
  const mine: Work = { stopped: false };
  h.work = mine;
  try {
    return await work(mine);
  } finally {
    h.work = null;
    h.tell({ kind: 'worked' });
  }
}
