// Review: every trade of all sessions and files in columns, and what is asked of them.
import {
  type Aftermath,
  ALL,
  type Attempted,
  type Counted,
  countedOf,
  type DayPoint,
  type DimensionId,
  type DrawnFrom,
  dayPoints,
  type Excursion,
  type ExecutionRow,
  type ExecutionsBy,
  excursions,
  executionRows,
  type Figures,
  type Filter,
  figuresOf,
  findingsOf,
  type Group,
  groupsOf,
  hoursByWeekday,
  type LeavingEarly,
  type Ledger,
  leavingEarly,
  ledgerOf,
  type Minute,
  type Outlook,
  type OutlookTerms,
  outlookOf,
  type Planned,
  pageOf,
  planAlone,
  type Remark,
  type ReviewPage,
  resultsOf,
  sift,
  type TradeRecord,
  tradesToTell,
  type Unit,
  unitOf,
  withExcursions,
  withExits,
} from '../core/review/index.ts';
import { type OwnDay, ownDates } from '../core/sim/index.ts';
import { hoursOn, PRICE_SCALE } from '../core/units/index.ts';
import type { AttemptInfo } from '../session/log.ts';
import { dayKey } from '../session/records.ts';
import type { KeptImport, KeptMapping, KeptPicture, Page, ReviewStore } from '../store/review.ts';
import { fileOf } from './review-files.ts';

/** Trades that a picture of single ones shows at most. */
const MOST_POINTS = 1_500;

/** How trades are put into order. */
export interface Sorting {
  by: 'closed' | 'symbol' | 'net' | 'r' | 'held' | 'shares' | 'costs' | 'mae' | 'mfe';
  down: boolean;
}

/** All that a page of review shows of the trades that a filter leaves. */
export interface Overview {
  /** Trades in all, those that count not, and those still open. */
  all: number;
  hindsight: number;
  open: number;
  from: string;
  to: string;
  /** What can be filtered by: groups of each dimension, rising. */
  choices: Partial<Record<DimensionId, string[]>>;
  unit: Unit;
  figures: Figures;
  days: DayPoint[];
  hours: ReturnType<typeof hoursByWeekday>;
  excursions: Excursion[];
  /** Results in the unit (R, or dollars), in the order in which trades ended. */
  results: Float64Array;
  findings: ReturnType<typeof findingsOf>;
  /** What touching plans by hand has cost, as far as it is known. */
  early: Pick<LeavingEarly, 'costR' | 'mean' | 'interval'> & { trades: number; notYet: number };
  imports: KeptImport[];
}

/** A trade with what is said of it. */
export interface Reviewed {
  trade: TradeRecord;
  remark: Remark | null;
  hindsight: boolean;
}

export type ReviewRequest =
  /** Reads everything anew. */
  | { kind: 'read' }
  /** Puts trades into groups anew, after something has been said of them. */
  | { kind: 'regroup' }
  /** `unit` null: whichever says more. */
  | { kind: 'overview'; filter: Filter; unit: Unit | null }
  | { kind: 'groups'; filter: Filter; by: DimensionId }
  /** Rows of the table, from one place on; and how many there are. */
  | { kind: 'rows'; filter: Filter; sorting: Sorting; from: number; count: number }
  | { kind: 'trade'; ref: string }
  | { kind: 'remark'; remark: Remark }
  /** What leaving early costs, of the trades that fit; and the attempts of which it is not known yet. */
  | { kind: 'left early'; filter: Filter; current: number | null }
  | { kind: 'keep afters'; afters: Aftermath[] }
  /** What the log writes of some dates, beside what was planned. */
  | { kind: 'page'; from: string; to: string; planned: readonly Planned[] }
  | { kind: 'words'; of: string }
  | { kind: 'keep words'; page: Page }
  | { kind: 'pictures'; ref: string }
  | { kind: 'keep picture'; picture: Omit<KeptPicture, 'n'> }
  | { kind: 'drop picture'; ref: string; n: number }
  /** Executions of the trades that fit, newest first, or put together. */
  | { kind: 'executions'; filter: Filter; by: ExecutionsBy; from: number; count: number }
  | { kind: 'mappings' }
  | { kind: 'keep mapping'; mapping: KeptMapping }
  | { kind: 'remove import'; id: number }
  /** The trades that fit, as a file. */
  | { kind: 'file'; filter: Filter; as: FileKind }
  | { kind: 'outlook'; of: OutlookOf; terms: Omit<OutlookTerms, 'from' | 'seed'> };

export type FileKind =
  | 'executions csv'
  | 'executions parquet'
  | 'executions fix'
  | 'trades csv'
  | 'trades json';

/** Whose results are drawn from: of the trades that fit, of a rehearsal (day by day), or of a typed rate and payoff. */
export type OutlookOf =
  | { kind: 'own'; filter: Filter }
  | { kind: 'rehearsal'; days: DrawnFrom }
  | { kind: 'typed'; winRate: number; payoff: number };

export interface ReviewAnswers {
  read: { trades: number };
  regroup: null;
  overview: Overview;
  groups: Group[];
  rows: { total: number; rows: Reviewed[] };
  /** With what its plan would have made, and of an imported one where its day can be opened. */
  trade: (Reviewed & { left?: Aftermath['left']; day: { id: string; n: number } | null }) | null;
  remark: null;
  'left early': { told: LeavingEarly; missing: number[] };
  'keep afters': null;
  pictures: KeptPicture[];
  'keep picture': null;
  'drop picture': null;
  executions: { total: number; rows: ExecutionRow[] };
  page: ReviewPage;
  words: string;
  'keep words': null;
  mappings: KeptMapping[];
  'keep mapping': null;
  'remove import': null;
  file: { name: string; type: string; content: string | Uint8Array<ArrayBuffer> };
  outlook: { outlook: Outlook | null; results: number; days: number; toTell: number | null };
}

/** Answers one request after another. */
export interface ReviewDesk {
  answer<K extends ReviewRequest['kind']>(
    request: Extract<ReviewRequest, { kind: K }>,
  ): Promise<ReviewAnswers[K]>;
}

/** What is kept, as it was read. */
interface Found {
  kept: TradeRecord[];
  attempts: AttemptInfo[];
  imports: KeptImport[];
  afters: Aftermath[];
  own: OwnDay[];
}

interface Read {
  ledger: Ledger;
  trades: Map<string, TradeRecord>;
  remarks: Map<string, Remark>;
  hindsight: Set<string>;
  open: number;
  imports: KeptImport[];
  afters: Map<string, Aftermath>;
  ownDays: Map<string, OwnDate>;
  /** Attempts with finished trades of which nothing is known after their end. */
  wanting: Set<number>;
}

/** A desk on a store; it reads when it is first asked, and when it is told to. */
export function createReviewDesk(store: ReviewStore): ReviewDesk {
  let found: Found | null = null;
  let read: Read | null = null;
  let listed: { key: string; rows: ExecutionRow[] } | null = null;
  let sorted: { key: string; places: Int32Array } | null = null;

  async function readAll(): Promise<Read> {
    const [kept, remarks, attempts, imports, afters, own] = await Promise.all([
      store.trades(),
      store.remarks(),
      store.attempts(),
      store.imports(),
      store.afters(),
      store.ownDays(),
    ]);
    found = { kept, attempts, imports, afters, own };
    return putTogether(found, new Map(remarks.map((r) => [r.ref, r])));
  }
  /** What was found in the store, with what is said of it by now. */
  function putTogether({ kept, attempts, imports, afters, own }: Found, said: Map<string, Remark>): Read {
    const ownDays = ownDaysOf(own);
    const known = new Map(afters.map((a) => [a.ref, a]));
    const trades = kept.map((t) => {
      if (t.source.kind !== 'import') return t;
      const minutes = ownDays.get(keyOf(t))?.minutes;
      const planned = withExits(t, said.get(t.ref));
      if (!minutes) return planned;
      const alone = planAlone(planned, minutes, hoursOn(t.opened.date).close);
      if (alone) known.set(t.ref, alone);
      return withExcursions(planned, minutes);
    });
    const tried: Attempted[] = attempts.map(({ id, day, from, reached, watches }) => ({
      id,
      day: dayKey(day),
      from,
      reached,
      watches: watches !== undefined,
    }));
    const counted = countedOf(trades, tried);
    sorted = null;
    listed = null;
    read = {
      ledger: ledgerOf(trades, said, counted),
      trades: new Map(trades.map((t) => [t.ref, t])),
      remarks: said,
      hindsight: new Set(trades.filter((t) => counted.get(t.ref) === 'hindsight').map((t) => t.ref)),
      open: trades.filter((t) => t.closed === null && counted.get(t.ref) === 'counts').length,
      imports,
      afters: known,
      ownDays,
      wanting: wantingOf(trades, known, counted),
    };
    return read;
  }
  const now = async (): Promise<Read> => read ?? readAll();
  async function drawnFrom(of: OutlookOf): Promise<DrawnFrom> {
    if (of.kind === 'rehearsal') return of.days;
    if (of.kind === 'typed') return resultsOf(of.winRate, of.payoff);
    const { ledger } = await now();
    return resultsByDay(ledger, sift(ledger, of.filter));
  }

  const handlers: {
    [K in ReviewRequest['kind']]: (r: Extract<ReviewRequest, { kind: K }>) => Promise<ReviewAnswers[K]>;
  } = {
    read: async () => ({ trades: (await readAll()).trades.size }),
    regroup: async () => {
      if (found && read) putTogether(found, read.remarks);
      return null;
    },
    async overview({ filter, unit: asked }) {
      const { ledger, hindsight, open, imports, afters } = await now();
      const places = sift(ledger, filter);
      const unit = asked ?? unitOf(ledger, places);
      const left = leavingEarly(ledger, places, afters);
      return {
        unit,
        all: ledger.records.length - hindsight.size,
        hindsight: hindsight.size,
        open,
        from: ledger.dates[0] ?? '',
        to: ledger.dates[ledger.dates.length - 1] ?? '',
        choices: choicesOf(ledger),
        figures: figuresOf(ledger, places),
        days: dayPoints(ledger, places),
        hours: hoursByWeekday(ledger, places),
        excursions: excursions(ledger, places, MOST_POINTS),
        results: Float64Array.from(places, (i) =>
          unit === 'R' ? (ledger.r[i] as number) : (ledger.net[i] as number) / PRICE_SCALE,
        ).filter((x) => !Number.isNaN(x)),
        findings: findingsOf(ledger, places, unit),
        early: {
          trades: left.touched.length,
          notYet: left.unknown['not yet'],
          costR: left.costR,
          mean: left.mean,
          interval: left.interval,
        },
        imports,
      };
    },
    async groups({ filter, by }) {
      const { ledger } = await now();
      return groupsOf(ledger, sift(ledger, filter), by);
    },
    async rows({ filter, sorting, from, count }) {
      const { ledger, remarks, hindsight } = await now();
      const key = JSON.stringify([filter, sorting]);
      if (sorted?.key !== key) sorted = { key, places: inOrder(ledger, sift(ledger, filter), sorting) };
      const rows = [...sorted.places.subarray(from, from + count)].map((i): Reviewed => {
        const trade = ledger.records[i] as TradeRecord;
        return { trade, remark: remarks.get(trade.ref) ?? null, hindsight: hindsight.has(trade.ref) };
      });
      return { total: sorted.places.length, rows };
    },
    async trade({ ref }) {
      const { trades, remarks, hindsight, afters, ownDays } = await now();
      const trade = trades.get(ref);
      const after = afters.get(ref);
      return trade
        ? {
            trade,
            remark: remarks.get(ref) ?? null,
            hindsight: hindsight.has(ref),
            ...(after ? { left: after.left } : {}),
            day: (trade.source.kind === 'import' && ownDays.get(keyOf(trade))) || null,
          }
        : null;
    },
    async remark({ remark }) {
      await store.keepRemark(remark);
      // Groups follow when they are asked for.
      read?.remarks.set(remark.ref, remark);
      return null;
    },
    async 'left early'({ filter, current }) {
      const { ledger, afters, wanting } = await now();
      const told = leavingEarly(ledger, sift(ledger, filter), afters);
      // The session under way is looked at last, as it may go on.
      const missing = [...wanting].sort((a, b) => Number(a === current) - Number(b === current) || a - b);
      return { told, missing };
    },
    async 'keep afters'({ afters }) {
      await store.keepAfters(afters);
      return null;
    },
    async page({ from, to, planned }) {
      const { ledger, afters } = await now();
      return pageOf(ledger, sift(ledger, { ...ALL, from, to }), { from, to }, planned, afters);
    },
    words: ({ of }) => store.page(of),
    async 'keep words'({ page }) {
      await store.keepPage(page);
      return null;
    },
    pictures: ({ ref }) => store.pictures(ref),
    async 'keep picture'({ picture }) {
      await store.keepPicture(picture);
      return null;
    },
    async 'drop picture'({ ref, n }) {
      await store.dropPicture(ref, n);
      return null;
    },
    async executions({ filter, by, from, count }) {
      const { ledger } = await now();
      const key = JSON.stringify([filter, by]);
      if (listed?.key !== key)
        listed = {
          key,
          rows: executionRows(
            [...sift(ledger, filter)].map((i) => ledger.records[i] as TradeRecord),
            by,
          ),
        };
      return { total: listed.rows.length, rows: listed.rows.slice(from, from + count) };
    },
    mappings: () => store.mappings(),
    async 'keep mapping'({ mapping }) {
      await store.keepMapping(mapping);
      return null;
    },
    async 'remove import'({ id }) {
      await store.removeImport(id);
      return null;
    },
    async file({ filter, as }) {
      const { ledger, remarks } = await now();
      const trades = [...sift(ledger, filter)].map((i) => ledger.records[i] as TradeRecord);
      return fileOf(trades, remarks, as);
    },
    async outlook({ of, terms }) {
      const from = await drawnFrom(of);
      return {
        outlook: outlookOf({ ...terms, from, seed: 1 }),
        results: from.flat().length,
        days: from.length,
        toTell: tradesToTell(from),
      };
    },
  };
  return {
    answer: (request) =>
      (handlers[request.kind] as unknown as (r: typeof request) => Promise<never>)(request),
  };
}

/** A date of the trader's own data: which day's, the how manieth of its dates, and the minute candles of a symbol. */
interface OwnDate {
  id: string;
  n: number;
  minutes: readonly Minute[];
}

const keyOf = (t: TradeRecord): string => `${t.symbol} ${t.opened.date}`;

/** What the trader has taken in, by symbol and date. */
function ownDaysOf(own: readonly OwnDay[]): Map<string, OwnDate> {
  const out = new Map<string, OwnDate>();
  for (const o of own)
    for (const s of o.symbols)
      for (const d of s.days)
        if (d.minutes.length > 0)
          out.set(`${s.symbol} ${d.date}`, { id: o.id, n: ownDates(o).indexOf(d.date), minutes: d.minutes });
  return out;
}

function wantingOf(
  trades: readonly TradeRecord[],
  known: ReadonlyMap<string, Aftermath>,
  counted: ReadonlyMap<string, Counted>,
): Set<number> {
  const out = new Set<number>();
  for (const t of trades)
    if (t.source.kind === 'attempt' && t.closed && !known.has(t.ref) && counted.get(t.ref) !== 'copy')
      out.add(t.source.attempt);
  return out;
}

/** Results in R of the trades at some places, day by day. */
function resultsByDay(l: Ledger, places: Int32Array): number[][] {
  const days = new Map<number, number[]>();
  for (const i of places) {
    const r = l.r[i] as number;
    if (Number.isNaN(r)) continue;
    const day = l.day[i] as number;
    const list = days.get(day);
    if (list) list.push(r);
    else days.set(day, [r]);
  }
  return [...days.values()];
}

function choicesOf(l: Ledger): Overview['choices'] {
  const places = sift(l, ALL);
  const out: Overview['choices'] = {};
  for (const [id] of l.groups) out[id] = groupsOf(l, places, id).map((g) => g.name);
  return out;
}

function inOrder(l: Ledger, places: Int32Array, { by, down }: Sorting): Int32Array {
  const of = (i: number) => l.records[i] as TradeRecord;
  const value: Record<Exclude<Sorting['by'], 'closed' | 'symbol'>, (i: number) => number> = {
    net: (i) => l.net[i] as number,
    r: (i) => l.r[i] as number,
    held: (i) => l.held[i] as number,
    shares: (i) => of(i).shares,
    costs: (i) => l.costs[i] as number,
    mae: (i) => of(i).mae ?? Number.NaN,
    mfe: (i) => of(i).mfe ?? Number.NaN,
  };
  const out = places.slice();
  if (by === 'symbol')
    out.sort((a, b) => (of(a).symbol < of(b).symbol ? -1 : of(a).symbol > of(b).symbol ? 1 : a - b));
  else if (by !== 'closed') {
    // What is not known stands last, whichever way.
    const v = value[by];
    const last = down ? Number.NEGATIVE_INFINITY : Number.POSITIVE_INFINITY;
    const key = (i: number) => (Number.isNaN(v(i)) ? last : v(i));
    out.sort((a, b) => key(a) - key(b) || a - b);
  }
  return down ? out.reverse() : out;
}
