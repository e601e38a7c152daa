import fc from 'fast-check';
import { type Money, money, moneyFromDollars, type OrderId } from '../units/index.ts';
import {
  type Account,
  accountView,
  approvalOf,
  CASH_ACCOUNT,
  type Costs,
  costsFor,
  DEFAULT_ACCOUNT,
  DEFAULT_FEES,
  emptyLedger,
  type Guards,
  type Ledger,
  MAIN,
  maintenanceOf,
  minus,
  multipleOf,
  NO_COSTS,
  openAccount,
  PLAIN_GUARDS,
  type PositionView,
  plus,
  post,
  powerOf,
  settleBy,
  settledCash,
  tableOn,
  tightened,
  totalOf,
} from './index.ts';

const $ = moneyFromDollars;
const margin = openAccount({ id: MAIN, rules: DEFAULT_ACCOUNT, fees: [DEFAULT_FEES] });
const cash = openAccount({ id: MAIN, rules: CASH_ACCOUNT, fees: [DEFAULT_FEES] });
const position = (over: Partial<PositionView>): PositionView => ({
  shares: 0,
  mark: 0,
  multiplier: 1,
  realized: 0,
  unrealized: 0,
  costs: 0,
  ...over,
});
const posting = (amount: number, settles: number, order: number | null = null) => ({
  at: 0,
  settles,
  cash: $(amount),
  why: 'trade' as const,
  orderId: order as OrderId | null,
});
const booked = (l: Ledger, ...postings: ReturnType<typeof posting>[]) => postings.reduce(post, l);

describe('the ledger', () => {
  test('cash is all postings, settled cash those that are due; what is spent counts at once, what comes in when it settles', () => {
    const l = booked(emptyLedger(), posting(-1_000, 1, 1), posting(400, 1, 2), posting(50, 2, 3));
    expect(l.cash).toBe($(-550));
    expect(l.settled).toBe(0);
    expect(settledCash(l, $(5_000))).toBe($(4_000));
    const next = settleBy(l, 1);
    expect(next.settled).toBe($(-600));
    expect(next.unsettled).toHaveLength(1);
    expect(settledCash(next, $(5_000))).toBe($(4_400));
    expect(settleBy(next, 1)).toBe(next);
    expect(settledCash(settleBy(next, 2), $(5_000))).toBe($(4_450));
  });

  test('what a sale costs is paid from what it brings, not from settled cash', () => {
    const sale = booked(emptyLedger(), posting(400, 1, 7), posting(-3, 1, 7));
    expect(settledCash(sale, 0)).toBe(0);
    const two = booked(emptyLedger(), posting(400, 1, 7), posting(-3, 1, 8));
    expect(settledCash(two, 0)).toBe($(-3));
    const unnamed = booked(emptyLedger(), posting(400, 1), posting(-3, 1));
    expect(settledCash(unnamed, 0)).toBe($(-3));
  });

  test('settled and unsettled add up to all cash, in whatever order it settles', () => {
    const any = fc.array(
      fc.record({ amount: fc.integer({ min: -900, max: 900 }), settles: fc.nat(4), order: fc.nat(3) }),
    );
    fc.assert(
      fc.property(any, fc.array(fc.nat(4)), (all, days) => {
        let l = booked(emptyLedger(), ...all.map((p) => posting(p.amount, p.settles, p.order)));
        let last = 0;
        for (const day of days) {
          l = settleBy(l, day);
          last = Math.max(last, day);
          expect(l.settled + l.unsettled.reduce((a, p) => a + p.cash, 0)).toBe(l.cash);
          expect(l.unsettled.every((p) => p.settles > last)).toBe(true);
          // Nothing can be spent that has not settled.
          expect(settledCash(l, 0)).toBeLessThanOrEqual(l.settled);
        }
        expect(l.postings.count).toBe(all.length);
      }),
    );
  });
});

describe('an account', () => {
  const paying = (a: Account, dollars: number): Account => ({
    ...a,
    ledger: post(a.ledger, posting(dollars, 1, 1)),
  });

  test('a margin account with shares long and short: equity, power, maintenance, what has to go before the close', () => {
    // 1,000 bought at $20 and 500 sold short at $8: cash 30,000 − 20,000 + 4,000.
    const a = paying(margin, -16_000);
    const view = accountView(
      a,
      [
        position({ shares: 1_000, mark: $(21), unrealized: $(1_000), costs: $(5) }),
        position({ shares: -500, mark: $(8), realized: $(20), costs: $(3) }),
      ],
      $(10_000),
    );
    expect(view.equity).toBe($(31_000));
    expect(view.power).toEqual({ opening: $(120_000), positions: $(21_000 + 10_000), entries: $(10_000) });
    expect(view.buyingPower).toBe($(124_000 - 31_000 - 10_000));
    // A quarter of what is long; $5 a share of what is short.
    expect(view.maintenance).toBe($(5_250 + 2_500));
    expect(view.excess).toBe($(31_000 - 7_750));
    expect(view).toMatchObject({ realized: $(20), unrealized: $(1_000), costs: $(8), today: $(1_000) });
    // Overnight twice the equity may be held.
    expect(view.overnight).toBe(0);
    const much = accountView(paying(margin, -80_000), [position({ shares: 4_000, mark: $(20) })], 0);
    expect(much.overnight).toBe($(80_000 - 2 * 30_000));
    expect(much.buyingPower).toBe($(120_000 - 80_000));
  });

  test('below the least equity only the overnight multiple holds; a cash account has none', () => {
    const day = (dollars: number) => ({ ...margin, day: { day: 0, equity: $(dollars) } });
    expect([multipleOf(day(25_000)), multipleOf(day(24_999)), multipleOf(cash)]).toEqual([4, 2, 1]);
  });

  test('a cash account spends settled cash, less what entries and puts that it sold set aside', () => {
    const a = { ...cash, ledger: booked(cash.ledger, posting(-4_000, 1, 1), posting(1_500, 1, 2)) };
    const view = accountView(a, [position({ shares: 200, mark: $(20) })], $(1_000));
    expect(view.cash).toEqual({ settled: $(16_000), unsettled: $(1_500) });
    expect(view.buyingPower).toBe($(15_000));
    expect(view.equity).toBe($(20_000 - 2_500 + 4_000));
    expect(view).toMatchObject({ maintenance: 0, overnight: 0, power: { opening: $(16_000), positions: 0 } });
    // A put of strike 5 that is worth 0.40: what it can still lose and what it is worth make the strike.
    const put = position({ shares: -2, mark: $(0.4), multiplier: 100, loss: $(4.6) });
    expect(accountView(cash, [put], 0).buyingPower).toBe($(20_000 - 1_000));
  });

  test('options are lent nothing on: what they can still lose, times the multiple, is what they use', () => {
    const vertical = position({ shares: 3, mark: $(1.2), multiplier: 100, loss: $(1.2) });
    const view = accountView(margin, [vertical], 0);
    expect(view.power.positions).toBe($(4 * 360));
    expect(view.maintenance).toBe($(360));
  });

  test('approval follows the kind of account where nothing is said, and no cash account has verticals', () => {
    const of = (kind: 'margin' | 'cash', options?: 'none' | 'long' | 'spreads') =>
      approvalOf({ kind, ...(options ? { options } : {}) });
    expect([
      of('margin'),
      of('cash'),
      of('cash', 'spreads'),
      of('margin', 'long'),
      of('cash', 'none'),
    ]).toEqual(['spreads', 'long', 'long', 'long', 'none']);
  });

  test('long needs a quarter, short at least its floor; a short uses what its maintenance asks of the power', () => {
    expect(maintenanceOf(100, $(40))).toBe($(1_000));
    expect(maintenanceOf(-100, $(2))).toBe($(250));
    expect(maintenanceOf(-100, $(40))).toBe($(1_200));
    expect(powerOf(100, $(40), 4)).toBe($(4_000));
    expect(powerOf(-100, $(40), 4)).toBe($(4_800));
    expect(powerOf(-100, $(40), 2)).toBe($(4_000));
  });
});

describe('fees', () => {
  const table = { ...DEFAULT_FEES, perShare: 50, minimumPerOrder: 10_000 };
  const order = { side: 'buy' as const, shares: 1_000, notional: $(10_000), added: 0 };

  test('a buy pays commission and the exchange; what rests is paid back; a sale pays SEC and TAF, rounded up to the cent', () => {
    expect(costsFor(table, order)).toEqual({ commission: $(5), venue: $(3), sec: 0, taf: 0 });
    expect(costsFor(table, { ...order, added: 400 }).venue).toBe($(600 * 0.003 - 400 * 0.002));
    // $27.80 a million of $10,000 is 27.8 cents; $0.000166 × 1,000 is 16.6 cents.
    expect(costsFor(table, { ...order, side: 'sell' })).toMatchObject({ sec: $(0.28), taf: $(0.17) });
    expect(costsFor(table, { ...order, side: 'sell', shares: 200_000 }).taf).toBe($(8.3));
    expect(costsFor(table, { ...order, shares: 0 })).toBe(NO_COSTS);
  });

  test('at least the minimum, never more than a part of the value', () => {
    expect(costsFor(table, { ...order, shares: 100, notional: $(1_000) }).commission).toBe($(1));
    expect(costsFor(table, { ...order, shares: 100, notional: $(50) }).commission).toBe($(0.5));
  });

  test('a contract pays by the contract; a table of before has the rates of today', () => {
    const sold = { side: 'sell' as const, shares: 4, notional: $(800), added: 0, contracts: 8 };
    expect(costsFor(table, sold)).toEqual({
      commission: $(5.2),
      venue: $(0.4),
      sec: $(0.03),
      taf: $(0.03),
    });
    const { perContract: _, venueContract: __, tafContractMicros: ___, ...before } = table;
    expect(costsFor(before, sold)).toEqual(costsFor(table, sold));
  });

  test('the table that holds is the newest that has begun', () => {
    const later = { ...table, from: '2027-06-01' };
    expect([tableOn([later, table], '2027-05-31').from, tableOn([table, later], '2027-06-01').from]).toEqual([
      table.from,
      later.from,
    ]);
  });

  test('every cent has a taker: what is added and taken away again leaves what was', () => {
    const any = fc.record({
      commission: fc.integer(),
      venue: fc.integer(),
      sec: fc.nat(),
      taf: fc.nat(),
    }) as fc.Arbitrary<Costs>;
    fc.assert(
      fc.property(any, any, fc.nat(), (a, b, fee) => {
        const borrowed: Costs = { ...b, borrow: money(fee) };
        expect(minus(plus(a, borrowed), borrowed)).toEqual({ ...a, borrow: 0 });
        expect(totalOf(plus(a, borrowed))).toBe(totalOf(a) + totalOf(borrowed));
        expect(totalOf(borrowed)).toBe(b.commission + b.venue + b.sec + b.taf + fee);
      }),
    );
  });
});

describe('guards', () => {
  const amount = fc.option(
    fc.integer({ min: 1, max: 900 }).map((n) => $(n)),
    { nil: null },
  );
  const any: fc.Arbitrary<Guards> = fc.record({
    dailyLoss: amount,
    openRisk: amount,
    mostShares: fc.integer({ min: 1, max: 9_000 }),
    mostMoney: amount,
    ordersPerSecond: fc.integer({ min: 1, max: 20 }),
    duplicates: fc.boolean(),
    collarPercent: fc.integer({ min: 1, max: 50 }),
    blocked: fc.array(
      fc.record({
        symbol: fc.constantFrom('VULPN', 'ORBNT'),
        side: fc.constantFrom('both' as const, 'long' as const, 'short' as const),
      }),
      { maxLength: 3 },
    ),
  });
  const most = (x: Money | null) => x ?? Number.POSITIVE_INFINITY;

  test('what holds at once is never looser than either; it waits for the next day exactly where something is loosened', () => {
    fc.assert(
      fc.property(any, any, (now, wanted) => {
        const { now: both, loosens } = tightened(now, wanted);
        for (const g of [now, wanted]) {
          for (const key of ['dailyLoss', 'openRisk', 'mostMoney'] as const)
            expect(most(both[key])).toBeLessThanOrEqual(most(g[key]));
          expect(both.mostShares).toBeLessThanOrEqual(g.mostShares);
          expect(both.ordersPerSecond).toBeLessThanOrEqual(g.ordersPerSecond);
          expect(both.collarPercent).toBeLessThanOrEqual(g.collarPercent);
          if (g.duplicates) expect(both.duplicates).toBe(true);
          for (const b of g.blocked)
            expect(
              both.blocked.some((x) => x.symbol === b.symbol && (x.side === 'both' || x.side === b.side)),
            ).toBe(true);
        }
        expect(loosens).toBe(JSON.stringify(both) !== JSON.stringify(wanted));
      }),
    );
  });

  test('a tighter guard holds as it is; a looser one only from the next day on', () => {
    const tight = { ...PLAIN_GUARDS, dailyLoss: $(100), openRisk: $(50) };
    expect(tightened(PLAIN_GUARDS, tight)).toEqual({ now: tight, loosens: false });
    expect(tightened(tight, PLAIN_GUARDS)).toEqual({ now: tight, loosens: true });
    const blocked = { ...PLAIN_GUARDS, blocked: [{ symbol: 'VULPN', side: 'long' as const }] };
    expect(tightened(blocked, PLAIN_GUARDS)).toEqual({ now: blocked, loosens: true });
  });
});
