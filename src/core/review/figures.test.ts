import fc from 'fast-check';
import { tradeRecord } from '../../../tests/trade-record.ts';
import { createRandom, normal } from '../sim/index.ts';
import { dateAfter, HOUR } from '../units/index.ts';
import {
  type Aftermath,
  ALL,
  climb,
  dayPoints,
  excursions,
  figuresOf,
  findingsOf,
  groupsOf,
  hoursByWeekday,
  leavingEarly,
  ledgerOf,
  noRemark,
  outlookOf,
  PLAIN_LADDER,
  sift,
  spanOf,
  spansOf,
  type TradeRecord,
  unitOf,
} from './index.ts';

/** Trades with these results in dollars, one a day from a Tuesday on, 60 dollars at risk each. */
const days = (
  nets: readonly number[],
  over: (k: number) => Pick<Partial<TradeRecord>, 'script' | 'symbol' | 'plan'> = () => ({}),
) =>
  nets.map((net, k) => {
    const date = dateAfter('2027-03-09', k);
    return tradeRecord({
      net,
      ref: `i1.${k}`,
      opened: { date, at: 34_200_000 },
      closed: { date, at: 34_800_000 },
      ...over(k),
    });
  });
const ledger = (trades: readonly TradeRecord[]) => ledgerOf(trades, new Map(), new Map());
const figures = (trades: readonly TradeRecord[]) => {
  const l = ledger(trades);
  return figuresOf(l, sift(l, ALL));
};

test('by hand: what is even has neither won nor lost; rows of winners and losers; the fall that is deepest, and how long it was', () => {
  const f = figures(days([60, 60, 0, -60, -120, 30, -30, 0, 240, -60]));
  expect(f).toMatchObject({ trades: 10, won: 4, lost: 4, streaks: { won: 2, lost: 2 }, net: 1_200_000 });
  expect(f.winRate.value).toBeCloseTo(0.4, 9);
  // From 120, where it stood last after the even one, down to −60.
  expect(f.drawdown.money).toMatchObject({ depth: 1_800_000, trades: 2, days: 3, from: 2, to: 4 });
  expect(f.drawdown.r.depth).toBeCloseTo(3, 9);
  expect(figures(days([-60, 60, -30])).drawdown.money.depth).toBe(600_000);
  expect(figures(days([10, 20])).drawdown.money.depth).toBe(0);
  expect(figures([])).toMatchObject({
    trades: 0,
    days: 0,
    payoff: null,
    profitFactor: null,
    costShare: null,
  });
});

test('figures of any trades, and of any part of them, are what plain lists of them come to', () => {
  const trade = fc.record({
    net: fc.integer({ min: -3, max: 3 }).map((x) => x * 20),
    risk: fc.constantFrom(null, 30, 60),
    held: fc.integer({ min: 1, max: 9_000 }),
    day: fc.integer({ min: 0, max: 9 }),
    at: fc.integer({ min: 0, max: 5 }),
    symbol: fc.constantFrom('VULPN', 'KELOD'),
    costs: fc.integer({ min: 0, max: 5 }),
    mae: fc.constantFrom(null, -200_000, -50_000),
    mfe: fc.constantFrom(null, 0, 300_000),
  });
  const mean = (list: readonly number[]) => (list.length === 0 ? Number.NaN : sum(list) / list.length);
  const sum = (list: readonly number[]) => list.reduce((a, x) => a + x, 0);
  fc.assert(
    fc.property(fc.array(trade, { minLength: 1, maxLength: 30 }), fc.boolean(), (list, some) => {
      const all = list.map(({ day, at, ...x }, k) => {
        const date = dateAfter('2027-03-09', day);
        const ends = { date, at: 34_800_000 + at };
        return tradeRecord({ ...x, ref: `i1.${k}`, opened: { date, at: 34_200_000 }, closed: ends });
      });
      const l = ledger(all);
      const places = sift(l, some ? { ...ALL, groups: { symbol: 'KELOD' } } : ALL);
      const f = figuresOf(l, places);
      // Sorting keeps the order of what is equal: those of one millisecond by their numbers.
      const when = (t: TradeRecord) => `${t.closed?.date} ${t.closed?.at}`;
      const mine = [...all]
        .sort((a, b) => (when(a) < when(b) ? -1 : when(a) > when(b) ? 1 : 0))
        .filter((t) => !some || t.symbol === 'KELOD');
      expect([...places].map((i) => l.records[i]?.ref)).toEqual(mine.map((t) => t.ref));
      const r = (t: TradeRecord) => (t.risk ? t.net / t.risk : Number.NaN);
      const known = mine.filter((t) => t.risk);
      const [won, lost] = [mine.filter((t) => t.net > 0), mine.filter((t) => t.net < 0)];
      const near = (x: number) => (Number.isNaN(x) ? Number.NaN : expect.closeTo(x, 6));
      const ofSide = (side: TradeRecord[]) => ({
        money: near(mean(side.map((t) => t.net))),
        r: near(mean(side.filter((t) => t.risk).map(r))),
      });
      expect(f).toMatchObject({
        trades: mine.length,
        days: new Set(mine.map((t) => t.closed?.date)).size,
        withRisk: known.length,
        r: near(sum(known.map(r))),
        expectancy: { value: near(mean(known.map(r))) },
        money: { value: near(mean(mine.map((t) => t.net))) },
        win: ofSide(won),
        loss: ofSide(lost),
        held: {
          all: near(mean(mine.map((t) => t.held ?? 0))),
          won: near(mean(won.map((t) => t.held ?? 0))),
          lost: near(mean(lost.map((t) => t.held ?? 0))),
        },
        drawdown: { money: deepest(mine, (t) => t.net), r: deepest(known, r) },
      });
      expect(excursions(l, places, 99)).toEqual(
        known
          .filter((t) => t.mae !== null && t.mfe !== null)
          .map((t) => ({
            trade: t.ref,
            against: near(-(t.mae ?? 0) / (t.risk ?? 1)),
            forIt: near((t.mfe ?? 0) / (t.risk ?? 1)),
            made: near(r(t)),
          })),
      );
    }),
  );

  /** Of every pair of moments the one with the deepest fall between; the days between them, both counted, among those on which any trade ended. */
  function deepest(list: readonly TradeRecord[], of: (t: TradeRecord) => number) {
    const sums = [0, ...list.map((_, k) => sum(list.slice(0, k + 1).map(of)))];
    let depth = 0;
    for (const [k, high] of sums.entries())
      for (const low of sums.slice(k)) depth = Math.max(depth, high - low);
    return { depth: expect.closeTo(depth, 6) };
  }
});

test('a fall from the beginning of what a filter leaves began on its first day, not on the first of all', () => {
  const trades = days([60, 60, 60, -30, -30], (k) => ({ symbol: k < 3 ? 'VULPN' : 'KELOD' }));
  const l = ledger(trades);
  const { drawdown } = figuresOf(l, sift(l, { ...ALL, groups: { symbol: 'KELOD' } }));
  expect(drawdown.money).toMatchObject({ depth: 600_000, trades: 2, days: 2 });
});

test('nothing is told of too few days, however many trades they have', () => {
  expect(figures(days([60, -60, 30, 10, 50, -20, 40])).expectancy.interval).toBeNull();
  expect(figures(days([60, -60, 30, 10, 50, -20, 40, 5])).expectancy.interval).not.toBeNull();
  const one = Array.from({ length: 50 }, (_, k) => tradeRecord({ net: k - 20, ref: `i1.${k}` }));
  expect(figures(one).expectancy.interval).toBeNull();
});

test('weeks begin on Mondays; months, quarters; what a span adds is what its days add', () => {
  expect(['2027-03-07', '2027-03-08', '2027-03-14'].map((d) => spanOf(d, 'week'))).toEqual([
    '2027-03-01',
    '2027-03-08',
    '2027-03-08',
  ]);
  expect(['2027-01-31', '2027-03-31', '2027-04-01', '2027-12-31'].map((d) => spanOf(d, 'quarter'))).toEqual([
    '2027 Q1',
    '2027 Q1',
    '2027 Q2',
    '2027 Q4',
  ]);
  const l = ledger(days(Array.from({ length: 90 }, (_, k) => (k % 7) - 3)));
  const points = dayPoints(l, sift(l, ALL));
  for (const span of ['day', 'week', 'month', 'quarter'] as const)
    expect(spansOf(points, span).reduce((a, s) => a + s.r, 0)).toBeCloseTo(points.at(-1)?.sumR ?? 0, 9);
});

test('hour by weekday: by the entry, Monday first', () => {
  const at = (date: string, ms: number) => ({ opened: { date, at: ms }, closed: { date, at: ms + 1 } });
  const l = ledger([
    tradeRecord({ net: 60, ref: 'i1.1', ...at('2027-03-08', 9 * HOUR) }),
    tradeRecord({ net: 30, ref: 'i1.2', ...at('2027-03-12', 10 * HOUR - 1) }),
    tradeRecord({ net: -60, ref: 'i1.3', ...at('2027-03-12', 10 * HOUR) }),
  ]);
  const rows = hoursByWeekday(l, sift(l, ALL));
  expect(rows.map((r) => [r.hour, r.cells.map((c) => c.r)])).toEqual([
    [9, [1, 0, 0, 0, 0.5]],
    [10, [0, 0, 0, 0, -1]],
  ]);
});

test('groups: bands hold their lower border; a trade of two tags is in both; a grade of the shortlist stands where nothing else is said', () => {
  const l = ledgerOf(
    [1.99, 2, 4.99, 5, 100].map((price, k) =>
      tradeRecord({ net: 0, ref: `i1.${k}`, averageEntry: price * 10_000, grade: k === 0 ? 'B' : 'A' }),
    ),
    new Map([['i1.1', { ref: 'i1.1', setup: '', tags: [], grade: 'C', kept: null, broke: '', words: '' }]]),
    new Map(),
  );
  const tagged = ledgerOf(
    days([60, -60, 30]),
    new Map([
      ['i1.0', { ...noRemark('i1.0'), tags: ['late', 'news', 'late'] }],
      ['i1.1', { ...noRemark('i1.1'), tags: ['late'] }],
    ]),
    new Map(),
  );
  const sums = groupsOf(tagged, sift(tagged, ALL), 'tag').map((g) => [g.name, g.trades, g.r.sum]);
  expect(sums).toEqual([
    ['news', 1, 1],
    ['late', 2, 0],
  ]);
  const only = (tag: string) => [...sift(tagged, { ...ALL, groups: { tag } })];
  expect([only('late'), only('news'), only('none')]).toEqual([[0, 1], [0], []]);
  const names = (id: 'price' | 'grade') => groupsOf(l, sift(l, ALL), id).map((g) => [g.name, g.trades]);
  expect(names('price')).toEqual([
    ['$1 to 2', 1],
    ['$2 to 5', 2],
    ['$5 to 10', 1],
    ['$100 and more', 1],
  ]);
  expect(names('grade')).toEqual([
    ['A', 3],
    ['B', 1],
    ['C', 1],
  ]);
  // What makes nothing has not won.
  expect(groupsOf(l, sift(l, ALL), 'side')[0]?.winRate).toBe(0);
});

test('looking in many places finds nothing where nothing is: in at most one of twenty months', () => {
  const r = createRandom(4, 'noise');
  let found = 0;
  for (let month = 0; month < 120; month++) {
    const trades = Array.from({ length: 120 }, (_, k) => {
      const date = dateAfter('2027-01-04', k % 24);
      return tradeRecord({
        net: 60 * normal(r),
        ref: `i1.${k}`,
        symbol: `S${'ABCDEFGH'[k % 8]}`,
        script: `script ${k % 6}`,
        plan: `plan ${(k * 7) % 5}`,
        averageEntry: 10_000 * (1 + ((k * 13) % 90)),
        opened: { date, at: (9 + (k % 7)) * HOUR },
        closed: { date, at: (9 + (k % 7)) * HOUR + 1 },
      });
    });
    const l = ledger(trades);
    const { stop, carries } = findingsOf(l, sift(l, ALL), 'R');
    if (stop.length + carries.length > 0) found++;
  }
  expect(found).toBeLessThanOrEqual(12);
});

test('what is nearly all trades is no advice, and what is about the same trades is said once', () => {
  const bad = days(
    Array.from({ length: 60 }, (_, k) => (k % 3 === 0 ? -60 + (k % 5) : 20 + (k % 4))),
    (k) => (k % 3 === 0 ? { script: 'late', symbol: 'KELOD', plan: 'none' } : { script: 'early' }),
  );
  const l = ledger(bad);
  const { stop } = findingsOf(l, sift(l, ALL), 'R');
  expect(stop.map((f) => f.group.trades)).toEqual([20]);
  const all = ledger(days(Array.from({ length: 60 }, (_, k) => -60 + (k % 5))));
  expect(findingsOf(all, sift(all, ALL), 'R').stop).toEqual([]);
});

test('the deepest fall ahead is the one of the path', () => {
  const o = outlookOf({
    from: [[1, -0.5, -0.5, 0.4, -1.4]],
    trades: 5,
    runs: 3,
    equity: 100,
    unit: 1,
    ruin: 0,
    seed: 1,
  });
  expect(o).toMatchObject({ drawdown: { p50: expect.closeTo(2, 9) }, ruin: 0, down: 1 });
});

test('a ladder: up and down at its borders, never below the first rung or above the last, and only by months with enough trades', () => {
  const month = (r: number, trades = 30) => ({ name: `m${r}`, trades, r });
  const rules = { ...PLAIN_LADDER, usual: 60, most: 3 };
  const { months, now } = climb(
    [month(-9), month(5), month(9, 19), month(6), month(7), month(-4), month(4.9)],
    rules,
  );
  expect(months.map((m) => [m.rung, m.next])).toEqual([
    [1, 'same'],
    [1, 'up'],
    [2, 'same'],
    [2, 'up'],
    [3, 'same'],
    [3, 'down'],
    [2, 'same'],
  ]);
  expect(now).toEqual({ rung: 2, unit: 120 });
});

test('what leaving costs in a year is what it cost a day, over 252 of them', () => {
  const l = ledger(days([10, 20, 30, 40]));
  const known = new Map<string, Aftermath>([
    [
      'i1.0',
      {
        ref: 'i1.0',
        net: 100_000,
        left: { at: 1, by: 'flatten', plan: { net: 700_000, open: false } },
        after: null,
      },
    ],
  ]);
  const told = leavingEarly(l, sift(l, ALL), known);
  expect(told).toMatchObject({
    cost: 600_000,
    costR: 1,
    unknown: { 'no candles': 3 },
    year: { money: 600_000 * 63, r: 63 },
  });
});

test('where few say what was risked, results are told in money, and what costs is found in it', () => {
  const trades = days(
    Array.from({ length: 60 }, (_, k) => (k % 3 === 0 ? -60 + (k % 5) : 20 + (k % 4))),
    (k) => ({ script: k % 3 === 0 ? 'late' : 'early' }),
  );
  const l = ledger(trades.map((t, k) => (k % 3 === 2 ? t : { ...t, risk: null })));
  const places = sift(l, ALL);
  expect(unitOf(l, places)).toBe('$');
  expect(unitOf(ledger(trades), places)).toBe('R');
  const [late] = findingsOf(l, places, '$').stop;
  expect(late).toMatchObject({ group: { name: 'late', trades: 20 } });
  expect(late?.without).toBe((late?.all ?? 0) - (late?.group.net.sum ?? 0));
  expect(late?.group.net.sum).toBe(trades.filter((_, k) => k % 3 === 0).reduce((a, t) => a + t.net, 0));
});
