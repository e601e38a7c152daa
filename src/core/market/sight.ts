import type { DailyBar } from './indicators.ts';
import { atrOf, emaLine } from './indicators.ts';
import type { Listing, Quote, TradingStatus } from './listing.ts';
import type { Candles, SymbolView } from './symbol-view.ts';
import { finishedBars, lastFinishedBar, lastPremarketBar, openingRange, type Tape, vwapOf } from './tape.ts';

/** What the public sees of one symbol. */
interface Sight {
  tape: Tape;
  instrument: Listing;
  quote: Quote;
  status: TradingStatus;
  restricted: boolean;
  now: number;
  /** Finished days before this one, oldest first. */
  daily: () => readonly DailyBar[];
}

/** What is public of a symbol, as price references ask for it; without the trader's own trade, names and pointer. */
export function sightOf({ tape, instrument, quote, status, restricted, now, daily }: Sight): SymbolView {
  return {
    symbol: instrument.symbol,
    instrument,
    quote,
    status,
    restricted,
    last: tape.last,
    vwap: vwapOf(tape),
    open: tape.open,
    dayHigh: tape.high,
    dayLow: tape.low,
    premarketHigh: tape.premarketHigh,
    premarketLow: tape.premarketLow,
    candle: (minutes, back) => lastFinishedBar(tape, minutes, now, back),
    premarketCandle: () => lastPremarketBar(tape, now),
    openingRange: (minutes) => openingRange(tape, minutes, now),
    average: (kind, length, on) => averageOf(closesOf(on), kind, length),
    atrOn: (minutes) => atrOf(finishedBars(tape, minutes, now)),
    level: () => null,
    cursor: null,
    trade: null,
  };

  function closesOf(on: Candles): number[] {
    return (on === 'day' ? daily() : finishedBars(tape, on, now)).map((b) => b.close);
  }
}

/** The last value of an average over closes, or null while there are fewer than its length. */
function averageOf(closes: readonly number[], kind: 'sma' | 'ema', length: number): number | null {
  if (closes.length < length) return null;
  if (kind === 'sma') return closes.slice(-length).reduce((a, b) => a + b, 0) / length;
  return emaLine(closes, length)[closes.length - 1] ?? null;
}
