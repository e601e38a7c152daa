import type { BadExecution, ExecutionMap } from '../core/formats/index.ts';

/** What the worker that takes executions in is asked; `usualRisk` (1/10,000 dollar) is for trades of which the file says none. */
export type ExecutionsRequest =
  | { kind: 'look'; file: File }
  | { kind: 'read'; file: File; map: ExecutionMap; usualRisk: number | null }
  | { kind: 'keep'; made: string };

/** What came of a file, before anything is kept. `known` were taken in before, `doubled` are in the file twice. */
export interface ReadSummary {
  executions: number;
  trades: number;
  /** Of them those that were there before, and are others now. */
  goOn: number;
  open: number;
  withRisk: number;
  known: number;
  /** Trades that come with notes, tags or a grade. */
  said: number;
  /** Rows without an identity that say what is kept already: repeated, or more of the same? */
  unsure: number;
  doubled: number;
  /** Rows without a number that say what another one says. */
  alike: number;
  from: string;
  to: string;
  /** The first rows that cannot be taken, and how many there are. */
  bad: BadExecution[];
  badCount: number;
}

export type ExecutionsAnswer =
  | { kind: 'looked'; rows: string[][]; map: ExecutionMap }
  | { kind: 'progress'; what: string; part: number }
  | { kind: 'read'; summary: ReadSummary }
  | { kind: 'kept'; trades: number }
  | { kind: 'failed'; message: string };
