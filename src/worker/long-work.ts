import { SECOND } from '../core/units/index.ts';
import { advance, dayEnd, type Engine } from '../session/engine.ts';
import type { LogEntry } from '../session/log.ts';
import type { Clock } from '../session/ports.ts';
import type { FromWorker } from './protocol.ts';

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
}

/** Runs an engine on in pieces, telling how far it has come. @throws Stopped when the trader ended it; what was run until then has been handed over. */
export async function runTo(
  e: Engine,
  to: number,
  clock: Clock,
  tell: (m: FromWorker) => void,
  { work, what, ending, take }: Running,
): Promise<void> {
  const from = e.market.now();
  const until = () => Math.min(to, dayEnd(e));
  let piece = clock.now();
  let entries: LogEntry[] = [];
  while (e.market.now() < until()) {
    entries.push(...advance(e, Math.min(e.market.now() + STEP, until())));
    if (clock.now() - piece < PIECE) continue;
    tell({ kind: 'working', what, at: e.market.now(), from, to: until(), ending });
    await take(entries);
    entries = [];
    await clock.breathe();
    if (work.stopped) throw new Stopped();
    piece = clock.now();
  }
  await take(entries);
}
