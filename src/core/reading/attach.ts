// Exits for shares that are held: attached, or a stop that follows.
import { instrumentNamed, printTree, type TreeOf } from '../language/index.ts';
import { giving, holdingOf, type Intent, positionOf, stopGiven } from '../orders/index.ts';
import { formatPrice, sideOf } from '../units/index.ts';
import { planOf } from './entries.ts';
import { type Basis, bareText, resolveExits } from './exits.ts';
import { viewOf } from './instruments.ts';
import { literal, openTradeOf, type Reading, type RunContext, refuse } from './moment.ts';
import { has } from './pricing.ts';
import { closingShares, shareOf } from './sizes.ts';
import { takesOff } from './takes-off.ts';

/** A trailing close: the part of the position comes under a stop that follows the best price. */
export function readTrailing(s: TreeOf<'close'>, p: TreeOf<'trailing'>, c: RunContext, out: Reading): void {
  const size = s.size.kind === 'part' ? s.size.part : null;
  const v = viewOf(s.instrument, c);
  const trade = openTradeOf(c, v.symbol) ?? refuse({ code: 'no position', symbol: v.symbol, verb: 'trail' });
  const position = positionOf(trade);
  const shares = size
    ? shareOf(size, position)
    : Math.min(
        position,
        closingShares(s.size, position, trade.best ?? v.last ?? v.instrument.priorClose, c, v.symbol),
      );
  const exit: TreeOf<'trail'> = {
    kind: 'trail',
    reach: { kind: 'away', by: p.by, sure: true },
    after: p.after,
  };
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
  out.sayBack = printTree({ ...s, instrument: instrumentNamed(v.symbol), size: { kind: 'shares', shares } });
  out.about = keeps
    ? 'their stop stays until it follows the best price; these shares leave their other exits'
    : 'a stop that follows the best price from here on; these shares leave the exits that they have';
}

/** Exits for shares that are held: by their own lines, or by the name of a plan. */
export function readAttach(s: TreeOf<'attach'> | TreeOf<'attach plan'>, c: RunContext, out: Reading): void {
  const v = viewOf(s.instrument, c);
  const trade =
    openTradeOf(c, v.symbol) ?? refuse({ code: 'no position', symbol: v.symbol, verb: 'attach exits to' });
  const exits = s.kind === 'attach' ? s.exits : planOf(s.plan, c, (plan) => ({ ...s, plan }));
  const shares = s.part === null || s.part.kind === 'all' ? 'all' : shareOf(s.part, positionOf(trade));
  const { shown } = attachExits({ exits, shares, extended: false }, v.symbol, c, out, (old, instead) =>
    s.kind === 'attach'
      ? { ...s, exits: exits.map((e) => (e === old ? instead : e)) }
      : {
          kind: 'attach',
          instrument: s.instrument,
          part: s.part,
          exits: exits.map((e) => (e === old ? instead : e)),
        },
  );
  out.sayBack = printTree({
    kind: 'attach',
    instrument: instrumentNamed(v.symbol),
    part: s.part,
    exits: shown,
  });
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
  const from = giving(holdingOf(c.broker, c.account, symbol), trade, a.shares);
  const had = stopGiven(from);
  const named = a.exits.some((e) => e.kind === 'stop exit');
  // What names no stop leaves no share without the one that it has; what takes its place works when that one did.
  const exits = [...(named || had === null ? [] : [stopTree(had)]), ...a.exits].map((e) =>
    e.kind === 'stop exit' && had?.extended ? { ...e, extended: true } : e,
  );
  const resolved = resolveExits(exits, basis, a.extended, withExit);
  const { plan, shown } = resolved;
  out.named.push(...resolved.named);
  const intent: Intent = {
    kind: 'attach',
    account: c.account,
    symbol,
    over: a.shares === 'all' ? 'all' : { shares: a.shares },
    plan,
  };
  const gone = [
    ...takesOff(intent, symbol, c).filter((x) => named || !x.startsWith('stop ')),
    ...(from.some(({ scope }) => scope.trail) ? ['the trail'] : []),
    ...(from.some(({ scope: s }) => s.breakeven && s.breakevenState !== 'done') ? ['the breakeven'] : []),
  ];
  if (gone.length > 0) out.warnings.push(`Takes the place of ${gone.join(', ')}.`);
  out.warnings.push(...bareText(plan, a.shares === 'all' ? positionOf(trade) : a.shares, v, had !== null));
  const asleep = plan.stops.some((x) => !x.extended) || (plan.stops.length === 0 && plan.trail !== null);
  if (!plan.extended && c.session !== 'regular' && asleep)
    out.warnings.push(
      `The stop waits for the regular session at 09:30; end its line with “extended” to have it watch now (${c.session}).`,
    );
  out.deeds.push({ kind: 'intent', intent });
  return { shown, keeps: !named && had !== null };
}

/** A stop that shares have, as a sentence says it. */
const stopTree = ({
  price,
  leg,
  extended,
}: NonNullable<ReturnType<typeof stopGiven>>): TreeOf<'stop exit'> => ({
  kind: 'stop exit',
  place: { kind: 'at', price: literal(price) },
  part: null,
  room: leg.room === undefined ? null : { kind: 'room beyond', by: { kind: 'cents', units: leg.room } },
  on: leg.on === 'last' ? null : leg.on,
  extended,
});
