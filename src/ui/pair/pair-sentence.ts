import { formatPrice, type Price } from '@/core/units';
import type { Settings } from '@/store/settings';

export type Pair = Settings['pairs'][number];

/**
 * What one press of a live pair sends: at the price on the button, in the pair's own symbol. The side
 * opens, or closes what is held the other way, and then never more than that.
 */
export function pairSentence(
  pair: Pair,
  side: 'buy' | 'sell',
  symbol: string,
  position: number,
  price: Price,
): string {
  const closes = side === 'buy' ? position < 0 : position > 0;
  const verb = side === 'buy' ? (closes ? 'cover' : 'buy') : closes ? 'sell' : 'short';
  const shares = /^[\d,]+$/.test(pair.size) ? Number(pair.size.replaceAll(',', '')) : null;
  const size = !closes ? pair.size : shares !== null && shares < Math.abs(position) ? pair.size : 'all';
  const words = [
    pair.when === 'staged' ? 'stage' : '',
    verb,
    size,
    'of',
    symbol,
    pair.market ? 'at market' : `at ${formatPrice(price)}`,
    pair.extended ? 'extended' : '',
    !closes && pair.plan !== '' ? `with plan "${pair.plan}"` : '',
  ].filter((w) => w !== '');
  return pair.when === 'at the open' ? `when time >= 09:30: ${words.join(' ')}` : words.join(' ');
}
