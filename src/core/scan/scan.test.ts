import fc from 'fast-check';
import { createTape, type Instrument, record } from '../market/index.ts';
import { parseRule, type ScanRule } from '../script/index.ts';
import { at, fromDollars } from '../units/index.ts';
import { clauseCounts, columnOf, passes, rank, rowOf, SCAN_FIELDS, type ScanRow, usualShareBy } from './index.ts';

const instrument: Instrument = {
  symbol: 'VULP',
  name: 'Vulpine Robotics',
  sector: 'Machinery',
  kind: 'stock',
  priorOpen: fromDollars(4.05),
  priorHigh: fromDollars(4.26),
  priorLow: fromDollars(3.97),
  priorClose: fromDollars(4),
  float: 10_000_000,
  averageVolume: 1_000_000,
  atr: fromDollars(0.3),
};

// Each field by hand: prior close 4.00; 2,000 shares at 5.00, then 3,000 at 6.00, last 5.40 × 5,000; bid 5.38, ask 5.41.
test('every field is what a trader would work out by hand', () => {
  const tape = createTape('VULP');
  const trade = (when: number, dollars: number, qty: number) => record(tape, { at: when, symbol: 'VULP', price: fromDollars(dollars), qty, aggressor: 'buy' });
  trade(at(8), 5, 2_000);
  trade(at(8, 30), 6, 3_000);
  trade(at(9), 5.4, 5_000);
  const now = at(9, 10);
  const row = rowOf({ instrument, tape, quote: { bid: fromDollars(5.38), ask: fromDollars(5.41), bidSize: 1, askSize: 1 }, now, newsAt: at(7, 2) });
  const value = (name: string) => row.values[columnOf(name)] ?? Number.NaN;
  const byHand: Record<string, number> = {
    price: 5.4,
    gap: 35,
    change: 35,
    'premarket volume': 10_000,
    volume: 10_000,
    'dollar volume': 10_000 + 18_000 + 27_000,
    'relative volume': 10_000 / (1_000_000 * 0.06 * (310 / 330) ** 2),
    float: 10_000_000,
    'float turnover': 0.001,
    spread: 3,
    'from premarket high': -10,
    'from vwap': (5.4 / 5.5 - 1) * 100,
    'news age': 128,
  };
  expect(Object.keys(byHand).sort()).toEqual(SCAN_FIELDS.map((f) => f.name).sort());
  for (const [name, expected] of Object.entries(byHand)) expect([name, value(name)]).toEqual([name, expect.closeTo(expected, 6)]);

  trade(at(9, 30), 5.2, 100);
  trade(at(9, 31), 5.8, 100);
  const later = rowOf({ instrument, tape, quote: { bid: null, ask: null, bidSize: 0, askSize: 0 }, now: at(9, 31), newsAt: null });
  expect(later.values[columnOf('gap')]).toBeCloseTo(30, 6);
  expect(later.values[columnOf('change')]).toBeCloseTo(45, 6);
  expect([later.values[columnOf('spread')], later.values[columnOf('news age')]]).toEqual([null, null]);
});

test('the usual share of a day’s volume never falls and ends at all of it', () => {
  let before = 0;
  for (let t = at(4) as number; t <= at(20); t += 60_000) {
    const share = usualShareBy(t);
    expect(share).toBeGreaterThanOrEqual(before);
    before = share;
  }
  expect(before).toBeCloseTo(1, 6);
  expect(usualShareBy(at(9, 30))).toBeCloseTo(0.06, 6);
});

const fieldName = fc.constantFrom(...SCAN_FIELDS.map((f) => f.name));
const number = fc.integer({ min: -50, max: 50 });
const leaf: fc.Arbitrary<ScanRule> = fc.oneof(
  fc.record({
    kind: fc.constant('compare' as const),
    field: fieldName,
    op: fc.constantFrom('>' as const, '>=' as const, '<' as const, '<=' as const),
    to: number.map((value) => ({ value, unit: null })),
    span: fc.constant({ from: 0, to: 0 }),
  }),
  fc.tuple(fieldName, number, number).map(
    ([field, a, b]): ScanRule => ({
      kind: 'between',
      field,
      low: { value: Math.min(a, b), unit: null },
      high: { value: Math.max(a, b), unit: null },
      span: { from: 0, to: 0 },
    }),
  ),
);
const rule: fc.Arbitrary<ScanRule> = fc.letrec<{ rule: ScanRule }>((tie) => ({
  rule: fc.oneof(
    { maxDepth: 4 },
    leaf,
    fc.record({ kind: fc.constantFrom('and' as const, 'or' as const), left: tie('rule'), right: tie('rule') }),
    fc.record({ kind: fc.constant('not' as const), rule: tie('rule') }),
  ),
})).rule;
const row: fc.Arbitrary<ScanRow> = fc.record({
  symbol: fc.string({ minLength: 1, maxLength: 4 }),
  values: fc.array(fc.option(number), { minLength: SCAN_FIELDS.length, maxLength: SCAN_FIELDS.length }),
});

/** The oracle: a rule as a JavaScript expression over the row, built as text by another route. */
function naive(r: ScanRule, of: ScanRow): boolean {
  const v = (name: string) => of.values[SCAN_FIELDS.findIndex((f) => f.name === name)] ?? Number.NaN;
  switch (r.kind) {
    case 'and':
      return [r.left, r.right].every((x) => naive(x, of));
    case 'or':
      return [r.left, r.right].some((x) => naive(x, of));
    case 'not':
      return !naive(r.rule, of);
    case 'between':
      return v(r.field) >= r.low.value && v(r.field) <= r.high.value;
    case 'compare':
      return { '>': v(r.field) > r.to.value, '>=': v(r.field) >= r.to.value, '<': v(r.field) < r.to.value, '<=': v(r.field) <= r.to.value }[r.op];
  }
}

test('rules pass what a plain reading passes, and the ranking is ordered and loses nobody', () => {
  fc.assert(
    fc.property(rule, fc.array(row, { maxLength: 30 }), fieldName, (r, rows, by) => {
      for (const of of rows) expect(passes(r, of)).toBe(naive(r, of));
      const ranked = rank(rows, r, by);
      expect(ranked.length).toBe(rows.filter((of) => naive(r, of)).length);
      const order = ranked.map((x) => x.values[columnOf(by)] ?? Number.NEGATIVE_INFINITY);
      expect(order).toEqual([...order].sort((a, b) => b - a));
    }),
    { numRuns: 300 },
  );
});

test('each clause is counted by itself, so that the tightest one shows', () => {
  const text = 'gap > 10% and price between 2 and 20';
  const parsed = parseRule(text, SCAN_FIELDS);
  if (!parsed.ok) throw new Error('the rule should read');
  const blank = SCAN_FIELDS.map(() => null as number | null);
  const make = (symbol: string, gap: number, p: number): ScanRow => ({
    symbol,
    values: blank.map((_, i) => (i === columnOf('gap') ? gap : i === columnOf('price') ? p : null)),
  });
  const counts = clauseCounts([make('A', 20, 5), make('B', 20, 50), make('C', 15, 1), make('D', 2, 5)], parsed.rule);
  expect(counts.map((c) => [text.slice(c.span.from, c.span.to), c.passing])).toEqual([
    ['gap > 10%', 3],
    ['price between 2 and 20', 2],
  ]);
});
