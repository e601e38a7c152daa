// Review: what is asked of the trades of all sessions and files.
import {
  ALL,
  type DrawnFrom,
  type ExecutionRow,
  executionRows,
  groupsOf,
  leavingEarly,
  outlookOf,
  pageOf,
  resultsOf,
  sift,
  type TradeRecord,
  tradesToTell,
} from '../../core/review/index.ts';
import type { ReviewStore } from '../../store/review.ts';
import type { Jobs } from '../call/serve.ts';
import { withoutFile } from '../executions/joined-records.ts';
import { inOrder, overviewOf, resultsByDay } from './overview.ts';
import { fileOf } from './review-files.ts';
import type { OutlookOf, ReviewAnswers, Reviewed, ReviewRequest } from './review-messages.ts';
import { ownKey, type ReviewRecords, recordsOf, type Stored, storedIn } from './review-records.ts';

type ReviewJobs = Jobs<ReviewRequest, ReviewAnswers>;
type JobsOf<K extends ReviewRequest['kind']> = Pick<ReviewJobs, K>;

/** Answers questions of review. `open` opens the store when it is first asked; what is kept is read then, and when that is asked for. */
export function reviewJobs(open: () => Promise<ReviewStore>): ReviewJobs {
  let opened: Promise<ReviewStore> | null = null;
  const store = () => {
    opened ??= open();
    // What could not be opened is tried again.
    opened.catch(() => {
      opened = null;
    });
    return opened;
  };
  const shelf = createShelf(store);
  return { ...shelfJobs(shelf), ...figureJobs(shelf), ...listJobs(shelf), ...keepingJobs(store, shelf) };
}

/** The records in hand. */
interface Shelf {
  now(): Promise<ReviewRecords>;
  readAll(): Promise<ReviewRecords>;
  /** Groups anew, where something has been read already. */
  regroup(): void;
}

function createShelf(store: () => Promise<ReviewStore>): Shelf {
  let stored: Stored | null = null;
  let records: ReviewRecords | null = null;
  const shelf: Shelf = {
    now: async () => records ?? shelf.readAll(),
    async readAll() {
      const got = await storedIn(await store());
      stored = got.stored;
      records = recordsOf(got.stored, got.remarks);
      return records;
    },
    regroup() {
      if (stored && records) records = recordsOf(stored, records.remarks);
    },
  };
  return shelf;
}

const shelfJobs = (shelf: Shelf): JobsOf<'read' | 'regroup'> => ({
  read: async () => ({ trades: (await shelf.readAll()).trades.size }),
  regroup() {
    shelf.regroup();
    return null;
  },
});

const figureJobs = (
  shelf: Shelf,
): JobsOf<'overview' | 'groups' | 'left early' | 'page' | 'outlook' | 'file'> => ({
  overview: async ({ filter, unit }) => overviewOf(await shelf.now(), filter, unit),
  async groups({ filter, by }) {
    const { ledger } = await shelf.now();
    return groupsOf(ledger, sift(ledger, filter), by);
  },
  async 'left early'({ filter, current }) {
    const { ledger, afters, wanting } = await shelf.now();
    const told = leavingEarly(ledger, sift(ledger, filter), afters);
    // The session under way is looked at last, as it may go on.
    const missing = [...wanting].sort((a, b) => Number(a === current) - Number(b === current) || a - b);
    return { told, missing };
  },
  async page({ from, to, planned }) {
    const { ledger, afters } = await shelf.now();
    return pageOf(ledger, sift(ledger, { ...ALL, from, to }), { from, to }, planned, afters);
  },
  async outlook({ of, terms }) {
    const from = await drawnFrom(shelf, of);
    return {
      outlook: outlookOf({ ...terms, from, seed: 1 }),
      results: from.flat().length,
      days: from.length,
      toTell: tradesToTell(from),
    };
  },
  async file({ filter, as }) {
    const { ledger, remarks, trades: kept, open } = await shelf.now();
    const closed = [...sift(ledger, filter)].map((i) => ledger.records[i] as TradeRecord);
    const all = [...kept.values()];
    // What is still open goes along where nothing is filtered: a file of all is all.
    const whole = JSON.stringify({ ...ALL, ...filter }) === JSON.stringify(ALL);
    return fileOf(whole ? [...closed, ...open] : closed, remarks, as, all);
  },
});

/** Lists keep the order that they were put into until the records or the order are others. */
function listJobs(shelf: Shelf): JobsOf<'rows' | 'executions' | 'trade'> {
  const trades = remembered<Int32Array>();
  const executions = remembered<ExecutionRow[]>();
  return {
    async rows({ filter, sorting, from, count }) {
      const records = await shelf.now();
      const { ledger, remarks, hindsight } = records;
      const places = trades(records, [filter, sorting], () => inOrder(ledger, sift(ledger, filter), sorting));
      const rows = [...places.subarray(from, from + count)].map((i): Reviewed => {
        const trade = ledger.records[i] as TradeRecord;
        return { trade, remark: remarks.get(trade.ref) ?? null, hindsight: hindsight.has(trade.ref) };
      });
      return { total: places.length, rows };
    },
    async executions({ filter, by, from, count }) {
      const records = await shelf.now();
      const { ledger } = records;
      const rows = executions(records, [filter, by], () =>
        executionRows(
          [...sift(ledger, filter)].map((i) => ledger.records[i] as TradeRecord),
          by,
        ),
      );
      return { total: rows.length, rows: rows.slice(from, from + count) };
    },
    async trade({ ref }) {
      const { trades: all, remarks, hindsight, afters, ownDays } = await shelf.now();
      const trade = all.get(ref);
      if (!trade) return null;
      const after = afters.get(ref);
      return {
        trade,
        remark: remarks.get(ref) ?? null,
        hindsight: hindsight.has(ref),
        ...(after ? { left: after.left } : {}),
        day: (trade.source.kind === 'import' && ownDays.get(ownKey(trade))) || null,
      };
    },
  };
}

/** What was made last, as long as it is made from the same. */
function remembered<T>(): (records: ReviewRecords, asked: unknown, make: () => T) => T {
  let last: { records: ReviewRecords; key: string; made: T } | null = null;
  return (records, asked, make) => {
    const key = JSON.stringify(asked);
    if (last?.records !== records || last.key !== key) last = { records, key, made: make() };
    return last.made;
  };
}

const keepingJobs = (
  store: () => Promise<ReviewStore>,
  shelf: Shelf,
): JobsOf<
  | 'remark'
  | 'keep afters'
  | 'words'
  | 'keep words'
  | 'pictures'
  | 'keep picture'
  | 'drop picture'
  | 'mappings'
  | 'keep mapping'
  | 'remove import'
> => ({
  async remark({ remark }) {
    await (await store()).keepRemark(remark);
    // Groups follow when they are asked for.
    (await shelf.now()).remarks.set(remark.ref, remark);
    return null;
  },
  async 'keep afters'({ afters }) {
    await (await store()).keepAfters(afters);
    return null;
  },
  words: async ({ of }) => (await store()).page(of),
  async 'keep words'({ page }) {
    await (await store()).keepPage(page);
    return null;
  },
  pictures: async ({ ref }) => (await store()).pictures(ref),
  async 'keep picture'({ picture }) {
    await (await store()).keepPicture(picture);
    return null;
  },
  async 'drop picture'({ ref, n }) {
    await (await store()).dropPicture(ref, n);
    return null;
  },
  mappings: async () => (await store()).mappings(),
  async 'keep mapping'({ mapping }) {
    await (await store()).keepMapping(mapping);
    return null;
  },
  async 'remove import'({ id }) {
    const s = await store();
    await s.removeImport(id, withoutFile(await s.trades(), id));
    return null;
  },
});

async function drawnFrom(shelf: Shelf, of: OutlookOf): Promise<DrawnFrom> {
  if (of.kind === 'rehearsal') return of.days;
  if (of.kind === 'typed') return resultsOf(of.winRate, of.payoff);
  const { ledger } = await shelf.now();
  return resultsByDay(ledger, sift(ledger, of.filter));
}
