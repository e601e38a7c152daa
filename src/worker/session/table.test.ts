import fc from 'fast-check';
import { FIELDS } from '../../core/market/index.ts';
import { PRESETS } from '../../core/scan/index.ts';
import { at } from '../../core/units/index.ts';
import type { DaySource } from '../../session/day-ref.ts';
import { simMarket } from '../../session/sim-market.ts';
import type { TableAsked } from './slices.ts';
import { readTable, sparkOf, tableSlice, valuesOf } from './table.ts';

const day: DaySource = { ref: { kind: 'practice', id: 'fresh-headlines', seed: 7 }, own: null };
const market = simMarket(day);
const runTo = (when: number) => {
  while (market.next(when) !== null);
};
const slice = (asked: TableAsked) => tableSlice(market, readTable(asked), null);
const scanOf = (
  { rule, ranking, from, to, limit }: (typeof PRESETS)[number],
  over: Partial<TableAsked> = {},
): TableAsked => ({
  source: { kind: 'scan', rule, ranking, from, to, limit, hidden: [] },
  columns: ['price'],
  sort: null,
  ...over,
});

test('in its hours each scan that comes with the app finds somebody on the first practice day, and not half the market', () => {
  for (const when of [at(9, 10), at(10)]) {
    runTo(when);
    const counts = PRESETS.map((p) => {
      const s = slice(scanOf(p));
      return { name: p.name, passing: s.passing, closed: s.closed, whole: s.total };
    });
    expect(counts.filter((c) => !c.closed && (c.passing < 1 || c.passing > c.whole / 20))).toEqual([]);
    expect(counts.filter((c) => c.closed).length).toBeLessThanOrEqual(1);
  }
});

test('columns, values of one symbol and its line of prices tell the same', () => {
  const s = slice(scanOf(PRESETS[0] as (typeof PRESETS)[number]));
  s.who.forEach((i, k) => {
    const price = s.columns[0]?.[k] as number;
    expect(valuesOf(market, i)[0]).toBe(price);
    const line = sparkOf(market, i);
    expect((line[line.length - 1] as number) / 10_000).toBe(price);
    expect(Math.min(...line)).toBeGreaterThan(0);
  });
  expect(s.who.length).toBeGreaterThan(3);
});

test('sorted by any column, either way: the same symbols, in the order of what they show, unknown ones last', () => {
  const scan = PRESETS[0] as (typeof PRESETS)[number];
  const all = slice({
    ...scanOf(scan),
    source: {
      kind: 'scan',
      rule: 'volume > 200k',
      ranking: scan.ranking,
      from: 240,
      to: 1200,
      limit: 300,
      hidden: [],
    },
  });
  fc.assert(
    fc.property(
      fc.constantFrom(...FIELDS.map((f) => f.name)),
      fc.boolean(),
      fc.integer({ min: 1, max: 300 }),
      (field, down, limit) => {
        const source = {
          kind: 'scan' as const,
          rule: 'volume > 200k',
          ranking: scan.ranking,
          from: 240,
          to: 1200,
          limit,
          hidden: [],
        };
        const s = slice({ source, columns: [field, 'price'], sort: { field, down } });
        expect([...s.who].sort((a, b) => a - b)).toEqual([...all.who.slice(0, limit)].sort((a, b) => a - b));
        const values = [...(s.columns[0] ?? [])];
        const key = (v: number) => (Number.isNaN(v) ? Number.NEGATIVE_INFINITY : down ? v : -v);
        expect(values.map(key)).toEqual([...values].map(key).sort((a, b) => b - a));
      },
    ),
    { numRuns: 60 },
  );
});

test('a name that is no field is a mistake of ours, and said as one', () => {
  expect(() => readTable(scanOf(PRESETS[0] as (typeof PRESETS)[number], { columns: ['no such'] }))).toThrow(
    'no field “no such”',
  );
});
