import type { Account, LocateOffer } from '../account/index.ts';
import type { Clause, Condition, Exit, OrderTree, PriceTree, Statement, TreeOf } from '../language/index.ts';
import { printTree } from '../language/index.ts';
import type { DrawnLevel, SymbolView } from '../market/index.ts';
import type { ChainMoment } from '../options/index.ts';
import { type Broker, holdingOf, type Intent, openTrade, type Refusal, type Trade } from '../orders/index.ts';
import type { Trigger } from '../triggers/index.ts';
import {
  type AccountId,
  DAY,
  type Hours,
  type Money,
  type OrderId,
  type Price,
  type SessionKind,
  type Side,
  type TradeId,
} from '../units/index.ts';
import type { Plan } from './plans.ts';
import type { Question } from './questions.ts';
import type { Reason } from './reasons.ts';
import type { Usual } from './usual.ts';
import { reasonText } from './wording.ts';

/** What `ticket` stands for as a size. */
export type TicketSize = TreeOf<'shares'> | TreeOf<'money'> | TreeOf<'risk'> | TreeOf<'risk money'>;

/** An order that is prepared and waits for a second press. Its sentence is read again when it is sent. */
export interface Staged {
  id: number;
  account: AccountId;
  symbol: string;
  statement: TreeOf<'enter'> | TreeOf<'add'> | TreeOf<'close'>;
  /** Its number on the strip and on its key, 1 to 9, kept as long as it is there; null: all nine are taken, it has no key. */
  place: number | null;
  /** The number that the next order had then: tells what is newer. */
  order: number;
  /** Session time at which it was staged. */
  at: number;
}

/** An order, or another deed, that waits for its condition; it is read again when it fires. */
export interface Waiting {
  id: number;
  account: AccountId;
  /** What its bare references speak of. */
  symbol: string;
  sentence: TreeOf<'when'>;
  trigger: Trigger<Clause>;
  /** Session time at which it was set. */
  at: number;
  /** How far it was from firing then; infinite where that was not known. */
  far: number;
  /** The trade that it would close: it ends with it; null where it would close none that was open when it was set. */
  trade: TradeId | null;
  /** What was asked when it was set, and answered with a yes. */
  yes?: readonly Question[];
}

/** Orders that go as another one fills, each time for what has filled. */
export interface Chain {
  /** The order that they belong to. */
  orderId: OrderId;
  account: AccountId;
  symbol: string;
  /** The order, or what waits for its moment from the first fill on. */
  order: OrderTree | TreeOf<'when'>;
  /** Shares of the first order that have been acted on. */
  done: number;
  /** Shares that the whole of it stands for, known since the first fill; null before, and where it is a part of what fills. */
  total: number | null;
  sent: number;
}

/** Everything a sentence may look at. Reading is a pure, total function of (tree, this). */
export interface RunContext {
  now: number;
  /** Date of the trading day. */
  date: string;
  session: SessionKind;
  hours: Hours;
  /** Session time of this day's midnight. */
  dayStart: number;
  /** Session time at which a date's midnight lies; null for one that is over. */
  midnightOf(date: string): number | null;
  focus: string | null;
  /** Whether it is read because something that waited goes now: nobody is there to be asked. */
  byItself?: boolean;
  /** What a yes has been given to. */
  yes?: readonly Question[];
  view(symbol: string): SymbolView | null;
  /** What a company's options are priced by now; null where it has none. */
  chain(root: string): ChainMoment | null;
  /** Why an option or a vertical cannot be traded; null when it can. */
  unlisted(name: string): string | null;
  /** Whether a symbol passes a rule now. */
  passes(symbol: string, rule: Condition): boolean;
  /** A scan field of a symbol; NaN is not known. */
  field(symbol: string, name: string): number;
  broker: Broker;
  /** The account that sentences act in. */
  account: AccountId;
  /** The same moment for another account. */
  in(account: AccountId): RunContext;
  /** What a lender asks for shares of a symbol that is hard to borrow. */
  locate(symbol: string): LocateOffer;
  /** The guards at the broker's door, as they stand now. */
  admit(intent: Intent): Refusal | null;
  /** What the broker would make of an intent before the exchange answers. */
  would(intent: Intent): Broker;
  ticket: TicketSize | null;
  /** Names of the levels of a symbol. */
  levels(symbol: string): readonly string[];
  staged: readonly Staged[];
  waiting: readonly Waiting[];
  /** The plans by their names. */
  plans: Readonly<Record<string, { exits: readonly Exit[]; hours: Plan['hours'] }>>;
  /** The plans that a long and a short position take where none is named. */
  planFor: { long: string; short: string };
  usual: Usual;
}

/** Why a sentence cannot go now, in one sentence, and sentences that could. */
export interface RunProblem {
  reason: Reason;
  text: string;
  fixes: readonly string[];
  /** The fixes say what was meant, whatever the moment: they may be kept in a key. */
  lasting: boolean;
}

/** The numbers behind a sentence, before it is sent. Money in 1/10,000 dollar. */
export interface OrderFacts {
  side: Side;
  qty: number;
  price: Price;
  stop: Price | null;
  cost: Money;
  /** What its stops lose, as the trade's R will be; and in the account's unit. */
  risk: Money | null;
  units: number | null;
  /** Reward of the targets, whole plan, before costs. */
  reward: Money | null;
  /** Of an entry for the way in and out, of a close for the way out. */
  costs: Money;
  /** Each target: its price, its shares, and what they make after all costs of theirs. */
  targets: readonly { price: Price; shares: number; net: Money }[];
  /** Buying power used, and what is left after it. */
  power?: { used: Money; left: Money };
  /** Of options: the most that all of it can make and lose (null: without end), where it is even, how probably it ends with a profit, or, sold, is once worth half; what a day makes of it. */
  outlook?: {
    most: Money | null;
    least: Money | null;
    even: number[];
    profit: number;
    half: number | null;
    perDay: Money;
  };
}

/** An alert that a script asks for, with its prices as of now. */
export interface AlertAsked {
  /** Null: every symbol. */
  symbol: string | null;
  on:
    | { kind: 'price'; price: Price; way: 'up' | 'down' }
    | { kind: 'rule'; rule: Condition }
    | { kind: 'news' | 'halt' };
}

/** What only the interface can do. */
export type DeskAct =
  | { kind: 'extended'; what: 'show' | 'hide' | 'toggle' }
  | { kind: 'focus'; which: 'next' | 'previous' }
  | { kind: 'focus on'; symbol: string }
  | { kind: 'chain' }
  /** What was drawn on the chart of a symbol; its levels have deeds of their own. */
  | { kind: 'clear drawings'; symbol: string };

/** What a sentence came to, every number decided: a restore obeys this, so that a later change of the language never rewrites an old session. */
export type Deed =
  | { kind: 'intent'; intent: Intent }
  | { kind: 'alert'; asked: AlertAsked; text: string }
  | { kind: 'stage'; account: AccountId; symbol: string; statement: Staged['statement'] }
  | { kind: 'unstage'; ids: readonly number[] }
  | { kind: 'restage'; id: number; statement: Staged['statement'] }
  | {
      kind: 'wait';
      account: AccountId;
      symbol: string;
      sentence: TreeOf<'when'>;
      trigger: Trigger<Clause>;
      far: number;
      trade: Waiting['trade'];
      yes?: readonly Question[];
    }
  /** Goes as the order that the deed before it sends fills. */
  | { kind: 'chain'; nth: number; account: AccountId; symbol: string; order: Chain['order'] }
  | { kind: 'unwait'; ids: readonly number[] }
  /** What waits goes on waiting, with less to do. */
  | { kind: 'rewait'; id: number; sentence: TreeOf<'when'> }
  | { kind: 'pause waiting'; id: number; paused: boolean }
  | { kind: 'ticket'; size: TicketSize | null }
  | { kind: 'level'; symbol: string; name: string; price: DrawnLevel | null }
  | { kind: 'note'; symbol: string; text: string }
  | { kind: 'use account'; account: AccountId }
  | { kind: 'desk'; act: DeskAct };

/** A price that was written by name, and the number that it has now. */
export interface Named {
  text: string;
  price: Price;
}

export interface Reading {
  deeds: Deed[];
  problem: RunProblem | null;
  warnings: string[];
  /** The sentence with today's numbers, in the script language. */
  sayBack: string;
  /** What to know beside the say-back: which orders it is about. */
  about: string;
  /** Names in it that become numbers when it is sent. */
  named: Named[];
  facts: OrderFacts | null;
  symbol: string | null;
  /** Opens or adds risk, so that a confirmation is due. */
  addsRisk: boolean;
  /** What is to be answered before it goes, whatever the confirmations are set to. Its deeds are those of a yes. */
  asks: Question[];
}

/** A reading that has come to nothing yet. */
export const emptyReading = (s: Statement): Reading => ({
  deeds: [],
  problem: null,
  warnings: [],
  sayBack: printTree(s),
  about: '',
  named: [],
  facts: null,
  symbol: null,
  addsRisk: false,
  asks: [],
});

/** Leaves a sentence that cannot go now; never leaves this folder. */
export class Refused extends Error {
  constructor(
    readonly reason: Reason,
    readonly fixes: readonly Statement[],
  ) {
    super(reason.code);
  }
}

/** Gives up on a sentence, with what could go instead where there is something. */
export const refuse = (reason: Reason, fix: Statement | readonly Statement[] | null = null): never => {
  throw new Refused(reason, fix === null ? [] : 'kind' in fix ? [fix] : fix);
};

/** A refusal as the trader reads it. */
export const problemOf = (r: Refused): RunProblem => ({
  reason: r.reason,
  text: reasonText(r.reason),
  fixes: r.fixes.map(printTree),
  lasting: r.reason.code === 'at or away' || r.reason.code === 'a share or in all',
});

/** The account that sentences act in. */
export const accountOf = (c: RunContext): Account => c.broker.accounts[c.account] as Account;
/** The open trade of a symbol in that account. */
export const openTradeOf = (c: RunContext, symbol: string): Trade | undefined =>
  openTrade(holdingOf(c.broker, c.account, symbol));

/** Session time of the midnight that a time of day counts from: today's, or the next trading day's once everything is closed. */
export const midnightOfTimes = (c: RunContext): number =>
  c.session === 'closed' ? c.dayStart + DAY : c.dayStart;

/** A tree for a known price, for the say-back. */
export const literal = (p: number): PriceTree => ({ kind: 'number', price: Math.round(p) });
