export const ROW = 26;
export const SYMBOL_WIDTH = 132;
export const SPARK_WIDTH = 66;
export const LEAST_WIDTH = 54;

/** How a table is looked at: its columns in order, their widths, what it is sorted by. */
export interface TableLook {
  columns: readonly string[];
  widths: readonly { field: string; px: number }[];
  sort: { field: string; down: boolean } | null;
  change(look: {
    columns?: string[];
    widths?: { field: string; px: number }[];
    sort?: { field: string; down: boolean } | null;
  }): void;
}
