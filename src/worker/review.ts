// Review: every trade of all sessions and files in columns, and what is asked of them.
import {
  type Aftermath,
  ALL,
  type Attempted,
  type Counted,
  countedOf,
  type DrawnFrom,
  dayPoints,
  type ExecutionRow,
  excursions,
  executionRows,
  figuresOf,
  findingsOf,
  groupsOf,
  hoursByWeekday,
  isOfOldRule,
  type Ledger,
  leavingEarly,
  ledgerOf,
  type Minute,
  outlookOf,
  pageOf,
  planAlone,
  type Remark,
  resultsOf,
  sift,
  type TradeRecord,
  tradesToTell,
  unitOf,
  withExcursions,
  withExits,
} from '../core/review/index.ts';
import { type OwnDay, ownDates } from '../core/sim/index.ts';
import { hoursOn, PRICE_SCALE } from '../core/units/index.ts';
import type { AttemptInfo } from '../session/log.ts';
import { dayKey } from '../session/records.ts';
import type { KeptImport } from '../store/kept.ts';
import type { ReviewStore } from '../store/review.ts';
import { withoutFile } from './joined-records.ts';
import { fileOf } from './review-files.ts';
import type {
  OutlookOf,
  Overview,
  ReviewAnswers,
  Reviewed,
  ReviewRequest,
  Sorting,
} from './review-protocol.ts';

/** Trades that a picture of single ones shows at most. */
const MOST_POINTS = 1_500;

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
  open: TradeRecord[];
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
      if (t.source.kind !== 'import') return byEntries(t, known.get(t.ref));
      const minutes = ownDays.get(keyOf(t))?.minutes;
      const planned = withExits(t, said.get(t.ref));
      if (!minutes) return planned;
      const alone = planAlone(planned, minutes, hoursOn(t.opened.date).close);
      if (alone) known.set(t.ref, alone);
      return withExcursions(planned, minutes);
    });
    const tried: Attempted[] = attempts.map(({ id, day, from, reached, watches, known }) => ({
      id,
      day: dayKey(day),
      from,
      reached,
      watches: watches !== undefined,
      ...(known === undefined ? {} : { known }),
    }));
    const counted = countedOf(trades, tried);
    sorted = null;
    listed = null;
    read = {
      ledger: ledgerOf(trades, said, counted),
      trades: new Map(trades.map((t) => [t.ref, t])),
      remarks: said,
      hindsight: new Set(trades.filter((t) => counted.get(t.ref) === 'hindsight').map((t) => t.ref)),
      open: trades.filter((t) => t.closed === null && counted.get(t.ref) === 'counts'),
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
        open: open.map((t) => `${t.direction} ${t.symbol}`),
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
      await store.removeImport(id, withoutFile(await store.trades(), id));
      return null;
    },
    async file({ filter, as }) {
      const { ledger, remarks, trades: kept, open } = await now();
      const closed = [...sift(ledger, filter)].map((i) => ledger.records[i] as TradeRecord);
      const all = [...kept.values()];
      // What is still open goes along where nothing is filtered: a file of all is all.
      const whole = JSON.stringify({ ...ALL, ...filter }) === JSON.stringify(ALL);
      return fileOf(whole ? [...closed, ...open] : closed, remarks, as, all);
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

/** A trade of an earlier version with the R of its entries, where its log has been lived through again and came to the same. */
const byEntries = (t: TradeRecord, again: Aftermath | undefined): TradeRecord =>
  isOfOldRule(t) && again?.risk !== undefined && again.net === t.net
    ? { ...t, risk: again.risk, rule: 'entries' }
    : t;

function wantingOf(
  trades: readonly TradeRecord[],
  known: ReadonlyMap<string, Aftermath>,
  counted: ReadonlyMap<string, Counted>,
): Set<number> {
  const out = new Set<number>();
  for (const t of trades)
    if (t.source.kind === 'attempt' && t.closed && counted.get(t.ref) !== 'copy') {
      const again = known.get(t.ref);
      if (!again || (isOfOldRule(t) && again.risk === undefined)) out.add(t.source.attempt);
    }
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
