'use client';

import { create } from 'zustand';
import { MARKET_VERSION, type RehearsalDay } from '@/core/rehearsal';
import type { OwnDay } from '@/core/sim';
import type { DaySource } from '@/session/day-ref';
import type { HandDay } from '@/session/rehearse';
import { type KeptRehearsal, openRehearsals, type RehearsalStore } from '@/store/rehearsals';
import { rehearsalCalls } from '@/worker/rehearsal/rehearsal-calls';
import { ask } from '../client';

interface Rehearsals {
  /** Newest first; null until they have been read. */
  list: KeptRehearsal[] | null;
  chosen: number | null;
  /** Of the chosen one: what each day that is done came to. */
  days: ReadonlyMap<number, HandDay[]>;
  /** The one that is being worked on. */
  running: { id: number; done: number; of: number; left: number | null } | null;
  trouble: string;
}

/** The rehearsals, and the one that runs. It goes on whatever view is open. */
export const useRehearsals = create<Rehearsals>(() => ({
  list: null,
  chosen: null,
  days: new Map(),
  running: null,
  trouble: '',
}));

/** How often the picture is made anew while it runs, in ms: working it out takes a part of that. */
const TOLD_EVERY = 1_500;

let opened: Promise<RehearsalStore> | null = null;
const store = (): Promise<RehearsalStore> => {
  opened ??= openRehearsals();
  return opened;
};
const trouble = (e: unknown): void =>
  useRehearsals.setState({ trouble: e instanceof Error ? e.message : String(e) });

/** Reads what is kept; one that was under way when the page was left goes on. */
export async function loadRehearsals(): Promise<void> {
  if (useRehearsals.getState().list !== null) return;
  try {
    const list = (await (await store()).all()).sort((a, b) => b.id - a.id);
    useRehearsals.setState({ list });
    const [newest] = list;
    if (newest) await choose(newest.id);
    const left = list.find((r) => r.state === 'running');
    if (left) void run(left);
  } catch (e) {
    useRehearsals.setState({ list: [] });
    trouble(e);
  }
}

/** Shows one. */
export async function choose(id: number): Promise<void> {
  const days = await (await store()).days(id);
  useRehearsals.setState({ chosen: id, days });
}

let turn: Promise<void> = Promise.resolve();
/** One thing after another: none begins before the one before has come to its end. */
const inTurn = (work: () => Promise<void>): Promise<void> => {
  turn = turn.then(work).catch(trouble);
  return turn;
};

/** Begins a rehearsal, and stops the one that runs. */
export const begin = (asked: Pick<KeptRehearsal, 'name' | 'terms' | 'desk' | 'days'>): Promise<void> =>
  inTurn(() => beginNow(asked));
/** Goes on with one that was stopped. */
export const goOn = (r: KeptRehearsal): Promise<void> =>
  inTurn(async () => {
    await stopNow();
    useRehearsals.setState({ trouble: '' });
    void run(r);
  });
/** Stops what runs; the days that are done stay. */
export const stop = (): Promise<void> => {
  // At once, also where something waits for its turn.
  under?.end();
  return inTurn(stopNow);
};
export const remove = (id: number): Promise<void> => inTurn(() => removeNow(id));

async function beginNow(asked: Pick<KeptRehearsal, 'name' | 'terms' | 'desk' | 'days'>): Promise<void> {
  await stopNow();
  const list = useRehearsals.getState().list ?? [];
  const r: KeptRehearsal = {
    id: Math.max(0, ...list.map((x) => x.id)) + 1,
    made: new Date().toISOString(),
    market: MARKET_VERSION,
    state: 'running',
    ...asked,
  };
  useRehearsals.setState({ trouble: '' });
  await change(r);
  await choose(r.id);
  void run(r);
}

let under: { id: number; end(): void; over: Promise<void> } | null = null;
async function stopNow(): Promise<void> {
  under?.end();
  await under?.over;
}

async function removeNow(id: number): Promise<void> {
  if (under?.id === id) await stopNow();
  await (await store()).remove(id);
  const list = (useRehearsals.getState().list ?? []).filter((r) => r.id !== id);
  useRehearsals.setState({ list, chosen: null, days: new Map() });
  if (list[0]) await choose(list[0].id);
}

async function change(r: KeptRehearsal): Promise<void> {
  await (await store()).keep(r);
  const others = (useRehearsals.getState().list ?? []).filter((x) => x.id !== r.id);
  useRehearsals.setState({ list: [r, ...others].sort((a, b) => b.id - a.id) });
}

/** Works through the days that are not done, on as many workers as there are cores. */
function run(r: KeptRehearsal): Promise<void> {
  const cores = Math.max(1, Math.min(8, navigator.hardwareConcurrency || 2));
  const workers = Array.from({ length: cores }, rehearsalCalls);
  const end = (): void => {
    ended = true;
    for (const w of workers) w.stop();
  };
  let ended = false;
  const over = work(r, workers, () => ended)
    .then(
      () => change({ ...r, state: ended ? 'stopped' : 'done' }),
      (e) => {
        // Whoever was in the middle of a day when it was stopped says so; that is no trouble.
        if (!ended) trouble(e);
        return change({ ...r, state: 'stopped' });
      },
    )
    .catch(trouble)
    .finally(() => {
      for (const w of workers) w.stop();
      under = null;
      useRehearsals.setState({ running: null });
    });
  under = { id: r.id, end, over };
  return over;
}

/** @returns when nothing of it is under way any more. @throws what the first of the workers failed with. */
async function work(
  r: KeptRehearsal,
  workers: readonly ReturnType<typeof rehearsalCalls>[],
  ended: () => boolean,
): Promise<void> {
  await change({ ...r, state: 'running' });
  const kept = await store();
  const done = await kept.days(r.id);
  const left = r.days.flatMap((_, k) => (done.has(k) ? [] : [k]));
  const picture = createPicture(r, done);
  const sources = createSources();
  let failed = false;
  const each = await Promise.allSettled(
    workers.map(async (w) => {
      try {
        for (let k = left.shift(); k !== undefined && !ended() && !failed; k = left.shift()) {
          const day = r.days[k] as RehearsalDay;
          const key = membersKey(r, day);
          const members = key === null ? null : await kept.members(key);
          const got = await w.ask({
            kind: 'day',
            job: { ...(await sources(day)), terms: r.terms, desk: r.desk, members },
          });
          if (key !== null && got.members) await kept.keepMembers(key, got.members);
          await kept.keepDay(r.id, k, got.hands);
          picture.add(k, got.hands);
        }
      } catch (e) {
        failed = true;
        throw e;
      }
    }),
  );
  picture.show();
  const wrong = each.find((x) => x.status === 'rejected');
  if (wrong) throw wrong.reason;
}

/** Tells the view of days as they are done, not more often than it can draw. */
function createPicture(r: KeptRehearsal, done: Map<number, HandDay[]>) {
  const begun = performance.now();
  const before = done.size;
  let told = 0;
  const show = (): void => {
    told = performance.now();
    const fresh = done.size - before;
    const left = fresh === 0 ? null : ((told - begun) / fresh) * (r.days.length - done.size);
    useRehearsals.setState({
      running: { id: r.id, done: done.size, of: r.days.length, left },
      ...(useRehearsals.getState().chosen === r.id ? { days: new Map(done) } : {}),
    });
  };
  show();
  return {
    show,
    add(day: number, hands: HandDay[]): void {
      done.set(day, hands);
      if (performance.now() - told > TOLD_EVERY) show();
      else {
        const now = useRehearsals.getState().running;
        if (now) useRehearsals.setState({ running: { ...now, done: done.size } });
      }
    },
  };
}

/** Days with their data; imported data is asked for once. */
function createSources(): (day: RehearsalDay) => Promise<{ source: DaySource; n: number }> {
  const own = new Map<string, Promise<OwnDay | null>>();
  return async (day) => {
    if (day.kind === 'practice')
      return { source: { ref: { kind: 'practice', id: day.id, seed: day.seed }, own: null }, n: 0 };
    let data = own.get(day.id);
    if (!data) {
      data = ask({ kind: 'own day', id: day.id }).then((a) => a?.day ?? null);
      own.set(day.id, data);
    }
    return { source: { ref: { kind: 'own', id: day.id }, own: await data }, n: day.n };
  };
}

/** Under what the members of a scan on a day are kept; null where no scan is asked. */
function membersKey(r: KeptRehearsal, day: RehearsalDay): string | null {
  const { symbols } = r.terms;
  return symbols.kind === 'scan' ? JSON.stringify([r.market, day, symbols.rule, symbols.ranking]) : null;
}

/** The colour of a hand wherever it is drawn; its letter stands beside it. */
export const handColour = (hand: number): string => (hand === 0 ? 'var(--focus)' : 'var(--condition)');

/** What is written in the form is kept, too. */
export const keptDraft = async (): Promise<unknown> => (await store()).draft();
export async function keepDraft(draft: unknown): Promise<void> {
  await (await store()).keepDraft(draft);
}
