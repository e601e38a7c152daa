// The state of a day where the trader comes in: made once for a day and variation, kept compressed in a folder.
import { randomUUID } from 'node:crypto';
import { mkdir, readdir, readFile, rename, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import { PRACTICE_DAYS } from '../core/sim/index.ts';
import type { DayRef } from '../session/day-ref.ts';
import { firstMoment } from '../session/first-moment.ts';
import { pack } from '../session/pack.ts';
import { breathe } from './breathe.ts';

type PracticeRef = Extract<DayRef, { kind: 'practice' }>;

/** What the folder may hold. A day is one and a half megabytes. */
const MOST_BYTES = 200_000_000;
/** Days that may wait to be made. */
const MOST_WAITING = 20;
const FIRST_VARIATION = 7;
/** Between pieces of the work, in ms. */
const PAUSE = 15;

const folder = join(process.cwd(), '.next', 'cache', 'days');
/** A day is made by the code of one build; another build makes it anew. */
const build: Promise<string> = readFile(join(process.cwd(), '.next', 'BUILD_ID'), 'utf8').then(
  (id) => id.trim().replaceAll(/[^\w-]/g, ''),
  () => `unbuilt-${process.pid}`,
);
const fileOf = async ({ id, seed }: PracticeRef): Promise<string> =>
  join(folder, `${await build}-${id}-${seed}.gz`);

/** The compressed state of a day, or null where it has not been made. */
export async function keptStart(ref: PracticeRef): Promise<Uint8Array<ArrayBuffer> | null> {
  const file = await fileOf(ref);
  try {
    const bytes = await readFile(file);
    const now = new Date();
    void utimes(file, now, now).catch(() => {});
    return new Uint8Array(bytes);
  } catch {
    return null;
  }
}

const making = new Map<string, Promise<void>>();
let queue: Promise<void> = Promise.resolve();

/** Makes and keeps the state of a day, one after another; where too many wait already, nothing is done. */
export async function makeStart(ref: PracticeRef): Promise<void> {
  const file = await fileOf(ref);
  const there = making.get(file);
  if (there) return there;
  if (making.size >= MOST_WAITING) return;
  const mine = queue
    .then(() => make(ref, file))
    .catch((e: unknown) => console.error(`The start of ${ref.id}, ${ref.seed} was not kept:`, e))
    .finally(() => making.delete(file));
  making.set(file, mine);
  queue = mine;
  return mine;
}

async function make(ref: PracticeRef, file: string): Promise<void> {
  if (await stat(file).catch(() => null)) return;
  const work = firstMoment(ref);
  let step = work.next();
  while (!step.done) {
    // A page takes many turns of reading and answering, each of which would wait for a piece of this.
    await breathe(PAUSE);
    step = work.next();
  }
  const bytes = await promisify(gzip)(pack(step.value));
  await mkdir(folder, { recursive: true });
  // Another server may make the same day: whoever is last puts the same bytes there.
  const draft = `${file}.${randomUUID()}`;
  await writeFile(draft, bytes);
  await rename(draft, file);
  await makeRoom();
}

/** Drops what was longest not asked for, until the folder is within its size. */
async function makeRoom(): Promise<void> {
  const files = await Promise.all(
    (await readdir(folder)).map(async (name) => {
      const path = join(folder, name);
      const s = await stat(path).catch(() => null);
      return { path, size: s?.size ?? 0, at: s?.mtimeMs ?? 0 };
    }),
  );
  let sum = files.reduce((a, f) => a + f.size, 0);
  for (const f of files.sort((a, b) => a.at - b.at)) {
    if (sum <= MOST_BYTES) return;
    await rm(f.path, { force: true });
    sum -= f.size;
  }
}

/** Makes the day that a new trader starts with, and then, meanwhile, the others. */
export async function makeReady(): Promise<void> {
  const [first, ...others] = PRACTICE_DAYS.map(
    ({ id }): PracticeRef => ({ kind: 'practice', id, seed: FIRST_VARIATION }),
  );
  if (first) await makeStart(first);
  for (const ref of others) void makeStart(ref);
}
