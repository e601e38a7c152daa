import { DEFAULT_ACCOUNT } from '../core/account/index.ts';
import { SCAN_FIELDS } from '../core/scan/index.ts';
import { explain, parseRule, printRule, type ScanRule } from '../core/script/index.ts';
import { demoDay } from '../core/sim/index.ts';
import { AFTER_CLOSE, MINUTE, unreachable } from '../core/units/index.ts';
import { advance, apply, createEngine, type Engine, restore, save } from '../session/engine.ts';
import type { LogEntry } from '../session/log.ts';
import type { Clock, Store } from '../session/ports.ts';
import { simMarket } from '../session/sim-market.ts';
import type { Answer, FromWorker, Request, ToWorker } from './protocol.ts';
import { createSlices, peekedAt } from './slices.ts';

const TICK = 40;
const BEAT_EVERY = 200;
const SAVE_EVERY = 30_000;
/** Most simulated time taken in one tick, so that a request never waits long. */
const SLICE = 5_000;

class NotStored extends Error {}

/**
 * Hosts one session: paces time, obeys requests one after another, stores what happened, and only
 * then tells the interface. Everything outside comes in as a port.
 */
export async function host(store: Store, clock: Clock, tell: (m: FromWorker) => void): Promise<(m: ToWorker) => void> {
  let engine = await open(store);
  let speed = 0;
  let jumpingTo: number | null = null;
  /** Fraction of simulated time owed since the last tick, in ms. */
  let owed = 0;
  let lastWall = clock.now();
  let focus = engine.market.instruments[0]?.symbol ?? '';
  let scan: { rule: ScanRule; rankBy: string } | null = null;
  let rack: string[] = [];
  const due = { beat: 0, save: clock.now() + SAVE_EVERY };
  let slices = createSlices();
  let queue: Promise<void> = Promise.resolve();
  let pendingTick = false;
  /** After a failure to store, nothing more may happen: what was shown is what is kept. */
  let stopped = false;

  tell({ kind: 'ready' });
  await publish([]);
  clock.every(TICK, () => {
    if (pendingTick) return;
    pendingTick = true;
    enqueue(async () => {
      pendingTick = false;
      await tick();
    });
  });

  return (m) =>
    enqueue(async () => {
      try {
        tell({ kind: 'answer', id: m.id, answer: await answer(m.request) });
      } catch (e) {
        tell({ kind: 'failed', id: m.id, message: e instanceof Error ? e.message : String(e) });
        if (e instanceof NotStored) throw e;
      }
    });

  function enqueue(task: () => Promise<void>): void {
    queue = queue
      .then(() => (stopped ? undefined : task()))
      .catch((e: unknown) => {
        stopped = true;
        tell({ kind: 'broken', message: e instanceof Error ? e.message : String(e) });
      });
  }

  async function tick(): Promise<void> {
    const wall = clock.now();
    const passed = Math.min(250, wall - lastWall);
    lastWall = wall;
    const now = engine.market.now();
    let entries: LogEntry[] = [];
    if (jumpingTo !== null) {
      const until = Math.min(jumpingTo, now + 60 * MINUTE, AFTER_CLOSE - 1);
      const started = clock.now();
      for (let t = now + 10_000; engine.market.now() < until && clock.now() - started < 120; t += 10_000) entries.push(...advance(engine, Math.min(t, until)));
      if (engine.market.now() >= Math.min(jumpingTo, AFTER_CLOSE - 1)) jumpingTo = null;
    } else if (speed > 0) {
      owed += passed * speed;
      const step = Math.floor(Math.min(owed, SLICE));
      owed -= step;
      entries = advance(engine, Math.min(now + step, AFTER_CLOSE - 1));
      if (engine.market.now() >= AFTER_CLOSE - 1) speed = 0;
    }
    await publish(entries);
    if (wall >= due.beat && (speed > 0 || jumpingTo !== null)) {
      due.beat = wall + BEAT_EVERY;
      await store.beat(engine.market.now());
    }
    if (wall >= due.save && speed > 0) await keep();
  }

  async function keep(): Promise<void> {
    due.save = clock.now() + SAVE_EVERY;
    await store.save(save(engine));
    await store.beat(engine.market.now());
  }

  async function answer(r: Request): Promise<Answer> {
    switch (r.kind) {
      case 'run': {
        const { entry, result } = apply(engine, { kind: 'run', text: r.text, focus });
        await publish(entry ? [entry] : []);
        return { kind: 'run', result };
      }
      case 'peek':
        return { kind: 'peek', peeked: peekedAt(engine, r.text, focus) };
      case 'focus':
        if (!engine.market.has(r.symbol)) throw new Error(`“${r.symbol}” does not trade today.`);
        focus = r.symbol;
        await publish([]);
        return { kind: 'done' };
      case 'scan': {
        const parsed = parseRule(r.rule, SCAN_FIELDS);
        if (!parsed.ok) return { kind: 'scan', ok: false, problem: explain(parsed.problem), ...parsed.problem.span };
        scan = { rule: parsed.rule, rankBy: r.rankBy };
        slices.soon();
        await publish([]);
        return { kind: 'scan', ok: true, tidy: printRule(parsed.rule) };
      }
      case 'speed':
        speed = r.speed;
        jumpingTo = null;
        owed = 0;
        lastWall = clock.now();
        if (speed === 0) await keep();
        await publish([]);
        return { kind: 'done' };
      case 'jump':
        jumpingTo = r.to;
        return { kind: 'done' };
      case 'risk unit': {
        const { entry } = apply(engine, { kind: 'set risk unit', dollars: r.dollars });
        slices.soon();
        await publish(entry ? [entry] : []);
        return { kind: 'done' };
      }
      case 'rack':
        rack = r.scripts;
        slices.soon();
        await publish([]);
        return { kind: 'done' };
      case 'start again':
        await store.clear();
        speed = 0;
        jumpingTo = null;
        engine = await open(store);
        slices = createSlices();
        await publish([]);
        return { kind: 'done' };
      default:
        return unreachable(r);
    }
  }

  /** Stores first, tells after: what is shown as accepted is durable. */
  async function publish(entries: LogEntry[]): Promise<void> {
    if (entries.length > 0) {
      await store.append(entries).catch((e: unknown) => {
        throw new NotStored(`The browser could not store this: ${e instanceof Error ? e.message : String(e)}. Free some disk space, then load the page again.`);
      });
    }
    const update = slices.changes({ engine, speed, jumpingTo, focus, scan, rack }, clock.now());
    if (update) tell({ kind: 'update', update });
  }
}

async function open(store: Store): Promise<Engine> {
  const { saved, log, heartbeat } = await store.load();
  if (saved) return restore(saved, simMarket({ saved: saved.market }), log, heartbeat);
  const scenario = demoDay();
  const market = simMarket({ scenario });
  const engine = createEngine(market, DEFAULT_ACCOUNT);
  advance(engine, scenario.startAt);
  await store.save(save(engine));
  await store.beat(engine.market.now());
  return engine;
}
