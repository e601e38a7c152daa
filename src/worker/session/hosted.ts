import type { AccountId } from '../../core/units/index.ts';
import type { DayRef, DaySource } from '../../session/day-ref.ts';
import type { Engine } from '../../session/engine.ts';
import type { AttemptInfo, LogEntry, PressedBy, SessionInput } from '../../session/log.ts';
import type { Clock, Store } from '../../session/ports.ts';
import type { RunResult } from '../../session/scripts.ts';
import type { Work } from './long-work.ts';
import type { Pace } from './pace.ts';
import type { DayChoice, FromWorker, Proposal } from './session-messages.ts';
import type { Slices } from './slices.ts';
import type { Table } from './table.ts';
import type { Watch } from './watch.ts';

/** Everything that the host remembers of the session that it runs. */
export interface Hosted {
  engine: Engine;
  attempt: AttemptInfo;
  pace: Pace;
  focus: string;
  /** What views look at, by their names. */
  watches: Map<string, Watch>;
  /** The rule of the table on screen, for what keeps a symbol out of it. */
  table: Table | null;
  /** What was peeked at last, by number: it can be sent as it was shown. */
  proposals: Map<number, Proposal & { cursor: number | null; account: AccountId; by: PressedBy | undefined }>;
  slices: Slices;
  /** Inputs that come by themselves, as it is watched again; the next first. */
  coming: LogEntry[];
  /** Long work under way, to be ended from outside. */
  work: Work | null;
}

/** What a handler may do with the session that is hosted. */
export interface Desk {
  h: Hosted;
  store: Store;
  clock: Clock;
  tell(m: FromWorker): void;
  /** Stores what happened, without telling it yet. */
  append(entries: readonly LogEntry[]): Promise<void>;
  publish(entries: readonly LogEntry[]): Promise<void>;
  /** Everything on screen is told anew: it may be another day. */
  lookAgain(): void;
  longWork<T>(work: (w: Work) => Promise<T>): Promise<T>;
  keep(): Promise<void>;
  standing(): AttemptInfo;
  begin(
    day: DayRef,
    from: AttemptInfo['from'],
    inputs: readonly LogEntry[],
    to: number | null,
    more?: { accounts?: AttemptInfo['accounts']; watch?: boolean; known?: number | undefined },
  ): Promise<void>;
  /** What is only watched goes on by the trader's hand. */
  takeOver(): Promise<void>;
  choices(): Promise<DayChoice>;
  sourceOf(ref: DayRef): Promise<DaySource>;
  obey(input: SessionInput): Promise<RunResult>;
}
