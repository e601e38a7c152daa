import type { LogEntry, SavedSession } from '../session/log.ts';
import type { Store } from '../session/ports.ts';

/** A store that forgets: for rehearsals and for browsers that refuse IndexedDB. Values are copied, as IndexedDB does. */
export function memoryStore(): Store {
  let saved: SavedSession | null = null;
  let heartbeat: number | null = null;
  let log = new Map<number, LogEntry>();
  return {
    load: async () => structuredClone({ saved, heartbeat, log: [...log.values()].sort((a, b) => a.seq - b.seq) }),
    async append(entries) {
      for (const e of entries) log.set(e.seq, structuredClone(e));
    },
    async save(state) {
      saved = structuredClone(state);
    },
    async beat(now) {
      heartbeat = now;
    },
    async clear() {
      saved = null;
      heartbeat = null;
      log = new Map();
    },
  };
}
