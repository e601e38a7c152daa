import type { AccountId } from '../../core/units/index.ts';
import type { DayRef, KeptMarket } from '../../session/day-ref.ts';
import type { Engine } from '../../session/engine.ts';
import type { AttemptInfo, LogEntry, PressedBy } from '../../session/log.ts';
import type { Clock, Store } from '../../session/ports.ts';
import type { RecordTeller } from '../../session/records.ts';
import type { Pace } from './pace.ts';
import type { FromWorker, Proposal } from './session-messages.ts';
import type { Subscriptions } from './subscriptions.ts';

/** What opening a session needs of the outside; `starts` has days that were made elsewhere. */
export interface Outside {
  store: Store;
  clock: Clock;
  tell(m: FromWorker): void;
  starts(day: DayRef): Promise<KeptMarket | null>;
}

/** One piece of long work. Ending it ends this one only; work that begins after it is its own. */
export interface Work {
  stopped: boolean;
}

/** What the host may do now. */
export type Phase =
  | { k: 'ready' }
  /** The market is taken somewhere else, or that waits in the queue: presses are refused. `queued` counts such requests. */
  | { k: 'working'; queued: number }
  /** After a failure to store nothing more may happen: what was shown is what is kept. */
  | { k: 'stopped' };

/** A proposal as it was shown, with what it needs to be sent. */
export interface ShownProposal extends Proposal {
  cursor: number | null;
  account: AccountId;
  by: PressedBy | undefined;
}

/** The session that the host runs, and everything it remembers of it. */
export interface Hosted extends Outside {
  phase: Phase;
  engine: Engine;
  attempt: AttemptInfo;
  pace: Pace;
  focus: string;
  subscriptions: Subscriptions;
  /** What was peeked at last, by number: it can be sent as it was shown. */
  proposals: Map<number, ShownProposal>;
  /** Inputs that come by themselves, as an attempt is watched again; the next first. */
  coming: LogEntry[];
  /** Long work under way, to be ended from outside. */
  work: Work | null;
  /** The trader's trades as they are kept for Review. */
  records: RecordTeller;
  /** Wall times at which the heartbeat and the whole state are stored next. */
  due: { beat: number; save: number };
  /** A day that was just set up has not been saved yet. */
  fresh: boolean;
}

/** Where a new trader starts. */
export const FIRST_DAY: DayRef = { kind: 'practice', id: 'fresh-headlines', seed: 7 };
