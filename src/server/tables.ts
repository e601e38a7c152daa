// The tables that other programs can have of a day, as columns and pieces of rows.
import { barsOf, createTape, type Print, record } from '../core/market/index.ts';
import {
  type DayFrame,
  frameOf,
  PRACTICE_DAYS,
  practiceDay,
  printOf,
  runAlone,
  type Scenario,
} from '../core/sim/index.ts';
import { clockOf, formatTime, toDollars } from '../core/units/index.ts';
import { type Asked, boundPrints, Unanswerable, uncut } from './asked.ts';

export type Cell = string | number | null;
export interface Column {
  name: string;
  type: 'text' | 'integer' | 'number';
}
/** Rows come in pieces; between two of them others may be answered. */
export interface Table {
  columns: readonly Column[];
  pieces: Iterable<readonly (readonly Cell[])[]>;
}

const text = (...names: string[]): Column[] => names.map((name) => ({ name, type: 'text' }));
const number = (...names: string[]): Column[] => names.map((name) => ({ name, type: 'number' }));
const integer = (...names: string[]): Column[] => names.map((name) => ({ name, type: 'integer' }));

/** The days that there are. */
export const daysTable = (): Table => ({
  columns: text('day', 'title', 'date', 'from', 'character'),
  pieces: [PRACTICE_DAYS.map((d) => [d.id, d.title, d.date, formatTime(d.startAt, 'minutes'), d.character])],
});

interface Made {
  key: string;
  scenario: Scenario;
  frame: DayFrame;
  index: ReadonlyMap<string, number>;
}
/** The days asked for last: each takes a quarter of a second to draw. */
const made: Made[] = [];
const MADE_KEPT = 3;

function dayOf(id: string, variation: number): Made {
  const key = `${id} ${variation}`;
  const there = made.find((m) => m.key === key);
  if (there) return there;
  const scenario = practiceDay(id, variation);
  const index = new Map(scenario.symbols.map((s, i) => [s.instrument.symbol, i]));
  const fresh = { key, scenario, frame: frameOf(scenario), index };
  made.unshift(fresh);
  made.length = Math.min(made.length, MADE_KEPT);
  return fresh;
}

function numbersOf({ index, scenario }: Made, symbols: readonly string[] | null): number[] {
  if (symbols === null) return scenario.symbols.map((_, i) => i);
  return symbols.map((s) => {
    const i = index.get(s);
    if (i === undefined)
      throw new Unanswerable(
        400,
        `“${s}” does not trade on this day. The table of reference data lists every symbol.`,
      );
    return i;
  });
}

/** What is known of every symbol before the day. */
export function referenceTable(id: string, { variation }: Asked): Table {
  const { scenario } = dayOf(id, variation);
  return {
    columns: [
      ...text('symbol', 'name', 'sector', 'kind'),
      ...number('prior_open', 'prior_high', 'prior_low', 'prior_close', 'atr'),
      ...integer('float', 'shares_outstanding', 'average_volume'),
      ...number('premarket_share'),
      ...text('borrow'),
      ...integer('tier'),
      ...number('implied_volatility', 'iv_52w_low', 'iv_52w_high'),
    ],
    pieces: [
      scenario.symbols.map(({ instrument: x }) => [
        x.symbol,
        x.name,
        x.sector,
        x.kind,
        toDollars(x.priorOpen),
        toDollars(x.priorHigh),
        toDollars(x.priorLow),
        toDollars(x.priorClose),
        toDollars(x.atr),
        x.float,
        x.sharesOutstanding,
        x.averageVolume,
        x.premarketShare,
        x.borrow,
        x.tier,
        x.options?.iv ?? null,
        x.options?.ivLow ?? null,
        x.options?.ivHigh ?? null,
      ]),
    ],
  };
}

/** The day's headlines, in the order of their time. */
export function newsTable(id: string, { variation, symbols, from, to }: Asked): Table {
  const day = dayOf(id, variation);
  numbersOf(day, symbols);
  const { scenario } = day;
  return {
    columns: text('date', 'time', 'symbol', 'kind', 'headline'),
    pieces: [
      scenario.news
        .filter((n) => n.at >= from && n.at < to && (symbols === null || symbols.includes(n.symbol)))
        .map((n) => [scenario.date, formatTime(n.at, 'millis'), n.symbol, n.kind, n.headline]),
    ],
  };
}

/** Each symbol that was asked for, run alone up to the end of what was asked; its prints come one by one. */
function eachAlone(
  id: string,
  asked: Asked,
  rowsOf: (symbol: string, day: Scenario, prints: (each: (p: Print) => void) => void) => Cell[][],
): Iterable<Cell[][]> {
  const day = dayOf(id, asked.variation);
  const who = numbersOf(day, asked.symbols);
  const { scenario, frame } = day;
  function* pieces() {
    for (const i of who) {
      const symbol = scenario.symbols[i]?.instrument.symbol ?? '';
      yield rowsOf(symbol, scenario, (each) => {
        runAlone(scenario, i, asked.to - 1, (h) => each(printOf(symbol, 0, h)), frame);
      });
    }
  }
  return pieces();
}

/** Candles of so many minutes; `time` is where each begins. Minutes without a trade have none. */
export function barsTable(id: string, asked: Asked): Table {
  uncut(asked);
  return {
    columns: [
      ...text('symbol', 'date', 'time'),
      ...number('open', 'high', 'low', 'close'),
      ...integer('volume'),
    ],
    pieces: eachAlone(id, asked, (symbol, { date, hours }, prints) => {
      const tape = createTape(symbol, hours.close);
      prints((p) => record(tape, p));
      return barsOf(tape, asked.minutes)
        .filter((b) => clockOf(b.start) >= asked.from)
        .map((b) => [
          symbol,
          date,
          formatTime(b.start, 'minutes'),
          toDollars(b.open),
          toDollars(b.high),
          toDollars(b.low),
          toDollars(b.close),
          b.volume,
        ]);
    }),
  };
}

/** Every print, symbol by symbol. */
export function printsTable(id: string, asked: Asked): Table {
  boundPrints(asked);
  return {
    columns: [
      ...text('symbol', 'date', 'time'),
      ...number('price'),
      ...integer('size'),
      ...text('aggressor', 'venue', 'condition'),
    ],
    pieces: eachAlone(id, asked, (symbol, { date }, prints) => {
      const rows: Cell[][] = [];
      prints((p) => {
        if (p.at < asked.from) return;
        const { price, qty, aggressor, venue, condition } = p;
        rows.push([
          symbol,
          date,
          formatTime(p.at, 'millis'),
          toDollars(price),
          qty,
          aggressor,
          venue,
          condition,
        ]);
      });
      return rows;
    }),
  };
}
