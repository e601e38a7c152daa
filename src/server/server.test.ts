import { jest } from '@jest/globals';
import { parquetReadObjects } from 'hyparquet';
import Papa from 'papaparse';
import { guessColumns, readTable, rowsOfJsonLines } from '../core/formats/index.ts';
import { barsOf, createTape, record } from '../core/market/index.ts';
import { practiceDay, printOf, runAlone } from '../core/sim/index.ts';
import { answerDay, answerTable } from './answer.ts';
import { barsTable, daysTable, newsTable, printsTable, referenceTable, type Table } from './tables.ts';

const BARS = ['variation', 'symbol', 'minutes', 'from', 'to'] as const;
const bars = (query: string, day = 'quiet-day') =>
  answerDay(new Request(`http://localhost/api/days/${day}/bars?${query}`), day, 'bars', BARS, barsTable);
const prints = (query: string) =>
  answerDay(
    new Request(`http://localhost/api/days/quiet-day/prints?${query}`),
    'quiet-day',
    'prints',
    ['variation', 'symbol', 'from', 'to'],
    printsTable,
  );

/** The rows of an answer as text cells, by readers that are not this project's. */
async function rowsOf(answer: Response, format: string): Promise<string[][]> {
  expect(answer.status).toBe(200);
  const bytes = await answer.arrayBuffer();
  const text = new TextDecoder().decode(bytes);
  if (format === 'csv') return Papa.parse<string[]>(text.trim()).data;
  if (format === 'jsonl') return rowsOfJsonLines('f', text, Number.POSITIVE_INFINITY);
  const rows = await parquetReadObjects({ file: bytes });
  const names = Object.keys(rows[0] ?? {});
  return [names, ...rows.map((r) => names.map((n) => (r[n] === null ? '' : String(r[n]))))];
}

test.each(['csv', 'jsonl', 'parquet'])(
  'bars as %s are those of the day, and the import reads them back',
  async (format) => {
    const rows = await rowsOf(bars(`symbol=VULPN,ORBNT&variation=11&format=${format}`), format);
    const read = readTable('f', rows, guessColumns(rows[0] ?? []), 'minute bars');
    expect(read.bad).toEqual([]);
    const scenario = practiceDay('quiet-day', 11);
    for (const symbol of ['VULPN', 'ORBNT']) {
      const i = scenario.symbols.findIndex((s) => s.instrument.symbol === symbol);
      const tape = createTape(symbol, scenario.hours.close);
      runAlone(scenario, i, scenario.hours.end, (h) => record(tape, printOf(symbol, 0, h)));
      const whole = barsOf(tape, 1).map(({ start, open, high, low, close, volume }) => ({
        start,
        open,
        high,
        low,
        close,
        volume,
      }));
      expect(whole.length).toBeGreaterThan(100);
      expect(read.symbols.find((s) => s.symbol === symbol)?.days).toEqual([
        { date: scenario.date, minutes: whole, daily: null },
      ]);
    }
  },
);

test('prints add up to the bars, in every format; news stays within what was asked', async () => {
  const asked = 'symbol=VULPN&variation=11&from=09:30&to=10:00';
  const [, bar = []] = await rowsOf(bars(`${asked}&minutes=30`), 'csv');
  for (const format of ['csv', 'jsonl', 'parquet']) {
    const [, ...rows] = await rowsOf(prints(`${asked}&format=${format}`), format);
    expect(rows.length).toBeGreaterThan(100);
    expect(rows.reduce((sum, r) => sum + Number(r[4]), 0)).toBe(Number(bar[7]));
    expect([rows[0]?.[3], rows[rows.length - 1]?.[3]]).toEqual([bar[3], bar[6]]);
    expect(Math.max(...rows.map((r) => Number(r[3])))).toBe(Number(bar[4]));
  }
  const news = answerDay(
    new Request('http://localhost/?from=06:00&to=08:00&format=jsonl'),
    'fresh-headlines',
    'news',
    ['variation', 'symbol', 'from', 'to'],
    newsTable,
  );
  const [, ...items] = await rowsOf(news, 'jsonl');
  expect(items.length).toBeGreaterThan(3);
  expect(items.every((n) => (n[1] ?? '') >= '06:00' && (n[1] ?? '') < '08:00')).toBe(true);
});

test('reference data is the same in every format, also where a company has billions of shares', async () => {
  const reference = (format: string) =>
    answerDay(
      new Request(`http://localhost/?format=${format}`),
      'fresh-headlines',
      'reference',
      ['variation'],
      referenceTable,
    );
  const [heads, ...rows] = await rowsOf(reference('csv'), 'csv');
  const shares = heads?.indexOf('shares_outstanding') ?? -1;
  expect(Math.max(...rows.map((r) => Number(r[shares])))).toBeGreaterThan(2 ** 31);
  for (const format of ['jsonl', 'parquet'])
    expect(await rowsOf(reference(format), format)).toEqual([heads, ...rows]);
});

test.each([
  ['variation=-1', 400, 'variation is a whole number up to 999999999, such as 7, not “-1”'],
  ['variation=1e3', 400, 'variation is a whole number'],
  ['symbol=vulpn', 400, 'such as VULPN,ORBNT, or all, not “vulpn”'],
  ['symbol=', 400, 'symbol is one symbol or several'],
  ['symbol=NOPE', 400, '“NOPE” does not trade on this day'],
  ['symbol=VULPN&symbol=ORBNT', 400, 'symbol is given twice'],
  ['minutes=7', 400, 'minutes is one of 1, 2, 3, 5, 10, 15, 30, 60, not “7”'],
  ['from=9:30', 400, 'from is a time of day from 04:00 to 20:00, such as 09:30, not “9:30”'],
  ['from=09:60', 400, 'from is a time of day'],
  ['to=20:01', 400, 'to is a time of day'],
  ['from=10:00&to=10:00', 400, 'from has to be before to; 10:00 is not before 10:00'],
  ['minutes=5&to=09:33', 400, 'to would cut a candle of 5 minutes; whole are to=09:30 and to=09:35'],
  ['minutes=60&from=09:30', 400, 'whole are from=09:00 and from=10:00'],
  ['format=xlsx', 400, 'format is one of csv, jsonl, parquet, not “xlsx”'],
  ['symbl=VULPN', 400, '“symbl” is not asked here. Known are: variation, symbol, minutes, from, to, format'],
  [`symbol=${Array.from({ length: 101 }, (_, i) => `A${i}`).join(',')}`, 400, 'At most 100 symbols'],
  [`symbol=${'A,'.repeat(1000)}A`, 414, 'at most 2000 characters'],
])('%s', async (query, status, says) => {
  const answer = bars(query);
  expect([answer.status, await answer.text()]).toEqual([status, expect.stringContaining(says)]);
});

test('an unknown day is named with those there are; prints of all symbols are bounded in time', async () => {
  const answer = bars('', '../../etc/passwd');
  expect([answer.status, await answer.text()]).toEqual([404, expect.stringContaining('fresh-headlines')]);
  expect(await prints('from=09:30&to=10:01').text()).toContain('such as from=09:30&to=10:00');
  const some = prints('from=09:30&to=10:00');
  expect(some.status).toBe(200);
  await some.body?.cancel();
});

test('two tables at once; a third waits its turn until one is broken off, read to its end, or has failed', async () => {
  const held = [bars('symbol=VULPN'), bars('symbol=ORBNT')];
  const refused = bars('symbol=VULPN');
  expect([refused.status, refused.headers.get('Retry-After')]).toEqual([429, '5']);
  await held[0]?.body?.cancel();
  const third = bars('symbol=VULPN&from=09:30&to=09:35');
  expect((await third.text()).split('\n').length).toBeGreaterThan(3);
  await held[1]?.text();
  const failing: Table = {
    columns: [{ name: 'a', type: 'integer' }],
    pieces: (function* () {
      yield [[1]];
      throw new Error('broken');
    })(),
  };
  await expect(answerTable(new Request('http://localhost/'), 'f', [], () => failing).text()).rejects.toThrow(
    'broken',
  );
  const both = [0, 1].map(() => answerTable(new Request('http://localhost/'), 'days', [], daysTable));
  expect(both.map((a) => a.status)).toEqual([200, 200]);
  for (const a of both) expect((await a.text()).split('\n')[0]).toBe('day,title,date,from,character');
});

test('readers that take nothing give way to others after five seconds, and not before', async () => {
  let now = 1_000;
  const clock = jest.spyOn(performance, 'now').mockImplementation(() => now);
  const open = () => prints('symbol=VULPN&format=csv');
  const stalled = [open(), open()];
  now += 4_000;
  expect(open().status).toBe(429);
  now += 1_001;
  const third = open();
  expect(third.status).toBe(200);
  await expect(stalled[0]?.text()).rejects.toThrow('nobody takes');
  await third.body?.cancel();
  await stalled[1]?.body?.cancel().catch(() => {});
  clock.mockRestore();
});
