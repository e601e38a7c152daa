import { PRICE_SCALE } from '../units/index.ts';
import type { Instrument } from './instrument.ts';
import { lastPremarketBar, openingRange, type Tape, vwapOf } from './tape.ts';

/** A price that decides a trade. `name` is its word in scripts; null while it is not known. */
export interface Level {
  name: string;
  price: number | null;
}

/** The next whole (`step` 1) or half dollar (`step` 0.5) beyond a price; the price itself is not one of them. */
export function roundPrice(price: number, step: 1 | 0.5, way: 'above' | 'below'): number | null {
  const unit = step * PRICE_SCALE;
  const at = way === 'above' ? (Math.floor(price / unit) + 1) * unit : (Math.ceil(price / unit) - 1) * unit;
  return at > 0 ? at : null;
}

/** Every level of a symbol now, in the order of the day. Found from prints alone; each can be used by its name in a script. */
export function levelsOf(tape: Tape, instrument: Instrument, now: number): Level[] {
  const premarket = lastPremarketBar(tape, now);
  const range = openingRange(tape, 5, now);
  const dollar = (step: 1 | 0.5, way: 'above' | 'below') => (tape.last === null ? null : roundPrice(tape.last, step, way));
  return [
    { name: 'premarket high', price: tape.premarketHigh },
    { name: 'premarket low', price: tape.premarketLow },
    { name: 'premarket 15m high', price: premarket?.high ?? null },
    { name: 'premarket 15m low', price: premarket?.low ?? null },
    { name: 'prior close', price: instrument.priorClose },
    { name: 'prior high', price: instrument.priorHigh },
    { name: 'prior low', price: instrument.priorLow },
    { name: 'vwap', price: vwapOf(tape) },
    { name: 'open', price: tape.open },
    { name: 'opening range 5m high', price: range?.high ?? null },
    { name: 'opening range 5m low', price: range?.low ?? null },
    { name: 'day high', price: tape.high },
    { name: 'day low', price: tape.low },
    { name: 'whole dollar above', price: dollar(1, 'above') },
    { name: 'whole dollar below', price: dollar(1, 'below') },
    { name: 'half dollar above', price: dollar(0.5, 'above') },
    { name: 'half dollar below', price: dollar(0.5, 'below') },
  ];
}
