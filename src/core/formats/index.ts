export { executionsCsv, tradesCsv, tradesJson } from './trades.ts';
