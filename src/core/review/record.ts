import type { Costs } from '../account/index.ts';

/** A time of day in New York on a date: yyyy-mm-dd, and ms after midnight. */
export interface When {
  date: string;
  at: number;
}

/** One execution of a trade. Price, improvement (a share) and costs in 1/10,000 dollar. What the source did not say is null. */
export interface Execution extends When {
  id: string;
  order: string | null;
  side: 'buy' | 'sell';
  /** What its order was for: entry, stop, target, close. */
  role: string | null;
  qty: number;
  price: number;
  liquidity: 'added' | 'removed' | null;
  route: string | null;
  better: number;
  costs: Costs;
  /** Of one that was parted because it turned the position: the size of it all in the first part, 0 in the second. */
  whole?: number;
  /** The number of the file that an imported one came with. */
  file?: number;
  /** Its place among executions of which everything is equal, where its file says it. */
  place?: number;
  /** The how-manieth of its account, symbol and millisecond it was, where its file says it. */
  nth?: number;
}

/** Planned exits: prices in 1/10,000 dollar, null where none was planned or none is said. */
export interface Exits {
  stop: number | null;
  target: number | null;
}

/** Nothing said. */
export const noExits: Exits = { stop: null, target: null };

/** Where a trade comes from: an attempt at a day, with its number in it, or a file. */
export type Source =
  | { kind: 'attempt'; attempt: number; trade: number; at: { opened: number; closed: number | null } }
  | { kind: 'import'; id: number };

/** The number of a trade for good: by the attempt that it was made in. */
export const refOf = (attempt: number, trade: number): string => `a${attempt}.${trade}`;

/** A trade as it is kept for review, for good. Money and prices in 1/10,000 dollar, sizes in shares or contracts. */
export interface TradeRecord {
  ref: string;
  source: Source;
  /** What kind of day it was, and which one exactly: the same day taken again has the same. */
  scenario: string;
  day: string;
  account: string;
  symbol: string;
  direction: 'long' | 'short';
  shares: number;
  averageEntry: number;
  averageExit: number | null;
  opened: When;
  closed: When | null;
  /** Time in it, in ms of trading days of 24 hours; null while it is open. */
  held: number | null;
  gross: number;
  costs: Costs;
  net: number;
  /** What its first stop would have lost, or was said to be risked; null where nothing says. */
  risk: number | null;
  /** Its risk is what its entries risked; left out where an earlier version kept it by its first stop. */
  rule?: 'entries';
  /** Most favourable and adverse excursion; null where no prices are known. */
  mfe: number | null;
  mae: number | null;
  /** What opened it: the sentence, its exit plan in words, the script or button, the scan that had it. */
  sentence: string | null;
  plan: string | null;
  /** Where an imported one was planned to end, if its file says that. */
  exits?: Exits;
  script: string | null;
  scan: string | null;
  /** The grade that it had on the day's shortlist. */
  grade?: string;
  /** Shares free to trade; null where that is not known. */
  float: number | null;
  executions: Execution[];
}

/** Whether the R of a trade was kept by an earlier version, by its first stop. */
export const isOfOldRule = (t: Pick<TradeRecord, 'source' | 'rule'>): boolean =>
  t.source.kind === 'attempt' && t.rule === undefined;

/** What the trader says of a trade. */
export interface Remark {
  ref: string;
  setup: string;
  tags: string[];
  grade: string;
  /** Whether the plan was kept; null: not said. */
  kept: boolean | null;
  /** The rule that was broken. */
  broke: string;
  words: string;
  /** Where an imported trade was planned to end: prices in 1/10,000 dollar. */
  stop?: number | null;
  target?: number | null;
}

/** Nothing said. */
export const noRemark = (ref: string): Remark => ({
  ref,
  setup: '',
  tags: [],
  grade: '',
  kept: null,
  broke: '',
  words: '',
});

/** By when trades were opened; those of one moment by their numbers. */
export function inTime(a: TradeRecord, b: TradeRecord): number {
  const when = (t: TradeRecord) => `${t.opened.date} ${String(t.opened.at).padStart(8, '0')}`;
  const numbers = (t: TradeRecord) => (t.ref.match(/\d+/g) ?? []).map(Number);
  const [x, y] = [numbers(a), numbers(b)];
  return when(a).localeCompare(when(b)) || (x[0] ?? 0) - (y[0] ?? 0) || (x[1] ?? 0) - (y[1] ?? 0);
}
