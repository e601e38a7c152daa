// A stop that goes farther away from the market: what the trade then risks.
import { multiplierOfSymbol } from '../instruments/index.ts';
import {
  averageEntry,
  holdingOf,
  isLive,
  type Order,
  openOf,
  positionOf,
  protects,
  type Trade,
} from '../orders/index.ts';
import { formatMoney, formatPrice, type Money, money, type Price, signOf } from '../units/index.ts';
import { accountOf, openTradeOf, type Reading, type RunContext } from './moment.ts';

/** What the open shares of a trade lose at their stops, in money; `to` has the prices of those that are to move. */
function lossAt(t: Trade, c: RunContext, to: ReadonlyMap<number, Price>): Money {
  const average = averageEntry(t) ?? 0;
  let left = positionOf(t);
  let loss = 0;
  for (const o of holdingOf(c.broker, c.account, t.symbol).orders) {
    if (o.tradeId !== t.id || !protects(o) || !isLive(o) || o.stop === null) continue;
    const shares = Math.min(left, openOf(o));
    left -= shares;
    loss += shares * Math.max(0, t.sign * (average - (to.get(o.id) ?? o.stop)));
  }
  return money(Math.round(loss * multiplierOfSymbol(t.symbol)));
}

/**
 * Says of stops that are moved farther away what the trade then risks, by its own R, or in units where it has none. Where that is more than its R, or
 * than a unit, it asks: the old stop works until the yes. A tighter move never asks.
 */
export function askFarther(
  moves: readonly { order: Order; to: Price }[],
  symbol: string,
  c: RunContext,
  out: Reading,
): void {
  const away = moves.filter(
    ({ order: o, to }) => protects(o) && o.stop !== null && signOf(o.side) * (to - o.stop) > 0,
  );
  const t = openTradeOf(c, symbol);
  const [first] = away;
  if (!first || !t) return;
  const before = lossAt(t, c, new Map());
  const after = lossAt(t, c, new Map(moves.map((m) => [m.order.id, m.to])));
  const own = t.risk ?? accountOf(c).rules.riskUnit;
  const text = (m: Money) => `${formatMoney(m)}, ${(m / own).toFixed(1)}${t.risk === null ? ' units' : 'R'}`;
  const from = first.order.stop as Price;
  const risk = [text(before), text(after)] as const;
  out.warnings.push(
    `Farther away: ${formatPrice(from)} → ${formatPrice(first.to)}, risk ${risk[0]} → ${risk[1]}.`,
  );
  if (after <= own || after <= before || c.byItself) return;
  out.asks.push(
    ...away.map(({ order: o, to }) => ({
      kind: 'farther' as const,
      orderId: o.id,
      symbol,
      side: o.side,
      from: o.stop as Price,
      to,
      risk,
    })),
  );
}
