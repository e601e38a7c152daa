import {
  instrumentNamed,
  type LifeTree,
  type PricingTree,
  printTree,
  type Statement,
  type TreeOf,
} from '../language/index.ts';
import type { SymbolView } from '../market/index.ts';
import { type OrderType, PLAIN_TERMS, type Terms } from '../orders/index.ts';
import {
  clockOf,
  DAY,
  formatPrice,
  formatTime,
  MINUTE,
  type Part,
  PRE_OPEN,
  type Price,
  REGULAR_OPEN,
  roundToTick,
  SECOND,
  type Side,
  signOf,
  unreachable,
} from '../units/index.ts';
import { literal, midnightOfTimes, type Named, type RunContext, refuse } from './moment.ts';
import { atLimit, lengthOf, limitPrice, measuresOf, namedOf, priceIn } from './prices.ts';

type Sent = TreeOf<'enter'> | TreeOf<'add'> | TreeOf<'close'>;

export interface Priced {
  type: OrderType;
  limit: Price | null;
  stop: Price | null;
  on: 'last' | 'bid' | 'ask';
  /** What the order is expected to pay at worst, for size and cost. */
  expected: Price;
  /** It works its price from the limit on. */
  works?: { to: Price; within: number };
  shown: PricingTree;
  named: Named[];
}

/** What serves both sides: far enough through the quote to take it. */
export const THROUGH: PricingTree = { kind: 'through', by: { kind: 'usual' } };

const quoted = (side: Side, v: SymbolView): Price =>
  (side === 'buy' ? v.quote.ask : v.quote.bid) ??
  v.last ??
  refuse({ code: 'unknown price', text: side === 'buy' ? 'ask' : 'bid', symbol: v.symbol });

/** What an order asks of the exchange at this moment, and what it is expected to pay. `s` is its sentence, for what could go instead. */
export function priceOrder(p: PricingTree, side: Side, v: SymbolView, c: RunContext, s: Sent): Priced {
  const instead = (pricing: PricingTree, extended = false): Statement =>
    ({ ...s, pricing, ...(extended ? { life: withExtended(s.life) } : {}) }) as Statement;
  const m = measuresOf(v, c);
  const plain = { limit: null, stop: null, on: 'last', named: [] } as const;
  switch (p.kind) {
    case 'market':
      // While everything is closed it waits for the regular session.
      if (c.session !== 'regular' && c.session !== 'closed')
        refuse({ code: 'market hours', session: c.session, side }, instead(THROUGH, true));
      return { ...plain, named: [], type: 'Market', expected: quoted(side, v), shown: p };
    case 'limit': {
      const limit = limitPrice(priceIn(p.price, m), side, v.ticks);
      return {
        ...plain,
        type: 'Limit',
        limit,
        expected: limit,
        shown: atLimit(literal(limit)),
        named: namedOf(p.price, limit),
      };
    }
    case 'through': {
      const from = quoted(side, v);
      const limit = limitPrice(from + signOf(side) * lengthOf(p.by, from, m), side, v.ticks);
      return {
        ...plain,
        type: 'Limit',
        limit,
        expected: limit,
        shown: atLimit(literal(limit)),
        named: [{ text: printTree(p).replace(/^at /, ''), price: limit }],
      };
    }
    case 'stop order':
      return priceStop(p, side, v, c, s);
    case 'trailing':
      return refuse({ code: 'no position', symbol: v.symbol, verb: 'trail' });
    case 'hidden mid':
      return { ...plain, named: [], type: 'Pegged', expected: midExpected(side, v, c, instead), shown: p };
    case 'sweep': {
      const limit = limitPrice(priceIn(p.price, m), side, v.ticks);
      return {
        ...plain,
        type: 'Limit',
        limit,
        expected: limit,
        shown: { kind: 'sweep', price: literal(limit) },
        named: namedOf(p.price, limit),
      };
    }
    case 'working': {
      const from = limitPrice(priceIn(p.from, m), side, v.ticks);
      const to = limitPrice(priceIn(p.to, m), side, v.ticks);
      if (signOf(side) * (to - from) < 0)
        refuse({ code: 'works backwards', side, from, to }, instead({ ...p, from: p.to, to: p.from }));
      return {
        ...plain,
        type: 'Limit',
        limit: from,
        expected: to,
        works: { to, within: p.seconds * SECOND },
        shown: { ...p, from: literal(from), to: literal(to) },
        named: [...namedOf(p.from, from), ...namedOf(p.to, to)],
      };
    }
    case 'auction': {
      checkAuction(p.which, c, instead(THROUGH, c.session !== 'regular'));
      const limit = p.price ? limitPrice(priceIn(p.price, m), side, v.ticks) : null;
      const shown: PricingTree = { ...p, price: limit === null ? null : literal(limit) };
      const named = p.price && limit !== null ? namedOf(p.price, limit) : [];
      return {
        ...plain,
        named,
        type: limit === null ? 'Market' : 'Limit',
        limit,
        expected: limit ?? quoted(side, v),
        shown,
      };
    }
    default:
      return unreachable(p);
  }
}

/** What an order at the midpoint is expected to pay at worst; refused where there is no midpoint. */
function midExpected(
  side: Side,
  v: SymbolView,
  c: RunContext,
  instead: (pricing: PricingTree, extended?: boolean) => Statement,
): Price {
  if (c.session !== 'regular')
    refuse(
      { code: 'midpoint', why: 'session', what: c.session, symbol: v.symbol },
      instead(atLimit({ kind: 'midpoint' }), true),
    );
  if (v.status === 'volatility pause' || v.status === 'halted')
    refuse({
      code: 'midpoint',
      why: 'halt',
      what: v.status === 'halted' ? 'halt' : v.status,
      symbol: v.symbol,
    });
  return (
    (side === 'buy' ? v.quote.ask : v.quote.bid) ??
    refuse({ code: 'midpoint', why: 'one side', what: '', symbol: v.symbol })
  );
}

/** A stop waits on the far side of the market; its limit reaches no less far. */
function priceStop(p: TreeOf<'stop order'>, side: Side, v: SymbolView, c: RunContext, s: Sent): Priced {
  const m = measuresOf(v, c);
  const sign = signOf(side);
  const wanted = side === 'buy' ? 'above' : 'below';
  const stop = roundToTick(priceIn(p.trigger, m), side === 'buy' ? 'up' : 'down', v.ticks);
  const on = p.on ?? 'last';
  const seen = on === 'last' ? v.last : v.quote[on];
  const atThere = { ...s, pricing: { kind: 'limit', price: p.trigger } } as Statement;
  if (seen !== null && sign * (stop - seen) <= 0)
    refuse({ code: 'wrong side of last', side, stop, last: seen, text: printTree(p.trigger) }, atThere);
  if (p.way !== wanted)
    refuse({ code: 'wrong way of stop', side, wanted, text: printTree(p.trigger) }, {
      ...s,
      pricing: { ...p, way: wanted },
    } as Statement);
  let limit: Price | null = null;
  if (p.room?.kind === 'room price') limit = limitPrice(priceIn(p.room.price, m), side, v.ticks);
  else if (p.room) limit = limitPrice(stop + sign * lengthOf(p.room.by, stop, m), side, v.ticks);
  if (limit !== null && sign * (limit - stop) < 0)
    refuse({ code: 'limit side', side, stop, limit }, {
      ...s,
      pricing: { ...p, room: { kind: 'room beyond', by: { kind: 'usual' } } },
    } as Statement);
  const named = [
    ...namedOf(p.trigger, stop),
    ...(limit !== null && p.room?.kind === 'room price' ? namedOf(p.room.price, limit) : []),
  ];
  const room = limit === null ? null : ({ kind: 'room price', price: literal(limit) } as const);
  return {
    type: limit === null ? 'Stop' : 'StopLimit',
    limit,
    stop,
    on,
    expected: limit ?? stop,
    named,
    shown: { ...p, trigger: literal(stop), room },
  };
}

/** Orders for the opening auction are taken until 09:28, for the closing one until ten minutes before it (common practice). */
function checkAuction(which: 'open' | 'close', c: RunContext, fix: Statement): void {
  const last = which === 'open' ? REGULAR_OPEN - 2 * MINUTE : c.hours.close - 10 * MINUTE;
  if (c.session !== 'closed' && clockOf(c.now) >= last)
    refuse({ code: 'auction time', which, last, now: c.now }, fix);
}

/** Whether a word of a kind stands after the price. */
export const has = (life: readonly LifeTree[], kind: LifeTree['kind']): boolean =>
  life.some((l) => l.kind === kind);
/** The words after the price, with “extended” among them. */
export const withExtended = (life: readonly LifeTree[]): LifeTree[] =>
  has(life, 'extended hours') ? [...life] : [...life, { kind: 'extended hours' }];

/** Closes a part of a position, or all of it, through the quote. */
export const closeNow = (symbol: string, part: Part | null, c: RunContext): Statement => ({
  kind: 'close',
  staged: false,
  verb: 'close',
  size: { kind: 'part', part: part ?? { kind: 'all' } },
  instrument: instrumentNamed(symbol),
  alone: false,
  pricing: THROUGH,
  life: c.session === 'regular' ? [] : [{ kind: 'extended hours' }],
  chain: [],
});

/** What the words after the price, and the price itself, ask of the exchange. */
export function termsOf(p: PricingTree, life: readonly LifeTree[], c: RunContext): Terms {
  const route = p.kind === 'hidden mid' ? 'mid' : p.kind === 'sweep' ? 'sweep' : 'lit';
  const terms: Terms = { ...PLAIN_TERMS, route, postOnly: has(life, 'post only') };
  if (p.kind === 'auction')
    return { ...terms, timeInForce: p.which === 'open' ? 'AtTheOpening' : 'AtTheClose' };
  if (has(life, 'gtc')) return { ...terms, timeInForce: 'GoodTillCancel' };
  if (has(life, 'ioc')) return { ...terms, timeInForce: 'ImmediateOrCancel' };
  if (has(life, 'fok')) return { ...terms, timeInForce: 'FillOrKill' };
  for (const l of life) {
    if (l.kind === 'for seconds')
      return { ...terms, timeInForce: 'GoodTillDate', until: c.now + l.seconds * SECOND };
    if (l.kind === 'for minutes')
      return { ...terms, timeInForce: 'GoodTillDate', until: c.now + l.minutes * MINUTE };
    if (l.kind === 'until time')
      return { ...terms, timeInForce: 'GoodTillDate', until: midnightOfTimes(c) + l.time * MINUTE };
    if (l.kind === 'until date') {
      const midnight = c.midnightOf(l.date) ?? refuse({ code: 'date over', date: l.date });
      return {
        ...terms,
        timeInForce: 'GoodTillDate',
        until: midnight + (l.time === null ? 20 * 60 : l.time) * MINUTE,
      };
    }
  }
  return terms;
}

/** A life that is over at a time of its own. */
export const ends = (l: LifeTree): boolean =>
  l.kind === 'until time' || l.kind === 'until date' || l.kind === 'for seconds' || l.kind === 'for minutes';

/** An entry that sleeps until a session must not be over before it wakes. */
export function mustWake(s: TreeOf<'enter'> | TreeOf<'add'>, until: number | null, c: RunContext): void {
  const extended = has(s.life, 'extended hours');
  if (until === null || c.session === 'regular' || (extended && c.session !== 'closed')) return;
  const night = c.session === 'pre-market' ? 0 : DAY;
  const wakes = c.dayStart + night + (extended ? PRE_OPEN : REGULAR_OPEN);
  if (until > wakes) return;
  const longer = s.life.filter((l) => !ends(l));
  refuse({ code: 'dead when it wakes', life: until, wakes }, [
    ...(extended ? [] : [{ ...s, life: withExtended(s.life) }]),
    { ...s, life: longer },
  ]);
}

/** Where an order that works its price ends, and when; empty for any other. */
export const worksText = ({ works }: Priced, c: RunContext): string =>
  works ? `at ${formatPrice(works.to)} by ${formatTime(c.now + works.within)} at the latest` : '';

/** What the trader should know of a stock that does not trade freely now. */
export function haltWarning(v: SymbolView): string[] {
  if (v.status === 'volatility pause' || v.status === 'halted')
    return [
      `${v.symbol} is in a ${v.status === 'halted' ? 'halt' : v.status}: the order waits and joins the reopening auction.`,
    ];
  return v.status === 'trading'
    ? []
    : [
        `${v.symbol} stands at its ${v.status} band: beyond it nothing trades, and a pause may follow within 15 seconds.`,
      ];
}

/** What the trader should know of a short sale: the guards at the broker's door refuse what may not be. */
export function shortWarnings(v: SymbolView): string[] {
  const warnings =
    v.instrument.borrow === 'hard' ? [`${v.symbol} is hard to borrow: shares may be called back.`] : [];
  if (!v.restricted) return warnings;
  return [
    ...warnings,
    `Short-sale restriction: ${v.symbol} is sold short only above the best bid; a lower price is moved up to one tick above it.`,
  ];
}

/** A close that rests where the other side would have to come to it. */
export function restWarning(p: Priced, side: Side, v: SymbolView): string[] {
  const other = side === 'buy' ? v.quote.ask : v.quote.bid;
  if (p.type !== 'Limit' || p.limit === null || other === null || signOf(side) * (p.limit - other) >= 0)
    return [];
  return [
    `Rests at ${formatPrice(p.limit)} until somebody takes it; “at usual through” takes what is there.`,
  ];
}

/** Whether an order waits in the book rather than taking what is there. */
export function rests(p: Pick<Priced, 'type' | 'limit'>, side: Side, v: SymbolView): boolean {
  const other = side === 'buy' ? v.quote.ask : v.quote.bid;
  return p.type === 'Limit' && p.limit !== null && other !== null && signOf(side) * (p.limit - other) < 0;
}
