// Exits for shares that are held: attached, or a stop that follows.
import { printTree, type TreeOf } from '../language/index.ts';
import {
  holdingOf,
  isStaying,
  legPrice,
  openOf,
  openOfScope,
  positionOf,
  stopPriceOf,
  type Trade,
} from '../orders/index.ts';
import { formatPrice, sideOf } from '../units/index.ts';
import { planOf } from './entries.ts';
import { type Basis, bareText, resolveExits } from './exits.ts';
import { viewOf } from './instruments.ts';
import { literal, openTradeOf, type Reading, type RunContext, refuse } from './moment.ts';
import { has } from './pricing.ts';
import { closingShares, shareOf } from './sizes.ts';

/** A trailing close: the part of the position comes under a stop that follows the best price. */
export function readTrailing(s: TreeOf<'close'>, p: TreeOf<'trailing'>, c: RunContext, out: Reading): void {
  const size = s.size.kind === 'part' ? s.size.part : null;
  const v = viewOf(s.symbol, c);
  const trade = openTradeOf(c, v.symbol) ?? refuse({ code: 'no position', symbol: v.symbol, verb: 'trail' });
  const position = positionOf(trade);
  const shares = size
    ? shareOf(size, position)
    : Math.min(
        position,
        closingShares(s.size, position, trade.best ?? v.last ?? v.instrument.priorClose, c, v.symbol),
      );
  const exit: TreeOf<'trail'> = { kind: 'trail', reach: { kind: 'away', by: p.by }, after: p.after };
  const { keeps } = attachExits(
    {
      exits: [exit],
      shares: size?.kind === 'all' || shares === position ? 'all' : shares,
      extended: has(s.life, 'extended hours'),
    },
    v.symbol,
    c,
    out,
    () => null,
  );
  out.sayBack = printTree({ ...s, symbol: v.symbol, size: { kind: 'shares', shares } });
  out.about = keeps
    ? 'their stop stays until it follows the best price; these shares leave their other exits'
    : 'a stop that follows the best price from here on; these shares leave the exits that they have';
}

/** Exits for shares that are held: by their own lines, or by the name of a plan. */
export function readAttach(s: TreeOf<'attach'> | TreeOf<'attach plan'>, c: RunContext, out: Reading): void {
  const v = viewOf(s.symbol, c);
  const trade =
    openTradeOf(c, v.symbol) ?? refuse({ code: 'no position', symbol: v.symbol, verb: 'attach exits to' });
  const exits = s.kind === 'attach' ? s.exits : planOf(s.plan, c, (plan) => ({ ...s, plan }));
  const shares = s.part === null || s.part.kind === 'all' ? 'all' : shareOf(s.part, positionOf(trade));
  const { shown } = attachExits({ exits, shares, extended: false }, v.symbol, c, out, (old, instead) =>
    s.kind === 'attach'
      ? { ...s, exits: exits.map((e) => (e === old ? instead : e)) }
      : {
          kind: 'attach',
          symbol: s.symbol,
          part: s.part,
          exits: exits.map((e) => (e === old ? instead : e)),
        },
  );
  out.sayBack = printTree({ kind: 'attach', symbol: v.symbol, part: s.part, exits: shown });
  out.about = `${shares === 'all' ? positionOf(trade) : shares} shares, distances from the average ${formatPrice(Math.round(v.trade?.averageEntry ?? 0))}${s.kind === 'attach plan' ? `, plan “${s.plan}”` : ''}`;
}

type Attached = { exits: Parameters<typeof resolveExits>[0]; shares: 'all' | number; extended: boolean };
function attachExits(
  a: Attached,
  symbol: string,
  c: RunContext,
  out: Reading,
  withExit: Parameters<typeof resolveExits>[3],
) {
  const v = viewOf(symbol, c);
  const trade = openTradeOf(c, symbol) ?? refuse({ code: 'no position', symbol, verb: 'attach exits to' });
  out.symbol = symbol;
  const average = Math.round(trade.entryNotional / trade.entered);
  const basis: Basis = { side: sideOf(trade.sign), from: average as Basis['from'], held: true, view: v, c };
  const there = exitsThere(trade, a.shares, c);
  const protects = a.exits.some((e) => e.kind === 'stop exit' || (e.kind === 'trail' && e.after === null));
  // What names no stop leaves no share without the one that it has.
  const kept = protects || there.stop === null ? [] : [there.stop];
  const { plan, named, shown } = resolveExits([...kept, ...a.exits], basis, a.extended, withExit);
  out.named.push(...named);
  if (there.gives.length > 0) out.warnings.push(`Instead of ${there.gives.join(', ')}.`);
  out.warnings.push(...bareText(plan, a.shares === 'all' ? positionOf(trade) : a.shares, symbol));
  if (!plan.extended && c.session !== 'regular' && plan.stops.some((x) => !x.extended))
    out.warnings.push(
      `The stop waits for the regular session at 09:30; end its line with “extended” to have it watch now (${c.session}).`,
    );
  out.deeds.push({
    kind: 'intent',
    intent: {
      kind: 'attach',
      account: c.account,
      symbol,
      over: a.shares === 'all' ? 'all' : { shares: a.shares },
      plan,
    },
  });
  return { shown, keeps: kept.length > 0 };
}

/** What the shares have that exits are put on: the nearest stop as it stands, and in words what gives way. Unprotected shares are taken first. */
function exitsThere(
  trade: Trade,
  over: 'all' | number,
  c: RunContext,
): { stop: TreeOf<'stop exit'> | null; gives: string[] } {
  const h = holdingOf(c.broker, c.account, trade.symbol);
  const scopes = h.scopes.filter((s) => s.tradeId === trade.id && openOfScope(s) > 0);
  const position = positionOf(trade);
  let rest = (over === 'all' ? position : over) - (position - scopes.reduce((a, s) => a + openOfScope(s), 0));
  const whole = new Set<number>();
  const donors = scopes
    .sort((a, b) => b.id - a.id)
    .filter((s) => {
      const gives = rest > 0;
      rest -= openOfScope(s);
      // One that gives only a part keeps its targets for what it keeps.
      if (gives && rest >= 0) whole.add(s.id);
      return gives;
    });
  const stops = donors.flatMap((s) => {
    const price = stopPriceOf(s);
    const leg = s.legs.find((l, i) => l.kind === 'stop' && !l.dropped && legPrice(s, i) === price);
    return price === null || !leg ? [] : [{ price, leg }];
  });
  const nearest = stops.sort((a, b) => trade.sign * (b.price - a.price))[0];
  const targets = h.orders.filter((o) => o.role === 'target' && isStaying(o) && whole.has(o.scopeId ?? -1));
  return {
    stop: nearest
      ? {
          kind: 'stop exit',
          place: { kind: 'at', price: literal(nearest.price) },
          part: null,
          room:
            nearest.leg.room === undefined
              ? null
              : { kind: 'room beyond', by: { kind: 'cents', units: nearest.leg.room } },
          on: nearest.leg.on === 'last' ? null : nearest.leg.on,
          extended: nearest.leg.extended,
        }
      : null,
    gives: [
      ...targets.map((o) => `target ${openOf(o)} at ${formatPrice(o.limit ?? 0)}`),
      ...(donors.some((s) => s.trail) ? ['the trail'] : []),
      ...(donors.some((s) => s.breakeven && s.breakevenState !== 'done') ? ['the breakeven'] : []),
    ],
  };
}
