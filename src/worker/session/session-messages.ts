import type { AccountRules, FeeTable } from '../../core/account/index.ts';
import type { AlertChange } from '../../core/alerts/index.ts';
import type { JournalLine } from '../../core/formats/index.ts';
import type { Bar, Print } from '../../core/market/index.ts';
import type { PlanBook } from '../../core/reading/index.ts';
import type { LineChange, OwnDay } from '../../core/sim/index.ts';
import type { AccountId } from '../../core/units/index.ts';
import type { DayRef, DaySource, DayStart } from '../../session/day-ref.ts';
import type { AttemptInfo, PastSession, PressedBy } from '../../session/log.ts';
import type { RunResult } from '../../session/run-result.ts';
import type { RoomTold } from '../../store/room.ts';
import type { Question, Reply } from './questions.ts';
import type { Peeked } from './slices.ts';

/** What a run over many sessions runs up to. */
export type RunUntil = { kind: 'fill' } | { kind: 'date'; date: string };

/** Everything the interface may ask. Each request carries an id and gets exactly one answer. */
export type Request =
  /**
   * `cursor`: where the pointer stands on the chart of the focus, in price units. `seen`: the focus
   * that the trader saw; where another one is in focus by now, nothing is done.
   */
  | { kind: 'run'; text: string; cursor?: number | null; seen?: string; by?: PressedBy }
  /** As `run`, but what adds risk is answered with a proposal that waits for a yes. */
  /** `asks`: what waits for a yes: everything, what adds risk, nothing. */
  | {
      kind: 'act';
      text: string;
      asks: 'always' | 'risk' | 'never';
      cursor?: number | null;
      seen?: string;
      by?: PressedBy;
    }
  /** What a text would do now: a proposal that can be sent as it is. */
  | { kind: 'peek'; text: string; cursor?: number | null; seen?: string }
  /** Sends a proposal: the symbol and the text that were shown. Refused when the focus has changed since. */
  | { kind: 'send'; proposal: number }
  | { kind: 'alert'; id: number; change: AlertChange }
  | { kind: 'focus'; symbol: string }
  /** What is asked from now on; replies come with the updates, at once and whenever they have changed. */
  | { kind: 'subscribe'; questions: readonly Question[] }
  | { kind: 'unsubscribe'; question: Question }
  /** The day journal of the attempt under way. */
  | { kind: 'journal' }
  /** Companies whose options are dear against their year, each with the vertical that would be sold. */
  | { kind: 'find verticals'; asked: VerticalsAsked }
  /** Prices of the day so far, one each ten minutes, for the symbols with these numbers. */
  | { kind: 'sparks'; who: number[] }
  /** What the day can be run again from, beside the session. */
  | { kind: 'day start' }
  | { kind: 'speed'; speed: number }
  | { kind: 'jump'; to: number }
  | { kind: 'risk unit'; dollars: number }
  /** The trader's plans and usual distances, as they are from now on. */
  | { kind: 'plans'; book: PlanBook }
  /** Makes an account, or changes its rules, guards and fees. */
  | { kind: 'account'; id: AccountId; rules: AccountRules; fees: readonly FeeTable[] }
  /** Cuts the line to the exchange, mends it, or gives it another latency. */
  | { kind: 'line'; change: LineChange }
  | { kind: 'step'; what: 'print' | 'second' | 'bar' }
  /** Runs on until something of interest happens to one of these symbols or to the trader's orders. */
  | { kind: 'next event'; symbols: string[] }
  | { kind: 'next day' }
  /** Runs on, session after session, to the next own fill or to 04:00 of a date. */
  | { kind: 'run on'; until: RunUntil }
  /** Sets aside what was done after a time and starts another attempt from there. */
  | { kind: 'go back'; to: number }
  /** Takes the day of an attempt again from a moment of it on: as it was until then, or, watched, on and on until the trader takes over. */
  | { kind: 'take again'; attempt: number; at: number; watch: boolean }
  | { kind: 'take over' }
  /** `known`: the session of it up to which the trader knows it already. */
  | { kind: 'start day'; day: DayRef; known?: number }
  | { kind: 'days' }
  /** Keeps imported data under an id of its own; the same data twice is kept once. */
  | { kind: 'keep own day'; day: Omit<OwnDay, 'id'> }
  | { kind: 'drop own day'; id: string }
  | { kind: 'own day'; id: string }
  /** One-minute bars or prints of a symbol, as rows for a file. */
  | { kind: 'history'; symbol: string; what: 'bars' | 'prints' }
  /** Ends long work that is under way. */
  | { kind: 'stop work' }
  /** What the trader chose for the interface, as it was kept; null when nothing was. */
  | { kind: 'settings' }
  | { kind: 'keep settings'; settings: unknown }
  /** Sessions of an earlier version, to be read. */
  | { kind: 'past' };

/** What a hand does to the market, to time or to money: refused until the session is ready, and never played later. What is only looked at waits. */
const BY_HAND: ReadonlySet<Request['kind']> = new Set([
  'run',
  'act',
  'send',
  'peek',
  'alert',
  'speed',
  'jump',
  'step',
  'next event',
  'next day',
  'run on',
  'go back',
  'take again',
  'take over',
  'start day',
  'line',
  'risk unit',
  'account',
]);
export const isByHand = (r: Request): boolean => BY_HAND.has(r.kind);
/** Long work during which nothing is sent: what is pressed meanwhile is refused, not kept. */
const LONG: ReadonlySet<Request['kind']> = new Set([
  'next day',
  'run on',
  'go back',
  'take again',
  'start day',
]);
export const takesLong = (r: Request): boolean => LONG.has(r.kind);
const DEEDS: ReadonlySet<Request['kind']> = new Set(['run', 'act', 'send', 'peek', 'alert']);
/** What a hand does that may not be played later than it was pressed. */
export const isPress = (r: Request): boolean => DEEDS.has(r.kind);

/** What the trader can choose to practise on. */
export interface DayChoice {
  practice: { id: string; title: string; character: string; date: string; startAt: number }[];
  own: { id: string; title: string; symbols: number; dates: string[] }[];
  attempts: (AttemptInfo & { title: string })[];
  current: number;
}

/** What verticals are looked for: IV rank from, price in dollars, a sector or none, and which one to sell of each. */
export interface VerticalsAsked {
  rank: number;
  from: number;
  to: number;
  sector: string;
  days: number;
  delta: number;
  width: string;
  right: 'call' | 'put';
}
export interface VerticalFound {
  symbol: string;
  sector: string;
  spot: number;
  iv: number;
  rank: number;
  /** As a sentence names it, and the one that it comes to now. */
  text: string;
  name: string;
  mid: number;
  /** What one can lose, and the power that it needs; in 1/10,000 dollar. */
  least: number;
  needs: number;
  /** What one can lose, in the account's R. */
  r: number;
  profit: number;
  affordable: boolean;
  /** Options of the company are held already. */
  held: boolean;
}

/** What was worked out and a yes will send. */
export interface Proposal extends Peeked {
  id: number;
}

/** What each question is answered with; a request that is not here is answered with `done`. */
export interface Answers {
  run: { kind: 'run'; result: RunResult };
  act: { kind: 'run'; result: RunResult } | { kind: 'peek'; peeked: Proposal };
  peek: { kind: 'peek'; peeked: Proposal };
  send: { kind: 'run'; result: RunResult };
  days: { kind: 'days'; days: DayChoice };
  'own day': { kind: 'own day'; day: OwnDay | null };
  history: { kind: 'history'; date: string; bars: Bar[]; prints: Print[] };
  'find verticals': { kind: 'find verticals'; rows: VerticalFound[]; fit: number };
  sparks: { kind: 'sparks'; lines: Int32Array[] };
  journal: { kind: 'journal'; lines: JournalLine[] };
  settings: { kind: 'settings'; settings: unknown };
  past: { kind: 'past'; sessions: PastSession[] };
  /** What a run over many sessions came to, in words. */
  'run on': { kind: 'came'; text: string };
  'day start': { kind: 'day start'; source: DaySource; start: DayStart };
}
export interface Done {
  kind: 'done';
}
export type Answer = Answers[keyof Answers] | Done;

/** The answer that belongs to a request; anything else is refused by the compiler. */
export type AnswerTo<K extends Request['kind']> = K extends keyof Answers ? Answers[K] : Done;

export interface WorkingNow {
  what: string;
  part: number;
  words: string;
  ending: 'as before' | 'here' | null;
}

export type ToWorker = { id: number; request: Request };
export type FromWorker =
  /** Replies to what is subscribed, by the questions' keys. */
  | { kind: 'update'; replies: Record<string, Reply> }
  | { kind: 'answer'; id: number; answer: Answer }
  | { kind: 'failed'; id: number; message: string }
  | { kind: 'waiting'; why: 'another tab' }
  /** An archive is taken in before the session starts; a share from 0 to 1. */
  | { kind: 'taking in'; part: number }
  | { kind: 'ready' }
  /** Long work: which part of its way it has come, in words too, and what ending it early leaves; null: it has to come to its end. */
  | ({ kind: 'working' } & WorkingNow)
  /** Something that the trader has to know once. */
  | { kind: 'notice'; text: string }
  | { kind: 'worked' }
  /** There is no room on disk, or there is again. */
  | RoomTold
  /** The browser keeps nothing: the app runs in memory. */
  | { kind: 'not kept'; why: string }
  | { kind: 'broken'; message: string };
