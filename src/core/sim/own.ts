import type { DailyBar, Listing } from '../market/index.ts';
import { at, DAY, fromDollars, hoursOn, mix, PRE_OPEN, type Price, roundToTick } from '../units/index.ts';
import type { Carry } from './carry.ts';
import type { Phase, Scenario, SymbolPlan } from './plan.ts';
import { createRandom } from './random.ts';
import { type BarRow, minutesOf } from './replay.ts';

/** One symbol's imported bars of one date: minutes, or one daily bar that is spread over the session. */
export interface OwnBars {
  date: string;
  minutes: BarRow[];
  daily: Omit<BarRow, 'start'> | null;
}

/** A practice day of the trader's own data: one or more trading days, each with the symbols that have bars on it. */
export interface OwnDay {
  id: string;
  title: string;
  symbols: { symbol: string; days: OwnBars[] }[];
}

/** The dates of an imported day, in order. */
export const ownDates = (own: OwnDay): string[] =>
  [...new Set(own.symbols.flatMap((s) => s.days.map((d) => d.date)))].sort();

const ONE_PHASE: readonly Phase[] = [{ from: PRE_OPEN, vol: 1, pace: 1 }];

/**
 * The scenario of the `n`-th date of imported data. Every bar's open, high, low, close and volume
 * is honoured; books are grown around its prices. What the data does not say (float, borrow,
 * options) is left at plain values.
 * @throws Error when there is no such date.
 */
export function ownScenario(own: OwnDay, n: number, carry: Carry | null): Scenario {
  const dates = ownDates(own);
  const date = dates[n];
  if (!date)
    throw new Error(
      `“${own.title}” has ${dates.length === 1 ? 'one day' : `${dates.length} days`}; there is no further one. Import more, or choose another day.`,
    );
  const hours = hoursOn(date);
  const seed = mix(own.title.length, n) & 0x7fffffff;
  const symbols = own.symbols.map(({ symbol, days }, i): SymbolPlan => {
    const today = days.find((d) => d.date === date);
    const r = createRandom(seed, `${symbol} minutes`);
    const bars = today
      ? today.minutes.length > 0
        ? today.minutes
        : today.daily
          ? minutesOf(today.daily, hours, r)
          : []
      : [];
    const before = [...days].filter((d) => d.date < date).sort((a, b) => (a.date < b.date ? 1 : -1))[0];
    const instrument = instrumentOf(symbol, bars, before, days, carry?.closes[i] ?? 0);
    return {
      instrument,
      overnight: 0,
      stood: instrument.priorClose,
      spread: 1,
      least: 0.001,
      beta: 0,
      vol: instrument.atr / instrument.priorClose / 1.6 / 20,
      rate: Math.max(0.01, bars.length / 960),
      lot: 150,
      depth: 170 * Math.max(0.6, Math.min(20, 1.4 * Math.sqrt(instrument.averageVolume / 400_000))),
      cross: 0,
      close: 0,
      phases: ONE_PHASE,
      jumps: [],
      halts: [],
      rushes: null,
      busy: 1,
      given: null,
      restricted: carry?.restricted[i] === 1,
      bars,
    };
  });
  return {
    id: own.id,
    title: own.title,
    character: `Your own data: ${own.symbols.length} ${own.symbols.length === 1 ? 'symbol' : 'symbols'}, ${dates.length} ${dates.length === 1 ? 'day' : 'days'}.`,
    date,
    hours,
    seed,
    startAt:
      n === 0
        ? Math.max(PRE_OPEN, Math.min(at(9, 25), ...symbols.map((s) => s.bars?.[0]?.start ?? DAY)))
        : PRE_OPEN,
    mood: [],
    symbols,
    news: [],
  };
}

/** Daily candles of an imported symbol before a date, oldest first. */
export const ownDailyBars = (own: OwnDay, symbol: string, before: string): DailyBar[] =>
  (own.symbols.find((s) => s.symbol === symbol)?.days ?? [])
    .filter((d) => d.date < before)
    .sort((a, b) => (a.date < b.date ? -1 : 1))
    .flatMap((d) => {
      const day = ofDay(d);
      return day ? [{ date: d.date, ...day }] : [];
    });

/** High, low, first and last of a list of bars, and their volume. */
function sumUp(bars: readonly Omit<BarRow, 'start'>[]): Omit<BarRow, 'start'> | null {
  const [first, last] = [bars[0], bars[bars.length - 1]];
  if (!first || !last) return null;
  return {
    open: first.open,
    high: Math.max(...bars.map((b) => b.high)),
    low: Math.min(...bars.map((b) => b.low)),
    close: last.close,
    volume: bars.reduce((a, b) => a + b.volume, 0),
  };
}

const ofDay = (d: OwnBars | undefined): Omit<BarRow, 'start'> | null =>
  d ? (d.daily ?? sumUp(d.minutes)) : null;

function instrumentOf(
  symbol: string,
  today: readonly BarRow[],
  before: OwnBars | undefined,
  days: readonly OwnBars[],
  carried: number,
): Listing {
  const sum = sumUp(today);
  const prior = ofDay(before);
  const close = prior?.close ?? (carried || (sum?.open ?? fromDollars(1)));
  const all = days.flatMap((d) => ofDay(d) ?? []);
  const mean = (f: (d: Omit<BarRow, 'start'>) => number) =>
    all.length === 0 ? 0 : all.reduce((a, d) => a + f(d), 0) / all.length;
  return {
    symbol,
    name: 'imported data',
    sector: 'Imported',
    kind: 'stock',
    priorOpen: roundToTick(prior?.open ?? close),
    priorHigh: roundToTick(prior?.high ?? close),
    priorLow: roundToTick(prior?.low ?? close),
    priorClose: roundToTick(close),
    float: 0,
    sharesOutstanding: 0,
    averageVolume: Math.round(mean((d) => d.volume)),
    premarketShare: 0.05,
    atr: Math.max(1, Math.round(mean((d) => d.high - d.low))) as Price,
    borrow: 'easy',
    tier: 2,
    options: null,
  };
}
