import type { Bar, Print } from '../market/index.ts';
import { formatTime, PRICE_SCALE } from '../units/index.ts';
import { csv } from './csv.ts';

const dollars = (units: number): number => Number((units / PRICE_SCALE).toFixed(4));

/** One-minute bars as CSV that the import reads back. Prices in dollars, times in New York. */
export const barsCsv = (date: string, symbol: string, bars: readonly Bar[]): string =>
  csv([
    ['symbol', 'date', 'time', 'open', 'high', 'low', 'close', 'volume'],
    ...bars.map((b) => [
      symbol,
      date,
      formatTime(b.start, 'minutes'),
      dollars(b.open),
      dollars(b.high),
      dollars(b.low),
      dollars(b.close),
      b.volume,
    ]),
  ]);

/** Every print as CSV that the import reads back. */
export const printsCsv = (date: string, prints: readonly Print[]): string =>
  csv([
    ['symbol', 'date', 'time', 'price', 'size', 'aggressor', 'venue', 'condition'],
    ...prints.map((p) => [
      p.symbol,
      date,
      formatTime(p.at, 'millis'),
      dollars(p.price),
      p.qty,
      p.aggressor,
      p.venue,
      p.condition,
    ]),
  ]);
