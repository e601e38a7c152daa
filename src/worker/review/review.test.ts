import 'fake-indexeddb/auto';
import { linked } from '../../../tests/linked.ts';
import { tradeRecord } from '../../../tests/trade-record.ts';
import { pageMarkdown, rowsOfFix } from '../../core/formats/index.ts';
import { ALL, noRemark, type TradeRecord } from '../../core/review/index.ts';
import { idbStore } from '../../store/idb-store.ts';
import { openReview } from '../../store/review.ts';
import { reviewJobs } from './review.ts';
import type { ReviewAnswers, ReviewRequest } from './review-messages.ts';

const fromAttempt = (
  attempt: number,
  trade: number,
  net: number,
  over: Partial<TradeRecord> = {},
): TradeRecord => ({
  ...tradeRecord({ net, risk: 50 }),
  ref: `a${attempt}.${trade}`,
  rule: 'entries',
  source: { kind: 'attempt', attempt, trade, at: { opened: 34_200_000 + trade, closed: 34_800_000 + trade } },
  ...over,
});
const on = (date: string, at: number): Pick<TradeRecord, 'opened' | 'closed'> => ({
  opened: { date, at },
  closed: { date, at: at + 60_000 },
});

/** Two attempts at one day, and a file beside them. */
async function set(name: string) {
  const store = await idbStore(name);
  const day = { kind: 'practice' as const, id: 'quiet-day', seed: 7 };
  const attempt = (id: number) => ({ id, day, from: null, reached: 50_000_000, net: 0, r: 0, trades: 2 });
  await store.begin(attempt(1), []);
  await store.begin(attempt(2), []);
  await store.append(
    1,
    [],
    [
      fromAttempt(1, 1, 100, {
        symbol: 'KELOD',
        ...on('2027-03-09', 34_300_000),
        mfe: 2_000_000,
        mae: -100_000,
      }),
      fromAttempt(1, 2, -60, { direction: 'short', ...on('2027-03-09', 45_000_000) }),
      fromAttempt(1, 3, 5, { closed: null }),
    ],
  );
  await store.append(2, [], [fromAttempt(2, 1, 999, on('2027-03-09', 36_000_000))]);
  const review = await openReview(name);
  await review.keepImport(
    { file: 'x.csv', made: '', executions: 2, trades: 1 },
    {
      changed: [],
      gone: [],
      fresh: [tradeRecord({ net: 30, risk: null, ...on('2027-03-11', 34_300_000), symbol: '=HYPERLINK' })],
    },
  );
  return { desk: linked<ReviewRequest, ReviewAnswers>(reviewJobs(async () => review)), review };
}

test('first attempts and files count, retakes only where hindsight is asked for; what is open is said', async () => {
  const { desk } = await set('counts');
  const all = await desk.ask({ kind: 'overview', filter: ALL, unit: null });
  expect(all).toMatchObject({
    all: 3,
    hindsight: 1,
    open: ['long VULPN'],
    from: '2027-03-09',
    to: '2027-03-11',
  });
  expect(all.figures).toMatchObject({ trades: 3, net: 700_000, withRisk: 2 });
  expect(all.figures.r).toBeCloseTo(100 / 50 - 60 / 50, 9);
  const hindsight = await desk.ask({
    kind: 'overview',
    filter: { ...ALL, hindsight: true },
    unit: null,
  });
  expect(hindsight.figures).toMatchObject({ trades: 1, net: 9_990_000 });
  // What is still open goes along in a file of all, and not in one of a part.
  const file = async (filter: typeof ALL) =>
    (await desk.ask({ kind: 'file', filter, as: 'trades csv' })).content as string;
  expect(await file(ALL)).toContain('a1.3,');
  expect(await file({ ...ALL, from: '2027-03-01' })).not.toContain('a1.3,');
});

test('rows in any order, what is not known last; filters by date, words and group', async () => {
  const { desk } = await set('rows');
  const rows = async (by: 'closed' | 'net' | 'r' | 'mfe' | 'symbol', down: boolean, filter = ALL) =>
    (await desk.ask({ kind: 'rows', filter, sorting: { by, down }, from: 0, count: 9 })).rows.map(
      (r) => r.trade.ref,
    );
  expect(await rows('closed', true)).toEqual(['i1.1', 'a1.2', 'a1.1']);
  expect(await rows('net', true)).toEqual(['a1.1', 'i1.1', 'a1.2']);
  expect(await rows('r', true)).toEqual(['a1.1', 'a1.2', 'i1.1']);
  expect(await rows('r', false)).toEqual(['a1.2', 'a1.1', 'i1.1']);
  expect((await rows('mfe', false))[0]).toBe('a1.1');
  expect(await rows('closed', false, { ...ALL, from: '2027-03-10' })).toEqual(['i1.1']);
  expect(await rows('closed', false, { ...ALL, search: 'SHORT 03-09' })).toEqual(['a1.2']);
  expect(await rows('closed', false, { ...ALL, groups: { side: 'long', symbol: 'KELOD' } })).toEqual([
    'a1.1',
  ]);
  expect(await rows('closed', false, { ...ALL, groups: { setup: 'nobody said' } })).toEqual([]);
});

test('what is said of a trade makes groups once it is read anew, and stands on the page of its day', async () => {
  const { desk } = await set('said');
  const remark = {
    ref: 'a1.2',
    setup: 'fade',
    tags: ['late'],
    grade: 'C',
    kept: false,
    broke: 'no *shorts* at noon',
    words: '# not a heading\n[x](y)',
  };
  await desk.ask({ kind: 'remark', remark });
  await desk.ask({ kind: 'regroup' });
  expect(await desk.ask({ kind: 'groups', filter: ALL, by: 'broke' })).toMatchObject([
    { name: 'no *shorts* at noon', trades: 1 },
  ]);
  expect(await desk.ask({ kind: 'groups', filter: { ...ALL, search: 'late' }, by: 'kept' })).toMatchObject([
    { name: 'broken' },
  ]);
  const planned = [
    { date: '2027-03-09', symbol: 'KELOD', grade: 'A', note: 'gap' },
    { date: '2027-03-09', symbol: 'ZINNT', grade: 'B', note: '' },
    { date: '2027-03-10', symbol: 'VULPN', grade: 'A', note: 'another day' },
  ];
  const page = await desk.ask({ kind: 'page', from: '2027-03-09', to: '2027-03-09', planned });
  expect(page).toMatchObject({
    taken: [{ symbol: 'KELOD', trades: 1, net: 1_000_000 }],
    left: [{ symbol: 'ZINNT' }],
    unplanned: [{ symbol: 'VULPN', trades: 1 }],
    kept: 0,
    broken: 1,
    rules: [{ rule: 'no *shorts* at noon', times: 1 }],
    best: { ref: 'a1.1' },
    worst: { ref: 'a1.2' },
    early: { trades: 0, unknown: 2 },
  });
  const text = pageMarkdown(page, 'Day', 'mine');
  expect(text).toContain('no \\*shorts\\* at noon');
  expect(text).toContain('\\# not a heading \\[x\\](y)');
  expect(text.trimEnd().endsWith('mine')).toBe(true);
});

test('what leaving early cost is told of trades whose day came out the same, and of no other', async () => {
  const { desk, review } = await set('early');
  const left = (plan: number) => ({ at: 1, by: 'flatten', plan: { net: plan, open: false } });
  await review.keepAfters([
    { ref: 'a1.1', net: 1_000_000, left: left(1_500_000), after: null },
    { ref: 'a1.2', net: -599_000, left: left(0), after: null },
  ]);
  await desk.ask({ kind: 'read' });
  const { told, missing } = await desk.ask({ kind: 'left early', filter: ALL, current: 2 });
  expect(told).toMatchObject({
    cost: 500_000,
    alone: 0,
    unknown: { 'no candles': 1, otherwise: 1 },
    months: [{ name: '2027-03', trades: 1 }],
  });
  expect(told.touched.map((t) => [t.ref, t.costR])).toEqual([['a1.1', 1]]);
  expect(told.kept).toBeCloseTo(0.5, 9);
  expect(missing).toEqual([2]);
});

test('an imported trade: with the bars of its day and a stop that is typed, its R and what its plan would have made are told; what is said of it goes with its file', async () => {
  const { desk, review } = await set('typed');
  const store = await idbStore('typed');
  const start = 34_200_000;
  const [opened, closed] = [start, start + 60_000];
  const t = tradeRecord({
    net: 20,
    risk: null,
    averageEntry: 100_000,
    averageExit: 102_000,
    symbol: 'WRENX',
  });
  const x = { order: null, role: null, liquidity: null, route: null, better: 0, costs: t.costs, qty: 100 };
  await review.keepImport(
    { file: 'y.csv', made: '', executions: 2, trades: 1 },
    {
      changed: [],
      gone: [],
      fresh: [
        {
          ...t,
          opened: { date: '2027-03-09', at: opened },
          closed: { date: '2027-03-09', at: closed },
          executions: [
            { ...x, id: '1', side: 'buy', price: 100_000, date: '2027-03-09', at: opened },
            { ...x, id: '2', side: 'sell', price: 102_000, date: '2027-03-09', at: closed },
          ],
        },
      ],
    },
  );
  const bar = (k: number, close: number) => ({
    start: start + k * 60_000,
    open: 102_000,
    high: 103_000,
    low: 101_000,
    close,
    volume: 5_000,
  });
  const days = [
    { date: '2027-03-08', minutes: [bar(0, 1)] },
    { date: '2027-03-09', minutes: [bar(0, 102_000), bar(3, 103_000)] },
  ];
  const own = { id: 'own 1', title: 'bars', symbols: [{ symbol: 'WRENX', days }] };
  await store.keepOwnDay(own as never);
  await desk.ask({ kind: 'read' });
  const early = async () => {
    await desk.ask({ kind: 'regroup' });
    return (
      await desk.ask({
        kind: 'left early',
        filter: { ...ALL, search: 'wrenx' },
        current: null,
      })
    ).told;
  };
  expect(await early()).toMatchObject({ touched: [], unknown: { 'no plan': 1 } });
  const said = (await desk.ask({ kind: 'trade', ref: 'i2.1' }))?.remark ?? noRemark('i2.1');
  await desk.ask({ kind: 'remark', remark: { ...said, stop: 95_000 } });
  await review.keepPicture({ ref: 'i2.1', type: 'image/png', bytes: new Uint8Array([1]) });
  expect(await early()).toMatchObject({
    touched: [{ plan: 300_000, cost: 100_000, costR: 0.2, open: true }],
  });
  expect(await desk.ask({ kind: 'trade', ref: 'i2.1' })).toMatchObject({
    trade: { risk: 500_000, mfe: 300_000 },
    day: { id: 'own 1', n: 1 },
  });
  await desk.ask({ kind: 'remove import', id: 2 });
  await review.keepImport(
    { file: 'z.csv', made: '', executions: 2, trades: 1 },
    { changed: [], gone: [], fresh: [t] },
  );
  await desk.ask({ kind: 'read' });
  expect(await desk.ask({ kind: 'pictures', ref: 'i2.1' })).toEqual([]);
  expect((await desk.ask({ kind: 'trade', ref: 'i2.1' }))?.remark).toBeNull();
});

test('files: no cell begins a formula; FIX is read again; executions put together by order and day', async () => {
  const { desk, review } = await set('files');
  const x = {
    id: '1',
    order: '4',
    side: 'buy' as const,
    role: 'entry',
    qty: 60,
    price: 50_000,
    liquidity: null,
    route: 'LIT',
    better: 10,
    date: '2027-03-12',
    at: 35_000_000,
  };
  const t = tradeRecord({ net: 1, ...on('2027-03-12', 35_000_000) });
  const executions = [
    x,
    { ...x, id: '2', qty: 40, price: 51_000, at: 35_001_000 },
    { ...x, id: '3', order: '5', side: 'sell' as const, qty: 100 },
  ].map((y) => ({ ...y, costs: t.costs }));
  await review.keepImport(
    { file: 'y', made: '', executions: 3, trades: 1 },
    { changed: [], gone: [], fresh: [{ ...t, account: '@SUM(1)', executions }] },
  );
  await desk.ask({ kind: 'read' });
  const csv = (await desk.ask({ kind: 'file', filter: ALL, as: 'trades csv' })).content as string;
  expect(csv).toContain(",'=HYPERLINK,");
  expect(csv).toContain(",'@SUM(1),");
  const fix = (await desk.ask({ kind: 'file', filter: ALL, as: 'executions fix' })).content as string;
  expect(rowsOfFix(fix)).toMatchObject({ bad: [], rows: { length: 4 } });
  const put = (by: 'order' | 'day') => desk.ask({ kind: 'executions', filter: ALL, by, from: 0, count: 9 });
  expect((await put('order')).rows.map((r) => [r.bought, r.sold, r.price, r.executions])).toEqual([
    [100, 0, 50_400, 2],
    [0, 100, 50_000, 1],
  ]);
  expect((await put('day')).rows).toMatchObject([
    { bought: 100, sold: 100, executions: 3, improvement: 2_000 },
  ]);
});

test('a trade that an earlier version kept has the R of its entries once its log was lived through again; until then it is wanted', async () => {
  const { rule: _, ...old } = fromAttempt(1, 1, 100, on('2027-03-09', 34_300_000));
  const store = await idbStore('old rule');
  await store.begin(
    {
      id: 1,
      day: { kind: 'practice', id: 'quiet-day', seed: 7 },
      from: null,
      reached: 5e7,
      net: 0,
      r: 0,
      trades: 1,
    },
    [],
  );
  await store.append(1, [], [old]);
  const review = await openReview('old rule');
  const known = { ref: old.ref, net: old.net, left: null, after: null };
  await review.keepAfters([known]);
  const desk = linked<ReviewRequest, ReviewAnswers>(reviewJobs(async () => review));
  const told = async () => {
    await desk.ask({ kind: 'read' });
    const { missing } = await desk.ask({
      kind: 'left early',
      filter: ALL,
      current: null,
    });
    const sheet = await desk.ask({ kind: 'trade', ref: old.ref });
    return [missing, sheet?.trade.risk, sheet?.trade.rule];
  };
  expect(await told()).toEqual([[1], old.risk, undefined]);
  await review.keepAfters([{ ...known, risk: 250_000 }]);
  expect(await told()).toEqual([[], 250_000, 'entries']);
  // Where the day is not the same any more it stays as it was kept.
  await review.keepAfters([{ ...known, net: old.net + 1, risk: 250_000 }]);
  expect(await told()).toEqual([[], old.risk, undefined]);
});
