export { SCAN_FIELDS, type ScanField, type ScanInput, usualShareBy } from './fields.ts';
export { clauseCounts, columnOf, passes, rank, rowOf, type ScanRow } from './rank.ts';
