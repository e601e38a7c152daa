// Plans and looks that the tests of the broker share.
import { type ExitPlan, eventText, type Order, type Wire, wireOf } from '../../src/core/orders/index.ts';
import { fromDollars, type Part } from '../../src/core/units/index.ts';
import { type desk, only } from './desk.ts';

/** What the exchange calls an order that works there. */
export const wiredTo = (o: Order) => (wireOf(o) as Wire).id;

export const half: Part = { kind: 'fraction', num: 1, den: 2 };
export const R = (r: number) => ({ kind: 'R' as const, r });
export const stopAt = (dollars: number, part: Part | null = null) => ({
  place: { kind: 'at' as const, price: fromDollars(dollars) },
  part,
  on: 'last' as const,
});
export const stopAway = (units: number, part: Part | null = null) => ({
  place: { kind: 'distance' as const, units },
  part,
  on: 'last' as const,
});
export const target = (dollars: number, part: Part | null = null) => ({
  place: { kind: 'at' as const, price: fromDollars(dollars) },
  part,
});
export const plan = (over: Partial<ExitPlan> = {}): ExitPlan => ({
  stops: [stopAway(3_000)],
  targets: [
    { place: R(1), part: half },
    { place: R(2), part: half },
  ],
  breakeven: { after: R(1.3), plusCosts: false },
  trail: null,
  extended: false,
  ...over,
});
export const bare: Partial<ExitPlan> = { targets: [], breakeven: null };
export type Desk = ReturnType<typeof desk>;
export const prices = (d: Desk) => ({
  stop: only(d.find('stop')).stop,
  targets: d.find('target').map((o) => o.limit),
});
export const texts = (d: Desk) => d.events.map(eventText);
/** Shares that exits could still sell at the exchange. */
export const exposed = (d: Desk) =>
  [...d.exchange.orders.values()].filter((o) => o.side === 'sell').reduce((a, o) => a + o.qty - o.filled, 0);
