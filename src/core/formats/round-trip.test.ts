// Our own files come back whole: any set of trades, by any format, whole or in pieces, into a clean or the same profile.
import fc from 'fast-check';
import { tradeRecord } from '../../../tests/trade-record.ts';
import { withExecutions } from '../../worker/executions/joined-records.ts';
import { placer, utcOf } from '../../worker/executions/zones.ts';
import { NO_COSTS } from '../account/index.ts';
import { type JoinedFrom, noExits, noRemark, type TradeRecord, unknownOnes } from '../review/index.ts';
import { money } from '../units/index.ts';
import { csv } from './csv.ts';
import { keptOnesOf } from './executions.ts';
import {
  beginningsOf,
  executionColumns,
  fixReports,
  guessExecutionMap,
  keptExecutionsCsv,
  keptJson,
  readExecutions,
  rowsOfFix,
  rowsOfTradesJson,
  saidInJson,
  sameness,
} from './index.ts';

const FORMATS = ['csv', 'json', 'fix', 'parquet'] as const;
type Format = (typeof FORMATS)[number];

/** Cells as a table that is read has them. */
function rowsOf(
  trades: readonly TradeRecord[],
  as: Format,
  all = trades,
): { rows: string[][]; zone: string } {
  const cells = (text: string) =>
    text
      .trim()
      .split('\r\n')
      .map((l) => l.split(',').map((c) => c.replaceAll('"', '')));
  switch (as) {
    case 'csv':
      return { rows: cells(keptExecutionsCsv(trades, all)), zone: 'America/New_York' };
    case 'parquet': {
      const columns = executionColumns(trades, all);
      const rows = (columns[0]?.data ?? []).map((_, k) => columns.map((c) => c.data[k] ?? null));
      return { rows: cells(csv([columns.map((c) => c.name), ...rows])), zone: 'America/New_York' };
    }
    case 'json':
      return { rows: rowsOfTradesJson('t.json', keptJson(trades, new Map(), all)), zone: 'America/New_York' };
    case 'fix':
      return { rows: rowsOfFix(fixReports(trades, utcOf, all)).rows, zone: 'UTC' };
  }
}

let numbers = 0;
/** What is kept after a file has been taken in, as the worker does it. */
function takeIn(
  kept: readonly TradeRecord[],
  { rows, zone }: { rows: string[][]; zone: string },
): TradeRecord[] {
  const got = readExecutions(rows, { ...guessExecutionMap(rows), zone }, placer(zone));
  expect(got.bad).toEqual([]);
  return keep(kept, unknownOnes(kept.flatMap(keptOnesOf), got.executions, sameness, 'repeat').fresh);
}
function keep(kept: readonly TradeRecord[], executions: readonly JoinedFrom[]): TradeRecord[] {
  const { fresh, changed, gone } = withExecutions(
    kept,
    executions.map((x) => ({ ...x, file: 1 })),
    null,
  );
  const by = new Map(kept.filter((t) => !gone.includes(t.ref)).map((t) => [t.ref, t]));
  for (const t of changed) by.set(t.ref, t);
  for (const t of fresh) {
    const ref = `i1.${++numbers}`;
    by.set(ref, { ...tradeRecord({ net: 0 }), ...t, ref, source: { kind: 'import', id: 1 } } as TradeRecord);
  }
  return [...by.values()];
}
/** What trades are, whatever their numbers. */
const told = (trades: readonly TradeRecord[]) =>
  trades
    .map((t) => [
      t.account,
      t.symbol,
      t.direction,
      t.opened,
      t.closed,
      t.shares,
      t.gross,
      t.net,
      t.executions.length,
    ])
    .map((x) => JSON.stringify(x))
    .sort();

const execution = fc.record({
  account: fc.constantFrom('Main', 'Other'),
  symbol: fc.constantFrom('VULPN', 'ORBNT', 'VULPN 2027-04-16 50/45 put', 'VULPN 2027-03-19 4.5 call'),
  date: fc.constantFrom('2027-03-09', '2027-03-10'),
  // Few moments, sizes and prices, so that many are equal.
  at: fc.constantFrom(34_200_000, 34_200_001, 57_600_000),
  side: fc.constantFrom('buy' as const, 'sell' as const),
  qty: fc.constantFrom(100, 200),
  price: fc.constantFrom(52_000, 52_050),
  id: fc.constantFrom('', '', '1', '2'),
});
const executions = fc.array(execution, { minLength: 1, maxLength: 24 }).map((list) =>
  list.map(
    (x): JoinedFrom => ({
      ...x,
      order: null,
      role: null,
      liquidity: null,
      route: null,
      better: 0,
      costs: { ...NO_COSTS, commission: money(10_000), venue: money(601) },
      risk: null,
      exits: noExits,
    }),
  ),
);

test('what was taken out comes back: the same trades and sums in a clean profile, nothing new in the same one', () => {
  fc.assert(
    fc.property(executions, fc.constantFrom(...FORMATS), (list, as) => {
      const kept = keep([], list);
      const back = takeIn([], rowsOf(kept, as));
      expect(told(back)).toEqual(told(kept));
      expect(told(takeIn(kept, rowsOf(kept, as)))).toEqual(told(kept));
      for (const other of FORMATS) expect(told(takeIn(back, rowsOf(kept, other)))).toEqual(told(kept));
    }),
    { numRuns: 150 },
  );
});

test('in pieces, in any order and by any formats, they come to the same, and a piece twice to nothing new', () => {
  const piece = fc.record({ as: fc.constantFrom(...FORMATS), part: fc.integer({ min: 0, max: 2 }) });
  fc.assert(
    fc.property(executions, fc.array(piece, { minLength: 3, maxLength: 6 }), (list, order) => {
      const kept = keep([], list);
      let back: TradeRecord[] = [];
      const pieces = [...order, ...[0, 1, 2].map((part) => ({ as: 'csv' as const, part }))];
      for (const { as, part } of pieces)
        if (kept.length > part)
          back = takeIn(
            back,
            rowsOf(
              kept.filter((_, k) => k % 3 === part),
              as,
              kept,
            ),
          );
      expect(told(back)).toEqual(told(kept));
    }),
    { numRuns: 120 },
  );
});

test('FIX numbers hold for their trading day: the same number on the next day is another execution', () => {
  const list = [1, 2].flatMap((day) =>
    (['buy', 'sell'] as const).map(
      (side, k): JoinedFrom => ({
        account: 'Main',
        symbol: 'VULPN',
        date: day === 1 ? '2027-03-09' : '2027-03-10',
        at: 34_200_000 + k,
        side,
        qty: 100,
        price: 52_000 + 500 * k * day,
        id: String(k + 1),
        order: null,
        role: null,
        liquidity: null,
        route: null,
        better: 0,
        costs: NO_COSTS,
        risk: null,
        exits: noExits,
      }),
    ),
  );
  // As somebody else writes them: the numbers begin anew each day.
  const theirs = fixReports(keep([], list), utcOf)
    .split('\n')
    .filter(Boolean)
    .map((m) => withField(m, '17', field(m, '527')));
  const messages = theirs.map(resealed).join('\n');
  const { rows, bad } = rowsOfFix(messages);
  expect([bad, rows.length]).toEqual([[], 5]);
  expect(told(takeIn([], { rows, zone: 'UTC' }))).toEqual(told(keep([], list)));
});

const SOH = String.fromCharCode(1);
const field = (m: string, tag: string): string =>
  m
    .split(SOH)
    .find((f) => f.startsWith(`${tag}=`))
    ?.slice(tag.length + 1) ?? '';
const withField = (m: string, tag: string, value: string): string =>
  m
    .split(SOH)
    .map((f) => (f.startsWith(`${tag}=`) ? `${tag}=${value}` : f))
    .join(SOH);
/** Length and checksum anew (FIX 4.4, BodyLength <9>, CheckSum <10>). */
function resealed(message: string): string {
  const body = `${message.split(SOH).slice(2, -2).join(SOH)}${SOH}`;
  const utf8 = new TextEncoder();
  const head = `8=FIX.4.4${SOH}9=${utf8.encode(body).length}${SOH}${body}`;
  const sum = utf8.encode(head).reduce((x, y) => x + y, 0) % 256;
  return `${head}10=${String(sum).padStart(3, '0')}${SOH}`;
}

test('notes, tags and plans come back by JSON, under whatever numbers the trades have here', () => {
  const trade = tradeRecord({
    net: 1,
    ref: 'a4.2',
    plan: 'half and trail',
    script: 'Buy 1R',
    scan: 'Gappers',
  });
  const remark = {
    ...noRemark('a4.2'),
    setup: 'gap',
    tags: ['late', 'small'],
    grade: 'B',
    kept: false,
    words: 'too soon',
  };
  const text = keptJson([trade], new Map([['a4.2', remark]]));
  const { ref: _, ...words } = remark;
  expect([...saidInJson(text)]).toEqual([
    [
      beginningsOf([trade])[0],
      expect.objectContaining({
        from: expect.objectContaining({ plan: 'half and trail', script: 'Buy 1R', scan: 'Gappers' }),
        remark: words,
      }),
    ],
  ]);
  // Two that began alike keep their own words.
  const two = keptJson([trade, { ...trade, ref: 'a4.3' }], new Map([['a4.3', { ...remark, ref: 'a4.3' }]]));
  expect([...saidInJson(two).values()].map((x) => x.remark?.words ?? null)).toEqual([null, 'too soon']);
  // What is none of ours says nothing, and odd things in it are left out.
  expect(saidInJson('[1]').size + saidInJson('{').size).toBe(0);
  const odd = text.replace('"tags": [', '"tags": [7,');
  expect([...saidInJson(odd).values()][0]?.remark?.tags).toEqual(['late', 'small']);
});
