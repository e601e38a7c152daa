import type { SymbolView } from '../market/index.ts';
import { CENT, PRICE_SCALE, tickSize, unreachable } from '../units/index.ts';

/**
 * The trade that a candidate suggests: in beyond its last 15-minute candle before the open, out
 * beyond the other edge of it, halves at 1R and 2R. All in names, so that it still means the same
 * when the next candle has finished. Offsets grow with the price (common practice: a tenth of a percent).
 * @returns a sentence to be changed, or null while there is no such candle.
 */
export function candidateTrade(v: SymbolView, way: 'long' | 'short'): string | null {
  const candle = v.premarketCandle();
  if (!candle) return null;
  const away = offset(candle.high, 0.001);
  const room = offset(candle.high, 0.004);
  const exits = (stop: string) =>
    `  stop at ${stop}\n  target 1R for half\n  target 2R for half\n  breakeven after 1R`;
  const of = `of ${v.symbol}`;
  switch (way) {
    case 'long':
      return `buy risk 1R ${of} above premarket 15m high + ${away} limit premarket 15m high + ${room} extended\n${exits(`premarket 15m low - ${away}`)}`;
    case 'short':
      return `short risk 1R ${of} below premarket 15m low - ${away} limit premarket 15m low - ${room} extended\n${exits(`premarket 15m high + ${away}`)}`;
    default:
      return unreachable(way);
  }
}

/** A share of a price as whole cents, below a dollar as whole ticks; at least one. */
function offset(price: number, share: number): string {
  if (price < PRICE_SCALE) {
    const ticks = Math.max(1, Math.round((price * share) / tickSize(price as never)));
    return `${ticks} ${ticks === 1 ? 'tick' : 'ticks'}`;
  }
  return `${Math.max(1, Math.round((price * share) / CENT))}c`;
}
