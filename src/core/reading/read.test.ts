import fc from 'fast-check';
import { NO_GUARDS, oneAccount } from '../../../tests/model/accounts.ts';
import { fakeExchange } from '../../../tests/model/exchange.ts';
import { sampleStock } from '../../../tests/sample.ts';
import { type AccountRules, type Guards, MAIN } from '../account/index.ts';
import { ONE, parseScript } from '../language/index.ts';
import type { SymbolView } from '../market/index.ts';
import {
  admit,
  type Broker,
  type BrokerContext,
  type BrokerInput,
  createBroker,
  type Intent,
  stepBroker,
} from '../orders/index.ts';
import { candidateTrade } from '../scan/candidate-trade.ts';
import {
  at,
  DAY,
  FULL_DAY,
  fromDollars,
  onTick,
  type SessionKind,
  toDollars,
  type WireId,
} from '../units/index.ts';
import { exitsOf, PLAIN_PLANS, type Reading, type RunContext, readStatement } from './index.ts';

/** One symbol with round numbers: bid 9.98, ask 10.00, last 9.99, VWAP 9.70, pre-market 9.00–10.40, 5-minute candle 9.80–10.05. */
const view: SymbolView = {
  symbol: 'VULPN',
  instrument: sampleStock({
    priorOpen: fromDollars(7.9),
    priorHigh: fromDollars(8.2),
    priorLow: fromDollars(7.7),
    priorClose: fromDollars(8),
    atr: fromDollars(0.5),
  }),
  status: 'trading',
  restricted: false,
  quote: { bid: fromDollars(9.98), ask: fromDollars(10), bidSize: 300, askSize: 300 },
  last: fromDollars(9.99),
  vwap: 97_003.4,
  open: null,
  dayHigh: fromDollars(10.4),
  dayLow: fromDollars(9),
  premarketHigh: fromDollars(10.4),
  premarketLow: fromDollars(9),
  candle: (minutes, back) =>
    minutes === 5 && back === 0 ? { open: 98_500, high: 100_500, low: 98_000, close: 99_900 } : null,
  premarketCandle: () => ({ high: 102_000, low: 99_000 }),
  openingRange: (minutes) => (minutes === 5 ? { high: 101_000, low: 98_500 } : null),
  average: () => null,
  atrOn: () => 2_000,
  level: () => null,
  cursor: 100_300,
  trade: null,
};

const seen: BrokerContext = {
  now: at(9, 45),
  session: 'regular',
  quote: () => view.quote,
  last: () => view.last,
  date: '2027-03-01',
  listing: () => ({ borrow: 'easy', restricted: false }),
  locate: () => ({ perShare: 100, available: 1_000 }),
  candle: () => null,
};

function moment(
  over: Partial<RunContext> & { rules?: Partial<AccountRules>; guards?: Partial<Guards> } = {},
): RunContext {
  const { rules, guards, ...rest } = over;
  const broker =
    rest.broker ?? createBroker(oneAccount(rules, { ...NO_GUARDS, mostShares: 5_000, ...guards }));
  return {
    now: at(9, 45),
    date: '2027-03-01',
    in: () => moment(over),
    locate: seen.locate,
    session: 'regular',
    hours: FULL_DAY,
    dayStart: 0,
    midnightOf: () => 0,
    focus: 'VULPN',
    view: (s) => (s === 'VULPN' ? view : null),
    chain: () => null,
    unlisted: () => null,
    passes: () => false,
    field: () => Number.NaN,
    broker,
    account: MAIN,
    ticket: null,
    levels: () => [],
    staged: [],
    waiting: [],
    plans: Object.fromEntries(
      PLAIN_PLANS.plans.map(({ name, text, hours }) => [name, { exits: exitsOf(text), hours }]),
    ),
    planFor: PLAIN_PLANS,
    usual: PLAIN_PLANS.usual,
    admit: (intent) => admit(broker, intent, { ...seen, session: rest.session ?? 'regular' }),
    would: (intent) => stepBroker(broker, { kind: 'intent', intent }, seen)[0],
    ...rest,
  };
}

function read(text: string, c: RunContext = moment()): Reading {
  const { statements, problems } = parseScript(text);
  const [statement] = statements;
  if (problems.length > 0 || !statement) throw new Error(`does not read: ${text}`);
  return readStatement(statement, c);
}

const intentsOf = (r: Reading): Intent[] => r.deeds.flatMap((d) => (d.kind === 'intent' ? [d.intent] : []));
const codeOf = (r: Reading) => r.problem?.reason.code ?? null;
const alertOf = (r: Reading) => r.deeds.flatMap((d) => (d.kind === 'alert' ? [d.asked] : []))[0];

/** A moment with 101 shares long from 10.00, stop 9.70, two targets. */
function holding(): RunContext {
  const exchange = fakeExchange();
  let broker: Broker = createBroker(oneAccount({}, NO_GUARDS));
  const step = (input: BrokerInput) => {
    const [next, effects] = stepBroker(broker, input, seen);
    broker = next;
    exchange.send(effects.venue);
    exchange.arrive(100);
    const reports = exchange.deliver(100);
    if (reports.length > 0) step({ kind: 'reports', reports });
  };
  const intent = intentsOf(
    read('buy 101 at ask\n stop 30c\n target 1R for half\n target 2R for half'),
  )[0] as Intent;
  step({ kind: 'intent', intent });
  exchange.fill([...exchange.orders.keys()][0] as WireId, 101, fromDollars(10));
  step({ kind: 'reports', reports: exchange.deliver(1) });
  const trade = { sign: 1 as const, averageEntry: 100_000, stop: fromDollars(9.7), riskPerShare: 3_000 };
  return moment({ broker, view: (s) => (s === 'VULPN' ? { ...view, trade } : null) });
}

// Sizes by hand: 1R is $60; a 30-cent stop gives 200 shares; $2,500 at 10.02 gives 249.
test.each([
  ['buy risk 1R at ask + 2c\n stop 30c', 200, 10.02],
  ['buy risk $45 at ask\n stop 3%', 150, 10],
  ['buy $2,500 at ask + 2 ticks', 249, 10.02],
  ['buy 300 at mid', 300, 9.99],
  ['buy 300 at vwap', 300, 9.7],
  ['short 300 at vwap + 0.5%', 300, 9.75],
  ['buy 100 at premarket low + 10c - 1%', 100, 9],
  ['buy 100 at 5m low - 3c', 100, 9.77],
  ['buy 100 at prior close + 0.5', 100, 8.5],
  ['buy 100 above day high + 10c limit day high + 18c', 100, 10.58],
  ['short 100 below 5m low - 10c', 100, 9.7],
] as const)('%j is %i shares at %d', (text, qty, dollars) => {
  const r = read(text);
  expect(r.problem).toBeNull();
  expect([r.facts?.qty, r.facts && toDollars(r.facts.price)]).toEqual([qty, dollars]);
});

// By hand: the 5-minute candle is 9.80–10.05; 2c beyond its far side is 9.78 for a long, 10.07 for a short. 1R held is 30 cents.
test('exits beyond a candle lie on the side that they belong to; R of what is held has its length; a time that is over is refused', () => {
  const planOf = (text: string, c = moment()) => {
    const [i] = intentsOf(read(text, c));
    return i && 'plan' in i ? i.plan : null;
  };
  expect(planOf('buy 100 at ask\n stop beyond 5m candle by 2c')?.stops[0]?.place).toEqual({
    kind: 'at',
    price: fromDollars(9.78),
  });
  expect(planOf('short 100 at bid\n stop beyond 5m candle by 2c')?.stops[0]?.place).toEqual({
    kind: 'at',
    price: fromDollars(10.07),
  });
  expect(planOf('attach\n stop at entry - 0.5R', holding())?.stops[0]?.place).toEqual({
    kind: 'at',
    price: fromDollars(9.85),
  });
  const early: RunContext = { ...holding(), session: 'pre-market' };
  expect(read('attach\n stop 30c', early).warnings.join()).toContain('waits for the regular session');
  expect(read('attach\n stop 30c extended', early).warnings.join()).not.toContain('waits');
  expect(planOf('buy 100 at ask\n stop 30c\n out by 09:46')?.outBy).toBe(at(9, 46));
  expect(codeOf(read('buy 100 at ask\n stop 30c\n out by 09:45'))).toBe('time over');
});

test('once everything is closed a time of day is that of the next trading day; what would be over before it wakes says so', () => {
  const closed = moment({ session: 'closed', now: at(20) });
  const early = moment({ session: 'pre-market', now: at(8), admit: () => null });
  const entry = (text: string, c: RunContext) =>
    intentsOf(read(text, c))[0] as Extract<Intent, { kind: 'entry' }>;
  expect(entry('buy 10 at bid until 10:00\n stop 10c\n out by 15:50', closed)).toMatchObject({
    until: DAY + at(10),
    plan: { outBy: DAY + at(15, 50) },
  });
  expect(entry('buy 10 at bid until 09:00 extended', closed).until).toBe(DAY + at(9));
  expect(entry('buy 10 at bid until 09:00 extended', early).until).toBe(at(9));
  for (const [text, c] of [
    ['buy 10 at bid until 09:30', closed],
    ['buy 10 at bid until 04:00 extended', closed],
    ['buy 10 at bid until 09:30', early],
  ] as const) {
    const r = read(text, c);
    expect([text, codeOf(r)]).toEqual([text, 'dead when it wakes']);
    for (const fix of r.problem?.fixes ?? []) expect(codeOf(read(fix, c))).toBeNull();
  }
  const waits = (text: string) => read(text, closed).deeds.find((d) => d.kind === 'wait');
  // Between two days no time of day has come, whichever side of it is meant.
  expect(read('when time >= 09:35: buy 10 at bid', closed).about).toMatch(/in 13:35:00/);
  expect(read('when time < 10:00: buy 10 at bid', closed).about).toMatch(/from 04:00 on/);
  expect(read('when time < 09:00: buy 10 at bid').about).toMatch(/over for today/);
  for (const time of ['time >= 09:35', 'time < 10:00'])
    expect(waits(`when ${time}: buy 10 at bid`)).toMatchObject({ trigger: { until: DAY + at(20) } });
  expect(waits('when last > 20 until 11:00: buy 10 at bid')).toMatchObject({
    trigger: { until: DAY + at(11) },
  });
});

// Of a refusal that a sentence mends, that sentence goes, or is asked what it adds.
test.each([
  ['short 10 at bid\n stop 10c', 'entry against', 'close all of VULPN at usual through'],
  ['buy 10 at level "lid"\n stop 10c', 'no level', 'level "lid" at last'],
  ['buy ticket at ask\n stop 10c', 'no ticket', 'size 100'],
  ['move stop to last + 1c', 'stop side', 'flatten of VULPN'],
  ['attach\n target at 9.00', 'at once', 'close all of VULPN at usual through'],
  ['buy 10 at bid until 09:00\n stop 10c', 'time over', 'buy 10 at bid\n  stop 10c'],
  [
    'buy 10 at bid account "Practice"\n stop 10c',
    'no account',
    'buy 10 at bid account "Practice margin"\n  stop 10c',
  ],
])('%j: %s, and %j goes instead', (text, code, instead) => {
  const r = read(text, holding());
  expect([codeOf(r), r.problem?.fixes[0]]).toEqual([code, instead]);
  expect(codeOf(read(instead, { ...holding(), admit: () => null }))).toBeNull();
});

test.each([
  ['halted', /VULPN is in a halt: the order waits and joins the reopening auction/],
  ['volatility pause', /VULPN is in a volatility pause: the order waits/],
  ['limit up', /VULPN stands at its limit up band: beyond it nothing trades/],
  ['trading', /^No stop: 100 VULPN will stand without one\.$/],
] as const)('what is bought of a stock that is %s says what becomes of it', (status, says) => {
  const r = read('buy 100 at ask', moment({ view: () => ({ ...view, status }) }));
  expect(r.warnings.join('\n')).toMatch(says);
});

// What stands bare from the start is said, with the part of it.
test.each([
  ['buy 100 at ask\n target 30c', '100 VULPN will stand without one.'],
  ['buy 100 at ask\n trail 10c after 20c', '100 VULPN will stand without one until the trail begins.'],
  ['buy 101 at ask\n stop 20c for half', '51 VULPN will stand without one.'],
  ['buy 100 at ask\n stop 20c for half\n stop 30c', null],
  ['buy 100 at ask\n trail 10c', null],
])('%j says %s', (text, says) => {
  const warnings = read(text).warnings.filter((w) => w.startsWith('No stop'));
  expect(warnings).toEqual(says === null ? [] : [`No stop: ${says}`]);
});

test('exits without a stop leave no share without the one that it has; what gives way to them is said', () => {
  const attached = (text: string) => {
    const r = read(text, holding());
    const [intent] = intentsOf(r) as Extract<Intent, { kind: 'attach' }>[];
    return { stops: intent?.plan.stops.map((x) => x.place), says: r.warnings.join(' '), back: r.sayBack };
  };
  const kept = [{ kind: 'at', price: fromDollars(9.7) }];
  const target = attached('attach\n target 50c');
  expect(target).toMatchObject({ stops: kept, says: expect.stringContaining('Takes the place of target') });
  expect(target.back).toContain('stop at 9.70');
  expect(attached('attach\n trail 10c after 20c').stops).toEqual(kept);
  expect(attached('attach to half\n breakeven after 20c').stops).toEqual(kept);
  expect(attached('close all trailing 10c after 20c').stops).toEqual(kept);
  // A trail takes it along; only a stop takes its place.
  expect(attached('attach\n trail 10c').stops).toEqual(kept);
  expect(attached('attach\n stop 20c').stops).toEqual([{ kind: 'distance', units: 2_000 }]);
});

test('a stop that is extended says so of itself, not of the other exits', () => {
  const [entry] = intentsOf(read('buy 100 at ask\n stop 30c for half extended\n stop 40c\n target 1R'));
  if (entry?.kind !== 'entry') throw new Error('no entry');
  expect(entry.plan?.extended).toBe(false);
  expect(entry.plan?.stops.map((s) => s.extended ?? false)).toEqual([true, false]);
});

// Exits by hand for 200 at 10.00 with a 30-cent stop: targets 10.30 and 10.75, reward 100 × 0.30 + 100 × 0.75.
test('the say-back names every price; cost, risk, reward and costs both ways add up by hand', () => {
  const r = read(
    'buy risk 1R at ask\n stop 30c\n target 1R for half\n target 2.5R\n breakeven after 1R plus costs',
  );
  expect(r.sayBack).toBe(
    'buy 200 of VULPN at 10.00\n  stop at 9.70\n  target at 10.30 for half\n  target at 10.75\n  breakeven after 1R plus costs',
  );
  expect(r.facts).toMatchObject({
    cost: 20_000_000,
    risk: 600_000,
    units: 1,
    reward: 1_050_000,
    // $1 each way; 0.3c a share each way to the exchange; of a sale of $2,000 6c to the SEC and 4c TAF.
    costs: 20_000 + 12_000 + 600 + 400,
    stop: 97_000,
  });
  const short = read('short risk 1R at bid\n stop 30c\n target 1R for half\n target 2.5R');
  expect(short.sayBack).toBe(
    'short 200 of VULPN at 9.98\n  stop at 10.28\n  target at 9.68 for half\n  target at 9.23',
  );
  expect(short.facts?.reward).toBe(r.facts?.reward);
});

test('the say-back is itself a script that asks for the same order', () => {
  const offsets = fc.constantFrom('', ' + 3c', ' - 1%', ' + 2 ticks', ' - 0.07');
  const sizes = fc.constantFrom('risk 1R', 'risk $25', '150', '$900');
  fc.assert(
    fc.property(
      sizes,
      fc.constantFrom('ask', 'bid', 'vwap', 'last', 'premarket low'),
      offsets,
      fc.integer({ min: 5, max: 80 }),
      fc.constantFrom('buy', 'short'),
      (size, base, offset, stop, verb) => {
        const first = read(
          `${verb} ${size} at ${base}${offset} extended\n stop ${stop}c\n target 1R for third\n target 2R for third`,
        );
        fc.pre(first.problem === null);
        const second = read(first.sayBack);
        expect(second.problem).toBeNull();
        const [a, b] = [intentsOf(first)[0], intentsOf(second)[0]];
        if (a?.kind !== 'entry' || b?.kind !== 'entry') throw new Error('an entry was expected');
        expect([b.side, b.qty, b.limit, b.extended]).toEqual([a.side, a.qty, a.limit, a.extended]);
        expect([second.facts?.stop, second.facts?.risk]).toEqual([first.facts?.stop, first.facts?.risk]);
        expect(a.limit !== null && onTick(a.limit)).toBe(true);
      },
    ),
  );
});

test('risk never exceeds what was asked for, and one share more would', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 400 }), fc.integer({ min: 1, max: 300 }), (dollars, stop) => {
      const r = read(
        `buy risk $${dollars} at ask\n stop ${stop}c`,
        moment({ rules: { multiple: 1_000 }, guards: { mostShares: 1_000_000 } }),
      );
      if (r.facts === null) return expect(codeOf(r)).toBe('size zero');
      const perShare = stop * 100;
      expect(r.facts.risk).toBeLessThanOrEqual(dollars * 10_000);
      expect((r.facts.qty + 1) * perShare).toBeGreaterThan(dollars * 10_000);
    }),
  );
});

test.each([
  ['close half at bid', 50, 'sell'],
  ['close third at ask', 33, 'sell'],
  ['sell all at last', 101, 'sell'],
  ['close 25% at market', 25, 'sell'],
  ['sell 500 at bid', 101, 'sell'],
  ['sell $505 at bid', 50, 'sell'],
] as const)('holding 101, %j closes %i', (text, qty, side) => {
  const r = read(text, holding());
  expect([intentsOf(r), r.facts?.side]).toMatchObject([[{ kind: 'close', qty }], side]);
});

test.each([
  ['cover all at ask', 'wrong way', 'sell closes it'],
  ['short 100 at bid\n stop 10c', 'entry against', 'sell all at bid'],
  ['move stop to last + 1c', 'stop side', 'would go at once'],
  ['move order 1 to 9.50', 'too late', 'Too late: order 1 is filled'],
  ['close half at entry + 1R + $3.00', null, null],
  ['move order 2 to 9.99', 'stop side', 'would go at once'],
  ['buy 50 at ask\n stop 10c\n target at 9.90', 'exit side', 'must be above the entry at 10.00'],
  ['buy 50 at ask\n stop 0.01c', 'exit side', 'must be below 10.00'],
  ['buy 50 at bid - 200%\n stop 10c', 'below zero', 'comes to −9.98'],
  ['buy 50 at ask\n stop 10c\n trail 100%', 'no room', 'leaves no price to close at'],
  ['buy 50 at ask\n stop 10c\n out by 20:00', 'after the day', 'the day’s end at 20:00'],
  ['sell 20 above 10.50', 'wrong side of last', 'A limit there rests: at 10.50'],
  ['sell 20 above 9.50', 'wrong way of stop', 'write “below 9.50”'],
] as const)('holding 101, %j: %s', (text, code, says) => {
  const r = read(text, holding());
  expect(codeOf(r)).toBe(code);
  if (says) expect(r.problem?.text).toContain(says);
});

test('managing a position: stop to breakeven, an order by its number, cancel and flatten say what they touch', () => {
  const c = holding();
  const stop = read('move stop to breakeven - 10c', c);
  expect([intentsOf(stop), stop.sayBack]).toMatchObject([
    [{ kind: 'move', to: fromDollars(9.9) }],
    'move stop of VULPN to 9.90',
  ]);
  expect(intentsOf(read('move order 3 up 5c', c))).toMatchObject([
    { kind: 'move', orderId: 3, to: fromDollars(10.35) },
  ]);
  expect(read('move stop to 9.70', c)).toMatchObject({ deeds: [], problem: null, about: 'there already' });
  expect(intentsOf(read('move stop by 5c', c))).toMatchObject([{ to: fromDollars(9.75) }]);
  // The 5-minute candle's low is 9.80.
  expect(intentsOf(read('move stop beyond 5m candle by 2c', c))).toMatchObject([{ to: fromDollars(9.78) }]);
  expect(intentsOf(read('move targets up 5c', c))).toMatchObject([
    { to: fromDollars(10.35) },
    { to: fromDollars(10.65) },
  ]);
  const cancel = read('cancel symbol', c);
  expect([cancel.warnings, cancel.about, intentsOf(cancel)]).toMatchObject([
    [],
    '2 orders',
    [{ kind: 'cancel', what: { kind: 'symbol', symbol: 'VULPN', keepStops: true } }],
  ]);
  expect(read('cancel symbol and exits', c).asks).toEqual([{ kind: 'bares', symbol: 'VULPN', shares: 101 }]);
  expect(read('cancel entries', c)).toMatchObject({
    deeds: [],
    problem: null,
    about: 'no entries of VULPN are working',
  });
  const flat = read('flatten', c);
  expect([flat.addsRisk, intentsOf(flat), flat.about]).toMatchObject([
    false,
    [{ kind: 'flatten', symbol: 'VULPN', limit: null }],
    'sell 101 VULPN at market',
  ]);
  expect(intentsOf(read('flatten', { ...c, session: 'pre-market' }))).toMatchObject([
    { kind: 'flatten', limit: fromDollars(8.99) },
  ]);
  const turned = read('reverse', c);
  expect(intentsOf(turned)).toMatchObject([
    { kind: 'flatten' },
    { kind: 'entry', side: 'sell', qty: 101, afterFlat: true, plan: { stops: [{ part: null }] } },
  ]);
});

test.each([
  ['regular', 'buy 100 at market', null],
  ['pre-market', 'buy 100 at market', 'market hours'],
  ['after hours', 'short 100 at market', 'market hours'],
] as [SessionKind, string, string | null][])('in the %s session %j gives %s', (session, text, code) => {
  expect(codeOf(read(text, moment({ session })))).toBe(code);
});

// The ticket by hand: 1R is $60, with a 30-cent stop 200 shares; a risk has no shares to step by, to close or to buy without a stop.
test('the ticket is a size wherever it has one, and says what it lacks where not', () => {
  const risk = moment({ ticket: { kind: 'risk', r: ONE } });
  const shares = moment({ ticket: { kind: 'shares', shares: 150 } });
  expect(read('buy ticket at ask\n stop 30c', risk).facts?.qty).toBe(200);
  expect(codeOf(read('buy ticket at ask', risk))).toBe('no measure');
  expect(codeOf(read('size up 100', risk))).toBe('risk ticket');
  expect(codeOf(read('close ticket at bid', { ...holding(), ticket: risk.ticket }))).toBe('risk ticket');
  expect(read('buy ticket at ask', shares).facts?.qty).toBe(150);
  expect(read('size down 50', shares).deeds).toEqual([
    { kind: 'ticket', size: { kind: 'shares', shares: 100 } },
  ]);
  expect(read('size down 150', shares).deeds).toEqual([{ kind: 'ticket', size: null }]);
  expect(codeOf(read('buy ticket at ask'))).toBe('no ticket');
});

test('a plan with hours is taken from the first minute to before the last; usual distances are of the price or of the ATR', () => {
  const plans = { mine: { exits: exitsOf('stop usual'), hours: { from: 9 * 60 + 45, to: 10 * 60 } } };
  const text = 'buy 100 at ask with plan "mine"';
  const at10 = (minute: number, second = 0) =>
    codeOf(read(text, moment({ plans, now: at(9, minute, second) })));
  expect([at10(44, 59), at10(45), at10(59, 59), at10(60)]).toEqual(['plan hours', null, null, 'plan hours']);
  const stopOf = (by: 'price' | 'atr') =>
    read('buy 100 at ask\n stop usual', moment({ usual: { ...PLAIN_PLANS.usual, by, stopAtr: 0.2 } })).facts
      ?.stop;
  // 40 cents for a stock from 10 to 20 dollars; a fifth of an ATR of 50 cents are 10 cents.
  expect([stopOf('price'), stopOf('atr')]).toEqual([fromDollars(9.6), fromDollars(9.9)]);
});

test('what costs eat is flagged, what adds risk is marked, a staged order says so', () => {
  expect(read('buy 20 at ask\n stop 5c\n target 6c').warnings.join()).toContain(
    'Costs of $2.04 eat the planned gain of $1.20',
  );
  expect([read('buy 20 at ask').addsRisk, read('close half at bid', holding()).addsRisk]).toEqual([
    true,
    false,
  ]);
  expect(read('stage buy 20 at ask')).toMatchObject({
    addsRisk: false,
    deeds: [{ kind: 'stage', symbol: 'VULPN', statement: { kind: 'enter', staged: false } }],
  });
  expect(read('buy 100 at 10.30\n stop 30c').warnings.join()).toContain(
    '0.30 above the ask 10.00: it fills at once',
  );
  expect(read('short 100 at 9.60\n stop 30c').warnings.join()).toContain('0.38 below the bid 9.98');
  expect(read('buy 100 at 10.10\n stop 30c').warnings.join()).not.toContain('fills at once');
});

test('each level has its own name, and a draft in those names reads and runs', () => {
  const limit = (text: string) => {
    const [intent] = intentsOf(read(`buy 100 at ${text}`));
    return intent?.kind === 'entry' ? intent.limit : null;
  };
  expect(limit('premarket 15m low')).toBe(99_000);
  expect(limit('opening range 5m low + 1c')).toBe(98_600);
  expect(limit('whole dollar below')).toBe(90_000);
  expect(limit('half dollar below')).toBe(95_000);
  expect(limit('cursor')).toBe(100_300);
  expect(read('buy 100 at opening range 15m high').problem?.text).toContain('has no value');
  expect(
    read('buy 100 at cursor', moment({ view: () => ({ ...view, cursor: null }) })).problem?.text,
  ).toContain('Point at a price');
  for (const way of ['long', 'short'] as const) {
    const reading = read(candidateTrade(view, way) ?? '');
    expect(reading.problem).toBeNull();
    const [intent] = intentsOf(reading);
    // By hand: candle 9.90–10.20; 1c beyond it in, 4c of room, out 1c beyond the other side.
    if (intent?.kind !== 'entry') throw new Error('an entry was expected');
    expect([intent.stop, intent.limit]).toEqual(way === 'long' ? [102_100, 102_400] : [98_900, 98_600]);
  }
  expect(candidateTrade({ ...view, premarketCandle: () => null }, 'long')).toBeNull();
});

test('an alert is read with its price and side as of now; one at the last price, or on what is true already, says so', () => {
  expect(alertOf(read('alert at last + 10c'))).toEqual({
    symbol: 'VULPN',
    on: { kind: 'price', price: 100_900, way: 'up' },
  });
  expect(alertOf(read('alert at vwap'))).toEqual({
    symbol: 'VULPN',
    on: { kind: 'price', price: 97_000, way: 'down' },
  });
  expect(read('alert at last').problem).toMatchObject({
    text: expect.stringContaining('stands at 9.99 now'),
    fixes: ['alert at last + 10c'],
  });
  expect(read('alert when change > 10%', moment({ passes: () => true })).warnings[0]).toContain('already');
  expect(alertOf(read('alert any when gap > 8% and float < 20M'))?.symbol).toBeNull();
  expect(read('alert of VULPN on halt').sayBack).toBe('alert of VULPN on halt');
});
