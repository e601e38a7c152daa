// What is kept for review beside trades and remarks.
import type { ExecutionMap } from '../core/formats/index.ts';

/** A file of executions that was taken in: its trades have refs `i{id}.{n}`. */
export interface KeptImport {
  id: number;
  file: string;
  /** When, as a date and time of the wall. */
  made: string;
  executions: number;
  trades: number;
}

/** The trader's own words for a day (`2027-03-09`) or a week (`week 2027-03-08`, its Monday). */
export interface Page {
  of: string;
  words: string;
}

/** A picture of a trade: which of its pictures it is, and its bytes. */
export interface KeptPicture {
  ref: string;
  n: number;
  type: string;
  bytes: Uint8Array<ArrayBuffer>;
}

/** How the columns of a file were read, under a name. */
export interface KeptMapping {
  name: string;
  /** Headings of the table that it was made for. */
  headings: string[];
  mapping: ExecutionMap;
}
