import {
  type Exit,
  instrumentNamed,
  type PricingTree,
  type Statement,
  type TreeOf,
} from '../language/index.ts';
import { literal, openTradeOf, type RunContext } from './moment.ts';
import { atLimit } from './prices.ts';
import { closeNow, ends, THROUGH, withExtended } from './pricing.ts';
import type { Reason } from './reasons.ts';

/**
 * The sentence that would pass, or the one that clears its way, where that is clear and asks for no more than
 * was written: a smaller size, a price within the collar, another account, a stop that a risk is measured by.
 */
export function mend(s: Statement, r: Reason, c: RunContext): Statement | null {
  switch (r.code) {
    case 'needs locate':
      return { kind: 'locate', shares: Math.min(r.wants, r.available), symbol: r.symbol };
    case 'locate size':
      return r.available < 1 ? null : { kind: 'locate', shares: r.available, symbol: r.symbol };
    case 'duplicate':
    case 'too many orders':
      return s;
    case 'stop side':
      return { kind: 'flatten', instrument: instrumentNamed(r.symbol) };
    case 'nothing to close':
      return r.position === 0 ? null : { kind: 'cancel last', instrument: instrumentNamed(r.symbol) };
    case 'entry against':
      return r.orderId === null
        ? closeNow(r.symbol, null, c)
        : { kind: 'cancel order', number: r.orderId, alone: false, group: false };
    case 'nothing left':
      return { kind: 'cancel order', number: r.orderId, alone: false, group: false };
    case 'no stop':
      if (r.triggered) return { kind: 'flatten', instrument: instrumentNamed(r.symbol) };
      return openTradeOf(c, r.symbol)
        ? { kind: 'attach', instrument: instrumentNamed(r.symbol), part: null, exits: [USUAL_STOP] }
        : null;
    case 'no level':
      return {
        kind: 'level',
        name: r.name,
        symbol: null,
        price: { kind: 'last' },
      };
    case 'which contract':
      return s.kind === 'close' ? toOpen(s, r.held.length) : null;
    case 'no ticket':
      return { kind: 'size', to: { kind: 'some shares', shares: 100 } };
    default:
      return s.kind === 'enter' || s.kind === 'add' || s.kind === 'close' ? otherTerms(s, r, c) : null;
  }
}

const USUAL_STOP: Exit = {
  kind: 'stop exit',
  place: { kind: 'away', by: { kind: 'usual' }, sure: false },
  part: null,
  room: null,
  on: null,
  extended: false,
};

/** A sale of so many of what is not held: to open it. */
function toOpen(s: TreeOf<'close'>, held: number): Statement | null {
  const { verb, size, pricing, instrument, staged, life, chain } = s;
  if (held > 0 || verb !== 'sell' || pricing === null || s.alone) return null;
  if (size.kind !== 'shares' && size.kind !== 'contracts') return null;
  return {
    kind: 'enter',
    verb: 'short',
    staged,
    size,
    instrument,
    pricing,
    life,
    plan: null,
    exits: [],
    chain,
  };
}

/** The order itself with another size, price, life or account. */
function otherTerms(s: TreeOf<'enter' | 'add' | 'close'>, r: Reason, c: RunContext): Statement | null {
  const priced = (pricing: PricingTree): Statement => ({ ...s, pricing }) as Statement;
  const sized = (shares: number): Statement | null =>
    shares < 1 ? null : ({ ...s, size: { kind: 'shares', shares } } as Statement);
  switch (r.code) {
    case 'most shares':
      return sized(r.room);
    case 'most money':
    case 'open risk':
    case 'buying power':
      return sized(r.shares);
    case 'collar':
      return s.pricing?.kind === 'stop order'
        ? priced({ ...s.pricing, room: { kind: 'room price', price: literal(r.most) } })
        : s.pricing?.kind === 'sweep'
          ? priced({ kind: 'sweep', price: literal(r.most) })
          : s.pricing?.kind === 'working'
            ? priced({ ...s.pricing, to: literal(r.most) })
            : priced(atLimit(literal(r.most)));
    case 'option terms':
      if (r.what === 'extended')
        return { ...s, life: s.life.filter((l) => l.kind !== 'extended hours') } as Statement;
      return r.what === 'midpoint' ? priced(atLimit({ kind: 'midpoint' })) : null;
    case 'market hours':
      return { ...s, pricing: THROUGH, life: withExtended(s.life) } as Statement;
    case 'restricted':
      return priced(atLimit(literal(r.least)));
    case 'time over':
    case 'date over':
      return s.life.some(ends) ? ({ ...s, life: s.life.filter((l) => !ends(l)) } as Statement) : null;
    case 'no shorts': {
      const margin = Object.values(c.broker.accounts).find((a) => a.rules.kind === 'margin')?.rules.name;
      const life = s.life.filter((l) => l.kind !== 'account');
      return margin === undefined
        ? null
        : ({ ...s, life: [...life, { kind: 'account', name: margin }] } as Statement);
    }
    default:
      return null;
  }
}
