import fc from 'fast-check';
import { sampleStock } from '../../../tests/sample.ts';
import { contextOf, createBoard, createTape, factsOf, record, roundPrice, sightOf } from '../market/index.ts';
import { at, fromDollars, type Price } from '../units/index.ts';
import { LEVELS, priceNamed } from './index.ts';

const tape = createTape('VULPN');
const trade = (when: number, dollars: number) =>
  record(tape, {
    at: when,
    symbol: 'VULPN',
    price: fromDollars(dollars),
    qty: 100,
    aggressor: 'buy',
    venue: 'LIT',
    condition: 'regular',
  });
const quote = { bid: null, ask: null, bidSize: 0, askSize: 0 };
const level = (name: string, now: number) =>
  priceNamed(
    LEVELS.find((l) => l.text === name)?.tree ?? { kind: 'cursor' },
    sightOf({
      tape,
      instrument: sampleStock(),
      quote,
      status: 'trading',
      restricted: false,
      now,
      daily: () => [],
    }),
  );

// By hand: 08:10 at 5.00, 08:50 at 5.20 and 5.40 (the candle 08:45–09:00), 09:20 at 5.10 (forming at 09:25), 09:31 at 5.30,
// 09:33 at 5.60, 09:36 at 5.90.
test('levels are what a trader would draw by hand, each from its own time on', () => {
  trade(at(8, 10), 5);
  trade(at(8, 50), 5.2);
  trade(at(8, 51), 5.4);
  trade(at(9, 20), 5.1);
  const at925 = (name: string) => level(name, at(9, 25));
  expect([at925('premarket high'), at925('premarket low')]).toEqual([fromDollars(5.4), fromDollars(5)]);
  expect([at925('premarket 15m high'), at925('premarket 15m low')]).toEqual([
    fromDollars(5.4),
    fromDollars(5.2),
  ]);
  expect([at925('opening range 5m high'), at925('day open')]).toEqual([null, null]);
  expect([
    at925('half dollar above'),
    at925('whole dollar above'),
    at925('half dollar below'),
    at925('whole dollar below'),
  ]).toEqual([5.5, 6, 5, 5].map(fromDollars));
  trade(at(9, 31), 5.3);
  trade(at(9, 33), 5.6);
  trade(at(9, 36), 5.9);
  expect(level('opening range 5m high', at(9, 34))).toBeNull();
  const later = (name: string) => level(name, at(9, 36, 30));
  expect([
    later('opening range 5m high'),
    later('opening range 5m low'),
    later('day open'),
    later('day high'),
  ]).toEqual([5.6, 5.3, 5.3, 5.9].map(fromDollars));
  // The candle before the open is now the one from 09:15, and stays it.
  expect([later('premarket 15m high'), later('premarket 15m low'), later('premarket high')]).toEqual(
    [5.1, 5.1, 5.4].map(fromDollars),
  );
  expect(later('vwap')).toBeCloseTo(10_000 * ((5 + 5.2 + 5.4 + 5.1 + 5.3 + 5.6 + 5.9) / 7), 6);
});

test('the next round price lies beyond the price, less than a step away', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 5_000_000 }),
      fc.constantFrom(1 as const, 0.5 as const),
      (p, step) => {
        const above = roundPrice(p, step, 'above') as number;
        const below = roundPrice(p, step, 'below');
        expect(above % (step * 10_000)).toBe(0);
        expect(above - p > 0 && above - p <= step * 10_000).toBe(true);
        if (below === null) expect(p).toBeLessThanOrEqual(step * 10_000);
        else expect(p - below > 0 && p - below <= step * 10_000 && below % (step * 10_000) === 0).toBe(true);
      },
    ),
  );
});

test('the market’s context: index, breadth, sectors by their median, who stands above VWAP', () => {
  const board = createBoard(6);
  // Prior close 4.00 of all; the last one is the index, the one before has not traded.
  [4.4, 4.2, 3.6, 4, 0, 4.04].forEach((d, i) => {
    board.last[i] = fromDollars(d);
    board.volume[i] = d === 0 ? 0 : 100;
    board.turnover[i] = (i === 2 ? 3.5 : d === 4.2 ? 4.3 : d) * 100 * 10_000;
  });
  const sectors = ['Chips', 'Chips', 'Chips', 'Media', 'Media', 'Index'];
  const facts = factsOf(
    sectors.map((sector, i) => sampleStock({ symbol: `S${i}`, sector, priorClose: 40_000 as Price })),
  );
  const c = contextOf(
    { board, facts, now: at(9), newsAt: new Float64Array(6), newsKind: new Uint8Array(6) },
    Int32Array.of(0, 1, 2, 3, 4),
    5,
  );
  expect(c.index).toBeCloseTo(1, 9);
  expect([c.up, c.down, c.unchanged]).toEqual([2, 1, 1]);
  expect(c.sectors.map((s) => [s.sector, Math.round(s.change * 1e6) / 1e6, s.stocks])).toEqual([
    ['Chips', 5, 3],
    ['Media', 0, 1],
  ]);
  expect(c.aboveVwap).toBeCloseTo(25, 9);
});
