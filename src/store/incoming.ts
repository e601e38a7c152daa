// What lies ready of an archive is taken in before anything else of the app is read: it replaces what is there, or joins it. What was there stays beside it until the new has started once.
import { deleteDB } from 'idb';
import {
  beforeNames,
  comingNames,
  drop,
  type Incoming,
  incomingName,
  linesOf,
  type Names,
  openIncoming,
  type Progress,
  putLines,
  REAL,
  type Taking,
} from './archive-places.ts';
import { joined } from './joining.ts';

/** How far the taking in of an archive has come; null where none is under way. */
async function stateOf(names: Names): Promise<Incoming | null> {
  if (typeof indexedDB === 'undefined') return null;
  const there = await indexedDB.databases();
  if (!there.some((d) => d.name === incomingName(names))) return null;
  const db = await openIncoming(names);
  const state = ((await db.get('state', 'state')) as Incoming | undefined) ?? null;
  db.close();
  return state;
}

async function note(names: Names, state: Incoming): Promise<void> {
  const db = await openIncoming(names);
  await db.put('state', state, 'state');
  db.close();
}

/**
 * Takes in what lies ready, before anything else of the app is read; what was there is copied first.
 * @returns how, where it did so now. @throws Error where it cannot be taken in: everything is as it was then.
 */
export async function takeIncoming(
  names: Names = REAL,
  progress: Progress = () => {},
): Promise<Taking | null> {
  const state = await stateOf(names);
  if (!state || state.step === 'written') return null;
  const { how } = state;
  const before = beforeNames(names);
  progress(0);
  try {
    if (state.step === 'ready') {
      await drop(before);
      await putLines(before, await linesOf(names), true);
      await note(names, { how, step: 'copied' });
    }
    const coming = await linesOf(comingNames(names));
    const lines = how === 'merge' ? joined(await linesOf(before), coming) : coming;
    await putLines(names, lines, how === 'replace', progress);
    await note(names, { how, step: 'written' });
    await drop(comingNames(names));
  } catch (e) {
    await giveBack(names);
    throw e;
  } finally {
    progress(1);
  }
  return how;
}

/** What came in has started: what was there before goes. */
export async function settleIncoming(names: Names = REAL): Promise<void> {
  if (await stateOf(names)) await forget(names);
}

/** Whether what was here before an archive came can still be gone back to. */
export const canGiveBack = async (names: Names = REAL): Promise<boolean> =>
  (await stateOf(names))?.step === 'written';

/** Puts back what was here before an archive came. */
export async function giveBack(names: Names = REAL): Promise<void> {
  const state = await stateOf(names);
  if (state && state.step !== 'ready') await putLines(names, await linesOf(beforeNames(names)), true);
  await forget(names);
}

async function forget(names: Names): Promise<void> {
  await deleteDB(incomingName(names));
  await drop(beforeNames(names));
  await drop(comingNames(names));
}
