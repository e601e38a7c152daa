// What the trader should know of an order before it goes.
import { isOption } from '../instruments/index.ts';
import { type Exit, type LifeTree, ONE, printTree } from '../language/index.ts';
import type { SymbolView } from '../market/index.ts';
import { formatMoney, formatPrice, roundToTick, signOf } from '../units/index.ts';
import type { Resolved } from './exits.ts';
import { accountOf, type OrderFacts, type RunContext } from './moment.ts';
import { has, type Priced } from './pricing.ts';
import { usualAt } from './usual.ts';

interface Going {
  priced: Priced;
  /** As they are written. */
  exits: readonly Exit[];
  /** What its days were taken for, where none of the expiries is near. */
  taken: string | null;
  resolved: Resolved | null;
  facts: OrderFacts;
  life: readonly LifeTree[];
  extended: boolean;
  auction: boolean;
  /** It is asked whether it is to sleep. */
  asked: boolean;
  v: SymbolView;
  c: RunContext;
}

/** Warnings about an entry: its session, its stop and the spread, the room of its limit, the night, what costs eat. */
export const beforeItGoes = (g: Going): string[] => [
  ...(g.asked ? [] : wakes(g.extended, g.auction, g.c)),
  ...(g.taken === null ? [] : [g.taken]),
  ...aboutSpread(g),
  ...aboutPercent(g),
  ...aboutThrough(g),
  ...aboutRoom(g),
  ...aboutNight(g),
  ...aboutCosts(g.facts, accountOf(g.c).rules.costShare),
];

/** When an order wakes that cannot work now. */
function wakes(extended: boolean, auction: boolean, c: RunContext): string[] {
  if (c.session === 'closed')
    return [
      `Everything is closed: it wakes ${auction || extended ? 'with the pre-market at 04:00' : 'at 09:30'} of the next trading day.`,
    ];
  if (extended || auction || c.session === 'regular') return [];
  return [
    c.session === 'after hours'
      ? 'Asleep until 09:30 of the next trading day; add “extended” to work now (after hours).'
      : `Asleep until 09:30; add “extended” to work now (${c.session}).`,
  ];
}

/** A stop that the spread alone may trigger, or that is nearer than what it costs to get in and out. */
function aboutSpread({ resolved, facts, v }: Going): string[] {
  const { bid, ask } = v.quote;
  if (!resolved || resolved.perShare === null || bid === null || ask === null) return [];
  const spread = ask - bid;
  if (facts.stop !== null && facts.stop > bid && facts.stop < ask)
    return [
      `The stop ${formatPrice(facts.stop)} lies inside the spread ${formatPrice(bid)} × ${formatPrice(ask)}.`,
    ];
  return spread > resolved.perShare
    ? [
        `The spread of ${formatPrice(spread)} is wider than the risk of ${formatPrice(Math.round(resolved.perShare))} a share.`,
      ]
    : [];
}

/** A stop in percent, of an option that quotes wide: what it is taken from, and where it would be from the middle of the quote. */
function aboutPercent({ exits, facts, v }: Going): string[] {
  const { bid, ask } = v.quote;
  if (!isOption(v.symbol) || bid === null || ask === null) return [];
  const mid = (bid + ask) / 2;
  if (ask - bid <= WIDE * mid) return [];
  return exits.flatMap((e) => {
    if (e.kind !== 'stop exit' || e.place.kind !== 'away' || e.place.by.kind !== 'percent') return [];
    const text = printTree(e.place.by);
    const at = (of: number) => formatPrice(roundToTick(of * part, 'nearest', v.ticks));
    const part = 1 - (signOf(facts.side) * e.place.by.percent) / (100 * ONE);
    return [
      `The stop of ${text} is taken from ${formatPrice(facts.price)}, the price of the order: it is at ${at(facts.price)}. From the middle of ${formatPrice(bid)} × ${formatPrice(ask)} it would be at ${at(mid)}.`,
    ];
  });
}
/** A spread of an option that is more than this part of its middle leaves percent doubtful. */
const WIDE = 0.1;

/** A limit on the far side of the quote, which takes at once: meant as such it is a few cents, so a typed one is asked a second look. */
function aboutThrough({ priced: { type, limit }, facts: { side }, v, c }: Going): string[] {
  const other = side === 'buy' ? v.quote.ask : v.quote.bid;
  if (type !== 'Limit' || limit === null || other === null || c.session === 'closed') return [];
  const through = signOf(side) * (limit - other);
  const usual = usualAt(c.usual, 'reach', other, v.instrument.atr || null);
  return through > MANY * usual
    ? [
        `${formatPrice(limit)} is ${formatPrice(through)} ${side === 'buy' ? 'above the ask' : 'below the bid'} ${formatPrice(other)}: it fills at once, up to there.`,
      ]
    : [];
}
/** So many times the usual reach through the quote are more than a marketable limit needs. */
const MANY = 4;

/** A limit so near to its stop that a fast market leaves it behind. */
function aboutRoom({ priced, resolved, v, c }: Going): string[] {
  const near = (room: number, at: number) => room < usualAt(c.usual, 'reach', at, v.instrument.atr || null);
  const out: string[] = [];
  if (priced.type === 'StopLimit' && priced.limit !== null && priced.stop !== null) {
    const room = Math.abs(priced.limit - priced.stop);
    if (near(room, priced.stop))
      out.push(
        `The limit is ${room === 0 ? 'at' : `only ${formatPrice(room)} beyond`} its stop: a fast market can leave it behind unfilled.`,
      );
  }
  const tight = resolved?.plan.stops.find((s) => s.room !== undefined && near(s.room, priced.expected));
  if (tight)
    out.push(
      `The stop’s limit is only ${formatPrice(tight.room ?? 0)} beyond it: a fast market can leave the shares without an exit.`,
    );
  return out;
}

/** What lasts through the night has a stop that sleeps. */
const aboutNight = ({ life, resolved, extended }: Going): string[] =>
  (has(life, 'gtc') || has(life, 'until date')) && resolved && resolved.plan.stops.length > 0 && !extended
    ? ['Held overnight, its stop sleeps until 09:30: after a gap it fills at the open’s price.']
    : [];

/** Costs that eat the gain, or more than so many percent of what the first target makes. */
function aboutCosts({ reward, costs, targets: [first], price, side }: OrderFacts, most: number): string[] {
  if (reward === null || first === undefined) return [];
  if (reward <= costs)
    return [`Costs of ${formatMoney(costs)} eat the planned gain of ${formatMoney(reward)}.`];
  const gain = signOf(side) * (first.price - price) * first.shares;
  if (first.net <= 0) return [`The first target makes ${formatMoney(first.net, true)} after its costs.`];
  const percent = (100 * (gain - first.net)) / gain;
  return percent > most ? [`Costs take ${Math.round(percent)} % of what the first target makes.`] : [];
}
