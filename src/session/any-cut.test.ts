// Everything follows from state and log: however time is cut, and wherever a session is saved and brought back.
import fc from 'fast-check';
import { everything, liveOrders } from '../core/orders/index.ts';
import { at } from '../core/units/index.ts';
import type { DaySource } from './day-ref.ts';
import { advance, apply, createEngine, type Engine } from './engine.ts';
import { fromBefore } from './from-before.ts';
import type { LogEntry } from './log.ts';
import { restore, save } from './saving.ts';
import { simMarket } from './sim-market.ts';

const DAY: DaySource = { ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 24 }, own: null };
const opened = createEngine(simMarket(DAY));
advance(opened, at(9, 24));
const kept = structuredClone(save(opened));

function begun(): Engine {
  const saved = structuredClone(kept);
  return restore(saved, simMarket(DAY, saved.market), [], null);
}

const SENTENCES = [
  'buy 300 at ask + 3c extended\n stop 3%\n target 1R for half\n breakeven after 1R',
  'buy 200 at ask + 2c extended\n trail 2%',
  'buy 200 at bid working to ask + 2c within 45s extended\n stop 3%\n once filled: close third at ask + 3c',
  // Working from the open on: what is due changes with the session.
  'buy 100 at bid working to ask + 1c within 2s\n stop 3%',
  'when newly last > vwap: buy 50 at 3c through extended\n stop 3%',
  'when newly bid >= last: buy 41 at 3c through extended\n stop 3%',
  'when last > 1.00: buy 10 at 3c through extended\n stop 3%\nwhen last > 1.01: buy 20 at 3c through extended\n stop 3%',
  'when newly 1m close < vwap or gain >= 1R: close half at 2c through',
  'when time >= 09:30: buy 30 at ask + 3c\n stop 3%\n out by 09:34',
  'buy 1 of 45 days 30 delta call at ask\n target 20%',
  'attach\n trail 1%',
  'move stop to last - 3c',
  'flatten',
];
const act = fc.record({
  wait: fc.integer({ min: 0, max: 150_000 }),
  what: fc.integer({ min: 0, max: SENTENCES.length - 1 }),
  focus: fc.constantFrom('VULPN', 'ORBNT'),
  /** Before it: where time is cut, and whether the session is saved there and brought back; `midst`: within a millisecond. */
  cuts: fc.array(
    fc.record({ part: fc.double({ min: 0, max: 1, noNaN: true }), saved: fc.boolean(), midst: fc.boolean() }),
    {
      maxLength: 4,
    },
  ),
});

test('any cut of time, any save: the same state', () => {
  fc.assert(
    fc.property(fc.array(act, { minLength: 3, maxLength: 7 }), (acts) => {
      const straight = begun();
      let cut = begun();
      const log: LogEntry[] = [];
      let now = straight.market.now();
      for (const a of [...acts, { wait: 420_000, what: -1, focus: '', cuts: acts[0]?.cuts ?? [] }]) {
        const until = now + a.wait;
        advance(straight, until);
        for (const { part, saved, midst } of [...a.cuts].sort((x, y) => x.part - y.part)) {
          const to = Math.max(cut.market.now(), Math.round(now + part * (until - now)));
          log.push(...advance(cut, to, midst ? (entries) => entries.length > 0 : undefined));
          if (!saved) continue;
          const state = structuredClone(save(cut));
          // The log after the last whole state, as a store has it.
          cut = restore(state, simMarket(DAY, state.market), structuredClone(log), null);
        }
        log.push(...advance(cut, until));
        now = until;
        if (a.what < 0) continue;
        const input = { kind: 'run', text: SENTENCES[a.what] as string, focus: a.focus } as const;
        apply(straight, input);
        log.push(...apply(cut, input).entries);
      }
      expect(cut.state).toEqual(straight.state);
    }),
    { numRuns: process.env.FEW_RUNS ? 6 : 25 },
  );
});

test('a position that nobody takes by its time does not end the session, and comes back with it', () => {
  const e = begun();
  advance(e, at(9, 45));
  const log: LogEntry[] = [];
  const run = (text: string) => {
    const { entries, result } = apply(e, { kind: 'run', text, focus: 'VULPN' });
    log.push(...entries);
    return result;
  };
  // Far out of the money, so that makers bid nothing for it.
  const far = ['2027-03-12 9 call', '2027-03-12 8 call', '2027-03-12 10 call', '2027-03-05 8 call'].find(
    (x) => {
      const name = `VULPN ${x}`;
      return (
        e.market.unlisted(name) === null &&
        e.market.quote(name).bid === null &&
        e.market.quote(name).ask !== null
      );
    },
  );
  expect(far).toBeDefined();
  const saved = structuredClone(save(e));
  expect(run(`buy 1 of ${far} at ask\n target 50c\n out by 09:50`).problem).toBeNull();
  log.push(...advance(e, at(9, 55)));
  const told = log.flatMap((x) => x.events).filter((x) => x.kind === 'not out');
  expect(told.length).toBeLessThanOrEqual(1);
  expect(log.length).toBeLessThan(500);
  const back = restore(saved, simMarket(DAY, saved.market), log, at(9, 55));
  expect(back.aside).toBeUndefined();
  expect(everything(back.state.broker)).toEqual(everything(e.state.broker));
});

test('what fails while a session is brought back is put aside, and the rest goes on', () => {
  const e = begun();
  const saved = structuredClone(save(e));
  const log = [
    ...apply(e, { kind: 'run', text: 'alert at last + 3c', focus: 'VULPN' }).entries,
    ...apply(e, { kind: 'run', text: 'buy 100 at ask + 3c extended\n stop 30c', focus: 'VULPN' }).entries,
  ];
  const broken = structuredClone(log);
  const first = broken.find((x) => x.input?.kind === 'run');
  if (first) first.deeds = [{ kind: 'alert', asked: null as never, text: '' }];
  const back = restore(saved, simMarket(DAY, saved.market), broken, null);
  expect(back.aside).toHaveLength(1);
  expect(everything(back.state.broker).orders).toHaveLength(everything(e.state.broker).orders.length);
});

test('what a new session makes due is done at its time, also where time runs over the bound in one go', () => {
  const text =
    'buy 100 at bid - 5c working to ask + 5c within 30s at next open\n stop 3%\nbuy 100 of ORBNT at bid - 5c working to ask + 5c within 30s at next open\n stop 3%';
  const [whole, cut] = [begun(), begun()];
  for (const e of [whole, cut])
    expect(apply(e, { kind: 'run', text, focus: 'VULPN' }).result.problem).toBeNull();
  advance(whole, at(9, 30) + 5_000);
  for (let t = at(9, 29) as number; t <= at(9, 30) + 5_000; t += 50) advance(cut, t);
  expect(cut.state).toEqual(whole.state);
});

test('a session that the version before saved goes on: stops keep what they are, trades keep their R', () => {
  const e = begun();
  const pressed = apply(e, {
    kind: 'run',
    text: 'buy 200 at ask + 3c extended\n stop 30c extended',
    focus: 'VULPN',
  });
  expect(pressed.result.problem).toBeNull();
  const saved = structuredClone(save(e));
  const risk = (x: Engine) => everything(x.state.broker).trades.map((t) => t.risk);
  // As it lay in the store before.
  const old = saved.state as unknown as Record<string, unknown>;
  delete old.told;
  for (const h of Object.values(saved.state.broker.holdings)) {
    for (const t of h.trades) delete (t as unknown as Record<string, unknown>).lots;
    for (const o of h.orders)
      if (o.phase.k === 'working') delete (o.phase as unknown as Record<string, unknown>).at;
  }
  const before = saved.market as { register?: unknown };
  delete before.register;
  const now = fromBefore(saved);
  const back = restore(now, simMarket(DAY, now.market), [], null);
  expect(risk(back)).toEqual(risk(e));
  apply(back, { kind: 'run', text: 'move stop to last - 12c', focus: 'VULPN' });
  advance(back, at(9, 29));
  expect(everything(back.state.broker).trades[0]?.risk).toBe(risk(e)[0]);
  // What rested at the exchange then still finds its account.
  apply(back, { kind: 'run', text: 'flatten', focus: 'VULPN' });
  expect(liveOrders(back.state.broker)).toEqual([]);
});
