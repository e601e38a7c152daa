import { isOption, occOf } from '../instruments/index.ts';
import { dayOf, formatTime } from '../units/index.ts';
import { csv } from './csv.ts';

/** What a line of the day journal is about. */
export const JOURNAL_KINDS = [
  'asked',
  'refused',
  'answered',
  'filled',
  'condition',
  'moved by itself',
  'guard',
  'setup',
] as const;
export type JournalKind = (typeof JOURNAL_KINDS)[number];

/** One line of the day journal: what was asked, answered, filled or done, when, and why. */
export interface JournalLine {
  /** Of the log entry that it comes from, and its place in it. */
  seq: number;
  nth: number;
  at: number;
  kind: JournalKind;
  account: string;
  symbol: string;
  order: number | null;
  /** FIX 4.4 OrdStatus after it, and FIX 5.0 ExecType; empty where it is about no order. */
  status: string;
  exec: string;
  text: string;
}

const dateOf = (dates: readonly string[], at: number): string => dates[dayOf(at)] ?? '';

/** The journal as CSV, one row a line; times of day in New York. */
export const journalCsv = (dates: readonly string[], lines: readonly JournalLine[]): string =>
  csv([
    [
      'date',
      'time',
      'entry',
      'kind',
      'account',
      'symbol',
      'order',
      'OrdStatus',
      'ExecType',
      'text',
      'OCC symbols',
    ],
    ...lines.map((l) => [
      dateOf(dates, l.at),
      formatTime(l.at, 'millis'),
      l.seq,
      l.kind,
      l.account,
      l.symbol,
      l.order,
      l.status,
      l.exec,
      l.text,
      isOption(l.symbol) ? occOf(l.symbol) : null,
    ]),
  ]);

/** The journal as JSON, the layout named and numbered. */
export const journalJson = (dates: readonly string[], lines: readonly JournalLine[]): string =>
  JSON.stringify(
    {
      format: 'keen-fox journal',
      version: 1,
      dates,
      lines: lines.map((l) => ({ ...l, date: dateOf(dates, l.at), at: formatTime(l.at, 'millis') })),
    },
    null,
    2,
  );
