// The days of a simulated session: the one that is on, those that are over, and what was truly the case in those that were not run.
import { rootOf } from '../core/instruments/index.ts';
import {
  type Bar,
  barsOf,
  createTape,
  type DailyBar,
  type Listing,
  type NewsItem,
  type Print,
  record,
} from '../core/market/index.ts';
import {
  type Carry,
  carryOf,
  createMarket,
  type DayFrame,
  dailyHistory,
  follow,
  frameOf,
  numberOf,
  ownDailyBars,
  type Prior,
  printOf,
  priorOf,
  runAlone,
  sharpen,
  standStill,
} from '../core/sim/index.ts';
import { DAY } from '../core/units/index.ts';
import {
  type DaySource,
  type DayStart,
  type KeptMarket,
  openDay,
  reviveDay,
  scenarioOf,
  scenarioOfOne,
} from './day-ref.ts';

/** Everything that is known of a session's days. */
export interface SimDays {
  readonly source: DaySource;
  readonly start: DayStart;
  /** The market of the day that is on. */
  m: ReturnType<typeof openDay>;
  dayNumber: number;
  dates: readonly string[];
  /** What the last day handed on. */
  carry: Carry | null;
  /** What each day of this session handed on, oldest first. */
  past: Carry[];
  instruments: readonly Listing[];
  news: readonly NewsItem[];
  /** Where daily candles begin. */
  firstDay: { date: string; instruments: readonly Listing[] } | null;
  /** The days so far with what those that were not run really were, where somebody looked: made again when it is asked for, never kept. */
  sharp: Carry[];
  frames: DayFrame[];
  looked: Map<number, Prior>;
}

/** The days from the start of one, or from what was kept of them. */
export function openDays(source: DaySource, kept: KeptMarket | null, start: DayStart): SimDays {
  const m = kept ? reviveDay(source, kept) : openDay(source, start);
  const past = kept?.past ?? [];
  return {
    source,
    start,
    m,
    dayNumber: kept?.dayNumber ?? start.dayNumber,
    dates: kept?.dates ?? [m.scenario.date],
    carry: past[past.length - 1] ?? kept?.carry ?? start.carry,
    past,
    ...listsOf(m),
    firstDay: null,
    sharp: [],
    frames: [],
    looked: new Map(),
  };
}

const listsOf = (m: SimDays['m']) => ({
  instruments: m.scenario.symbols.map((s) => s.instrument),
  news: m.scenario.news.map((n) => ({ ...n, at: m.dayStart + n.at })),
});

/** Place of a symbol, or of an option's underlying. */
export const placeOf = (d: SimDays, symbol: string): number => numberOf(d.m, rootOf(symbol));

/** Goes on to the next day. `close` ends the one that is on. @throws where there is no further day: then this one goes on as it was. */
export function goOn(d: SimDays, close: () => void): void {
  const handed = carryOf(d.m);
  const next = createMarket(scenarioOf(d.source, d.dayNumber + 1, handed), d.dayNumber + 1);
  close();
  if (d.m.coarse) standStill(next);
  d.carry = handed;
  d.past = [...d.past, handed];
  d.dayNumber++;
  d.m = next;
  d.looked.clear();
  Object.assign(d, listsOf(next));
  d.dates = [...d.dates, next.scenario.date];
}

/**
 * What is truly known of a symbol before today, where days of it have not been run; null where it is as it is listed.
 * It depends on nothing but the days, and changes nothing but what is answered to whoever looks.
 */
export function truthOf(d: SimDays, i: number): Prior | null {
  const first = d.past.findIndex((day) => day.coarse[i] === 1);
  if (first < 0) return null;
  const there = d.looked.get(i);
  if (there) return there;
  d.past.forEach((day, n) => {
    d.sharp[n] ??= structuredClone(day);
    const [now, before] = [d.sharp[n], d.sharp[n - 1] ?? null];
    if (day.coarse[i] === 1) {
      const alone = scenarioOfOne(d.source, n, before, i);
      d.frames[n] ??= frameOf(alone);
      sharpen(now, i, alone, d.frames[n]);
    } else if (n > first && before) follow(now, before, i);
  });
  const truth = priorOf(d.instruments[i] as Listing, d.sharp[d.past.length - 1] as Carry, i);
  d.looked.set(i, truth);
  return truth;
}

/** The listing of a symbol, or of an option's underlying. */
export function listingOf(d: SimDays, symbol: string): Listing {
  const i = placeOf(d, symbol);
  return truthOf(d, i)?.instrument ?? (d.instruments[i] as Listing);
}

/** Finished days of a symbol before this one, oldest first. */
export function dailyOf(d: SimDays, symbol: string): DailyBar[] {
  const { source, m, past, dayNumber, instruments } = d;
  if (source.own) return ownDailyBars(source.own, symbol, m.scenario.date);
  const i = placeOf(d, symbol);
  // The candles before the session's first day end in that day's prior candle; where its days are not all known, in today's.
  const whole = past.length === dayNumber;
  if (!whole || dayNumber === 0) d.firstDay = { date: m.scenario.date, instruments };
  else if (!d.firstDay) {
    const first = scenarioOf(source, 0, null);
    d.firstDay = { date: first.date, instruments: first.symbols.map((x) => x.instrument) };
  }
  const since = !whole ? [] : truthOf(d, i) ? d.sharp : past;
  return [
    ...dailyHistory(d.firstDay.instruments[i] as Listing, d.firstDay.date),
    ...since.flatMap((day) => candleOf(day, i)),
  ];
}

/** A symbol's candle of a day that is over; none where it did not trade. */
function candleOf(day: Carry, i: number): DailyBar[] {
  if (day.highs[i] === 0) return [];
  return [
    {
      date: day.date,
      open: (day.opens[i] || day.closes[i]) as number,
      high: day.highs[i] as number,
      low: day.lows[i] as number,
      close: day.closes[i] as number,
      volume: day.volumes[i] as number,
    },
  ];
}

/** One-minute candles of a symbol's last days of this session before today, as they went without the trader. */
export function earlierOf(d: SimDays, symbol: string, days: number): Bar[] {
  const { past, source, dayNumber, start, m } = d;
  const from = Math.max(0, past.length - days);
  return past.slice(from).flatMap((_, k) => {
    const [at, n] = [from + k, dayNumber - past.length + from + k];
    const before = past[at - 1] ?? (at === 0 ? start.carry : null);
    const alone = scenarioOfOne(source, n, before, placeOf(d, symbol));
    const who = alone.symbols.findIndex((s) => s.instrument.symbol === symbol);
    if (who < 0) return [];
    const tape = createTape(symbol, alone.hours.close);
    const dayStart = m.dayStart - (past.length - at) * DAY;
    runAlone(alone, who, alone.hours.end, (h) => record(tape, printOf(symbol, dayStart, h)));
    return barsOf(tape, 1);
  });
}

/** Every print of a symbol's day up to now, as planned: without what the trader did to it. */
export function historyOf(d: SimDays, symbol: string): Print[] {
  const { m } = d;
  const out: Print[] = [];
  const add = (h: Parameters<typeof printOf>[2]) => void out.push(printOf(symbol, m.dayStart, h));
  runAlone(m.scenario, placeOf(d, symbol), m.now - m.dayStart, add, m.frame);
  return out;
}
