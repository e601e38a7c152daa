import fc from 'fast-check';
import { tradeRecord } from '../../../tests/trade-record.ts';
import { joinTrades } from '../review/index.ts';
import { DAY } from '../units/index.ts';
import { numberIn } from './cells.ts';
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
      '2027-03-09,09:32:00,VULPN,sell,100,5.90,1',
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
      // A cell that would be a formula comes back with its apostrophe.
      const name = (s: string) => s.replace(/^=/, "'=");
      const asked = (accountOf: (s: string) => string) =>
        trades
          .flatMap((x) =>
            x.executions.map((e) => sameness({ ...e, account: accountOf(x.account), symbol: x.symbol })),
          )
          .sort();
      const table = parseCsv(keptExecutionsCsv(trades));
      const back = readExecutions(table, guessExecutionMap(table), here);
      expect(back.bad).toEqual([]);
      expect(back.executions.map(sameness).sort()).toEqual(asked(name));
      const rows = rowsOfTradesJson('x.json', keptJson(trades, new Map()));
      const again = readExecutions(rows, guessExecutionMap(rows), here);
      expect(again.executions.map(sameness).sort()).toEqual(asked((s) => s));
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

test.each(['', '{', '[]', '[1]', '{"format":"keen-fox trades"}', '{"trades":[]}', '"text"'])(
  'JSON that holds no executions is refused in words: %s',
  (text) => {
    expect(() => rowsOfTradesJson('x.json', text)).toThrow(/x\.json (is no JSON|holds no executions)/);
  },
);
