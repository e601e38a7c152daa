import { at, fromDollars } from '../units/index.ts';
import {
  barsCsv,
  encodingOf,
  guessColumns,
  joinTables,
  noRows,
  notATable,
  readTable,
  rowsOfJsonLines,
} from './index.ts';

const HEAD = ['Symbol', 'Date', 'Time', 'Open', 'High', 'Low', 'Close', 'Volume'];
const map = guessColumns(HEAD);
const GOOD = ['ACMEK', '2027-05-04', '09:31', '5.00', '5.10', '4.95', '5.05', '1200'];
const changed = (column: number, value: string): string[] => GOOD.map((c, i) => (i === column ? value : c));

test.each([
  [0, 'A CME', 'a symbol has one to six letters'],
  [1, '2027-13-04', 'not a date: write 2027-03-09, 20270309 or 3/9/2027'],
  [1, '2027-02-30', 'not a date: write 2027-03-09, 20270309 or 3/9/2027'],
  [1, '2027-05-08', 'the exchange is closed on 2027-05-08 (weekend)'],
  [1, '2027-11-25', 'the exchange is closed on 2027-11-25 (Thanksgiving)'],
  [2, 'half past', 'no time of day: write 09:31 or 09:31:05'],
  ...['33:31', '9:75', '09:31:75', '13:05 PM', '0:30 AM', '24:00'].map((time): [number, string, string] => [
    2,
    time,
    'no time of day: write 09:31 or 09:31:05',
  ]),
  [2, '21:00', 'outside the sessions, 04:00 to 20:00 New York time'],
  [3, '5.20', 'the open lies outside the bar’s high and low'],
  [4, '4.90', 'the high is below the low'],
  [5, '-1', 'a price is above zero'],
  [6, '', 'not a number'],
  [7, '12.5', 'shares are a whole number, zero or more'],
  [7, '2', '2 shares cannot trade at 4 prices'],
])('a bad cell in column %i (%j) is named with line, value and reason', (column, value, reason) => {
  const { bad, good } = readTable(
    'may.csv',
    [HEAD, GOOD, changed(column, value).map((c, i) => (i === 2 && column !== 2 ? '09:32' : c))],
    map,
    'minute bars',
  );
  expect(good).toBe(1);
  expect(bad).toEqual([{ file: 'may.csv', line: 3, column: HEAD[column], value, reason }]);
});

test('other ways to write dates, times and prices; a bar twice; prices off the tick', () => {
  const rows = [
    HEAD,
    ['acmek', '5/4/2027', '9:31 AM', '$5.00', '5.1', '4.95', '5.05', '1,200'],
    ['ACMEK', '20270504', '09:31:00', '5', '5', '5', '5', '9'],
    ['BETON', '2027-05-04', '15:59', '1.234', '1.24', '1.23', '1.231', '900'],
  ];
  const read = readTable('x.csv', rows, map, 'minute bars');
  expect(read.bad.map((b) => [b.line, b.reason])).toEqual([
    [3, 'there is already a bar of ACMEK at this time'],
  ]);
  expect(read.rounded).toBe(2);
  expect(
    read.symbols.map((s) => [s.symbol, s.days[0]?.minutes[0]?.start, s.days[0]?.minutes[0]?.open]),
  ).toEqual([
    ['ACMEK', at(9, 31), fromDollars(5)],
    ['BETON', at(15, 59), fromDollars(1.235)],
  ]);
});

test('prints and daily bars; the file’s name stands for a missing symbol; files are joined by symbol', () => {
  const head = ['timestamp', 'price', 'size'];
  const prints = readTable(
    'ACMEK.csv',
    [
      head,
      ['2027-05-04T09:30:00.250', '5.00', '100'],
      ['2027-05-04 09:30:10', '5.02', '40'],
      ['2027-05-04 09:31:00', '4.99', '0'],
    ],
    guessColumns(head),
    'prints',
  );
  expect(prints.bad.map((b) => b.reason)).toEqual(['a print has at least one share']);
  expect(prints.symbols[0]).toMatchObject({
    symbol: 'ACMEK',
    days: [
      {
        date: '2027-05-04',
        minutes: [
          { open: 50_000, high: 50_200, close: 50_200, volume: 140, trades: [{ at: at(9, 30) + 250 }, {}] },
        ],
      },
    ],
  });
  const day = ['Date', 'Open', 'High', 'Low', 'Close', 'Volume'];
  const daily = readTable(
    'ACMEK.csv',
    [day, ['2027-05-03', '4.8', '5', '4.7', '4.9', '900000']],
    guessColumns(day),
    'daily bars',
  );
  expect(joinTables([prints, daily]).symbols.map((s) => [s.symbol, s.days.map((d) => d.date)])).toEqual([
    ['ACMEK', ['2027-05-03', '2027-05-04']],
  ]);
});

test('exported bars are read back the same', () => {
  const bar = {
    start: at(9, 31),
    open: 50_000,
    high: 51_000,
    low: 49_500,
    close: 50_500,
    volume: 1_200,
    turnover: 0,
  };
  const rows = barsCsv('2027-05-04', 'ACMEK', [bar])
    .trim()
    .split('\r\n')
    .map((l) => l.split(','));
  const { start, open, high, low, close, volume } = bar;
  const back = readTable('f.csv', rows, guessColumns(rows[0] ?? []), 'minute bars');
  expect(back.bad).toEqual([]);
  expect(back.symbols[0]?.days[0]?.minutes[0]).toEqual({ start, open, high, low, close, volume });
});

test('a file that is no table is named as none: empty, binary, cut short, one column, no rows', () => {
  const bytes = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));
  const said = (name: string, text: string) => notATable(name, bytes(text), bytes(text.slice(-4)));
  expect(said('a.csv', '')).toContain('a.csv is empty');
  expect(said('a.png', '\u0089PNG\r\n\u001a\n\0\0')).toContain(
    'a.png is no table: it holds bytes that are no text',
  );
  expect(said('a.csv', 'date,open\r\n2027-03-09,5\t\n')).toBeNull();
  expect(said('a.parquet', 'PAR1 and so on')).toContain('a.parquet is no whole Parquet file');
  expect(said('a.parquet', 'PAR1 and so on PAR1')).toBeNull();
  expect(noRows('a.csv', [['just some words']])).toContain('a.csv has no columns');
  expect(noRows('a.csv', [HEAD, ['']])).toBe('a.csv has headings but no rows beneath them.');
  expect(noRows('a.csv', [HEAD, GOOD])).toBeNull();
});

test('lines of JSON are rows; the first line that is no object is named', () => {
  const text = '{"date":"2027-05-04","close":5.25,"volume":null}\n\n{"volume":7,"close":"6"}\r\n';
  expect(rowsOfJsonLines('f', text, 9)).toEqual([
    ['date', 'close', 'volume'],
    ['2027-05-04', '5.25', ''],
    ['', '6', '7'],
  ]);
  expect(rowsOfJsonLines('f', text, 2)).toHaveLength(2);
  for (const bad of ['[1]', '{"a":', '7', 'null'])
    expect(() => rowsOfJsonLines('f.jsonl', `{"a":1}\n${bad}\n`, 9)).toThrow(
      'Line 2 of f.jsonl is no JSON object',
    );
});

test('a title above the headings is not read, lines keep their numbers; too many columns are refused in words', () => {
  const titled = [['My bars'], [''], HEAD, GOOD, GOOD.map((c, k) => (k === 2 ? 'x' : c))];
  expect(noRows('a.csv', titled)).toBeNull();
  const got = readTable('a.csv', titled, guessColumns(HEAD), 'minute bars');
  expect([got.good, got.bad.map((b) => b.line)]).toEqual([1, [5]]);
  const wide = Array.from({ length: 20_000 }, (_, k) => `c${k}`);
  expect(noRows('w.csv', [wide, wide])).toContain('20,000 columns; at most 500');
  expect(encodingOf(Uint8Array.of(0xff, 0xfe))).toBe('utf-16le');
  expect(encodingOf(new TextEncoder().encode('date'))).toBeNull();
});
