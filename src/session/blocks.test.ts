import { oneLine } from '../core/language/index.ts';
import { everything, holdingOf, isLive, openTrade, positionOf } from '../core/orders/index.ts';
import { at } from '../core/units/index.ts';
import type { DaySource } from './day-ref.ts';
import { advance, apply, createEngine, type Engine } from './engine.ts';
import { fromBefore, logFromBefore } from './from-before.ts';
import type { LogEntry } from './log.ts';
import { peek } from './peek.ts';
import { restore, save } from './saving.ts';
import { simMarket } from './sim-market.ts';

const DAY: DaySource = { ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 24 }, own: null };
const opened = createEngine(simMarket(DAY));
advance(opened, at(9, 35));
const kept = structuredClone(save(opened));
const begun = (): Engine => {
  const saved = structuredClone(kept);
  return restore(saved, simMarket(DAY, saved.market), [], null);
};
const run = (e: Engine, text: string) => {
  const yes = peek(e, text, 'VULPN').lines.flatMap((l) => l.asks);
  const { entries, result } = apply(e, {
    kind: 'run',
    text,
    focus: 'VULPN',
    ...(yes.length > 0 ? { yes } : {}),
  });
  expect([text, result.problem]).toEqual([text, null]);
  return entries;
};
const held = (e: Engine) => {
  const trade = openTrade(holdingOf(e.state.broker, e.state.desk.account, 'VULPN'));
  return trade ? trade.sign * positionOf(trade) : 0;
};
const working = (e: Engine) =>
  everything(e.state.broker)
    .orders.filter(isLive)
    .map((o) => o.role)
    .sort();

test('nothing of a block is done before its condition fires, then all of it, one after another', () => {
  const e = begun();
  run(e, 'buy 200 at 5c through\n  stop 40c');
  run(e, 'buy 100 at bid - 50c');
  run(e, 'when time >= 09:50:\n  cancel everything and exits\n  flatten\n  note "out"');
  const line = peek(e, 'when time >= 09:51:\n  cancel entries\n  flatten', 'VULPN').lines[0];
  expect(line?.sayBack).toBe('when time >= 09:51:\n  cancel entries of VULPN\n  flatten of VULPN');
  advance(e, at(9, 50) - 1);
  expect([held(e), working(e), e.state.desk.notes.length]).toEqual([200, ['entry', 'stop'], 0]);
  advance(e, at(9, 50));
  expect([held(e), working(e), e.state.desk.notes.length]).toEqual([0, [], 1]);
  expect(e.state.desk.waited).toMatchObject([{ how: 'fired', symbol: 'VULPN' }]);
  expect(e.state.desk.waited[0]?.came.split('; ')).toHaveLength(3);
});

test('exits under an order that waits are its own; the next action at their depth is the next of the block', () => {
  const e = begun();
  run(e, 'when time >= 09:40: buy 200 at 5c through\n  stop 40c\n  target 3R\n  alert at last + 5c');
  advance(e, at(9, 41));
  expect([held(e), working(e)]).toEqual([200, ['stop', 'target']]);
  expect(e.state.alerts.list).toHaveLength(1);
});

test('after a line that is refused no entry goes any more; cancels, moved stops and closes still do, and all of it is told', () => {
  const e = begun();
  run(e, 'buy 200 at 5c through\n  stop 40c\n  target 5R');
  run(
    e,
    'when time >= 09:36:\n  short 100 of ORBNT at 5c through\n  buy 100 at 5c through\n  cancel targets\n  move stop by 1c\n  close half',
  );
  const stop = () => everything(e.state.broker).orders.find((o) => o.role === 'stop' && isLive(o))?.stop;
  const before = stop() as number;
  advance(e, at(9, 37));
  expect([held(e), working(e)]).toEqual([100, ['stop']]);
  expect(stop()).toBe(before + 100);
  const [w] = e.state.desk.waited;
  expect(w?.how).toBe('fired');
  expect(w?.came).toMatch(
    /“short 100 of ORBNT.*hard to borrow.*“buy 100 of VULPN .*was not sent.*Done: cancel targets/,
  );
  // Told on one line, in which no comma stands for a line of its own.
  expect(e.state.alerts.fired.at(-1)?.text).toMatch(/09:36: short 100 .* · buy 100 .* went in part/);
  expect(oneLine('when last > 5: buy 100 at ask\n  stop 30c\n  flatten')).toBe(
    'when last > 5: buy 100 at ask, stop 30c · flatten',
  );
});

test('cancelled entries leave the rest of a block waiting; of several symbols only that one’s part goes', () => {
  const e = begun();
  run(e, 'buy 200 at 5c through\n  stop 40c');
  run(e, 'when time >= 09:50:\n  flatten\n  buy 100 of ORBNT at 5c through\n    stop 20c');
  run(e, 'cancel entries');
  expect(e.state.desk.waiting[0]?.sentence.actions.map((a) => a.kind)).toEqual(['flatten', 'enter']);
  run(e, 'cancel entries of ORBNT');
  expect(e.state.desk.waiting[0]?.sentence.actions.map((a) => a.kind)).toEqual(['flatten']);
  advance(e, at(9, 50));
  expect([held(e), e.state.broker.holdings['main ORBNT']?.trades ?? []]).toEqual([0, []]);
});

test('what a block would ask is asked when it is set; what could never go is refused then', () => {
  const e = begun();
  run(e, 'buy 200 at 5c through\n  stop 40c');
  const text = 'when time >= 09:50:\n  note "late"\n  cancel exits';
  expect(peek(e, text, 'VULPN').lines[0]?.asks).toMatchObject([{ kind: 'bares', shares: 200 }]);
  const never = 'when time >= 09:50:\n  flatten\n  buy 100 with plan "nowhere" at ask';
  expect(apply(e, { kind: 'run', text: never, focus: 'VULPN' }).result.ok).toBe(false);
  expect(e.state.desk.waiting).toEqual([]);
});

test('several orders go once another is filled, each for what has filled', () => {
  const e = begun();
  run(e, 'buy 200 at 5c through\n  once filled:\n    close half at bid + 60c\n    close half at bid + 80c');
  expect([held(e), working(e)]).toEqual([200, ['close', 'close']]);
});

/** As it was kept when a condition did one thing, and one order went once another was filled. */
function asBefore<T>(x: T): T {
  if (Array.isArray(x)) return x.map(asBefore) as T;
  if (typeof x !== 'object' || x === null) return x;
  const out = Object.fromEntries(Object.entries(x).map(([key, v]) => [key, asBefore(v)]));
  for (const [now, then] of [
    ['actions', 'action'],
    ['orders', 'order'],
  ] as const) {
    const list = out[now];
    if (!Array.isArray(list) || list.length !== 1) continue;
    delete out[now];
    out[then] = list[0];
  }
  return out as T;
}

test('a session with blocks comes back from its log; one of a version without them as well', () => {
  const e = begun();
  const log: LogEntry[] = [
    ...run(e, 'buy 200 at 5c through\n  stop 40c'),
    ...run(e, 'when time >= 09:40:\n  buy 100 at 5c through\n    stop 30c\n  close half'),
    ...run(e, 'when time >= 09:42: flatten'),
    ...run(e, 'buy 100 at bid - 30c\n  once filled: close all at bid + 5c'),
  ];
  const saved = structuredClone(save(e));
  const old = {
    log: structuredClone(log),
    saved: { ...saved, state: { ...saved.state, desk: asBefore(saved.state.desk) } },
  };
  old.log = old.log.map((x) => (x.deeds ? { ...x, deeds: asBefore(x.deeds) } : x));
  expect(JSON.stringify(old.log)).toContain('"action":{"kind":"flatten"');
  log.push(...advance(e, at(9, 45)));
  for (const { entries, from } of [
    { entries: log, from: structuredClone(kept) },
    { entries: logFromBefore(old.log), from: structuredClone(kept) },
    { entries: [], from: fromBefore(old.saved) },
  ]) {
    const again = restore(from, simMarket(DAY, from.market), entries, at(9, 45));
    expect(again.aside).toBeUndefined();
    expect([again.state.broker, again.state.desk]).toEqual([e.state.broker, e.state.desk]);
  }
});
