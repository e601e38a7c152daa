// What the worker of review is asked, and what it answers.
import type {
  Aftermath,
  DayPoint,
  DimensionId,
  DrawnFrom,
  Excursion,
  ExecutionRow,
  ExecutionsBy,
  Figures,
  Filter,
  findingsOf,
  Group,
  hoursByWeekday,
  LeavingEarly,
  Outlook,
  OutlookTerms,
  Planned,
  Remark,
  ReviewPage,
  TradeRecord,
  Unit,
} from '../../core/review/index.ts';
import type { KeptImport, KeptMapping, KeptPicture, Page } from '../../store/kept.ts';

/** How trades are put into order. */
export interface Sorting {
  by: 'closed' | 'symbol' | 'net' | 'r' | 'held' | 'shares' | 'costs' | 'mae' | 'mfe';
  down: boolean;
}

/** All that a page of review shows of the trades that a filter leaves. */
export interface Overview {
  /** Trades in all, those that count not, and what is still open: long VULPN. */
  all: number;
  hindsight: number;
  open: string[];
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
