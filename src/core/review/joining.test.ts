import fc from 'fast-check';
import { tradeRecord } from '../../../tests/trade-record.ts';
import { NO_COSTS } from '../account/index.ts';
import { keptOnesOf, sameness } from '../formats/index.ts';
import { DAY, money } from '../units/index.ts';
import {
  ALL,
  type Attempted,
  afterExit,
  countedOf,
  findingsOf,
  type JoinedFrom,
  joinTrades,
  ledgerOf,
  noExits,
  noRemark,
  planAlone,
  sift,
  withExcursions,
  withExits,
  wrongExit,
} from './index.ts';

const execution = (k: number, over: Partial<JoinedFrom>): JoinedFrom => ({
  id: String(k),
  order: null,
  date: '2027-03-09',
  at: 34_200_000 + k * 1_000,
  side: 'buy',
  role: null,
  qty: 100,
  price: 100_000,
  liquidity: null,
  route: null,
  better: 0,
  costs: { ...NO_COSTS, commission: money(7_001) },
  account: 'Main',
  symbol: 'VULPN',
  risk: null,
  exits: noExits,
  ...over,
});

const anyExecutions = fc.array(
  fc.record({
    side: fc.constantFrom('buy' as const, 'sell' as const),
    qty: fc.integer({ min: 1, max: 9 }),
    price: fc.integer({ min: 1, max: 50 }),
    symbol: fc.constantFrom('VULPN', 'KELOD', 'VULPN 2027-04-16 6 call'),
    account: fc.constantFrom('Main', 'Other'),
  }),
  { maxLength: 60 },
);

test('joined trades hold every share and every cost once, go from flat to flat, and make what cash and what is left come to', () => {
  fc.assert(
    fc.property(anyExecutions, (list) => {
      // Over a night, the second day beginning earlier than the first one ended.
      const all = list.map((x, k) =>
        execution(k, { ...x, date: k < 30 ? '2027-03-09' : '2027-03-10', at: 34_200_000 + (k % 30) }),
      );
      const trades = joinTrades(all);
      expect(joinTrades([...all].reverse())).toEqual(trades);
      const sum = (f: (t: (typeof trades)[number]) => number) => trades.reduce((a, t) => a + f(t), 0);
      expect(sum((t) => t.executions.reduce((a, x) => a + x.qty, 0))).toBe(
        all.reduce((a, x) => a + x.qty, 0),
      );
      expect(sum((t) => t.costs.commission)).toBe(all.length * 7_001);
      // Known again, however they were parted.
      expect(
        trades
          .flatMap(keptOnesOf)
          .map((k) => k.says)
          .sort(),
      ).toEqual(all.map(sameness).sort());
      for (const t of trades) {
        expect(t.shares).toBeGreaterThan(0);
        const sign = t.direction === 'long' ? 1 : -1;
        let held = 0;
        t.executions.forEach((x, k) => {
          held += x.side === 'buy' ? x.qty : -x.qty;
          // Flat only at its end, and never the other way.
          if (k < t.executions.length - 1) expect(held * sign).toBeGreaterThan(0);
        });
        expect(held === 0).toBe(t.closed !== null);
        if (!t.closed) continue;
        const cash = t.executions.reduce((a, x) => a + (x.side === 'buy' ? -1 : 1) * x.qty * x.price, 0);
        const worth = t.symbol.includes(' ') ? 100 : 1;
        expect(t.gross).toBeCloseTo(cash * worth, 6);
        expect(sign * ((t.averageExit ?? 0) - t.averageEntry) * t.shares * worth).toBeCloseTo(
          cash * worth,
          6,
        );
      }
      const open = trades.filter((t) => t.closed === null).map((t) => `${t.account} ${t.symbol}`);
      expect(new Set(open).size).toBe(open.length);
    }),
  );
});

test('a flip of side is two trades; its costs are shared by shares to the last unit', () => {
  const [one, two] = joinTrades([
    execution(0, { qty: 100 }),
    execution(1, { side: 'sell', qty: 250, price: 101_000 }),
    execution(2, { qty: 150, price: 100_500 }),
  ]);
  expect(one).toMatchObject({
    direction: 'long',
    shares: 100,
    gross: 100_000,
    costs: { commission: 7_001 + 2_800 },
  });
  expect(two).toMatchObject({
    direction: 'short',
    shares: 150,
    gross: 75_000,
    costs: { commission: 4_201 + 7_001 },
  });
});

const attempt = (id: number, over: Partial<Attempted> = {}): Attempted => ({
  id,
  day: 'd',
  from: null,
  reached: 40_000_000,
  watches: false,
  ...over,
});
const made = (id: number, trade: number, opened: number, closed: number | null = opened + 1_000) =>
  tradeRecord({
    net: 1,
    ref: `a${id}.${trade}`,
    source: { kind: 'attempt', attempt: id, trade, at: { opened, closed } },
  });

test('a day’s first attempt counts; what comes after going back is hindsight, what was lived through on the way is counted once', () => {
  const day = 86_400_000;
  const attempts = [
    attempt(1, { reached: 37_800_000 }),
    attempt(2, { from: { attempt: 1, at: 36_000_000 }, reached: day + 40_000_000 }),
    attempt(3, { day: 'other' }),
    attempt(4, { from: { attempt: 1, at: 34_000_000 }, watches: true }),
  ];
  const counted = countedOf(
    [
      made(1, 1, 35_000_000),
      made(1, 2, 37_000_000),
      made(2, 1, 35_000_000),
      made(2, 2, 36_500_000),
      made(2, 3, 38_500_000),
      made(2, 4, day + 35_000_000),
      made(3, 1, 35_000_000),
      made(4, 1, 35_000_000),
      made(4, 2, 38_000_000),
    ],
    attempts,
  );
  expect(Object.fromEntries(counted)).toEqual({
    'a1.1': 'counts',
    'a1.2': 'counts',
    'a2.1': 'copy',
    'a2.2': 'hindsight',
    // Not yet seen, but the day has been traded before.
    'a2.3': 'hindsight',
    'a2.4': 'counts',
    'a3.1': 'counts',
    'a4.1': 'copy',
    'a4.2': 'copy',
  });
});

test('a day that was opened from what is known of it is hindsight up to its session, for every attempt from then on', () => {
  const day = 86_400_000;
  const attempts = [
    attempt(1, { reached: 1 }),
    attempt(2, { known: 1, reached: 2 * day }),
    attempt(3, { reached: 2 * day }),
  ];
  const counted = countedOf(
    [
      made(1, 1, 0),
      made(2, 1, 35_000_000),
      made(2, 2, day + 35_000_000),
      made(2, 3, 2 * day + 35_000_000),
      made(3, 1, 2 * day + 35_000_000),
    ],
    attempts,
  );
  expect(Object.fromEntries(counted)).toEqual({
    'a1.1': 'counts',
    'a2.1': 'hindsight',
    'a2.2': 'hindsight',
    'a2.3': 'counts',
    'a3.1': 'hindsight',
  });
});

test('a day that was only looked at to its close makes every later attempt at it hindsight', () => {
  const attempts = [attempt(1, { reached: 60_000_000 }), attempt(2)];
  expect(countedOf([made(2, 1, 35_000_000)], attempts).get('a2.1')).toBe('hindsight');
});

test('what costs is found among what does not; where nothing is, nothing is found', () => {
  const trades = (bad: number) =>
    Array.from({ length: 240 }, (_, k) => {
      const date = `2027-0${1 + Math.floor(k / 120)}-${String(1 + (Math.floor(k / 4) % 28)).padStart(2, '0')}`;
      const noon = k % 4 === 3;
      const wave = ((k * 7_919) % 101) - 50;
      return tradeRecord({
        net: wave + (noon ? bad : 0),
        ref: `i1.${k}`,
        opened: { date, at: noon ? 45_000_000 : 34_300_000 },
        closed: { date, at: noon ? 45_100_000 : 34_400_000 },
      });
    });
  const found = (bad: number) => {
    const l = ledgerOf(trades(bad), new Map(), new Map());
    return findingsOf(l, sift(l, ALL), 'R');
  };
  expect(found(-60).stop[0]).toMatchObject({ dimension: 'hour', group: { name: '12:00', trades: 60 } });
  expect(found(60).carries[0]?.group.name).toBe('12:00');
  expect(found(0)).toMatchObject({ stop: [], carries: [] });
});

test('how far an imported trade went is that of the candles it was open in, for its shares, never better than they', () => {
  const t = tradeRecord({
    net: 50,
    shares: 200,
    direction: 'short',
    averageEntry: 100_000,
    opened: { date: '2027-03-09', at: 34_230_000 },
    closed: { date: '2027-03-09', at: 34_350_000 },
  });
  const minute = (start: number, low: number, high: number) => ({
    start,
    open: low,
    low,
    high,
    close: high,
  });
  const candles = [
    minute(34_140_000, 1, 900_000),
    minute(34_200_000, 99_000, 100_500),
    minute(34_260_000, 97_000, 103_000),
    minute(34_380_000, 1, 900_000),
  ];
  expect(withExcursions(t, candles)).toMatchObject({ mfe: 3_000 * 200, mae: -3_000 * 200 });
  expect(withExcursions(t, [])).toBe(t);
  const night = { ...t, closed: { date: '2027-03-10', at: 34_350_000 } };
  expect(withExcursions(night, candles)).toBe(night);
});

const DATE = '2027-03-09';
const ten = 36_000_000;
/** A long trade of 100 shares at 10.00, sold at 10.20 a minute later: stop 9.50, target 11.00, a cent of costs for every execution. */
const early = (over: Partial<ReturnType<typeof tradeRecord>> = {}) => ({
  ...tradeRecord({ net: 20 - 0.02, costs: 0.02, risk: 50, averageEntry: 100_000, averageExit: 102_000 }),
  opened: { date: DATE, at: ten },
  closed: { date: DATE, at: ten + 60_000 },
  exits: { stop: 95_000, target: 110_000 },
  executions: [
    execution(1, { at: ten, costs: { ...NO_COSTS, commission: money(100) } }),
    execution(2, {
      at: ten + 60_000,
      side: 'sell',
      price: 102_000,
      costs: { ...NO_COSTS, commission: money(100) },
    }),
  ],
  ...over,
});
const candle = (k: number, open: number, high: number, low: number, close: number) => ({
  start: ten + k * 60_000,
  open,
  high,
  low,
  close,
});
const CLOSE = 57_600_000;

test.each([
  [
    'its target',
    [
      candle(0, 1, 9e5, 1, 9e5),
      candle(1, 102_000, 109_000, 101_000, 108_000),
      candle(2, 108_000, 111_000, 107_000, 110_500),
    ],
    100,
    false,
  ],
  [
    'its stop, which comes first in a candle of both',
    [candle(1, 102_000, 110_000, 95_000, 102_000)],
    -50,
    false,
  ],
  ['beyond its stop, where a candle opens there', [candle(1, 94_000, 111_000, 93_000, 94_000)], -60, false],
  ['above its target, where a candle opens there', [candle(1, 112_000, 112_000, 94_000, 95_000)], 120, false],
  ['the close', [candle(1, 102_000, 103_000, 101_000, 103_000), candle(400, 1, 9e5, 1, 9e5)], 30, true],
] as const)('an imported trade that was sold early goes on alone to %s', (_, candles, dollars, open) => {
  const told = planAlone(early(), candles, CLOSE);
  expect(told?.left).toMatchObject({ at: ten + 60_000, plan: { open } });
  expect(told?.left?.plan?.net).toBeCloseTo(dollars * 10_000 - 200, 6);
});

test('what came after an exit: five and thirty minutes on, at the close and at best, for all shares of the side it was', () => {
  const minutes = [
    candle(1, 1, 9e5, 1, 9e5),
    candle(2, 102_000, 105_000, 101_000, 103_000),
    candle(7, 103_000, 104_000, 99_000, 100_000),
    candle(32, 100_000, 101_000, 98_000, 99_000),
    candle(33, 97_000, 97_000, 97_000, 97_000),
    candle(400, 1, 9e5, 1, 9e5),
  ];
  const ended = { at: 3 * DAY + ten + 120_000, price: 102_000, size: 200, sign: 1 as const };
  expect(afterExit(ended, minutes, CLOSE)).toEqual({
    five: -400_000,
    thirty: -600_000,
    close: -1_000_000,
    best: 600_000,
  });
  expect(afterExit({ ...ended, sign: -1 }, minutes, CLOSE)).toEqual({
    five: 400_000,
    thirty: 600_000,
    close: 1_000_000,
    best: 1_000_000,
  });
  const late = { ...ended, at: CLOSE - 10 * 60_000 };
  expect(afterExit(late, [{ ...candle(0, 1, 1, 1, 100_000), start: CLOSE - 60_000 }], CLOSE)).toMatchObject({
    five: null,
    thirty: null,
    close: -400_000,
    best: 0,
  });
  expect(afterExit({ ...ended, at: CLOSE }, minutes, CLOSE)).toBeNull();
});

test('of an imported option a stop risks a hundred times as much; one on the wrong side says nothing', () => {
  const option = { ...early(), symbol: 'VULPN 2027-04-16 6 call', risk: null, exits: undefined as never };
  const said = (stop: number) => withExits(option, { ...noRemark(option.ref), stop }).risk;
  expect([said(95_000), said(100_000), said(101_000)]).toEqual([100 * 5_000 * 100, null, null]);
  expect(withExits({ ...option, risk: 7 }, { ...noRemark(option.ref), stop: 95_000 }).risk).toBe(7);
  expect([wrongExit(option, 'stop', 99_999), wrongExit(option, 'target', 100_001)]).toEqual([null, null]);
  expect(wrongExit(option, 'stop', 100_000)).toMatch(/stop of a long trade is below/);
  expect(wrongExit({ ...option, direction: 'short' }, 'target', 100_001)).toMatch(
    /target of a short trade is below/,
  );
});

test('exits of the plan stay, and half of it that was sold by hand comes back for the other half of the way; a short one is the mirror of a long one', () => {
  const parts = (sign: 1 | -1) => {
    const at = (p: number) => (sign === 1 ? p : 200_000 - p);
    const [enter, leave] = sign === 1 ? (['buy', 'sell'] as const) : (['sell', 'buy'] as const);
    return {
      ...early({ direction: sign === 1 ? 'long' : 'short' }),
      exits: { stop: at(95_000), target: at(110_000) },
      executions: [
        execution(1, { side: enter, qty: 200, costs: NO_COSTS }),
        execution(2, { side: leave, qty: 100, price: at(110_000), costs: NO_COSTS, at: ten + 1 }),
        execution(3, { side: leave, qty: 100, price: at(103_000), costs: NO_COSTS, at: ten + 2 }),
      ],
    };
  };
  const up = [candle(1, 103_000, 104_000, 94_000, 94_000)];
  const down = up.map((c) => ({
    ...c,
    open: 200_000 - c.open,
    high: 200_000 - c.low,
    low: 200_000 - c.high,
  }));
  for (const [sign, candles] of [
    [1, up],
    [-1, down],
  ] as const)
    expect(planAlone(parts(sign), candles, CLOSE)?.left?.plan?.net).toBe(100 * 10_000 - 100 * 5_000);
  const kept = { ...early(), exits: { stop: 95_000, target: 102_050 } };
  expect(planAlone(kept, up, CLOSE)?.left).toBeNull();
  expect(planAlone({ ...early(), exits: noExits }, up, CLOSE)?.left?.plan).toBeNull();
  expect(planAlone(early(), [], CLOSE)).toMatchObject({ left: { plan: null }, after: null });
  expect(planAlone({ ...early(), closed: { date: '2027-03-10', at: ten } }, up, CLOSE)).toBeNull();
});
