export {
  type ColumnMap,
  guessColumns,
  type ImportKind,
  joinTables,
  type ReadTable,
  readTable,
} from './bars.ts';
export { barsCsv, printsCsv } from './day.ts';
export { noRows, notATable } from './file-kind.ts';
export { JOURNAL_KINDS, type JournalKind, type JournalLine, journalCsv, journalJson } from './journal.ts';
export { rowsOfJsonLines } from './json-lines.ts';
export { executionsCsv, tradesCsv, tradesJson } from './trades.ts';
export { readWatchlist, type WatchRow, watchlistCsv } from './watchlist.ts';
