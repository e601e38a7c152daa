export {
  type ColumnMap,
  guessColumns,
  type ImportKind,
  joinTables,
  type ReadTable,
  readTable,
} from './bars.ts';
export type { DateOrder } from './cells.ts';
export { barsCsv, printsCsv } from './day.ts';
export {
  EXECUTION_COLUMNS,
  type ExecutionColumn,
  type ExecutionMap,
  guessExecutionMap,
} from './execution-map.ts';
export {
  type BadExecution,
  keptOnesOf,
  type ReadExecutions,
  readExecutions,
} from './executions.ts';
export { encodingOf, headingRow, MOST_COLUMNS, noRows, notATable, tooWide } from './file-kind.ts';
export { fixReports, rowsOfFix, type UtcOf } from './fix.ts';
export { identityOf, sameness } from './identity.ts';
export { JOURNAL_KINDS, type JournalKind, type JournalLine, journalCsv, journalJson } from './journal.ts';
export { rowsOfJsonLines } from './json-lines.ts';
export { executionColumns, keptExecutionsCsv, keptJson, keptTradesCsv } from './kept.ts';
export { pageMarkdown } from './page.ts';
export { beginningsOf, type Said, saidInJson } from './said.ts';
export { tagged, untagged } from './tagged.ts';
export { executionsCsv, tradesCsv, tradesJson } from './trades.ts';
export { rowsOfTradesJson } from './trades-rows.ts';
export { readWatchlist, type WatchRow, watchlistCsv } from './watchlist.ts';
