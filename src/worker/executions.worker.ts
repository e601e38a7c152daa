// Takes executions in: looks at a file, reads it as it was mapped, and keeps its trades after a yes. Ending it is how it is cancelled.
import {
  type ExecutionMap,
  guessExecutionMap,
  keptOnesOf,
  readExecutions,
  rowsOfFix,
  rowsOfTradesJson,
  saidInJson,
  sameness,
} from '../core/formats/index.ts';
import { unknownOnes } from '../core/review/index.ts';
import { openReview, type TradesChanged } from '../store/review.ts';
import { storageWords } from '../store/room.ts';
import type { ExecutionsAnswer, ExecutionsRequest, ReadSummary } from './executions-protocol.ts';
import { withExecutions, withSaid } from './joined-records.ts';
import { LOOK_ROWS, rowsOf, tooLarge } from './table-rows.ts';
import { placer } from './zones.ts';

const tell = (m: ExecutionsAnswer) => postMessage(m);
const progress = (what: string, done: number, of: number) =>
  tell({ kind: 'progress', what, part: of === 0 ? 1 : done / of });

/** What has been read and waits for a yes. */
let read: { file: string; executions: number; changes: TradesChanged } | null = null;

self.onmessage = (e: MessageEvent<ExecutionsRequest>) => {
  obey(e.data).catch((error: unknown) => tell({ kind: 'failed', message: storageWords(error) }));
};

async function obey(r: ExecutionsRequest): Promise<void> {
  if (r.kind === 'look') return look(r.file);
  if (r.kind === 'read') return readAll(r.file, r.map, r.usualRisk);
  if (!read) throw new Error('Nothing has been read yet.');
  const { file, executions, changes } = read;
  const store = await openReview();
  const trades = changes.fresh.length + changes.changed.length;
  await store.keepImport({ file, made: r.made, executions, trades }, changes);
  tell({ kind: 'kept', trades });
}

async function look(file: File): Promise<void> {
  const { rows, utc } = await tableOf(file, LOOK_ROWS);
  const guess = guessExecutionMap(rows);
  tell({ kind: 'looked', rows, map: utc ? { ...guess, zone: 'UTC' } : guess });
}

/** Rows of any kind of file; what FIX says is in universal time. */
async function tableOf(file: File, most: number): Promise<{ rows: string[][]; utc: boolean; bad: string[] }> {
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
  return { rows: await rowsOf(file, most, progress), utc: false, bad: [] };
}

async function readAll(file: File, map: ExecutionMap, usualRisk: number | null): Promise<void> {
  const { rows, bad } = await tableOf(file, Number.POSITIVE_INFINITY);
  tell({ kind: 'progress', what: 'Reading the rows', part: 0.5 });
  const got = readExecutions(rows, map, placer(map.zone));
  const kept = await (await openReview()).trades();
  const { fresh, known, unsure } = unknownOnes(
    kept.flatMap(keptOnesOf),
    got.executions,
    sameness,
    map.again ?? 'repeat',
  );
  tell({ kind: 'progress', what: 'Joining executions to trades', part: 0.8 });
  const said = /\.json$/i.test(file.name) ? saidInJson(await file.text()) : new Map();
  const remarked = new Set((await (await openReview()).remarks()).map((r) => r.ref));
  const changes = withSaid(said, remarked, kept, withExecutions(kept, fresh, usualRisk));
  const trades = [...changes.fresh, ...changes.changed];
  read = { file: file.name, executions: fresh.length, changes };
  const dates = fresh.map((x) => x.date).sort();
  const summary: ReadSummary = {
    executions: fresh.length,
    trades: trades.length,
    goOn: changes.changed.length,
    open: trades.filter((t) => t.closed === null).length,
    withRisk: trades.filter((t) => t.risk !== null).length,
    known,
    said: changes.fresh.filter((t) => t.remark).length + (changes.remarks?.length ?? 0),
    unsure,
    doubled: got.doubled,
    alike: got.alike,
    from: dates[0] ?? '',
    to: dates[dates.length - 1] ?? '',
    bad: [...bad.map((reason) => ({ line: 0, column: 'message', value: '', reason })), ...got.bad].slice(
      0,
      500,
    ),
    badCount: bad.length + got.bad.length,
  };
  tell({ kind: 'read', summary });
}
