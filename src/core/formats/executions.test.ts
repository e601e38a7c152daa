import fc from 'fast-check';
import { tradeRecord } from '../../../tests/trade-record.ts';
import { type Exits, joinTrades } from '../review/index.ts';
import { DAY } from '../units/index.ts';
import { dateIn, instantIn, numberIn, timeIn, zoneIn } from './cells.ts';
import {
  guessExecutionMap,
  keptExecutionsCsv,
  keptJson,
  readExecutions,
  rowsOfTradesJson,
  sameness,
} from './index.ts';

const here = (date: string, at: number) => ({ date, at });
const read = (text: string, over: Partial<ReturnType<typeof guessExecutionMap>> = {}, place = here) => {
  const rows = text.split('\n').map((l) => l.split(','));
  return readExecutions(rows, { ...guessExecutionMap(rows), ...over }, place);
};

test('columns are guessed from usual headings, whatever their order and case', () => {
  const rows = [
    ['Exec Time', 'Trade Date', 'B/S', 'Ticker', 'Fill Price', 'Shares', 'Comm', 'Liq', 'Acct'],
    ['09:31:05', '13/3/2027', 'SLD', 'KELOD', '8.44', '100', '-1.00', 'R', 'X1'],
  ];
  const map = guessExecutionMap(rows);
  expect(map).toMatchObject({
    columns: {
      time: 0,
      date: 1,
      side: 2,
      symbol: 3,
      price: 4,
      qty: 5,
      commission: 6,
      liquidity: 7,
      account: 8,
      fees: -1,
      risk: -1,
    },
    dates: 'day first',
    minusIsCost: true,
  });
  expect(readExecutions(rows, map, here).executions[0]).toMatchObject({
    date: '2027-03-13',
    at: 34_265_000,
    side: 'sell',
    price: 84_400,
    costs: { commission: 10_000 },
    liquidity: 'removed',
    account: 'X1',
  });
});

test('every row that cannot be taken is named with its line, column, value and reason; the others are taken', () => {
  const { executions, bad, doubled } = read(
    [
      'date,time,symbol,side,qty,price,id',
      '2027-03-09,09:31:05,VULPN,buy,100,5.80,1',
      '2027-02-30,09:31:05,VULPN,buy,100,5.80,2',
      '2027-03-09,25:31,VULPN,buy,100,5.80,3',
      '2027-03-09,09:31:05,=cmd(),buy,100,5.80,4',
      '2027-03-09,09:31:05,VULPN,hold,100,5.80,5',
      '2027-03-09,09:31:05,VULPN,sell,0,5.80,6',
      '2027-03-09,09:31:05,VULPN,sell,1e3,5.80,7',
      '2027-03-09,09:31:05,VULPN,sell,100,-5.80,8',
      '2027-03-09,09:31:05,VULPN,sell,100,,9',
      '',
      '2027-03-09,09:31:05,__proto__,constructor,100,5.80,10',
      '2027-03-09,09:31:05,VULPN,buy,100,5.80,1',
      '2027-03-09,09:32:00,VULPN  270416C00006000,sell,2,1.05,12',
    ].join('\n'),
  );
  expect(executions.map((x) => x.symbol)).toEqual(['VULPN', 'VULPN 2027-04-16 6 call']);
  expect(doubled).toBe(1);
  expect(bad.map((b) => [b.line, b.column, b.value])).toEqual([
    [3, 'date', '2027-02-30'],
    [4, 'time', '25:31'],
    [5, 'symbol', '=cmd()'],
    [6, 'side', 'hold'],
    [7, 'qty', '0'],
    [8, 'qty', '1e3'],
    [9, 'price', '-5.80'],
    [10, 'price', ''],
    [12, 'symbol', '__proto__'],
  ]);
  for (const b of bad) expect(b.reason.length).toBeGreaterThan(5);
});

test('without a column of sides the sign of the size is the side; a time that clocks skip is refused', () => {
  const { executions } = read('date,time,symbol,qty,price\n2027-03-09,09:31:05,VULPN,-100,5.80');
  expect(executions[0]).toMatchObject({ side: 'sell', qty: 100 });
  const skipped = read(
    'date,time,symbol,qty,price\n2027-03-14,02:30:00,VULPN,-100,5.80',
    {},
    () => null as never,
  );
  expect(skipped.bad[0]?.reason).toMatch(/no such time/);
});

test('numbers as tables of money write them', () => {
  const cases: [string, number | null][] = [
    ['$1,234.50', 1234.5],
    ['(12.30)', -12.3],
    ['12.30-', -12.3],
    ['−5', -5],
    ['.5', 0.5],
    ['', null],
    ['1e3', null],
    ['0x10', null],
    ['NaN', null],
    ['Infinity', null],
    ['--', null],
    ['5,80', null],
    ['1,23,456', null],
    ['.', null],
    ['5.', 5],
    ['12 34x', null],
    ['1 234,567.5', 1234567.5],
    ["1'234.50", 1234.5],
    ['5 20', null],
    ['1-2', null],
    ['--5', null],
    ['-(5)', null],
    ['(5', null],
    ['-$5.20', -5.2],
    ['$-5.20', -5.2],
    ['5.20 USD', 5.2],
  ];
  for (const [text, value] of cases) expect([text, numberIn(text)]).toEqual([text, value]);
  expect(['5,80', '1.234,50', '1.5', '(3,25)'].map((t) => numberIn(t, 'comma'))).toEqual([
    5.8,
    1234.5,
    null,
    -3.25,
  ]);
  const rows = [
    ['date', 'time', 'symbol', 'qty', 'price', 'fee'],
    ['9.3.2027', '9:31', 'VULPN', '1.000', '5,80', '-1,25'],
  ];
  const map = guessExecutionMap(rows);
  expect(readExecutions(rows, { ...map, dates: 'day first' }, here).executions[0]).toMatchObject({
    qty: 1_000,
    price: 58_000,
    costs: { venue: 12_500 },
    date: '2027-03-09',
  });
});

test('dates and times as other tables write them, with the zone that they say', () => {
  const dates = [
    '9-Mar-2027',
    '09 March 27',
    'Mar 9, 2027 09:31',
    'Tue, 9 Mar 2027',
    'March 9th 2027',
    '20270309;093105',
    '2027.03.09',
  ];
  for (const text of dates) expect([text, dateIn(text)]).toEqual([text, '2027-03-09']);
  for (const text of ['9-Foo-2027', '31-Feb-2027', 'Mar 2027', '2027-13-01'])
    expect([text, dateIn(text)]).toEqual([text, null]);
  for (const text of ['20270309;093105', '9:31:05 a.m.', '93105', '09:31:05.000', 'Mar 9, 2027 9:31:05 AM'])
    expect([text, timeIn(text)]).toEqual([text, 34_265_000]);
  for (const text of ['20270309', '250000', '9', '9:3']) expect([text, timeIn(text)]).toEqual([text, null]);
  const zones = [
    ['2027-03-09T14:31:05Z', 'UTC'],
    ['2027-03-09T09:31:05.123-05:00', 'UTC-5:00'],
    ['09:31:05+0530', 'UTC+5:30'],
    ['9:31:05 AM EST', 'America/New_York'],
    ['08:31 CT', 'America/Chicago'],
    ['14:31:05 GMT', 'UTC'],
    ['2027-03-09', null],
    ['2027-03-09 09:31:05', null],
  ] as const;
  for (const [text, zone] of zones) expect([text, zoneIn(text).zone]).toEqual([text, zone]);
  // 2027-03-09 14:31:05 in universal time.
  for (const text of ['1804602665', '1804602665000', '1804602665000000', '1804602665.0'])
    expect(instantIn(text)).toEqual({ date: '2027-03-09', at: 52_265_000 });
  expect(instantIn('20270309')).toBeNull();
  const asked: unknown[] = [];
  readExecutions(
    [
      ['date', 'symbol', 'qty', 'price'],
      ['2027-03-09T09:31:05-05:00', 'VULPN', '100', '5.80'],
      ['1804602665', 'VULPN', '-100', '5.80'],
    ],
    guessExecutionMap([['date', 'symbol', 'qty', 'price']]),
    (date, ms, zone) => {
      asked.push([date, ms, zone]);
      return { date, at: ms };
    },
  );
  expect(asked).toEqual([
    ['2027-03-09', 34_265_000, 'UTC-5:00'],
    ['2027-03-09', 52_265_000, 'UTC'],
  ]);
});

test('headings are found beneath what stands above them, and those of executions before those of orders', () => {
  const table = [
    ['Statement of March'],
    [''],
    [
      'Qty',
      'Filled Qty',
      'Limit Price',
      'Avg Fill Price (USD)',
      'Settle Date',
      'Trade Date',
      'Time Placed',
      'Exec. Time',
      'Symbol',
      'Buy/Sell',
      'Status',
      'Planned Stop',
    ],
    [
      '500',
      '100',
      '5.75',
      '5.80',
      '3/11/2027',
      '3/9/2027',
      '9:00:00',
      '9:31:05',
      'VULPN',
      'BUY_TO_OPEN',
      'Filled',
      '5.50',
    ],
    ['500', '0', '5.75', '', '3/11/2027', '3/9/2027', '9:00:00', '9:31:05', 'VULPN', 'SELL', 'Canceled', ''],
    [
      '100',
      '100',
      '5.75',
      '6.00',
      '3/11/2027',
      '3/9/2027',
      '9:00:00',
      '9:35:00',
      'VULPN',
      'Sell to close',
      'Partially filled, canceled',
      '',
    ],
    ['Total', '', '', '', '', '', '', '', '', '', '', ''],
  ];
  const map = guessExecutionMap(table);
  expect(map.heading).toBe(2);
  const got = readExecutions(table, map, here);
  expect(got.executions.map((x) => [x.side, x.qty, x.price, x.at, x.exits.stop])).toEqual([
    ['buy', 100, 58_000, 34_265_000, 55_000],
    ['sell', 100, 60_000, 34_500_000, null],
  ]);
  expect(got.bad.map((b) => [b.line, b.column])).toEqual([
    [5, 'Status'],
    [7, 'Symbol'],
  ]);
  const bare = [['2027-03-09 09:31:05', 'VULPN', 'buy', '100', '5.80']];
  expect(guessExecutionMap(bare).heading).toBe(-1);
});

test('a file from the last to the first, with several in one second, is read from the first to the last', () => {
  const rows = [
    'date,time,symbol,side,qty,price',
    '2027-03-09,09:40:00,VULPN,sell,100,6',
    '2027-03-09,09:40:00,VULPN,buy,100,5.5',
    '2027-03-09,09:31:00,VULPN,sell,100,6',
    '2027-03-09,09:31:00,VULPN,buy,100,5',
  ];
  const trades = joinTrades(read(rows.join('\n')).executions);
  expect(trades.map((t) => [t.direction, t.net])).toEqual([
    ['long', 1_000_000],
    ['long', 500_000],
  ]);
});

test('one number: said again it is left out, with other values it is named, on another day it is another one', () => {
  const got = read(
    [
      'date,time,symbol,side,qty,price,id',
      '2027-03-09,09:31:05,VULPN,buy,100,5.80,1',
      '2027-03-09,09:31:05,VULPN,buy,100,5.80,1',
      '2027-03-09,09:31:05,VULPN,buy,100,5.90,1',
      '2027-03-10,09:31:05,VULPN,sell,100,5.90,1',
      '2027-03-10,09:31:06,VULPN,buy,-100,5.90,2',
    ].join('\n'),
  );
  expect(got.executions).toHaveLength(2);
  expect(got.doubled).toBe(1);
  expect(got.bad.map((b) => [b.line, b.column, b.reason])).toEqual([
    [4, 'id', expect.stringMatching(/line 2 has this number/)],
    [6, 'qty', expect.stringMatching(/bought, and below zero/)],
  ]);
});

test('rows that are alike and have no number: each counts, unless one is to count', () => {
  const text = [
    'date,time,symbol,side,qty,price',
    '2027-03-09,09:31:05,VULPN,buy,100,5.80',
    '2027-03-09,09:31:05,VULPN,buy,100,5.80',
    '2027-03-09,09:31:06,VULPN,sell,100,5.80',
  ].join('\n');
  const each = read(text);
  expect([each.executions.length, each.alike, each.doubled]).toEqual([3, 1, 0]);
  const once = read(text, { alike: 'one counts', account: 'Second' });
  expect([each, once].map((r) => r.executions[0]?.account)).toEqual(['imported', 'Second']);
  expect([once.executions.length, once.alike, once.doubled]).toEqual([2, 1, 0]);
});

test('parts of a share and of a hundredth of a cent come to nothing, to the last of them', () => {
  const got = read(
    [
      'date,time,symbol,side,qty,price',
      '2027-03-09,09:31:05,VULPN,buy,0.1,5.123456',
      '2027-03-09,09:31:06,VULPN,buy,0.2,5.123456',
      '2027-03-09,09:31:07,VULPN,sell,0.3,5.223456',
    ].join('\n'),
  );
  const [t, ...more] = joinTrades(got.executions);
  expect(more).toEqual([]);
  expect(t?.closed).not.toBeNull();
  expect(t?.net).toBeCloseTo(300, 6);
});

test('no table makes the reader fail: whatever stands in its cells, a row is taken or named', () => {
  const cell = fc.oneof(
    fc.string(),
    fc.constantFrom(
      '2027-03-09',
      '09:31:05',
      'VULPN',
      'buy',
      '100',
      '5.80',
      '__proto__',
      '=1+1',
      '\u0000',
      '9'.repeat(400),
    ),
  );
  fc.assert(
    fc.property(fc.array(fc.array(cell, { maxLength: 8 }), { maxLength: 12 }), (rows) => {
      const table = [['date', 'time', 'symbol', 'side', 'qty', 'price', 'commission', 'risk'], ...rows];
      const got = readExecutions(table, guessExecutionMap(table), here);
      const some = rows.filter((r) => r.some((c) => c.trim() !== '')).length;
      expect(got.executions.length + got.bad.length + got.doubled).toBe(some);
      for (const x of got.executions) expect(x.at >= 0 && x.at < DAY && x.qty > 0 && x.price >= 0).toBe(true);
    }),
  );
});

const anyTrades = fc.array(
  fc.record({
    qty: fc.integer({ min: 1, max: 5_000 }),
    price: fc.integer({ min: 1, max: 9_999_999 }),
    at: fc.integer({ min: 0, max: DAY - 1 }),
    side: fc.constantFrom('buy' as const, 'sell' as const),
    account: fc.constantFrom('Main', 'Cash, "small"', '=SUM(A1)'),
    symbol: fc.constantFrom('VULPN', 'KELOD', 'VULPN 2027-04-16 6 call'),
  }),
  { minLength: 1, maxLength: 12 },
);

test('executions that were taken out as CSV or JSON are the same when they are taken in again', () => {
  fc.assert(
    fc.property(anyTrades, (list) => {
      const t = tradeRecord({ net: 0 });
      const trades = list.map(({ account, symbol, ...x }, k) => ({
        ...t,
        exits: { stop: x.price, target: k % 2 === 0 ? null : x.price + 0.25 },
        ref: `a1.${k + 1}`,
        account,
        symbol,
        executions: [
          {
            ...x,
            id: '1',
            order: '9',
            date: '2027-03-09',
            role: 'entry',
            liquidity: 'added' as const,
            route: 'LIT',
            better: 0,
            costs: t.costs,
          },
        ],
      }));
      const said = (x: Parameters<typeof sameness>[0] & { exits: Exits }) =>
        `${sameness(x)} ${JSON.stringify(x.exits)}`;
      // A cell that would be a formula comes back with its apostrophe.
      const name = (s: string) => s.replace(/^=/, "'=");
      const asked = (accountOf: (s: string) => string) =>
        trades
          .flatMap((x) =>
            x.executions.map((e) =>
              said({ ...e, account: accountOf(x.account), symbol: x.symbol, exits: x.exits }),
            ),
          )
          .sort();
      const table = parseCsv(keptExecutionsCsv(trades));
      const back = readExecutions(table, guessExecutionMap(table), here);
      expect(back.bad).toEqual([]);
      expect(back.executions.map(said).sort()).toEqual(asked(name));
      const rows = rowsOfTradesJson('x.json', keptJson(trades, new Map()));
      const again = readExecutions(rows, guessExecutionMap(rows), here);
      expect(again.executions.map(said).sort()).toEqual(asked((s) => s));
      expect(joinTrades(again.executions).length).toBeGreaterThan(0);
    }),
  );
});

/** RFC 4180, as plainly as it can be read. */
function parseCsv(text: string): string[][] {
  const rows: string[][] = [];
  let [row, cell, quoted]: [string[], string, boolean] = [[], '', false];
  for (let k = 0; k < text.length; k++) {
    const c = text[k] as string;
    if (quoted) {
      if (c === '"' && text[k + 1] === '"') cell += text[++k];
      else if (c === '"') quoted = false;
      else cell += c;
    } else if (c === '"') quoted = true;
    else if (c === ',') [row, cell] = [[...row, cell], ''];
    else if (c === '\n') {
      rows.push([...row, cell]);
      [row, cell] = [[], ''];
    } else if (c !== '\r') cell += c;
  }
  return rows;
}

test('a list of objects is read as it is, or as the only list that an object holds', () => {
  const list = [{ date: '2027-03-09T14:31:05Z', symbol: 'VULPN', side: 'buy', qty: 100, price: 5.2 }];
  const rows = rowsOfTradesJson('x.json', JSON.stringify(list));
  expect(rows[1]).toEqual(['2027-03-09T14:31:05Z', 'VULPN', 'buy', '100', '5.2']);
  expect(rowsOfTradesJson('x.json', JSON.stringify({ made: 'now', executions: list, notes: [] }))).toEqual(
    rows,
  );
  expect(() => rowsOfTradesJson('x.json', JSON.stringify({ a: list, b: list }))).toThrow(
    /holds no executions/,
  );
});

test.each(['', '{', '[]', '[1]', '{"format":"keen-fox trades"}', '{"trades":[]}', '"text"'])(
  'JSON that holds no executions is refused in words: %s',
  (text) => {
    expect(() => rowsOfTradesJson('x.json', text)).toThrow(/x\.json (is no JSON|holds no executions)/);
  },
);
