import fc from 'fast-check';
import {
  type Account,
  accountView,
  CASH_ACCOUNT,
  costsFor,
  DEFAULT_ACCOUNT,
  DEFAULT_FEES,
  type FeeTable,
  locateOffer,
  MAIN,
  openAccount,
  type PositionView,
  post,
  settleBy,
  shortMaintenance,
  tableOn,
  tightened,
  totalOf,
} from '@/core/account';
import { accountNow, everything } from '@/core/orders';
import { type AccountId, fromDollars, money, type OrderId } from '@/core/units';
import { COMMISSION_ONLY } from '../model/accounts.ts';
import { desk } from '../model/desk.ts';

const dollars = (n: number) => money(Math.round(n * 10_000));
const margin = openAccount({ id: MAIN, rules: DEFAULT_ACCOUNT, fees: [DEFAULT_FEES] });
const held = (shares: number, price: number): PositionView => ({
  shares,
  mark: dollars(price),
  multiplier: 1,
  realized: 0,
  unrealized: 0,
  costs: 0,
});
/** An account that has paid for what it holds. */
const after = (a: Account, cash: number): Account => ({
  ...a,
  ledger: post(a.ledger, {
    at: 0,
    settles: 1,
    cash: dollars(cash),
    why: 'trade',
    orderId: (cash < 0 ? 1 : 2) as OrderId,
  }),
});

// Source: FINRA Rule 4210(c)(2) and (3): under $5.00 the greater of $2.50 a share or 100 %, else the greater of $5.00 or 30 %.
test.each([
  [100, 1, 250],
  [100, 2.5, 250],
  [100, 4.99, 499],
  [100, 5, 500],
  [100, 10, 500],
  [100, 16.66, 500],
  [100, 20, 600],
])('short maintenance of %d shares at $%d is $%d', (shares, price, wanted) => {
  expect(Math.round(shortMaintenance(shares, dollars(price)) / 10_000)).toBe(wanted);
});

// Source: Regulation T, 12 CFR 220.12: half of what is bought or sold short; by hand.
test('what has to shrink before the close is what half of the equity does not carry', () => {
  const view = accountView(after(margin, -80_000), [held(8_000, 10)], 0);
  expect(view.equity).toBe(dollars(30_000));
  expect(view.buyingPower).toBe(dollars(4 * 30_000 - 80_000));
  expect(view.overnight).toBe(dollars(80_000 - 60_000));
  // FINRA Rule 4210(c)(1): a quarter of what is held long.
  expect([view.maintenance, view.excess]).toEqual([dollars(20_000), dollars(10_000)]);
  const fallen = accountView(after(margin, -80_000), [held(8_000, 6.6)], 0);
  expect(fallen.excess).toBeLessThan(0);
});

// By hand: 1,000 short at $4 need $4,000 of maintenance, which is $16,000 of a power of four times the equity.
test('a short of a cheap stock uses as much power as its maintenance asks', () => {
  expect(accountView(after(margin, 4_000), [held(-1_000, 4)], 0).buyingPower).toBe(
    dollars(4 * 30_000 - 16_000),
  );
  expect(accountView(after(margin, 20_000), [held(-1_000, 20)], 0).buyingPower).toBe(
    dollars(4 * 30_000 - 24_000),
  );
});

// Source: FINRA Rule 4210(f)(8)(B), from memory: four times only from $25,000 of equity on.
test('under the least equity only the overnight multiple holds', () => {
  const small = { ...margin, day: { day: 0, equity: dollars(24_999) } };
  expect(accountView(small, [], 0).power.opening).toBe(dollars(2 * 24_999));
});

// Source: Exchange Act Rule 15c6-1 (T+1 since 28 May 2024): what is sold today may be spent tomorrow.
test('a cash account spends settled cash only, and what it bought at once', () => {
  const cash = openAccount({ id: MAIN, rules: CASH_ACCOUNT, fees: [DEFAULT_FEES] });
  const bought = after(cash, -12_000);
  expect(accountView(bought, [held(1_000, 12)], 0).cash).toEqual({
    settled: dollars(8_000),
    unsettled: dollars(0),
  });
  const sold = after(bought, 13_000);
  const view = accountView(sold, [], 0);
  expect(view.cash).toEqual({ settled: dollars(8_000), unsettled: dollars(13_000) });
  expect(view.buyingPower).toBe(dollars(8_000));
  const next = accountView({ ...sold, ledger: settleBy(sold.ledger, 1) }, [], 0);
  expect([next.cash, next.buyingPower]).toEqual([
    { settled: dollars(21_000), unsettled: dollars(0) },
    dollars(21_000),
  ]);
});

// Source: Securities Exchange Act, Section 31, at $27.80 a million; FINRA By-Laws, Schedule A, Section 1, $0.000166 a share up to $8.30 (rates and rounding from memory).
test.each([
  // side, shares, price, SEC fee, TAF
  ['sell', 1_000, 10, 0.28, 0.17],
  ['sell', 100, 5.41, 0.02, 0.02],
  ['sell', 100_000, 20, 55.6, 8.3],
  ['buy', 1_000, 10, 0, 0],
] as const)('%s %d at $%d: SEC fee $%d, TAF $%d', (side, shares, price, sec, taf) => {
  const costs = costsFor(DEFAULT_FEES, { side, shares, notional: shares * dollars(price), added: 0 });
  expect([costs.sec, costs.taf]).toEqual([dollars(sec), dollars(taf)]);
});

test('costs of an order never depend on how its fills were cut, and the table of the day holds', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 1, max: 900 }), fc.boolean()), { minLength: 1, maxLength: 8 }),
      fc.integer({ min: 5_000, max: 300_000 }),
      (pieces, price) => {
        const sum = (n: number) => {
          const some = pieces.slice(0, n);
          const shares = some.reduce((a, [q]) => a + q, 0);
          const added = some.reduce((a, [q, rests]) => a + (rests ? q : 0), 0);
          return totalOf(costsFor(DEFAULT_FEES, { side: 'sell', shares, notional: shares * price, added }));
        };
        const charged = pieces.map((_, n) => sum(n + 1) - sum(n));
        expect(charged.reduce((a, b) => a + b, 0)).toBe(sum(pieces.length));
      },
    ),
  );
  const dear: FeeTable = { ...DEFAULT_FEES, from: '2027-06-01', perShare: 100 };
  expect(
    ['2020-01-01', '2027-05-31', '2027-06-01', '2030-01-01'].map(
      (d) => tableOn([dear, DEFAULT_FEES], d).perShare,
    ),
  ).toEqual([50, 50, 100, 100]);
});

// Common practice, counted by hand: two brackets of halves pay four commissions, one entry with two part-exits three, four brackets eight.
test('commissions by how a trade is taken apart', () => {
  const commissions = (parts: number, exits: number) => {
    const d = desk();
    for (let k = 0; k < parts; k++) d.fill(d.enter('buy', 200 / parts), 200 / parts, 10);
    for (let k = 0; k < parts * exits; k++) {
      const qty = 200 / parts / exits;
      d.fill(d.close(qty, { limit: fromDollars(10) }), qty, 10);
    }
    return everything(d.broker).fills.reduce((a, f) => a + f.costs.commission, 0) / 10_000;
  };
  expect([commissions(2, 1), commissions(1, 2), commissions(4, 1)]).toEqual([4, 3, 8]);
});

test('a guard is tightened at once and loosened for the next day only', () => {
  const { guards } = DEFAULT_ACCOUNT;
  const tight = { ...guards, dailyLoss: dollars(100), blocked: [{ symbol: 'VULPN', side: 'both' as const }] };
  expect(tightened(guards, tight)).toEqual({ now: tight, loosens: false });
  expect(tightened(tight, guards)).toEqual({ now: tight, loosens: true });
  const mixed = { ...guards, dailyLoss: dollars(900), mostShares: 100 };
  expect(tightened(guards, mixed)).toEqual({ now: { ...guards, mostShares: 100 }, loosens: true });
});

// Source: FINRA By-Laws, Schedule A, Section 1: the fee is on sales; commission and exchange fees of contracts are common practice, the figures from memory.
test.each([
  ['buy', 3, 1.95, 0.15, 0, 0],
  ['sell', 3, 1.95, 0.15, 0.01, 0.01],
] as const)(
  '%s %d contracts: commission $%d, exchange $%d, TAF $%d',
  (side, contracts, commission, venue, taf, sec) => {
    const costs = costsFor(DEFAULT_FEES, {
      side,
      shares: contracts,
      notional: contracts * 100 * dollars(1),
      added: 0,
      contracts,
    });
    expect([costs.commission, costs.venue, costs.taf, costs.sec]).toEqual(
      [commission, venue, taf, sec].map(dollars),
    );
  },
);

// By hand: at a float of 20 million 0.4 % of the price; a quarter of the float doubles it; never under 0.1 % nor over 3 %; a tenth of a cent at least.
test.each([
  [10, 20e6, 0.04, 40_000],
  [10, 5e6, 0.08, 10_000],
  [10, 2e9, 0.01, 4_000_000],
  [10, 1e5, 0.3, 200],
  [0.05, 20e6, 0.001, 40_000],
])(
  'a locate at $%d with a float of %d costs $%d a share, and %d are there',
  (price, float, perShare, available) => {
    expect(locateOffer(dollars(price), float)).toEqual({ perShare: dollars(perShare), available });
  },
);

// By hand, FINRA Rule 4210(c)(2): an entry to sell 1,000 short at $4 uses $16,000 of a power of four times the equity, one to buy them $4,000.
test('a working entry to short uses the power that its maintenance asks', () => {
  const used = (side: 'buy' | 'sell') => {
    const d = desk({ slow: true });
    d.price(4);
    d.enter(side, 1_000, null, { limit: fromDollars(4) });
    return accountNow(d.broker, MAIN, () => fromDollars(4)).power.entries;
  };
  expect([used('buy'), used('sell')]).toEqual([dollars(4_000), dollars(16_000)]);
});

// By hand: 100 at $10.01 with a dollar of commission under the newest table, where the older one took two.
test('a cash account sets aside what an order costs by the newest table, and its figures are its own', () => {
  const cash = { rules: { ...CASH_ACCOUNT, startCash: dollars(5_000) }, id: 'other' as AccountId };
  const tables = [
    { ...COMMISSION_ONLY, from: '2020-01-01', minimumPerOrder: 20_000 },
    { ...COMMISSION_ONLY, from: '2026-01-01' },
  ];
  const d = desk({ slow: true, others: [{ ...cash, fees: tables }] });
  const before = accountNow(d.broker, MAIN, () => fromDollars(10));
  d.enter('buy', 100, null, { limit: fromDollars(10.01), account: cash.id });
  expect(accountNow(d.broker, cash.id, () => fromDollars(10)).power.entries).toBe(dollars(1_002));
  d.settle();
  d.execute(1, 100, 10.01);
  d.settle();
  const own = accountNow(d.broker, cash.id, () => fromDollars(11));
  expect([own.unrealized, own.cash.settled]).toEqual([dollars(99), dollars(5_000 - 1_002)]);
  expect(accountNow(d.broker, MAIN, () => fromDollars(11))).toEqual(before);
});
