export { SCAN_FIELDS, type ScanField, type ScanInput } from './fields.ts';
export { clauseCounts, columnOf, passing, rank, rowOf, type ScanRow } from './rank.ts';
