import { mix, type Price, roundToTick, tickSize } from '../units/index.ts';
import type { AuctionOrder } from '../venue/index.ts';

/** An auction order of the crowd and when it comes in, as a time of day. */
export interface Arrival extends AuctionOrder {
  arrives: number;
}

/**
 * The crowd's orders of one auction, made so that without the trader exactly `qty` shares clear at
 * `price`: at any other price fewer pair. They come in over the window, the ones that decide the
 * price mostly late, so that the indication wanders and settles. Ids are even, from `firstId` on.
 */
export function crowdOrders(price: number, qty: number, from: number, to: number, seed: number): Arrival[] {
  if (qty <= 0) return [];
  const tick = tickSize(price as Price);
  const h = (k: number) => mix(seed, k);
  const out: Arrival[] = [];
  const add = (side: 'buy' | 'sell', limit: number | null, shares: number, late: boolean) => {
    if (shares <= 0) return;
    const k = out.length;
    const part = (h(k * 7 + 1) % 1000) / 1000;
    out.push({
      id: 2 * (k + 1),
      side,
      limit: limit === null ? null : roundToTick(Math.max(1, limit)),
      qty: shares,
      seq: k,
      arrives: Math.floor(from + (to - from - 3_000) * (late ? 0.35 + 0.62 * part : part * part)),
    });
  };
  const lots = Math.floor(qty / 100);
  const over = Math.floor((lots * (h(1) % 30)) / 100) * 100;
  const buysHeavy = (h(2) & 1) === 1;
  for (const side of ['buy', 'sell'] as const) {
    const away = side === 'buy' ? 1 : -1;
    const total = qty + (buysHeavy === (side === 'buy') ? over : 0);
    // At the price itself rests more than the surplus, so that one tick further no longer pairs as much.
    const atPrice = Math.min(total, total - qty + Math.max(100, Math.floor(lots * 0.2) * 100));
    let left = total - atPrice;
    const marketable = Math.floor((left * 0.6) / 100) * 100;
    const parts = Math.min(6, Math.max(1, Math.floor(marketable / 400)));
    for (let k = 0; k < parts; k++)
      add(
        side,
        null,
        k === parts - 1
          ? marketable - Math.floor(marketable / parts / 100) * 100 * (parts - 1)
          : Math.floor(marketable / parts / 100) * 100,
        false,
      );
    left -= marketable;
    for (let k = 1; left > 0; k++) {
      const shares = k >= 6 ? left : Math.min(left, 100 * (1 + (h(40 + k + (side === 'buy' ? 0 : 100)) % 8)));
      add(side, price + away * tick * (1 + k * (1 + (h(60 + k) % 3))), shares, h(80 + k) % 3 !== 0);
      left -= shares;
    }
    add(side, price, atPrice, true);
    for (let k = 1; k <= 5; k++)
      add(side, price - away * tick * k * (1 + (h(90 + k) % 4)), 100 * (1 + (h(120 + k) % 12)), false);
  }
  return out;
}
