// Source: the package nodejs-order-book 10.1.1, an order book with price–time priority.
import { OrderBook, Side as TheirSide } from 'nodejs-order-book';
import { below, createRandom } from '@/core/sim/random';
import { price, type Side } from '@/core/units';
import { bestAsk, bestBid, cancel, createBook, depth, type MatchSink, submit } from '@/core/venue';

test('the same seeded orders end in the same trades and the same depth', () => {
  const r = createRandom(5, 'orders');
  const ours = createBook(price(500_000));
  const theirs = new OrderBook();
  const [mine, other]: [string[], string[]] = [[], []];
  const places = new Map<number, number>();
  const names = new Map<number, number>();
  const sink: MatchSink = {
    trade: (_s, at, qty, maker) => mine.push(`${qty}@${at} ${names.get(maker)}`),
    selfTrade: () => {},
  };
  const open: number[] = [];
  for (let id = 1; id <= 6_000; id++) {
    if (open.length > 0 && below(r, 4) === 0) {
      const target = open.splice(below(r, open.length), 1)[0] as number;
      const gone = cancel(ours, places.get(target) ?? 0);
      const answer = theirs.cancel(String(target));
      expect(answer !== undefined).toBe(gone > 0);
      continue;
    }
    const side: Side = below(r, 2) === 0 ? 'buy' : 'sell';
    const cents = 5_000 + below(r, 60) - 30 + (side === 'buy' ? -12 : 12);
    const qty = 1 + below(r, 300);
    submit(ours, { side, limit: price(cents * 100), qty, owner: 0, rest: true }, sink);
    places.set(id, ours.placed);
    names.set(ours.placed, id);
    const result = theirs.limit({
      id: String(id),
      side: side === 'buy' ? TheirSide.BUY : TheirSide.SELL,
      price: cents,
      size: qty,
    });
    for (const o of result.done)
      if (o.id !== String(id)) other.push(`${o.size}@${(o as { price: number }).price * 100} ${o.id}`);
    if (result.partial && result.partial.id !== String(id))
      other.push(
        `${result.partialQuantityProcessed}@${(result.partial as { price: number }).price * 100} ${result.partial.id}`,
      );
    open.push(id);
  }
  expect(mine.length).toBeGreaterThan(1_000);
  expect(mine.map((t) => t.split(' ')[1])).toEqual(other.map((t) => t.split(' ')[1]));
  const [asks, bids] = theirs.depth();
  const plain = (levels: [number, number][]) => levels.map(([p, qty]) => ({ price: p * 100, qty }));
  expect(depth(ours, 'sell', 1_000)).toEqual(
    plain(asks as [number, number][]).sort((a, b) => a.price - b.price),
  );
  expect(depth(ours, 'buy', 1_000)).toEqual(
    plain(bids as [number, number][]).sort((a, b) => b.price - a.price),
  );
  expect((bestBid(ours) ?? 0) < (bestAsk(ours) ?? 1e9)).toBe(true);
});
