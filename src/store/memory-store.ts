import type { OwnDay } from '../core/sim/index.ts';
import type { AttemptInfo, LogEntry, SavedSession } from '../session/log.ts';
import type { Store } from '../session/ports.ts';

/** A store that forgets: for rehearsals and for browsers that refuse IndexedDB. Values are copied, as IndexedDB does. */
export function memoryStore(): Store {
  let settings: unknown;
  let saved: SavedSession | null = null;
  let heartbeat: number | null = null;
  let current: number | null = null;
  const infos = new Map<number, AttemptInfo>();
  const logs = new Map<number, Map<number, LogEntry>>();
  const own = new Map<string, OwnDay>();
  const logOf = (attempt: number): LogEntry[] =>
    structuredClone([...(logs.get(attempt)?.values() ?? [])].sort((a, b) => a.seq - b.seq));
  const put = (attempt: number, entries: readonly LogEntry[]) => {
    const log = logs.get(attempt) ?? new Map<number, LogEntry>();
    for (const e of entries) log.set(e.seq, structuredClone(e));
    logs.set(attempt, log);
  };
  return {
    load: async () => ({
      attempt: structuredClone(current === null ? null : (infos.get(current) ?? null)),
      saved: structuredClone(saved),
      heartbeat,
      log: current === null ? [] : logOf(current),
    }),
    append: async (attempt, entries) => put(attempt, entries),
    async save(state) {
      saved = structuredClone(state);
    },
    async beat(now) {
      heartbeat = now;
    },
    async begin(attempt, log) {
      infos.set(attempt.id, structuredClone(attempt));
      put(attempt.id, log);
      current = attempt.id;
      saved = null;
      heartbeat = attempt.from ? attempt.reached : null;
    },
    async note(attempt) {
      infos.set(attempt.id, structuredClone(attempt));
    },
    attempts: async () => structuredClone([...infos.values()].sort((a, b) => a.id - b.id)),
    log: async (attempt) => logOf(attempt),
    ownDays: async () => structuredClone([...own.values()]),
    async keepOwnDay(day) {
      own.set(day.id, structuredClone(day));
    },
    async dropOwnDay(id) {
      own.delete(id);
    },
    settings: async () => structuredClone(settings),
    async keepSettings(now) {
      settings = structuredClone(now);
    },
    past: async () => [],
    putAside: async () => [],
    async setAside() {
      [current, saved, heartbeat] = [null, null, null];
    },
  };
}
