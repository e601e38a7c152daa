import 'fake-indexeddb/auto';
import fc from 'fast-check';
import { NO_COSTS } from '../../core/account/index.ts';
import { keptJson, saidInJson } from '../../core/formats/index.ts';
import { type JoinedFrom, noExits, noRemark, type TradeRecord } from '../../core/review/index.ts';
import { money } from '../../core/units/index.ts';
import { openReview } from '../../store/review.ts';
import { withExecutions, withoutFile, withSaid } from './joined-records.ts';

const anyExecutions = fc.array(
  fc.record({
    side: fc.constantFrom('buy' as const, 'sell' as const),
    qty: fc.integer({ min: 1, max: 4 }),
    price: fc.integer({ min: 1, max: 50 }),
    symbol: fc.constantFrom('VULPN', 'KELOD'),
    file: fc.integer({ min: 0, max: 2 }),
    day: fc.integer({ min: 8, max: 9 }),
    at: fc.integer({ min: 34_200_000, max: 34_200_400 }),
  }),
  { maxLength: 24 },
);

type Drawn = typeof anyExecutions extends fc.Arbitrary<(infer T)[]> ? T : never;

/** Executions at times of their own, as files say them, with the file that each is in. */
const listOf = (list: readonly Drawn[]): { file: number; x: JoinedFrom }[] =>
  list.map(({ file, day, at, ...x }, k) => ({
    file,
    x: {
      ...x,
      id: String(k),
      order: null,
      date: `2027-03-0${day}`,
      at: at * 100 + k,
      role: null,
      liquidity: null,
      route: null,
      better: 0,
      costs: { ...NO_COSTS, commission: money(7_001) },
      account: 'Main',
      risk: null,
      exits: noExits,
    },
  }));

/** What a trade is, whatever its number and the files that it came with. */
const plain = (t: Omit<TradeRecord, 'ref' | 'source' | 'executions'> & { executions: readonly object[] }) =>
  JSON.stringify([
    t.symbol,
    t.direction,
    t.shares,
    t.opened,
    t.closed,
    t.gross,
    t.costs,
    t.net,
    t.averageEntry,
    t.averageExit,
    t.executions.map((x) => ({ ...x, file: undefined })),
  ]);
const asOne = (list: readonly JoinedFrom[]): string[] =>
  withExecutions([], list, null).fresh.map(plain).sort();

let profile = 0;
/** Takes files in, in an order, in a profile of its own. */
async function takenIn(files: readonly (readonly JoinedFrom[])[]) {
  const store = await openReview(`joined ${++profile}`);
  const ids: number[] = [];
  for (const list of files) {
    const changes = withExecutions(await store.trades(), list, null);
    ids.push(
      (await store.keepImport({ file: 'x', made: '', executions: list.length, trades: 0 }, changes)).id,
    );
  }
  return { store, ids };
}

test('a month parted into files, taken in in any order, makes the trades that one file of it would make; one that is taken out leaves those of the others', async () => {
  await fc.assert(
    fc.asyncProperty(
      anyExecutions,
      fc.constantFrom([0, 1, 2], [2, 1, 0], [1, 2, 0]),
      fc.integer({ min: 0, max: 2 }),
      async (list, order, out) => {
        const all = listOf(list);
        const { store, ids } = await takenIn(
          order.map((f) => all.filter((e) => e.file === f).map((e) => e.x)),
        );
        const inTime = (some: typeof all) => some.map((e) => e.x);
        const now = async () => (await store.trades()).map(plain).sort();
        expect(await now()).toEqual(asOne(inTime(all)));
        await store.removeImport(ids[out] as number, withoutFile(await store.trades(), ids[out] as number));
        expect(await now()).toEqual(asOne(inTime(all.filter((e) => e.file !== order[out]))));
        const sources = (await store.trades()).map((t) => (t.source.kind === 'import' ? t.source.id : 0));
        expect(sources).not.toContain(ids[out]);
      },
    ),
    { numRuns: 150 },
  );
});

test('a trade that a flip of side opened keeps what was said to be risked on it, whatever comes later', async () => {
  const of = (side: 'buy' | 'sell', qty: number, day: number) =>
    listOf([{ side, qty, price: 10, symbol: 'VULPN', file: 0, day, at: 34_200_000 + day }])[0]
      ?.x as JoinedFrom;
  const flip = { ...of('sell', 3, 9), id: 'f', risk: 70, exits: { stop: 11, target: null } };
  const { store } = await takenIn([[{ ...of('buy', 1, 8), risk: 50 }, flip]]);
  const later = { ...of('buy', 2, 9), id: 'z', at: flip.at + 1 };
  const changes = withExecutions(await store.trades(), [later], null);
  await store.keepImport({ file: 'y', made: '', executions: 1, trades: 1 }, changes);
  expect(await store.trades()).toMatchObject([
    { direction: 'long', risk: 50 },
    { direction: 'short', shares: 2, risk: 70, exits: { stop: 11 }, closed: { date: '2027-03-09' } },
  ]);
});

test('a trade that a later file closes keeps its number and what is said of it', async () => {
  const [buy, sell] = listOf([
    { side: 'buy', qty: 2, price: 10, symbol: 'VULPN', file: 0, day: 8, at: 34_200_000 },
    { side: 'sell', qty: 2, price: 12, symbol: 'VULPN', file: 1, day: 9, at: 34_200_000 },
  ]).map((e) => e.x) as [JoinedFrom, JoinedFrom];
  const { store, ids } = await takenIn([[{ ...buy, exits: { stop: 9, target: null } }]]);
  await store.keepRemark({ ...noRemark('i1.1'), setup: 'overnight' });
  const changes = withExecutions(await store.trades(), [sell], 100);
  expect(changes).toMatchObject({
    fresh: [],
    gone: [],
    changed: [{ ref: 'i1.1', risk: 2, exits: { stop: 9 } }],
  });
  await store.keepImport({ file: 'y', made: '', executions: 1, trades: 1 }, changes);
  expect(await store.trades()).toMatchObject([
    {
      ref: 'i1.1',
      source: { id: ids[0] },
      closed: { date: '2027-03-09' },
      executions: [{ file: 1 }, { file: 2 }],
    },
  ]);
  expect((await store.remarks())[0]).toMatchObject({ ref: 'i1.1', setup: 'overnight' });
  await store.removeImport(2, withoutFile(await store.trades(), 2));
  expect(await store.trades()).toMatchObject([{ ref: 'i1.1', closed: null }]);
});

test('what our JSON says of trades comes along: with new ones, and with those that are here and of which nothing is said', async () => {
  const [first, later] = [1, 2].map((day): JoinedFrom[] =>
    (['buy', 'sell'] as const).map((side, k) => ({
      account: 'Main',
      symbol: 'VULPN',
      date: `2027-03-0${day}`,
      at: 35_000_000 + k,
      side,
      qty: 100,
      price: 52_000 + k * 100,
      id: '',
      order: null,
      role: null,
      liquidity: null,
      route: null,
      better: 0,
      costs: NO_COSTS,
      risk: null,
      exits: noExits,
    })),
  ) as [JoinedFrom[], JoinedFrom[]];
  const one = await takenIn([first, later]);
  const trades = await one.store.trades();
  const words = (ref: string) => ({ ...noRemark(ref), words: `of ${ref}` });
  const said = saidInJson(keptJson(trades, new Map(trades.map((t) => [t.ref, words(t.ref)]))));
  // Here is the first of them already, and nothing is said of it.
  const { store } = await takenIn([first]);
  const kept = await store.trades();
  const changes = withSaid(said, new Set(), kept, withExecutions(kept, later, null));
  await store.keepImport({ file: 'y', made: '', executions: 2, trades: 1 }, changes);
  expect((await store.remarks()).map((r) => [r.ref, r.words]).sort()).toEqual([
    ['i1.1', 'of i1.1'],
    ['i2.1', 'of i2.1'],
  ]);
  expect(withSaid(said, new Set(['i1.1']), kept, withExecutions(kept, [], null)).remarks).toEqual([]);
});
