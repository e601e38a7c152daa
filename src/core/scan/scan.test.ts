import fc from 'fast-check';
import { sampleStock } from '../../../tests/sample.ts';
import { type Board, boardTrade, createBoard } from '../market/index.ts';
import { parseRule, type ScanRule } from '../script/index.ts';
import { at, FULL_DAY, fromDollars } from '../units/index.ts';
import { clauseCounts, columnOf, passing, rank, rowOf, SCAN_FIELDS, type ScanInput } from './index.ts';

const trade = (b: Board, when: number, dollars: number, qty: number) => boardTrade(b, 0, when, fromDollars(dollars), qty, FULL_DAY.close);

// By hand: prior close 4.00, prior high 4.26, low 3.97, ATR 0.30, float 10M, 13M shares; 2,000 at 5.00 (08:00), 3,000 at 6.00
// (08:30), 4,900 at 5.50 (09:04:30), 100 at 5.40 (09:09:10); bid 5.38, ask 5.42; 52-week volatility 0.5 to 1.3, now 0.9.
test('every field is what a trader would work out by hand', () => {
  const board = createBoard(1);
  trade(board, at(8), 5, 2_000);
  trade(board, at(8, 30), 6, 3_000);
  trade(board, at(9, 4, 30), 5.5, 4_900);
  trade(board, at(9, 9, 10), 5.4, 100);
  board.bid[0] = fromDollars(5.38);
  board.ask[0] = fromDollars(5.42);
  const m: ScanInput = { board, instruments: [sampleStock()], now: at(9, 10), newsAt: Float64Array.of(at(7, 2)) };
  const value = (of: ScanInput, name: string) => rowOf(of, 0).values[columnOf(name)] ?? Number.NaN;
  const turnover = 10_000 + 18_000 + 26_950 + 540;
  const vwap = turnover / 10_000;
  const byHand: Record<string, number> = {
    price: 5.4,
    gap: 35,
    change: 35,
    'premarket volume': 10_000,
    'premarket dollar volume': turnover,
    volume: 10_000,
    'dollar volume': turnover,
    'relative volume': 10_000 / (1_000_000 * 0.06 * (310 / 330) ** 2),
    float: 10_000_000,
    'float turnover': 0.001,
    'market cap': 5.4 * 13e6,
    spread: 4,
    'spread bp': (0.04 / 5.4) * 10_000,
    'prints a minute': 1,
    'speed 1m': 0,
    'speed 5m': (5.4 / 5.5 - 1) * 100,
    'speed 15m': (5.4 / 6 - 1) * 100,
    'from premarket high': -10,
    'atr from premarket high': -2,
    'from vwap': (5.4 / vwap - 1) * 100,
    'atr from vwap': (5.4 - vwap) / 0.3,
    'from day high': -10,
    'from prior high': (5.4 / 4.26 - 1) * 100,
    'from prior low': (5.4 / 3.97 - 1) * 100,
    atr: 0.3,
    'new highs': 1,
    'news age': 128,
    halts: 0,
    'iv rank': 50,
  };
  expect(Object.keys(byHand).sort()).toEqual(SCAN_FIELDS.map((f) => f.name).sort());
  for (const [name, expected] of Object.entries(byHand)) expect([name, value(m, name)]).toEqual([name, expect.closeTo(expected, 6)]);

  trade(board, at(9, 30), 5.2, 100);
  trade(board, at(9, 31), 5.8, 100);
  board.bid[0] = 0;
  const later: ScanInput = { ...m, now: at(9, 31), newsAt: Float64Array.of(Number.NaN), instruments: [sampleStock({ options: null, float: 0 })] };
  expect(value(later, 'gap')).toBeCloseTo(30, 6);
  expect(value(later, 'change')).toBeCloseTo(45, 6);
  for (const unknown of ['spread', 'news age', 'iv rank', 'float turnover']) expect(rowOf(later, 0).values[columnOf(unknown)]).toBeNull();
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
/** A market of a few symbols with random prints. */
const market: fc.Arbitrary<ScanInput> = fc
  .array(
    fc.array(fc.record({ minute: fc.integer({ min: 0, max: 40 }), cents: fc.integer({ min: 50, max: 900 }), qty: fc.integer({ min: 1, max: 900 }) }), {
      maxLength: 8,
    }),
    {
      maxLength: 12,
    },
  )
  .map((symbols) => {
    const board = createBoard(symbols.length);
    symbols.forEach((prints, i) => {
      for (const p of prints.sort((a, b) => a.minute - b.minute)) boardTrade(board, i, at(9, p.minute), p.cents * 100, p.qty, FULL_DAY.close);
    });
    return {
      board,
      instruments: symbols.map((_, i) => sampleStock({ symbol: `S${i}` })),
      now: at(9, 41),
      newsAt: new Float64Array(symbols.length).fill(Number.NaN),
    };
  });

/** The oracle: a rule as a JavaScript expression over the row, built as text by another route. */
function naive(r: ScanRule, of: { m: ScanInput; i: number }): boolean {
  const v = (name: string) => SCAN_FIELDS.find((f) => f.name === name)?.of(of.m, of.i) ?? Number.NaN;
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
    fc.property(rule, market, fieldName, (r, m, by) => {
      const all = m.instruments.map((_, i) => i);
      const expected = all.filter((i) => naive(r, { m, i }));
      expect(passing(r, m, all)).toEqual(expected);
      const ranked = rank(m, r, by, all);
      expect([...ranked].sort((a, b) => a - b)).toEqual(expected);
      const order = ranked.map((i) => rowOf(m, i).values[columnOf(by)] ?? Number.NEGATIVE_INFINITY);
      expect(order).toEqual([...order].sort((a, b) => (a === b ? 0 : b - a)));
    }),
    { numRuns: 300 },
  );
});

test('each clause is counted by itself, so that the tightest one shows', () => {
  const text = 'gap > 10% and price between 2 and 20';
  const parsed = parseRule(text, SCAN_FIELDS);
  if (!parsed.ok) throw new Error('the rule should read');
  const board = createBoard(4);
  const prices = [5, 50, 1, 4.1];
  prices.forEach((p, i) => {
    boardTrade(board, i, at(9), fromDollars(p), 100, FULL_DAY.close);
  });
  const closes = [4, 40, 0.8, 4];
  const m: ScanInput = { board, instruments: closes.map((c) => sampleStock({ priorClose: fromDollars(c) })), now: at(9, 1), newsAt: new Float64Array(4) };
  const counts = clauseCounts(m, parsed.rule, [0, 1, 2, 3]);
  expect(counts.map((c) => [text.slice(c.span.from, c.span.to), c.passing])).toEqual([
    ['gap > 10%', 3],
    ['price between 2 and 20', 2],
  ]);
});
