// What can be asked of the session and is told again whenever it has changed.
import type { MarketContext, NewsItem } from '../../core/market/index.ts';
import type { NamedNow } from './names.ts';
import type { PlanSeen } from './plan.ts';
import type { Sheet } from './sheet.ts';
import type {
  AccountSlice,
  AlertsSlice,
  BarsSlice,
  BookSlice,
  ChainSlice,
  ClockSlice,
  DaysSlice,
  DepthSlice,
  DeskSlice,
  EarlierSlice,
  LineSlice,
  MarksSlice,
  PayoffSlice,
  Peeked,
  SymbolSlice,
  TableAsked,
  TableSlice,
  WaitsSlice,
  WhySlice,
} from './slices.ts';

/** A question; `symbol` null: the focus, whatever it is. */
export type Question =
  | { kind: 'clock' }
  /** The symbol in focus. */
  | { kind: 'focus on' }
  /** Every symbol of the day, by number. */
  | { kind: 'symbols' }
  | { kind: 'context' }
  | { kind: 'alerts' }
  /** The trader's orders and trades: each answer holds what has changed since the one before. */
  | { kind: 'book' }
  | { kind: 'line' }
  | { kind: 'marks' }
  | { kind: 'account' }
  | { kind: 'desk' }
  | { kind: 'news' }
  | { kind: 'table'; table: TableAsked }
  /** What texts would do now. `every`: told at most so often while time runs, in ms. */
  | { kind: 'peeks'; texts: readonly { text: string; symbol: string | null }[]; every?: number }
  | { kind: 'symbol'; symbol: string | null }
  | { kind: 'bars'; symbol: string | null }
  /** Days of a symbol before this one. */
  | { kind: 'days'; symbol: string | null }
  /** Minutes of the session's last days before this one. */
  | { kind: 'earlier'; symbol: string | null }
  /** So many price levels of each side of the book of the focus, or of a contract. */
  | { kind: 'depth'; levels: number; contract: string | null }
  /** The option chain of the focus, or of a symbol; of an expiry, or of the one that is shown first. */
  | { kind: 'chain'; symbol: string | null; expiry: string | null }
  /** What may come of the option or vertical that a sentence opens. */
  | { kind: 'payoff'; text: string }
  /** Orders that wait for a condition, the nearest first. */
  | { kind: 'waits' }
  /** Every field of a symbol, in the order of the registry; NaN is not known. */
  | { kind: 'values'; symbol: string | null }
  /** What a sheet about a symbol shows. */
  | { kind: 'sheet'; symbol: string | null }
  /** For a symbol: what of a table's scan it passes, and what keeps it out. */
  | { kind: 'why'; symbol: string | null; table: TableAsked }
  /** Prices by their names, plans and levels of the focus, for editors and the reference page. */
  | { kind: 'names' }
  /** A plan in the focus, at an example price and size; `from` is the minute of the day of its entry today. */
  | { kind: 'plan'; text: string; price: number | null; qty: number | null; from: number };

/** What each question is answered with; null: there is no such thing now. */
export interface QuestionAnswers {
  clock: ClockSlice;
  'focus on': string;
  symbols: readonly string[];
  context: MarketContext;
  alerts: AlertsSlice;
  book: BookSlice;
  line: LineSlice;
  marks: MarksSlice;
  account: AccountSlice;
  desk: DeskSlice;
  news: NewsItem[];
  table: TableSlice;
  peeks: Peeked[];
  symbol: SymbolSlice;
  bars: BarsSlice;
  days: DaysSlice;
  earlier: EarlierSlice;
  depth: DepthSlice;
  chain: ChainSlice | null;
  payoff: PayoffSlice | null;
  waits: WaitsSlice;
  values: { symbol: string; values: Float64Array };
  sheet: { symbol: string; sheet: Sheet };
  why: WhySlice;
  names: { symbol: string; names: NamedNow[]; plans: string[]; levels: string[] };
  plan: PlanSeen;
}

/** One question by its kind. */
export type QuestionOf<K extends Question['kind']> = Extract<Question, { kind: K }>;

/** The answer, or what is wrong with the question and where in its text. */
export type Reply<K extends Question['kind'] = Question['kind']> =
  | { ok: true; answer: QuestionAnswers[K] }
  | { ok: false; problem: string; from: number; to: number };

/** What a question is known by: the same question has the same key. */
export const keyOf = (q: Question): string => JSON.stringify(q);

/** What the interface knows at all times, by the name that it has there. */
export const STANDING = {
  clock: { kind: 'clock' },
  focusOn: { kind: 'focus on' },
  focus: { kind: 'symbol', symbol: null },
  bars: { kind: 'bars', symbol: null },
  book: { kind: 'book' },
  account: { kind: 'account' },
  marks: { kind: 'marks' },
  desk: { kind: 'desk' },
  waits: { kind: 'waits' },
  alerts: { kind: 'alerts' },
  line: { kind: 'line' },
  symbols: { kind: 'symbols' },
  context: { kind: 'context' },
  news: { kind: 'news' },
} as const satisfies Record<string, Question>;
