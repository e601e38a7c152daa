import fc from 'fast-check';
import { at, MINUTE, PRE_OPEN, price, REGULAR_OPEN } from '../units/index.ts';
import { barsOf, createTape, lastFinishedBar, minuteOf, type Print, record, vwapOf } from './index.ts';

/** Prints in order of time, from 04:00 on, some minutes left empty. */
const prints = fc
  .array(
    fc.record({
      gap: fc.integer({ min: 0, max: 150_000 }),
      cents: fc.integer({ min: 500, max: 900 }),
      qty: fc.integer({ min: 1, max: 5_000 }),
    }),
    {
      minLength: 1,
      maxLength: 250,
    },
  )
  .map((list) => {
    let now = PRE_OPEN as number;
    return list.map(({ gap, cents, qty }): Print => {
      now += gap;
      return {
        at: now,
        symbol: 'VULPN',
        price: price(cents * 100),
        qty,
        aggressor: 'buy',
        venue: 'LIT',
        condition: 'regular',
      };
    });
  });

const tapeOf = (list: readonly Print[]) => {
  const tape = createTape('VULPN');
  for (const p of list) record(tape, p);
  return tape;
};

/** The oracle: candles straight from the prints. */
function candlesFrom(list: readonly Print[], minutes: number) {
  const groups = new Map<number, Print[]>();
  for (const p of list) {
    const start = PRE_OPEN + Math.floor((p.at - PRE_OPEN) / (minutes * MINUTE)) * minutes * MINUTE;
    groups.set(start, [...(groups.get(start) ?? []), p]);
  }
  return [...groups].map(([start, of]) => ({
    start,
    open: of[0]?.price,
    high: Math.max(...of.map((p) => p.price)),
    low: Math.min(...of.map((p) => p.price)),
    close: of[of.length - 1]?.price,
    volume: of.reduce((a, p) => a + p.qty, 0),
    turnover: of.reduce((a, p) => a + p.qty * p.price, 0),
  }));
}

test('candles of any width are what the prints themselves give', () => {
  fc.assert(
    fc.property(prints, fc.constantFrom(1, 2, 5, 15), (list, minutes) => {
      expect(barsOf(tapeOf(list), minutes)).toEqual(candlesFrom(list, minutes));
    }),
  );
});

test('the last finished candle is the newest one whose interval is over and that traded', () => {
  fc.assert(
    fc.property(
      prints,
      fc.constantFrom(1, 5, 15),
      fc.integer({ min: 0, max: 3_600_000 }),
      (list, minutes, later) => {
        const now = (list[list.length - 1]?.at ?? 0) + later;
        const over = candlesFrom(list, minutes).filter(
          (c) =>
            c.start + minutes * MINUTE <=
            PRE_OPEN + Math.floor((now - PRE_OPEN) / (minutes * MINUTE)) * minutes * MINUTE,
        );
        expect(lastFinishedBar(tapeOf(list), minutes, now)).toEqual(over[over.length - 1] ?? null);
      },
    ),
  );
});

test('volume, VWAP and the day’s and pre-market’s extremes add up', () => {
  fc.assert(
    fc.property(prints, (list) => {
      const tape = tapeOf(list);
      const early = list.filter((p) => p.at < REGULAR_OPEN);
      const turnover = list.reduce((a, p) => a + p.price * p.qty, 0);
      const volume = list.reduce((a, p) => a + p.qty, 0);
      expect(vwapOf(tape)).toBeCloseTo(turnover / volume, 6);
      expect([tape.high, tape.low]).toEqual([
        Math.max(...list.map((p) => p.price)),
        Math.min(...list.map((p) => p.price)),
      ]);
      expect(tape.premarketVolume).toBe(early.reduce((a, p) => a + p.qty, 0));
      expect(tape.premarketHigh).toBe(early.length ? Math.max(...early.map((p) => p.price)) : null);
      expect(tape.open).toBe(list.find((p) => p.at >= REGULAR_OPEN && p.at < at(16))?.price ?? null);
      expect(tape.recent[tape.recent.length - 1]).toEqual(list[list.length - 1]);
    }),
  );
});

test('a print outside 04:00–20:00 is a bug and is said to be one', () => {
  const tape = createTape('VULPN');
  expect(() =>
    record(tape, {
      at: at(3, 59),
      symbol: 'VULPN',
      price: price(10_000),
      qty: 1,
      aggressor: 'buy',
      venue: 'LIT',
      condition: 'regular',
    }),
  ).toThrow('outside the day');
  expect(minuteOf(at(9, 30))).toBe(330);
});
