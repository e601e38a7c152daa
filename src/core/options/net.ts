import { instrumentOf, legsOf } from '../instruments/index.ts';
import type { Quote } from '../market/index.ts';
import { type Price, roundToTick } from '../units/index.ts';
import { type ChainMoment, makersQuote } from './quotes.ts';

/** Part of what the legs' quotes are wide that makers ask of who trades both at once: they are hedged by one another. */
const TOGETHER = 0.6;

/** What an option or a vertical is worth to makers, and what they bid and offer for it; prices in price units. */
export interface Pitch extends Quote {
  fair: number;
}

/**
 * Makers' quote of an option, or of a vertical in one net price: around what its legs are worth, narrower than taking each leg at its own quote. A net
 * price is in cents, never below nothing and never above the width.
 */
export function pitchOf(name: string, m: ChainMoment): Pitch {
  const legs = legsOf(name);
  const quotes = legs.map((l) => makersQuote(l.contract, m));
  const [one, two] = quotes as [Pitch, Pitch | undefined];
  if (!two) return one;
  const fair = one.fair - two.fair;
  if (one.ask === null || two.ask === null) return { bid: null, ask: null, bidSize: 0, askSize: 0, fair };
  const i = instrumentOf(name);
  const width = i.kind === 'vertical' ? Math.abs(i.dear - i.cheap) : Number.POSITIVE_INFINITY;
  const wide = { bid: (one.bid ?? 0) - two.ask, ask: one.ask - (two.bid ?? 0) };
  const low = fair - TOGETHER * (fair - wide.bid);
  const high = fair + TOGETHER * (wide.ask - fair);
  const bid = low < 100 ? null : roundToTick(low, 'down', 'cent');
  const size = (a: number, b: number) => Math.max(1, Math.min(a, b));
  return {
    bid,
    ask: Math.min(width, roundToTick(Math.max(1, high), 'up', 'cent')) as Price,
    bidSize: bid === null ? 0 : size(one.bidSize, two.askSize),
    askSize: size(one.askSize, two.bidSize || 1),
    fair,
  };
}
