import { NO_COSTS, totalOf } from '../core/account/index.ts';
import { everything } from '../core/orders/index.ts';
import { reviewTrade } from '../core/review/index.ts';
import { at, DAY, MINUTE } from '../core/units/index.ts';
import type { DaySource } from './day-ref.ts';
import { advance, apply, createEngine } from './engine.ts';
import { aftermathsOf } from './left-alone.ts';
import type { AttemptInfo, LogEntry } from './log.ts';
import { runInput } from './scripts.ts';
import { simMarket } from './sim-market.ts';

const SOURCE: DaySource = { ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 60 }, own: null };
const ATTEMPT: AttemptInfo = { id: 3, day: SOURCE.ref, from: null, reached: DAY, net: 0, r: 0, trades: 0 };
const ENTRY =
  'buy 200 of VULPN at ask + 3c\n stop 30c\n target 45c for half\n target 90c\n breakeven after 30c';

/** Lives through a day by hand: sentences at times. */
function live(hands: readonly [time: number, text: string][], end = at(16, 1)) {
  const e = createEngine(simMarket(SOURCE));
  const log: LogEntry[] = [];
  for (const [time, text] of hands) {
    log.push(...advance(e, time));
    log.push(...apply(e, runInput(text, 'VULPN')).entries);
  }
  log.push(...advance(e, end));
  return {
    log,
    trades: everything(e.state.broker).trades.flatMap((t) => reviewTrade(t, []) ?? []),
    market: e.market,
  };
}

test('a plan left alone makes what a session makes in which the trader did nothing; the hand’s own impact is in it', () => {
  const nothing = live([[at(9, 33), ENTRY]]);
  for (const hand of [
    'flatten',
    'cancel symbol',
    'when last <= 5.70: close all at bid',
    'move stop to entry - 12c',
  ]) {
    const touched = live([
      [at(9, 33), ENTRY],
      [at(9, 34, 20), 'buy 100 of KELOD at ask + 5c\n stop 40c'],
      [at(9, 34, 30), hand],
      [at(9, 50), 'flatten of KELOD'],
      [at(10), 'flatten'],
    ]);
    const [mine] = aftermathsOf(SOURCE, ATTEMPT, touched.log, DAY);
    expect(mine).toMatchObject({ ref: 'a3.1', left: { at: at(9, 34, 30), by: hand.split('\n')[0] } });
    expect(mine?.left?.plan).toEqual({ net: nothing.trades[0]?.net, open: false });
    expect(mine?.net).toBe(touched.trades[0]?.net);
  }
});

test('who touches nothing is left alone; a day that has not come to its close gives nothing away', () => {
  const { log, trades } = live([[at(9, 33), ENTRY]]);
  const [mine] = aftermathsOf(SOURCE, ATTEMPT, log, DAY);
  expect(mine).toMatchObject({ left: null, net: trades[0]?.net });
  expect(aftermathsOf(SOURCE, ATTEMPT, log, at(15, 59))).toEqual([]);
});

test('what came after an exit: five and thirty minutes on, at the close, at best, against the candles of the day', () => {
  const { log, trades, market } = live([
    [at(9, 33), ENTRY],
    [at(9, 36), 'flatten'],
  ]);
  const [mine] = aftermathsOf(SOURCE, ATTEMPT, log, DAY);
  const exit = trades[0]?.averageExit as number;
  const prints = market.history('VULPN').filter((p) => p.at > at(9, 36) && p.at < at(16));
  const last = (until: number) => prints.filter((p) => p.at < until).at(-1)?.price as number;
  const near = (x: number | null | undefined, price: number) =>
    expect(Math.abs((x ?? 0) / 200 - (price - exit))).toBeLessThan(600);
  near(mine?.after?.five, last(at(9, 41) + MINUTE));
  near(mine?.after?.close, last(at(16)));
  near(mine?.after?.best, Math.max(...prints.map((p) => p.price)));
});

test('a session’s second day is told as its first is: by its own candles', () => {
  const e = createEngine(simMarket(SOURCE));
  const log: LogEntry[] = [];
  const run = (time: number, text: string) => {
    log.push(...advance(e, e.market.dayStart + time));
    log.push(...apply(e, runInput(text, 'VULPN')).entries);
  };
  run(at(15), 'buy 100 of VULPN at ask + 5c\n stop 30c');
  run(at(15, 10), 'flatten');
  log.push(...advance(e, at(20)));
  log.push(...apply(e, { kind: 'next day' }).entries);
  run(at(9, 33), 'buy 200 of VULPN at ask + 5c\n stop 30c');
  run(at(9, 36), 'flatten');
  log.push(...advance(e, e.market.dayStart + at(16)));
  const [first, mine, ...more] = aftermathsOf(SOURCE, ATTEMPT, log, 2 * DAY);
  expect(more).toEqual([]);
  expect(first).toMatchObject({ ref: 'a3.1', left: { plan: { net: expect.any(Number) } } });
  expect(first?.after?.five).not.toBeNull();
  const trade = everything(e.state.broker).trades.find((t) => t.id === 2);
  const exit = (trade?.exitNotional ?? 0) / 200;
  const last =
    e.market
      .history('VULPN')
      .filter((p) => p.at < e.market.dayStart + at(16))
      .at(-1)?.price ?? 0;
  expect(mine?.left?.plan).not.toBeNull();
  expect(Math.abs((mine?.after?.close ?? Number.NaN) / 200 - (last - exit))).toBeLessThan(600);
  expect(mine?.after?.five).not.toBeNull();
});

test('an option that its plan still holds at the close is worth what closing it would bring, not what its underlying costs', () => {
  const BUY = 'buy 1 of VULPN 2027-04-16 6 call at ask + 10c';
  const held = live([[at(9, 40), BUY]], at(16));
  const touched = live([
    [at(9, 40), BUY],
    [at(9, 45), 'close all of VULPN 2027-04-16 6 call at bid - 10c'],
  ]);
  const [mine] = aftermathsOf(SOURCE, ATTEMPT, touched.log, DAY);
  const name = touched.trades[0]?.symbol as string;
  const bid = held.market.quote(name).bid ?? held.market.worth(name) ?? 0;
  const [trade] = held.trades;
  expect(mine?.left?.plan?.open).toBe(true);
  // Within a step of the option's prices, at the close.
  const worth = (bid - (trade?.averageEntry ?? 0)) * 100 - totalOf(trade?.costs ?? NO_COSTS);
  expect(Math.abs((mine?.left?.plan?.net ?? 0) - worth)).toBeLessThanOrEqual(2_000 * 100);
});
