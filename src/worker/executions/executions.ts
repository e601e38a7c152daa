import {
  type BadExecution,
  type ExecutionMap,
  guessExecutionMap,
  keptOnesOf,
  readExecutions,
  rowsOfFix,
  rowsOfTradesJson,
  saidInJson,
  sameness,
} from '../../core/formats/index.ts';
import { unknownOnes } from '../../core/review/index.ts';
import type { ReviewStore, TradesChanged } from '../../store/review.ts';
import type { Jobs } from '../call/serve.ts';
import { LOOK_ROWS, rowsOf, tooLarge } from '../rows/table-rows.ts';
import { withExecutions, withSaid } from './joined-records.ts';
import { placer } from './zones.ts';

export type ExecutionsRequest =
  | { kind: 'look'; file: File }
  /** `usualRisk` (1/10,000 dollar) is for trades of which the file says none. */
  | { kind: 'read'; file: File; map: ExecutionMap; usualRisk: number | null }
  /** Keeps what was read last; `made`: when. */
  | { kind: 'keep'; made: string };

export interface ExecutionsAnswers {
  look: { rows: string[][]; map: ExecutionMap };
  read: ReadSummary;
  /** How many trades were kept. */
  keep: number;
}

export interface ExecutionsProgress {
  what: string;
  part: number;
}

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

type Tell = (p: ExecutionsProgress) => void;
/** Bad rows that are shown. */
const MOST_BAD = 500;

/** Takes executions in: looks at a file, reads it as it was mapped, and keeps its trades after a yes. */
export function executionsJobs(
  open: () => Promise<ReviewStore>,
): Jobs<ExecutionsRequest, ExecutionsAnswers, ExecutionsProgress> {
  /** What has been read and waits for a yes. */
  let read: { file: string; executions: number; changes: TradesChanged } | null = null;
  return {
    async look({ file }, progress) {
      const { rows, utc } = await tableOf(file, LOOK_ROWS, progress);
      const guess = guessExecutionMap(rows);
      return { rows, map: utc ? { ...guess, zone: 'UTC' } : guess };
    },
    async read({ file, map, usualRisk }, progress) {
      const { rows, bad: unread } = await tableOf(file, Number.POSITIVE_INFINITY, progress);
      progress({ what: 'Reading the rows', part: 0.5 });
      const got = readExecutions(rows, map, placer(map.zone));
      const store = await open();
      const kept = await store.trades();
      const again = map.again ?? 'repeat';
      const { fresh, known, unsure } = unknownOnes(kept.flatMap(keptOnesOf), got.executions, sameness, again);
      progress({ what: 'Joining executions to trades', part: 0.8 });
      const said = /\.json$/i.test(file.name) ? saidInJson(await file.text()) : new Map();
      const remarked = new Set((await store.remarks()).map((r) => r.ref));
      const changes = withSaid(said, remarked, kept, withExecutions(kept, fresh, usualRisk));
      read = { file: file.name, executions: fresh.length, changes };
      const bad = [
        ...unread.map((reason) => ({ line: 0, column: 'message', value: '', reason })),
        ...got.bad,
      ];
      return {
        ...summaryOf(
          changes,
          fresh.map((x) => x.date),
        ),
        known,
        unsure,
        doubled: got.doubled,
        alike: got.alike,
        bad: bad.slice(0, MOST_BAD),
        badCount: bad.length,
      };
    },
    async keep({ made }) {
      if (!read) throw new Error('Nothing has been read yet.');
      const { file, executions, changes } = read;
      const trades = changes.fresh.length + changes.changed.length;
      await (await open()).keepImport({ file, made, executions, trades }, changes);
      return trades;
    },
  };
}

/** What trades a file would add or change; `dates` of its executions that are new. */
function summaryOf(changes: TradesChanged, dates: readonly string[]) {
  const trades = [...changes.fresh, ...changes.changed];
  const rising = [...dates].sort();
  return {
    executions: dates.length,
    trades: trades.length,
    goOn: changes.changed.length,
    open: trades.filter((t) => t.closed === null).length,
    withRisk: trades.filter((t) => t.risk !== null).length,
    said: changes.fresh.filter((t) => t.remark).length + (changes.remarks?.length ?? 0),
    from: rising[0] ?? '',
    to: rising[rising.length - 1] ?? '',
  };
}

/** Rows of any kind of file; what FIX says is in universal time. */
async function tableOf(
  file: File,
  most: number,
  progress: Tell,
): Promise<{ rows: string[][]; utc: boolean; bad: string[] }> {
  tooLarge(file);
  if (/\.fix$/i.test(file.name) || (await file.slice(0, 5).text()) === '8=FIX') {
    const { rows, bad } = rowsOfFix(await file.text());
    if (rows.length < 2 && bad.length === 0)
      throw new Error(
        `${file.name} has no execution report of a trade (MsgType <35> 8 with ExecType <150> F).`,
      );
    return { rows, utc: true, bad: bad.map((b) => `message ${b.number}: ${b.reason}`) };
  }
  if (/\.json$/i.test(file.name))
    return { rows: rowsOfTradesJson(file.name, await file.text()), utc: false, bad: [] };
  const rows = await rowsOf(file, most, (what, done, of) =>
    progress({ what, part: of === 0 ? 1 : done / of }),
  );
  return { rows, utc: false, bad: [] };
}
