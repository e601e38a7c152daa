import 'fake-indexeddb/auto';
import { at } from '../../core/units/index.ts';
import { advance, apply, createEngine } from '../../session/engine.ts';
import type { AttemptInfo } from '../../session/log.ts';
import { save } from '../../session/saving.ts';
import { simMarket } from '../../session/sim-market.ts';
import { writeArchive } from '../../store/archive.ts';
import { layReady } from '../../store/archive-read.ts';
import { idbStore } from '../../store/idb-store.ts';
import { wrongWith } from '../../store/shapes.ts';
import { tryToOpen } from '../archive/trial.ts';
import { openKept } from './opening.ts';

const DAY = { kind: 'practice' as const, id: 'fresh-headlines', seed: 7, size: 24 };
const CLOCK = { now: () => 0, every: () => () => {}, breathe: async () => {} };
const attempt = (day: AttemptInfo['day']): AttemptInfo => ({
  id: 1,
  day,
  from: null,
  reached: at(9, 20),
  net: 0,
  r: 0,
  trades: 0,
});
const outside = (store: Awaited<ReturnType<typeof idbStore>>) => ({
  store,
  clock: CLOCK,
  tell: () => {},
  starts: async () => null,
});

/** A profile with a session that bought something. */
async function traded(name: string, day: AttemptInfo['day'] = DAY) {
  const e = createEngine(simMarket({ ref: DAY, own: null }));
  advance(e, at(9, 15));
  const store = await idbStore(name);
  await store.begin(attempt(day), []);
  const { entries } = apply(e, { kind: 'run', text: 'buy 100 at ask + 3c extended', focus: 'VULPN' });
  await store.append(1, entries);
  await store.save(save(e));
  return store;
}

test('a session whose day this version does not know is put aside, its journal kept, and none is under way', async () => {
  const store = await traded('unknown', { ...DAY, id: 'a day to come' });
  expect(await openKept(outside(store))).toBeNull();
  expect((await store.load()).attempt).toBeNull();
  const [past] = await store.past();
  expect(past).toMatchObject({ id: 1, day: { id: 'a day to come' }, reached: at(9, 20) });
  expect(past?.journal.some((j) => j.text.includes('bought 100 VULPN'))).toBe(true);
  expect((await store.putAside()).length).toBe(1);
});

test('what is opened on trial is what opens; what cannot be opened is named', async () => {
  const names = (n: string) => ({ 'keen-fox': n, 'keen-fox-rehearsals': `${n}-rehearsals` });
  const store = await traded('sound');
  const parts: number[] = [];
  await tryToOpen(names('sound'), (p) => parts.push(p));
  expect(parts.at(-1)).toBe(1);
  expect((await openKept(outside(store)))?.attempt.id).toBe(1);
  const hurt = await traded('broken');
  const { saved } = await hurt.load();
  await hurt.save({ ...saved, market: { market: {} } } as never);
  const archive = await writeArchive('', () => {}, names('broken'));
  // Said, and what was laid apart for it is gone: nothing of the trial holds it open.
  await expect(layReady(archive, 'replace', () => {}, names('sound'), tryToOpen)).rejects.toThrow(
    /Its session cannot be opened by this version/,
  );
  expect((await indexedDB.databases()).map((d) => d.name)).not.toContain('sound-coming');
});

test('a saved session with anything missing or of another kind is named as damaged, and is not opened', async () => {
  const store = await traded('hurt');
  const { saved } = await store.load();
  expect(wrongWith('keep', saved, 'session')).toBeNull();
  // biome-ignore lint/suspicious/noExplicitAny: what is damaged has no type
  const damage: Record<string, (s: any) => void> = {
    'has no fitting “now”': (s) => (s.now = 1e15),
    'has no fitting “alerts”': (s) => (s.state.alerts = 'x'),
    'has no fitting “desk”': (s) => (s.state.desk.staged = [{ id: 1 }]),
    'its account main has no fitting “rules”': (s) => (s.state.broker.accounts.main.rules.riskUnit = 'lots'),
    'its holding has no fitting “scopes”': (s) => (s.state.broker.holdings['main VULPN'].scopes = 3),
    'its trade 1 has no fitting “entered”': (s) =>
      (s.state.broker.holdings['main VULPN'].trades[0].entered = null),
    'of another version': (s) => (s.version = 8),
  };
  for (const [why, hurt] of Object.entries(damage)) {
    const copy = structuredClone(saved);
    hurt(copy);
    expect(wrongWith('keep', copy, 'session')).toContain(why);
  }
  const copy = structuredClone(saved) as never as { state: { alerts: unknown } };
  copy.state.alerts = 'x';
  await store.save(copy as never);
  await expect(openKept(outside(store))).rejects.toThrow(
    'is damaged: what it says of the trader has no fitting “alerts”',
  );
});
