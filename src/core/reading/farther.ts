// A stop that goes farther away from the market: what the trade then risks.
import { multiplierOfSymbol } from '../instruments/index.ts';
import { holdingOf, lossAtStops, type Order, protects } from '../orders/index.ts';
import { formatMoney, formatPrice, type Money, money, type Price, signOf } from '../units/index.ts';
import { accountOf, openTradeOf, type Reading, type RunContext } from './moment.ts';

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
  const { orders } = holdingOf(c.broker, c.account, symbol);
  const loss = (to: readonly { order: Order; to: Price }[]): Money =>
    money(
      Math.round(
        lossAtStops(t, orders, new Map(to.map((m) => [m.order.id, m.to]))) * multiplierOfSymbol(symbol),
      ),
    );
  const [before, after] = [loss([]), loss(moves)];
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
