// All trades of sessions and files as they are kept, put together for questions.
import {
  type Aftermath,
  type Attempted,
  type Counted,
  countedOf,
  isOfOldRule,
  type Ledger,
  ledgerOf,
  type Minute,
  planAlone,
  type Remark,
  type TradeRecord,
  withExcursions,
  withExits,
} from '../../core/review/index.ts';
import { type OwnDay, ownDates } from '../../core/sim/index.ts';
import { hoursOn } from '../../core/units/index.ts';
import type { AttemptInfo } from '../../session/log.ts';
import { dayKey } from '../../session/records.ts';
import type { KeptImport } from '../../store/kept.ts';
import type { ReviewStore } from '../../store/review.ts';

/** What the store holds of trades, but for what is said of them. */
export interface Stored {
  trades: TradeRecord[];
  attempts: AttemptInfo[];
  imports: KeptImport[];
  afters: Aftermath[];
  own: OwnDay[];
}

/** Everything that questions are answered from. */
export interface ReviewRecords {
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

/** Reads all of it. */
export async function storedIn(
  store: ReviewStore,
): Promise<{ stored: Stored; remarks: Map<string, Remark> }> {
  const [trades, remarks, attempts, imports, afters, own] = await Promise.all([
    store.trades(),
    store.remarks(),
    store.attempts(),
    store.imports(),
    store.afters(),
    store.ownDays(),
  ]);
  return {
    stored: { trades, attempts, imports, afters, own },
    remarks: new Map(remarks.map((r) => [r.ref, r])),
  };
}

/** What is stored, together with what is said of it by now. */
export function recordsOf(
  { trades: kept, attempts, imports, afters, own }: Stored,
  remarks: Map<string, Remark>,
): ReviewRecords {
  const ownDays = ownDaysOf(own);
  const known = new Map(afters.map((a) => [a.ref, a]));
  const trades = kept.map((t) => {
    if (t.source.kind !== 'import') return byEntries(t, known.get(t.ref));
    const minutes = ownDays.get(ownKey(t))?.minutes;
    const planned = withExits(t, remarks.get(t.ref));
    if (!minutes) return planned;
    const alone = planAlone(planned, minutes, hoursOn(t.opened.date).close);
    if (alone) known.set(t.ref, alone);
    return withExcursions(planned, minutes);
  });
  const counted = countedOf(trades, attempts.map(attempted));
  const counts = (t: TradeRecord, as: Counted) => counted.get(t.ref) === as;
  return {
    ledger: ledgerOf(trades, remarks, counted),
    trades: new Map(trades.map((t) => [t.ref, t])),
    remarks,
    hindsight: new Set(trades.filter((t) => counts(t, 'hindsight')).map((t) => t.ref)),
    open: trades.filter((t) => t.closed === null && counts(t, 'counts')),
    imports,
    afters: known,
    ownDays,
    wanting: wantingOf(trades, known, counted),
  };
}

const attempted = ({ id, day, from, reached, watches, known }: AttemptInfo): Attempted => ({
  id,
  day: dayKey(day),
  from,
  reached,
  watches: watches !== undefined,
  ...(known === undefined ? {} : { known }),
});

/** A date of the trader's own data: which day's, the how manieth of its dates, and the minute candles of a symbol. */
export interface OwnDate {
  id: string;
  n: number;
  minutes: readonly Minute[];
}

/** What a trade's own day is found by. */
export const ownKey = (t: TradeRecord): string => `${t.symbol} ${t.opened.date}`;

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
