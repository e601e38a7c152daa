export { SCAN_FIELDS, type ScanField, type ScanInput, usualShareBy } from './fields.ts';
export { type ScanRow, clauseCounts, columnOf, passes, rank, rowOf } from './rank.ts';
