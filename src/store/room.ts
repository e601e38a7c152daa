// What is said where the browser gives no room, and what is done then.
import type { SavedSession } from '../session/log.ts';
import type { Clock, Store } from '../session/ports.ts';

/** Whether a write failed for want of room: the browser's share is used up, or the disk is full. */
export function isNoRoom(e: unknown): boolean {
  const { name = '', message = '' } = (typeof e === 'object' && e !== null ? e : {}) as Partial<Error>;
  return name === 'QuotaExceededError' || (name === 'UnknownError' && /space|disk|full/i.test(message));
}

/** Whether the browser has cut the connection to what it keeps: it does so on a full disk, and it has to be made anew. */
const isCut = (e: unknown): boolean =>
  ['InvalidStateError', 'AbortError', 'UnknownError'].includes((e as Partial<Error> | null)?.name ?? '');

/** What frees room, said wherever there is none. */
export const FREES =
  'Remove rehearsals (Rehearse), days of your own data (Days) or pictures of trades (Review), or files on this computer';

/** Why something could not be kept, in words. */
export const storageWords = (e: unknown): string =>
  typeof indexedDB === 'undefined'
    ? 'This browser gives the app no storage (a private window, or it is blocked): nothing is kept here.'
    : isNoRoom(e)
      ? `There is no room on disk: this was not kept. ${FREES}, and do it again.`
      : e instanceof Error
        ? e.message
        : String(e);

/** How long, in ms, until something that found no room is tried again. */
const AGAIN = 2_000;

/** What is told of room: that something waits for it (`late`: only what can be made again does), and that it is there again. */
export type RoomTold = { kind: 'no room'; waits: boolean } | { kind: 'room' };

/**
 * A store that waits for room instead of failing. What has to be kept before it is acknowledged waits until there is
 * some; the whole state and the time, which the log can make again, are tried again beside everything else.
 * @returns it, and whether something waits.
 */
export function patientStore(
  store: Store,
  clock: Clock,
  tell: (m: RoomTold) => void,
): Store & { waits(): boolean } {
  /** Writes that hold the session up, and others. */
  const waiting = { session: 0, beside: 0 };
  let late = false;
  const tellNow = () =>
    tell(
      waiting.session + waiting.beside > 0 || late
        ? { kind: 'no room', waits: waiting.session > 0 }
        : { kind: 'room' },
    );
  const later = () =>
    new Promise<void>((done) => {
      const stop = clock.every(AGAIN, () => {
        stop();
        done();
      });
    });
  /** Does not come back before it is kept. */
  async function must<T>(write: () => Promise<T>, whose: 'session' | 'beside' = 'session'): Promise<T> {
    let mine = false;
    try {
      for (;;) {
        try {
          return await write();
        } catch (e) {
          if (!isNoRoom(e) && !isCut(e)) throw e;
          if (!mine) waiting[whose]++;
          mine = true;
          tellNow();
          await later();
        }
      }
    } finally {
      if (mine) {
        waiting[whose]--;
        tellNow();
      }
    }
  }
  const newest: { save?: SavedSession; beat?: number } = {};
  async function writeNewest(): Promise<void> {
    const { save, beat } = newest;
    if (save) await store.save(save);
    if (save === newest.save) delete newest.save;
    if (beat !== undefined) await store.beat(beat);
    if (beat === newest.beat) delete newest.beat;
  }
  /** Comes back at once; the newest is kept as soon as there is room. */
  async function may(): Promise<void> {
    if (late) return;
    try {
      await writeNewest();
    } catch (e) {
      if (!isNoRoom(e) && !isCut(e)) throw e;
      late = true;
      tellNow();
      void retry();
    }
  }
  async function retry(): Promise<void> {
    while (newest.save || newest.beat !== undefined) {
      await later();
      await writeNewest().catch(() => {});
    }
    late = false;
    tellNow();
  }
  return {
    ...store,
    append: (attempt, entries, trades) => must(() => store.append(attempt, entries, trades)),
    begin: (attempt, log) => must(() => store.begin(attempt, log)),
    note: (attempt) => must(() => store.note(attempt)),
    keepOwnDay: (day) => must(() => store.keepOwnDay(day)),
    keepSettings: (settings) => must(() => store.keepSettings(settings), 'beside'),
    save(state) {
      newest.save = state;
      return may();
    },
    beat(now) {
      newest.beat = now;
      return may();
    },
    waits: () => waiting.session > 0,
  };
}
