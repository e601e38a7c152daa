import fc from 'fast-check';
import { AFTER_CLOSE, DAY, PRE_OPEN } from '../units/index.ts';
import {
  type Carry,
  carryOf,
  catchUp,
  createMarket,
  frameOf,
  type Market,
  practiceDay,
  practiceSymbols,
  sharpen,
  standStill,
  stepMarket,
} from './index.ts';

const SIZE = 110;
const ID = 'fresh-headlines';

function run(m: Market, until: number): Market {
  while (stepMarket(m, m.dayStart + until) >= 0);
  return m;
}

const moments = fc.integer({ min: PRE_OPEN, max: AFTER_CLOSE });
const days = fc.record({ seed: fc.integer({ min: 1, max: 10 ** 6 }), from: moments, to: moments });

test('a day that nobody looked at ends where it ends; what is asked of it later is what a full run comes to', () => {
  fc.assert(
    fc.property(days, ({ seed, from }) => {
      const scenario = practiceDay(ID, seed, 0, null, SIZE);
      const whole = carryOf(run(createMarket(scenario), AFTER_CLOSE));
      const m = run(createMarket(scenario), from);
      standStill(m);
      const coarse = carryOf(run(m, AFTER_CLOSE));
      expect(coarse.closes).toEqual(whole.closes);
      expect(coarse.stood).toEqual(whole.stood);
      expect(coarse.busy).toEqual(whole.busy);
      expect(coarse.coarse.filter((x) => x === 1).length).toBeGreaterThan(SIZE / 3);
      coarse.highs.forEach((high, i) => {
        const within = [coarse.opens[i], coarse.closes[i], coarse.lows[i]] as number[];
        expect(Math.max(...within)).toBeLessThanOrEqual(high);
        expect(Math.min(...within)).toBe(coarse.lows[i]);
      });
      // The day after: the same to the last print, whether the day before was run or not.
      const after = (c: Carry) => run(createMarket(practiceDay(ID, seed, 1, c, SIZE), 1), AFTER_CLOSE).board;
      const [a, b] = [after(whole), after(coarse)];
      expect([a.last, a.volume, a.high, a.low]).toEqual([b.last, b.volume, b.high, b.low]);
      // Asked of every symbol, also of those that were run, so that falls and halts are among them.
      for (let i = 0; i < SIZE; i++)
        sharpen(coarse, i, practiceSymbols({ id: ID, seed, size: SIZE }, 0, null, [i]), frameOf(scenario));
      expect(coarse).toEqual(whole);
    }),
    { numRuns: 2 },
  );
});

test('symbols that stood still are brought on to where they would be, in any pieces', () => {
  fc.assert(
    fc.property(days, fc.integer({ min: 1, max: SIZE }), ({ seed, from, to }, piece) => {
      const scenario = practiceDay(ID, seed, 0, null, SIZE);
      const whole = run(createMarket(scenario), to);
      const m = run(createMarket(scenario), Math.min(from, to));
      standStill(m);
      run(m, to);
      for (let i = 0; i < SIZE; i += piece) catchUp(m, i, piece);
      const seen = (m: Market) => ({ now: m.now, stops: m.stops, board: m.board });
      const order = [...whole.stops].sort((a, b) => a.at - b.at || a.i - b.i);
      expect(seen(m)).toEqual({ ...seen(whole), stops: order });
      expect(run(m, AFTER_CLOSE).board).toEqual(run(whole, AFTER_CLOSE).board);
    }),
    { numRuns: 3 },
  );
});

test('what is drawn of days that were not run looks like those that were: as wide, and as busy', () => {
  const scenario = practiceDay(ID, 41, 0, null, 700);
  const whole = carryOf(run(createMarket(scenario), AFTER_CLOSE));
  const m = createMarket(scenario);
  standStill(m);
  const drawn = carryOf(run(m, DAY));
  const mean = (of: (c: Carry, i: number) => number) => {
    const who = [...drawn.coarse.keys()].filter((i) => drawn.coarse[i] === 1);
    return who.reduce((sum, i) => sum + of(drawn, i), 0) / who.reduce((sum, i) => sum + of(whole, i), 0);
  };
  const near = (x: number, by: number) => expect(Math.abs(x - 1)).toBeLessThan(by);
  near(
    mean((c, i) => (c.highs[i] as number) / (c.lows[i] as number) - 1),
    0.12,
  );
  near(
    mean((c, i) => (c.highs[i] as number) / (c.closes[i] as number)),
    0.01,
  );
  near(
    mean((c, i) => (c.volumes[i] as number) / (scenario.symbols[i]?.instrument.averageVolume ?? 1)),
    0.2,
  );
});
