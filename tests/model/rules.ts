import { type Account, totalOf } from '../../src/core/account/index.ts';
import { isOption, multiplierOfSymbol } from '../../src/core/instruments/index.ts';
import {
  allot,
  type Broker,
  everything,
  isStaying,
  legPrice,
  type Order,
  openOf,
  openOfScope,
  positionOf,
  type Scope,
  wireOf,
  worstOf,
} from '../../src/core/orders/index.ts';
import { signOf } from '../../src/core/units/index.ts';

/** A rule that does not hold. */
export class Broken extends Error {}
export const must = (ok: boolean, what: string): void => {
  if (!ok) throw new Broken(what);
};

/**
 * The rules of exits and of money that hold after every step of the broker, whatever happens. `paid` is what
 * has been paid to lenders, by account.
 */
export function checkBroker(broker: Broker, paid: Readonly<Record<string, number>> = {}): void {
  const { orders, scopes, trades, fills } = everything(broker);
  for (const t of trades) {
    must(positionOf(t) >= 0, 'a position is never turned');
    if (t.status === 'closed') must(positionOf(t) === 0, 'a trade that is closed is flat');
    const mine = fills.filter((f) => f.tradeId === t.id);
    must(
      mine.reduce((a, f) => a + t.sign * signOf(f.side) * f.qty, 0) === positionOf(t),
      'a position is the sum of its fills',
    );
    const traded = totalOf(t.costs) - (t.costs.borrow ?? 0);
    must(mine.reduce((a, f) => a + totalOf(f.costs), 0) === traded, 'costs add up');
  }
  for (const account of Object.values(broker.accounts)) checkMoney(broker, account, paid[account.id] ?? 0);

  for (const key of new Set(trades.map((t) => `${t.account} ${t.symbol}`))) {
    const mine = <T extends { account: string; symbol: string }>(list: readonly T[]) =>
      list.filter((x) => `${x.account} ${x.symbol}` === key);
    const open = mine(trades).filter((t) => t.status === 'open');
    must(open.length <= 1, 'one position a symbol in an account');
    const [position] = open;
    const worst = mine(orders)
      .filter((o) => o.role !== 'entry')
      .reduce((a, o) => a + worstOf(wireOf(o)), 0);
    must(
      worst <= (position ? positionOf(position) : 0),
      'exits that may still fill never exceed the position',
    );
    const living = scopes.filter((s) => position && s.tradeId === position.id);
    must(
      living.reduce((a, s) => a + openOfScope(s), 0) <= (position ? positionOf(position) : 0),
      'scopes cover no more than is held',
    );
    for (const s of living) {
      must(openOfScope(s) >= 0, 'a scope never gives more than it has');
      covered(s, orders);
    }
  }
}

/** Cash to the last 1/10,000 dollar; a cash account sells nothing short. */
function checkMoney(broker: Broker, { id, ledger, rules }: Account, paid: number): void {
  const { trades, fills } = everything(broker);
  const mine = new Set(trades.flatMap((t) => (t.account === id ? [t.id] : [])));
  const moved = fills
    .filter((f) => mine.has(f.tradeId))
    .reduce(
      (a, f) => a - signOf(f.side) * f.price * f.qty * multiplierOfSymbol(f.symbol) - totalOf(f.costs),
      -paid,
    );
  must(ledger.cash === moved, 'cash is what the fills moved and what was paid for locates');
  must(
    ledger.settled + ledger.unsettled.reduce((a, p) => a + p.cash, 0) === moved,
    'settled and unsettled cash add up',
  );
  if (rules.kind === 'cash')
    must(
      trades.every((t) => t.account !== id || t.sign === 1 || t.entered === 0 || isOption(t.symbol)),
      'a cash account is never short of shares',
    );
}

/** Whether stops of these parts cover all shares. */
export const wholeOf = (parts: Parameters<typeof allot>[0]): boolean =>
  allot(parts, 840).reduce((a, b) => a + b, 0) === 840;

/** Every filled share with a stop in its plan is covered, whatever came before. */
function covered(s: Scope, orders: readonly Order[]): void {
  const stops = s.legs.flatMap((l, i) => (l.kind === 'stop' ? [i] : []));
  if (stops.length === 0) return;
  const open = openOfScope(s);
  const live = orders.filter((o) => o.scopeId === s.id && o.role === 'stop' && isStaying(o));
  const shares = live.reduce((a, o) => a + openOf(o), 0);
  const whole = wholeOf(stops.map((i) => s.legs[i]?.part ?? null));
  if (whole && stops.every((i) => !s.legs[i]?.dropped && legPrice(s, i) !== null)) {
    must(shares === open, `stops (${shares}) cover what is open (${open})`);
    const parts = allot(
      stops.map((i) => s.legs[i]?.part ?? null),
      open,
    );
    const untouched =
      stops.every((i) => s.legs[i]?.filled === 0) && live.every((o) => o.phase.k !== 'working');
    const each = stops.map((i) => live.filter((o) => o.leg === i).reduce((a, o) => a + openOf(o), 0));
    if (untouched) must(each.join() === parts.join(), 'each stop covers its part');
  } else must(shares <= open, 'stops never exceed what is open');
  for (const o of live)
    if (o.phase.k === 'armed')
      must(o.stop === legPrice(s, o.leg ?? 0), 'an armed stop stands where its leg says');
}
