// What a chart shows beside its candles: lines, levels, and panes of their own below.
import {
  atrLine,
  type Bar,
  emaLine,
  type Listing,
  rsiLine,
  smaLine,
  usualShareBy,
  vwapBands,
  vwapLine,
} from '@/core/market';
import { clockOf, dayOf, MINUTE, REGULAR_OPEN } from '@/core/units';
import { DAY_CANDLE } from '@/store/arrangement';
import { avg } from '../format';

export interface StudyKind {
  word: string;
  /** Whether a number follows, and which one at first. */
  length: number | null;
  says: string;
}
/** Every study there is. With a length it is written `ema 9`. */
export const STUDY_KINDS: readonly StudyKind[] = [
  { word: 'vwap', length: null, says: 'Average price of the day, weighted by shares' },
  { word: 'vwap bands', length: null, says: 'One and two standard deviations around VWAP' },
  { word: 'ema', length: 9, says: 'Exponential average of closes' },
  { word: 'sma', length: 20, says: 'Simple average of closes' },
  { word: 'premarket', length: null, says: 'High and low before the open' },
  { word: 'prior', length: null, says: 'High, low and close of the day before' },
  { word: 'opening range', length: 5, says: 'High and low of the first minutes' },
  { word: 'volume', length: null, says: 'Shares of each candle' },
  { word: 'usual volume', length: null, says: 'What usually trades in that minute' },
  { word: 'rsi', length: 14, says: 'Relative strength, in a pane below' },
  { word: 'atr', length: 14, says: 'Average true range, in a pane below' },
];

/** A study as it is written, or null for what is none. */
export function readStudy(text: string): { word: string; length: number } | null {
  const kind = STUDY_KINDS.find((k) => text === k.word || text.startsWith(`${k.word} `));
  const exact = STUDY_KINDS.find((k) => k.word === text);
  if (exact) return { word: exact.word, length: exact.length ?? 0 };
  const length = Number(text.slice((kind?.word.length ?? 0) + 1));
  return kind?.length && Number.isInteger(length) && length >= 1 && length <= 200
    ? { word: kind.word, length }
    : null;
}

export type Values = readonly (number | null)[];
export interface Studied {
  lines: { name: string; values: Values; dash: string; width: number }[];
  levels: { name: string; price: number; dash: string }[];
  volume: boolean;
  /** Shares that usually trade in each candle. */
  usual: number[] | null;
  panes: {
    name: string;
    values: Values;
    low: number | null;
    high: number | null;
    marks: number[];
    say(v: number): string;
  }[];
}

export const NO_STUDIES: Studied = { lines: [], levels: [], volume: false, usual: null, panes: [] };

export interface StudiedBars {
  /** All candles of the chart, before those hours that are hidden are left out; and which are kept. */
  candles: readonly Bar[];
  kept: readonly boolean[];
  /** Minutes of a candle. */
  minutes: number;
  /** Finished one-minute candles of today. */
  today: readonly Bar[];
  instrument: Pick<
    Listing,
    'priorHigh' | 'priorLow' | 'priorClose' | 'averageVolume' | 'premarketShare'
  > | null;
  premarketHigh: number | null;
  premarketLow: number | null;
}

const DASHES = ['', '5 3', '9 3', '2 3', '9 3 2 3'];

/** Works out the studies of a chart. Averages run over what is shown; VWAP is that of the whole day. */
export function studied(studies: readonly string[], b: StudiedBars): Studied {
  const out: Studied = { lines: [], levels: [], volume: false, usual: null, panes: [] };
  const keep = <T>(values: readonly T[]): T[] => values.filter((_, i) => b.kept[i]);
  const shown = keep(b.candles);
  const closes = shown.map((c) => c.close);
  const daily = b.minutes >= DAY_CANDLE;
  const level = (name: string, price: number | null | undefined, dash: string) => {
    if (price) out.levels.push({ name, price, dash });
  };
  let averages = 0;
  const average = (name: string, values: Values) =>
    out.lines.push({ name, values, dash: DASHES[1 + (averages++ % 4)] as string, width: 1 });
  for (const text of studies) {
    const study = readStudy(text);
    if (!study) continue;
    const { word, length } = study;
    const name = STUDY_KINDS.find((k) => k.word === word)?.length ? `${word.toUpperCase()} ${length}` : word;
    switch (word) {
      case 'vwap':
        if (!daily)
          out.lines.push({
            name: 'VWAP',
            values: keep(ofEachDay(b.candles, vwapLine)),
            dash: '',
            width: 1.5,
          });
        break;
      case 'vwap bands': {
        if (daily) break;
        const bands = keep(ofEachDay(b.candles, vwapBands));
        for (const k of [1, 2, -1, -2])
          out.lines.push({
            name: '',
            values: bands.map((x) => (x === null ? null : x.vwap + k * x.deviation)),
            dash: '1 3',
            width: 1,
          });
        break;
      }
      case 'ema':
        average(name, emaLine(closes, length));
        break;
      case 'sma':
        average(name, smaLine(closes, length));
        break;
      case 'premarket':
        level('pre-market high', b.premarketHigh, '2 4');
        level('pre-market low', b.premarketLow, '2 4');
        break;
      case 'prior':
        level('prior high', b.instrument?.priorHigh, '6 5');
        level('prior low', b.instrument?.priorLow, '6 5');
        level('prior close', b.instrument?.priorClose, '6 5');
        break;
      case 'opening range': {
        const range = rangeOf(b.today, length);
        level(`${length}m range high`, range?.high, '10 4');
        level(`${length}m range low`, range?.low, '10 4');
        break;
      }
      case 'volume':
        out.volume = true;
        break;
      case 'usual volume':
        if (!daily && b.instrument) out.usual = shown.map((c) => usualIn(c, b.minutes, b.instrument));
        break;
      case 'rsi':
        out.panes.push({
          name,
          values: rsiLine(closes, length),
          low: 0,
          high: 100,
          marks: [30, 70],
          say: (v) => v.toFixed(0),
        });
        break;
      case 'atr':
        out.panes.push({ name, values: atrLine(shown, length), low: null, high: null, marks: [], say: avg });
        break;
    }
  }
  return out;
}

/** What begins anew with each day. */
function ofEachDay<T>(candles: readonly Bar[], line: (day: readonly Bar[]) => T[]): T[] {
  const days: Bar[][] = [];
  for (const c of candles) {
    const last = days[days.length - 1];
    if (last?.[0] && dayOf(last[0].start) === dayOf(c.start)) last.push(c);
    else days.push([c]);
  }
  return days.flatMap((d) => line(d));
}

/** High and low of the first minutes after the open, once they are over. */
function rangeOf(today: readonly Bar[], minutes: number): { high: number; low: number } | null {
  const end = REGULAR_OPEN + minutes * MINUTE;
  const last = today[today.length - 1];
  if (!last || clockOf(last.start) + MINUTE < end) return null;
  const bars = today.filter((c) => clockOf(c.start) >= REGULAR_OPEN && clockOf(c.start) < end);
  if (bars.length === 0) return null;
  return { high: Math.max(...bars.map((c) => c.high)), low: Math.min(...bars.map((c) => c.low)) };
}

function usualIn(c: Bar, minutes: number, x: StudiedBars['instrument']): number {
  if (!x) return 0;
  const by = (at: number) => usualShareBy(at, x.premarketShare);
  return x.averageVolume * (by(c.start + minutes * MINUTE) - by(c.start));
}
