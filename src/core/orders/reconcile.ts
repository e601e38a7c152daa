import { opposite, type Price, roundToTick, sideOf } from '../units/index.ts';
import { activate, addOrder, cancelOrder, type Draft, groupsOf, ordersOf, reprice, resize } from './draft.ts';
import { allot, openOfGroup, stopPriceOf, wantedExits } from './exits.ts';
import { type ExitGroup, isLive, type Order, openOf, positionOf, type Trade } from './types.ts';

/**
 * Makes the working exits of a trade what {@link wantedExits} says: whatever shrinks goes first,
 * so that working exits never add up to more than the position.
 */
export function reconcile(d: Draft, tradeId: number): void {
  const t = d.b.trades[tradeId] as Trade;
  if (t.status !== 'open') return;
  const groups = groupsOf(d, tradeId);
  const covered = groups.reduce((a, g) => a + openOfGroup(g), 0);
  const byHand = ordersOf(d, tradeId)
    .filter((o) => o.role === 'close')
    .reduce((a, o) => a + openOf(o), 0);
  let toReserve = Math.max(0, byHand - Math.max(0, positionOf(t) - covered));
  const later: (() => void)[] = [];
  for (const g of [...groups].reverse()) {
    // A triggered stop holds all shares of its group already: nothing of them is left to reserve.
    const reserved = g.triggered ? 0 : Math.min(toReserve, openOfGroup(g));
    toReserve -= reserved;
    const wanted = wantedExits(g, reserved);
    const mine = ordersOf(d, tradeId).filter((o) => o.groupId === g.entryId && isLive(o));
    wanted.targets.forEach((w, i) => {
      const o = mine.find((x) => x.role === 'target' && x.targetIndex === i);
      align(d, g, o, 'target', i, w.open, w.price, later);
    });
    const stop = mine.find((x) => x.role === 'stop');
    if (!g.triggered) align(d, g, stop, 'stop', null, wanted.stop?.open ?? 0, wanted.stop?.price ?? null, later);
    else if (stop && stop.qty - stop.filled > openOfGroup(g)) resize(d, stop, openOfGroup(g));
  }
  for (const grow of later) grow();
}

export function align(
  d: Draft,
  g: ExitGroup,
  o: Order | undefined,
  role: 'target' | 'stop',
  index: number | null,
  open: number,
  at: Price | null,
  later: (() => void)[],
): void {
  if (open === 0 || at === null) {
    if (o) cancelOrder(d, o.id, g.triggered ? 'its stop was triggered' : 'no shares are left for it');
    return;
  }
  if (!o) {
    later.push(() => {
      const order = addOrder(d, {
        symbol: g.symbol,
        side: opposite(sideOf(g.sign)),
        type: role === 'target' ? 'Limit' : 'Stop',
        qty: open,
        limit: role === 'target' ? at : null,
        stop: role === 'stop' ? at : null,
        extended: g.plan.extended,
        timeInForce: g.plan.timeInForce,
        route: 'lit',
        postOnly: false,
        tradeId: g.tradeId,
        role,
        groupId: g.entryId,
        targetIndex: index,
      });
      activate(d, order.id);
    });
    return;
  }
  const now = o.qty - o.filled;
  if (open < now) resize(d, o, open);
  else if (open > now) later.push(() => resize(d, d.b.orders[o.id] as Order, open));
  const fixed = role === 'stop' ? o.stop : o.limit;
  if (fixed !== at) later.push(() => reprice(d, o.id, at, 'follows the average entry'));
}

export function breakevenAfterTarget(d: Draft, o: Order): void {
  const g = d.b.groups[o.groupId ?? -1];
  const after = g?.plan.breakeven?.after;
  if (!g || g.breakevenDone || after?.kind !== 'target' || after.index !== o.targetIndex) return;
  const due = allot(
    g.plan.targets.map((t) => t.part),
    g.entered,
  )[after.index] as number;
  if ((g.targetFilled[after.index] as number) >= due) toBreakeven(d, g);
}

/** Moves the stop to average entry (or with costs), rounded so that it never loses; only tightens. */
export function toBreakeven(d: Draft, g: ExitGroup): void {
  const t = d.b.trades[g.tradeId] as Trade;
  const stop = stopPriceOf(g);
  const costs = g.plan.breakeven?.plusCosts ? (2 * t.commission) / t.entered : 0;
  const target = roundToTick(g.notional / g.entered + g.sign * costs, g.sign === 1 ? 'up' : 'down');
  const tighter = stop === null || g.sign * (target - stop) > 0;
  d.b.groups[g.entryId] = { ...g, breakevenDone: true, stopMoved: tighter ? target : g.stopMoved };
  const o = ordersOf(d, g.tradeId).find((x) => x.role === 'stop' && x.groupId === g.entryId && isLive(x));
  if (o && tighter) reprice(d, o.id, target, 'moved to breakeven');
}
