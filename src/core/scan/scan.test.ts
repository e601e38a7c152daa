import fc from 'fast-check';
import { sampleStock } from '../../../tests/sample.ts';
import { type Condition, type PriceTree, parseRule, type ReferenceTree } from '../language/index.ts';
import {
  type Board,
  boardTrade,
  createBoard,
  FIELDS,
  factsOf,
  fieldOf,
  fieldValue,
  type MarketView,
  NEWS_KINDS,
  SECTORS,
} from '../market/index.ts';
import { at, FULL_DAY, fromDollars } from '../units/index.ts';
import { clauseCounts, clausesOf, joined, PRESETS, type Ranking, rank, sift, why } from './index.ts';

const trade = (b: Board, when: number, dollars: number, qty: number) =>
  boardTrade(b, 0, when, fromDollars(dollars), qty, FULL_DAY.close);
const numbers = (n: number) => Int32Array.from({ length: n }, (_, i) => i);
const ruleOf = (text: string): Condition => {
  const parsed = parseRule(text);
  if (!parsed.ok) throw new Error(`the rule should read: ${text}`);
  return parsed.rule;
};
const NO_NEWS = (n: number) => ({
  newsAt: new Float64Array(n).fill(Number.NaN),
  newsKind: new Uint8Array(n),
});

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
  const m: MarketView = {
    board,
    facts: factsOf([sampleStock()]),
    now: at(9, 10),
    newsAt: Float64Array.of(at(7, 2)),
    newsKind: Uint8Array.of(NEWS_KINDS.indexOf('offering')),
  };
  const value = (of: MarketView, name: string) => fieldValue(fieldOf(name), of, 0);
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
    'atr from day high': -2,
    'atr from prior close': 1.4 / 0.3,
    'atr from prior high': 1.14 / 0.3,
    'atr from prior low': 1.43 / 0.3,
    restricted: 0,
    'options listed': 1,
    borrow: 0,
    'news kind': NEWS_KINDS.indexOf('offering'),
    sector: SECTORS.indexOf('Machinery'),
  };
  expect(Object.keys(byHand).sort()).toEqual(FIELDS.map((f) => f.name).sort());
  for (const [name, expected] of Object.entries(byHand))
    expect([name, value(m, name)]).toEqual([name, expect.closeTo(expected, 6)]);

  trade(board, at(9, 30), 5.2, 100);
  trade(board, at(9, 31), 5.8, 100);
  board.bid[0] = 0;
  board.restricted[0] = 2;
  const later: MarketView = {
    ...m,
    now: at(9, 31),
    ...NO_NEWS(1),
    facts: factsOf([sampleStock({ options: null, float: 0, borrow: 'hard', sector: 'Imported' })]),
  };
  expect(value(later, 'gap')).toBeCloseTo(30, 6);
  expect(value(later, 'change')).toBeCloseTo(45, 6);
  expect([value(later, 'restricted'), value(later, 'options listed'), value(later, 'borrow')]).toEqual([
    1, 0, 1,
  ]);
  for (const unknown of ['spread', 'news age', 'news kind', 'iv rank', 'float turnover', 'sector'])
    expect([unknown, value(later, unknown)]).toEqual([unknown, Number.NaN]);
});

const numeric = FIELDS.filter((f) => f.unit !== 'choice' && f.unit !== 'flag').map((f) => f.name);
const number = fc.integer({ min: -50, max: 50 });
const leaf: fc.Arbitrary<Condition> = fc.oneof(
  fc.record({
    kind: fc.constant('compare' as const),
    field: fc.constantFrom(...numeric),
    symbol: fc.constant(null),
    op: fc.constantFrom('>' as const, '>=' as const, '<' as const, '<=' as const),
    to: number,
  }),
  fc.tuple(fc.constantFrom(...numeric), number, number).map(
    ([field, a, b]): Condition => ({
      kind: 'between',
      field,
      symbol: null,
      low: Math.min(a, b),
      high: Math.max(a, b),
    }),
  ),
  fc.record({
    kind: fc.constant('flag' as const),
    symbol: fc.constant(null),
    field: fc.constantFrom('restricted', 'options listed'),
  }),
  fc
    .constantFrom(...FIELDS.flatMap((f) => f.choices?.map((choice) => [f.name, choice] as const) ?? []))
    .chain(([field, choice]) =>
      fc.boolean().map((not): Condition => ({ kind: 'is', field, symbol: null, choice, not })),
    ),
);
const reference = fc.constantFrom<ReferenceTree>(
  { kind: 'last' },
  { kind: 'vwap' },
  { kind: 'day open' },
  { kind: 'midpoint' },
  { kind: 'day edge', edge: 'high' },
  { kind: 'premarket edge', edge: 'low' },
  { kind: 'prior day', edge: 'close' },
  { kind: 'whole dollar', way: 'above' },
  { kind: 'half dollar', way: 'below' },
);
const priceTree: fc.Arbitrary<PriceTree> = fc.oneof(
  reference,
  fc.integer({ min: 50, max: 900 }).map((cents): PriceTree => ({ kind: 'number', price: cents * 100 })),
  fc
    .tuple(reference, fc.constantFrom('plus' as const, 'minus' as const), fc.integer({ min: 1, max: 300 }))
    .map(
      ([base, kind, c]): PriceTree => ({
        kind: 'sum',
        base,
        shifts: [
          { kind, by: { kind: 'cents', units: c * 100 } },
          { kind: 'plus', by: { kind: 'percent', percent: c * 100 } },
        ],
      }),
    ),
  fc.tuple(reference, reference).map(([a, b]): PriceTree => ({ kind: 'lower', a, b })),
);
const ofPrices: fc.Arbitrary<Condition> = fc.oneof(
  fc
    .tuple(reference, fc.constantFrom('>' as const, '>=' as const, '<' as const, '<=' as const), priceTree)
    .map(([left, op, right]): Condition => ({ kind: 'price is', left, symbol: null, op, right })),
  fc
    .tuple(reference, priceTree, priceTree)
    .map(([left, low, high]): Condition => ({ kind: 'price between', left, symbol: null, low, high })),
  fc.tuple(fc.constantFrom('above' as const, 'below' as const), priceTree).map(
    ([way, right]): Condition => ({
      kind: 'price crosses',
      left: { kind: 'last' },
      symbol: null,
      way,
      right,
    }),
  ),
  fc
    .tuple(fc.constantFrom('>=' as const, '<' as const), fc.integer({ min: 560, max: 600 }))
    .map(([op, time]): Condition => ({ kind: 'time is', op, time })),
);
const rule: fc.Arbitrary<Condition> = fc.letrec<{ rule: Condition }>((tie) => ({
  rule: fc.oneof(
    { maxDepth: 4 },
    leaf,
    ofPrices,
    fc.record({
      kind: fc.constantFrom('all' as const, 'any' as const),
      of: fc.array(tie('rule'), { minLength: 2, maxLength: 3 }),
    }),
    fc.record({ kind: fc.constant('not' as const), of: tie('rule') }),
  ),
})).rule;
const ranking: fc.Arbitrary<Ranking> = fc.array(
  fc.record({ field: fc.constantFrom(...numeric), weight: fc.constantFrom(-2, -1, 1, 3) }),
  {
    minLength: 1,
    maxLength: 3,
  },
);

/** What was printed in a market, for the oracle. */
const PRINTED = new WeakMap<MarketView, Printed[]>();
type Printed = readonly { minute: number; cents: number; qty: number }[];
/** A market of a few symbols with random prints, news and numbers. */
const market: fc.Arbitrary<MarketView> = fc
  .array(
    fc.record({
      prints: fc.array(
        fc.record({
          minute: fc.integer({ min: 0, max: 40 }),
          cents: fc.integer({ min: 50, max: 900 }),
          qty: fc.integer({ min: 1, max: 900 }),
        }),
        {
          maxLength: 8,
        },
      ),
      borrow: fc.constantFrom('easy' as const, 'hard' as const, 'none' as const),
      sector: fc.constantFrom(...SECTORS, 'Imported'),
      news: fc.option(fc.integer({ min: 0, max: NEWS_KINDS.length - 1 })),
    }),
    { maxLength: 12 },
  )
  .map((symbols) => {
    const board = createBoard(symbols.length);
    symbols.forEach(({ prints }, i) => {
      for (const p of prints.sort((a, b) => a.minute - b.minute))
        boardTrade(board, i, at(9, p.minute), p.cents * 100, p.qty, FULL_DAY.close);
    });
    const view = {
      board,
      facts: factsOf(
        symbols.map(({ borrow, sector }, i) =>
          sampleStock({
            symbol: `S${String(i * 7).padStart(2, '0')}`,
            borrow,
            sector,
            ...(i % 2 ? { options: null } : {}),
          }),
        ),
      ),
      now: at(9, 41),
      newsAt: Float64Array.from(symbols, ({ news }) => (news === null ? Number.NaN : at(9, 1))),
      newsKind: Uint8Array.from(symbols, ({ news }) => news ?? 0),
    };
    PRINTED.set(
      view,
      symbols.map((x) => x.prints),
    );
    return view;
  });

/** The oracle: a rule read node by node for one symbol at a time. */
type Of = { m: MarketView; i: number };
const printsOf = ({ m, i }: Of): Printed => PRINTED.get(m)?.[i] ?? [];
function naive(r: Condition, of: Of): boolean {
  const v = (name: string) => fieldValue(fieldOf(name), of.m, of.i);
  switch (r.kind) {
    case 'all':
      return r.of.every((x) => naive(x, of));
    case 'any':
      return r.of.some((x) => naive(x, of));
    case 'not':
      return !naive(r.of, of);
    case 'flag':
      return v(r.field) === 1;
    case 'is':
      return (fieldOf(r.field).choices?.[v(r.field)] === r.choice) !== r.not;
    case 'between':
      return v(r.field) >= r.low && v(r.field) <= r.high;
    case 'compare':
      return {
        '>': v(r.field) > r.to,
        '>=': v(r.field) >= r.to,
        '<': v(r.field) < r.to,
        '<=': v(r.field) <= r.to,
      }[r.op];
    case 'time is':
      return at(9, 41) >= at(0, r.time) === (r.op === '>=');
    case 'price is': {
      const [a, b] = [naivePrice(r.left, of), naivePrice(r.right, of)];
      return { '>': a > b, '>=': a >= b, '<': a < b, '<=': a <= b }[r.op];
    }
    case 'price between':
      return (
        naivePrice(r.left, of) >= naivePrice(r.low, of) && naivePrice(r.left, of) <= naivePrice(r.high, of)
      );
    case 'price crosses': {
      // 09:41 is being made and 09:40 was the last to finish: the close of 09:39.
      const trades = printsOf(of).filter((p) => p.minute <= 39);
      const before = trades.length === 0 ? Number.NaN : (trades[trades.length - 1]?.cents as number) * 100;
      const [now, to] = [naivePrice(r.left, of), naivePrice(r.right, of)];
      return r.way === 'above' ? before < to && now >= to : before > to && now <= to;
    }
    case 'gain is':
      return false;
  }
}

/** A price of one symbol, from its prints alone. */
function naivePrice(p: PriceTree, of: Of): number {
  const prices = printsOf(of).map((x) => x.cents * 100);
  const early = printsOf(of)
    .filter((x) => x.minute < 30)
    .map((x) => x.cents * 100);
  const regular = printsOf(of)
    .filter((x) => x.minute >= 30)
    .map((x) => x.cents * 100);
  const last = prices.at(-1) ?? Number.NaN;
  switch (p.kind) {
    case 'number':
      return p.price;
    case 'last':
      return last;
    case 'vwap':
      return (
        printsOf(of).reduce((a, x) => a + x.cents * 100 * x.qty, 0) /
        printsOf(of).reduce((a, x) => a + x.qty, 0)
      );
    case 'day open':
      return regular[0] ?? Number.NaN;
    case 'day edge':
      return prices.length === 0 ? Number.NaN : Math.max(...prices);
    case 'premarket edge':
      return early.length === 0 ? Number.NaN : Math.min(...early);
    case 'prior day':
      return sampleStock().priorClose;
    case 'whole dollar':
      return Math.floor(last / 10_000 + 1) * 10_000;
    case 'half dollar':
      return last <= 5_000 ? Number.NaN : Math.ceil(last / 5_000 - 1) * 5_000;
    case 'sum':
      return p.shifts.reduce(
        (a, s) =>
          a +
          (s.kind === 'plus' ? 1 : -1) *
            (s.by.kind === 'cents'
              ? s.by.units
              : s.by.kind === 'percent'
                ? (a * s.by.percent) / 1e6
                : Number.NaN),
        naivePrice(p.base, of),
      );
    case 'lower':
      return Math.min(naivePrice(p.a, of), naivePrice(p.b, of));
    default:
      return Number.NaN;
  }
}
/** The oracle of a blend: for each field the number of passing symbols with a smaller value, weighted. */
function naiveScore(m: MarketView, parts: Ranking, passing: number[], i: number): number {
  const keyed = (k: number, { field, weight }: Ranking[number]) => {
    const v = fieldValue(fieldOf(field), m, k);
    return Number.isNaN(v) ? Number.NEGATIVE_INFINITY : v * Math.sign(weight);
  };
  const [only] = parts;
  if (only && parts.length === 1) return keyed(i, only);
  return parts.reduce(
    (sum, p) => sum + Math.abs(p.weight) * passing.filter((k) => keyed(k, p) < keyed(i, p)).length,
    0,
  );
}

test('rules pass what a plain reading passes, and the ranking is the plain one, cut at its limit', () => {
  fc.assert(
    fc.property(rule, market, ranking, fc.integer({ min: 1, max: 12 }), (r, m, by, limit) => {
      const all = numbers(m.board.count);
      const expected = [...all].filter((i) => naive(r, { m, i }));
      const who = all.slice();
      expect([...who.subarray(0, sift(r, m, who, who.length))]).toEqual(expected);
      const ranked = rank(m, r, by, all, limit);
      const score = new Map(expected.map((i) => [i, naiveScore(m, by, expected, i)]));
      const best = [...expected].sort((a, b) =>
        (score.get(a) as number) === (score.get(b) as number)
          ? a - b
          : (score.get(b) as number) > (score.get(a) as number)
            ? 1
            : -1,
      );
      expect(ranked.passing).toBe(expected.length);
      expect([...ranked.order]).toEqual(best.slice(0, limit));
    }),
    { numRuns: 400 },
  );
});

test('each clause counts what passes it alone and what only it keeps out; for one symbol they say why', () => {
  fc.assert(
    fc.property(fc.array(rule, { minLength: 1, maxLength: 5 }), market, (rules, m) => {
      const whole = joined(rules) as Condition;
      const clauses = clausesOf(whole);
      const all = [...numbers(m.board.count)];
      const passes = (c: Condition, i: number) => naive(c, { m, i });
      const counts = clauseCounts(m, whole, Int32Array.from(all));
      expect(counts.map((c) => c.alone)).toEqual(clauses.map((c) => all.filter((i) => passes(c, i)).length));
      expect(counts.map((c) => c.onlyHere)).toEqual(
        clauses.map(
          (c) => all.filter((i) => !passes(c, i) && clauses.every((o) => o === c || passes(o, i))).length,
        ),
      );
      for (const i of all)
        expect(why(m, whole, i).map((a) => a.passes)).toEqual(clauses.map((c) => passes(c, i)));
    }),
    { numRuns: 200 },
  );
});

test('every scan that comes with the app reads, ranks and shows by fields that exist', () => {
  expect(PRESETS.length).toBeGreaterThanOrEqual(8);
  for (const p of PRESETS) {
    expect(clausesOf(ruleOf(p.rule)).length).toBeGreaterThanOrEqual(3);
    for (const name of [...p.columns, ...p.ranking.map((x) => x.field)])
      expect(fieldOf(name).name).toBe(name);
  }
});

test('a price that stands exactly at a bound is not beyond it', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 99_999 }), (cents) => {
      const board = createBoard(1);
      boardTrade(board, 0, at(9), cents * 100, 100, FULL_DAY.close);
      const m: MarketView = { board, facts: factsOf([sampleStock()]), now: at(9, 1), ...NO_NEWS(1) };
      const passes = (text: string) => sift(ruleOf(text), m, numbers(1), 1) === 1;
      const price = (cents / 100).toFixed(2);
      expect([
        passes(`price > ${price}`),
        passes(`price < ${price}`),
        passes(`price >= ${price}`),
        passes(`price between ${price} and ${price}`),
      ]).toEqual([false, false, true, true]);
    }),
  );
});

test('the tightest clause shows', () => {
  const text = 'gap > 10% and price between 2 and 20';
  const board = createBoard(4);
  const prices = [5, 50, 1, 4.1];
  prices.forEach((p, i) => {
    boardTrade(board, i, at(9), fromDollars(p), 100, FULL_DAY.close);
  });
  const facts = factsOf([4, 40, 0.8, 4].map((c) => sampleStock({ priorClose: fromDollars(c) })));
  const counts = clauseCounts({ board, facts, now: at(9, 1), ...NO_NEWS(4) }, ruleOf(text), numbers(4));
  expect(counts.map((c) => [c.text, c.alone, c.onlyHere])).toEqual([
    ['gap > 10%', 3, 1],
    ['price between 2 and 20', 2, 2],
  ]);
});
