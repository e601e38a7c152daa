import { PRICE_SCALE } from '../units/index.ts';
import type { Listing } from './listing.ts';
import { lastPremarketBar, openingRange, type Tape, vwapOf } from './tape.ts';

/** The levels by their words in scripts, in the order of the day. */
export const LEVELS = [
  'premarket high',
  'premarket low',
  'premarket 15m high',
  'premarket 15m low',
  'prior close',
  'prior high',
  'prior low',
  'vwap',
  'open',
  'opening range 5m high',
  'opening range 5m low',
  'day high',
  'day low',
  'whole dollar above',
  'whole dollar below',
  'half dollar above',
  'half dollar below',
] as const;

/** A price that decides a trade; null while it is not known. */
export interface Level {
  name: (typeof LEVELS)[number];
  price: number | null;
}

/** The next whole (`step` 1) or half dollar (`step` 0.5) beyond a price; the price itself is not one of them. */
export function roundPrice(price: number, step: 1 | 0.5, way: 'above' | 'below'): number | null {
  const unit = step * PRICE_SCALE;
  const at = way === 'above' ? (Math.floor(price / unit) + 1) * unit : (Math.ceil(price / unit) - 1) * unit;
  return at > 0 ? at : null;
}

/** Every level of a symbol now, in the order of the day. Found from prints alone; each can be used by its name in a script. */
export function levelsOf(tape: Tape, instrument: Listing, now: number): Level[] {
  const premarket = lastPremarketBar(tape, now);
  const range = openingRange(tape, 5, now);
  const dollar = (step: 1 | 0.5, way: 'above' | 'below') => (tape.last === null ? null : roundPrice(tape.last, step, way));
  const prices: Record<Level['name'], number | null> = {
    'premarket high': tape.premarketHigh,
    'premarket low': tape.premarketLow,
    'premarket 15m high': premarket?.high ?? null,
    'premarket 15m low': premarket?.low ?? null,
    'prior close': instrument.priorClose,
    'prior high': instrument.priorHigh,
    'prior low': instrument.priorLow,
    vwap: vwapOf(tape),
    open: tape.open,
    'opening range 5m high': range?.high ?? null,
    'opening range 5m low': range?.low ?? null,
    'day high': tape.high,
    'day low': tape.low,
    'whole dollar above': dollar(1, 'above'),
    'whole dollar below': dollar(1, 'below'),
    'half dollar above': dollar(0.5, 'above'),
    'half dollar below': dollar(0.5, 'below'),
  };
  return LEVELS.map((name) => ({ name, price: prices[name] }));
}
