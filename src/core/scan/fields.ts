import type { Instrument, Quote, Tape } from '../market/index.ts';
import type { RuleField } from '../script/index.ts';
import { MINUTE, PRE_OPEN, REGULAR_CLOSE, REGULAR_OPEN } from '../units/index.ts';

/** What a field is computed from: one symbol at one moment. */
export interface ScanInput {
  instrument: Instrument;
  tape: Tape;
  quote: Quote;
  now: number;
  /** Time of the newest news of today, or null. */
  newsAt: number | null;
}

/** One registry serves the rule, the columns and the hover text: a field is added here only. */
export interface ScanField extends RuleField {
  label: string;
  /** The formula in words, for the trader. */
  meaning: string;
  /** Null where it cannot be known yet; a comparison with it is false. */
  of(i: ScanInput): number | null;
}

const percent = (now: number | null, then: number): number | null => (now === null ? null : (now / then - 1) * 100);

/**
 * Share of a usual day's volume that has traded by a time of day: 6 % before the open, 90 % in the
 * regular session (heavier at both ends), 4 % after it. From memory; a plain shape for the simulation.
 */
export function usualShareBy(now: number): number {
  if (now <= PRE_OPEN) return 0;
  if (now < REGULAR_OPEN) return 0.06 * ((now - PRE_OPEN) / (REGULAR_OPEN - PRE_OPEN)) ** 2;
  if (now < REGULAR_CLOSE) {
    const x = (now - REGULAR_OPEN) / (REGULAR_CLOSE - REGULAR_OPEN);
    return 0.06 + 0.9 * (x + 0.35 * (4 * (x - 0.5) ** 3 + 0.5 - x));
  }
  return Math.min(1, 0.96 + (0.04 * (now - REGULAR_CLOSE)) / (240 * MINUTE));
}

export const SCAN_FIELDS: readonly ScanField[] = [
  { name: 'price', label: 'Price', unit: 'dollars', meaning: 'The last trade.', of: (i) => (i.tape.last === null ? null : i.tape.last / 10_000) },
  {
    name: 'gap',
    label: 'Gap',
    unit: 'percent',
    meaning: 'Before the open: last ÷ prior close − 1. After it: opening price ÷ prior close − 1.',
    of: (i) => percent(i.tape.open ?? i.tape.last, i.instrument.priorClose),
  },
  { name: 'change', label: 'Change', unit: 'percent', meaning: 'Last ÷ prior close − 1.', of: (i) => percent(i.tape.last, i.instrument.priorClose) },
  { name: 'premarket volume', label: 'Pre-mkt vol', unit: 'shares', meaning: 'Shares traded from 04:00 to 09:30.', of: (i) => i.tape.premarketVolume },
  { name: 'volume', label: 'Volume', unit: 'shares', meaning: 'Shares traded today.', of: (i) => i.tape.volume },
  { name: 'dollar volume', label: '$ volume', unit: 'dollars', meaning: 'Sum of price × shares today.', of: (i) => i.tape.turnover / 10_000 },
  {
    name: 'relative volume',
    label: 'Rel vol',
    unit: 'times',
    meaning: 'Volume ÷ what usually has traded by this minute of the day.',
    of: (i) => {
      const usual = i.instrument.averageVolume * usualShareBy(i.now);
      return usual === 0 ? null : i.tape.volume / usual;
    },
  },
  { name: 'float', label: 'Float', unit: 'shares', meaning: 'Shares free to trade.', of: (i) => i.instrument.float },
  { name: 'float turnover', label: 'Float turned', unit: 'times', meaning: 'Volume today ÷ float.', of: (i) => i.tape.volume / i.instrument.float },
  {
    name: 'spread',
    label: 'Spread',
    unit: 'cents',
    meaning: 'Ask − bid.',
    of: (i) => (i.quote.bid === null || i.quote.ask === null ? null : (i.quote.ask - i.quote.bid) / 100),
  },
  {
    name: 'from premarket high',
    label: 'To pre-mkt high',
    unit: 'percent',
    meaning: 'Last ÷ pre-market high − 1; below zero while under it.',
    of: (i) => (i.tape.premarketHigh === null ? null : percent(i.tape.last, i.tape.premarketHigh)),
  },
  {
    name: 'from vwap',
    label: 'To VWAP',
    unit: 'percent',
    meaning: 'Last ÷ VWAP of the day − 1.',
    of: (i) => (i.tape.volume === 0 ? null : percent(i.tape.last, i.tape.turnover / i.tape.volume)),
  },
  {
    name: 'news age',
    label: 'News',
    unit: 'minutes',
    meaning: 'Minutes since the newest news of today.',
    of: (i) => (i.newsAt === null ? null : Math.floor((i.now - i.newsAt) / MINUTE)),
  },
];
