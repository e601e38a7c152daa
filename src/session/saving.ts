import type { Engine } from './circuit.ts';
import { advance, apply } from './engine.ts';
import type { LogEntry, SavedSession } from './log.ts';
import type { DayMarket } from './ports.ts';
import { firingKey } from './waits.ts';

/** The whole session, to be kept; bring it back with {@link restore}. */
export function save(e: Engine): SavedSession {
  return { version: 7, seq: e.state.seq, now: e.market.now(), state: e.state, market: e.market.save() };
}

/**
 * Brings a session back from what was kept and the log after it: each input is obeyed again at its
 * own time, then time runs on to the last heartbeat.
 */
export function restore(
  saved: SavedSession,
  market: DayMarket,
  log: readonly LogEntry[],
  heartbeat: number | null,
): Engine {
  const recorded = new Map<string, LogEntry[]>();
  for (const entry of log) {
    // What the saved state has seen already is not done again.
    if (!entry.fired || entry.seq <= saved.seq) continue;
    const key = firingKey(entry.fired, entry.at);
    recorded.set(key, [...(recorded.get(key) ?? []), entry]);
  }
  const e: Engine = { state: saved.state, market, recorded };
  const aside: string[] = [];
  for (const entry of log) {
    if (entry.seq <= saved.seq || entry.input === null) continue;
    const { input } = entry;
    surely(e, aside, 'time', () => advance(e, entry.at));
    surely(e, aside, input.kind === 'run' ? input.text : input.kind, () =>
      apply(e, input, entry.deeds ?? null),
    );
  }
  const reached = Math.max(heartbeat ?? 0, ...log.map((l) => l.at), saved.now);
  surely(e, aside, 'time', () => advance(e, reached));
  return { state: e.state, market, ...(aside.length > 0 ? { aside } : {}) };
}

/** How often time that cannot pass is tried again before a session is given up. */
const TRIES = 100;

/**
 * Does a step of a session that is brought back. What fails is put aside and said, and the rest goes on: nothing
 * that happened once keeps a session from opening.
 */
function surely(e: Engine, aside: string[], what: string, step: () => unknown): void {
  for (let k = 0; k < TRIES; k++) {
    const before = e.state;
    try {
      step();
      return;
    } catch (err) {
      aside.push(`${what}: ${err instanceof Error ? err.message : String(err)}`);
      // An input is tried once; what happened in the market is behind it, and time goes on from there.
      e.state = before;
      if (what !== 'time') return;
    }
  }
}
