import type { PricingTree, Statement } from '../language/index.ts';
import type { Refusal } from '../orders/index.ts';
import { literal, type RunContext } from './moment.ts';
import { THROUGH, withExtended } from './pricing.ts';

/**
 * The sentence that would pass a guard at the door, where that is clear and asks for no more than was
 * written: a smaller size, a price within the collar, a limit that works outside regular hours.
 */
export function mend(s: Statement, r: Refusal, c: RunContext): Statement | null {
  if (r.code === 'needs locate')
    return { kind: 'locate', shares: Math.min(r.wants, r.available), symbol: r.symbol };
  if (s.kind !== 'enter' && s.kind !== 'add' && s.kind !== 'close') return null;
  const priced = (pricing: PricingTree): Statement => ({ ...s, pricing }) as Statement;
  const sized = (shares: number): Statement | null =>
    shares < 1 ? null : ({ ...s, size: { kind: 'shares', shares } } as Statement);
  switch (r.code) {
    case 'most shares':
      return sized(r.room);
    case 'most money':
    case 'open risk':
      return sized(r.shares);
    case 'buying power':
      return sized(r.shares);
    case 'collar':
      return s.pricing?.kind === 'stop'
        ? priced({ ...s.pricing, room: { kind: 'room price', price: literal(r.most) } })
        : s.pricing?.kind === 'sweep'
          ? priced({ kind: 'sweep', price: literal(r.most) })
          : s.pricing?.kind === 'working'
            ? priced({ ...s.pricing, to: literal(r.most) })
            : priced({ kind: 'limit', price: literal(r.most) });
    case 'market hours':
      return { ...s, pricing: THROUGH, life: withExtended(s.life) } as Statement;
    case 'restricted':
      return priced({ kind: 'limit', price: literal(r.least) });
    case 'entry against':
      return r.orderId === null && c.focus !== null
        ? {
            kind: 'close',
            staged: false,
            verb: 'close',
            size: { kind: 'part', part: { kind: 'all' } },
            symbol: r.symbol,
            pricing: null,
            life: [],
            chain: [],
          }
        : r.orderId === null
          ? null
          : { kind: 'cancel order', number: r.orderId };
    default:
      return null;
  }
}
