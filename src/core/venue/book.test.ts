import fc from 'fast-check';
import { type Price, price, type Side } from '../units/index.ts';
import {
  bestAsk,
  bestBid,
  cancel,
  createBook,
  depth,
  type MatchSink,
  type Owner,
  openQty,
  queueAhead,
  reduce,
  submit,
} from './index.ts';

/** The oracle: a plain list of orders, searched from the start each time. */
interface Plain {
  id: number;
  side: Side;
  price: Price;
  qty: number;
  owner: Owner;
}

function naiveSubmit(list: Plain[], o: Plain, rest: boolean, log: string[]): void {
  let left = o.qty;
  for (;;) {
    const crossing = list.filter(
      (x) => x.side !== o.side && (o.side === 'buy' ? x.price <= o.price : x.price >= o.price),
    );
    crossing.sort((a, b) => (o.side === 'buy' ? a.price - b.price : b.price - a.price));
    const best = crossing[0];
    if (!best || left === 0) break;
    if (o.owner === 1 && best.owner === 1) {
      list.splice(list.indexOf(best), 1);
      log.push(`self ${best.id}`);
      continue;
    }
    const fill = Math.min(left, best.qty);
    left -= fill;
    best.qty -= fill;
    if (best.qty === 0) list.splice(list.indexOf(best), 1);
    log.push(`${fill}@${best.price} with ${best.id}, left ${best.qty}`);
  }
  if (rest && left > 0) list.push({ ...o, qty: left });
}

const naiveDepth = (list: Plain[], side: Side) => {
  const levels = new Map<number, number>();
  for (const o of list) if (o.side === side) levels.set(o.price, (levels.get(o.price) ?? 0) + o.qty);
  return [...levels]
    .map(([p, qty]) => ({ price: p, qty }))
    .sort((a, b) => (side === 'buy' ? b.price - a.price : a.price - b.price));
};

const operation = fc.oneof(
  {
    weight: 6,
    arbitrary: fc.record({
      kind: fc.constant('submit' as const),
      side: fc.constantFrom<Side>('buy', 'sell'),
      // Around one dollar, where the tick changes, and far out, where the window has to grow.
      at: fc.oneof(
        fc.integer({ min: 9_990, max: 9_999 }),
        fc.integer({ min: 100, max: 112 }).map((c) => c * 100),
        fc.integer({ min: 1, max: 90 }).map((d) => d * 10_000),
      ),
      qty: fc.integer({ min: 1, max: 500 }),
      owner: fc.constantFrom<Owner>(0, 0, 1),
      rest: fc.boolean(),
    }),
  },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('cancel' as const), pick: fc.nat() }) },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('reduce' as const),
      pick: fc.nat(),
      to: fc.integer({ min: 1, max: 400 }),
    }),
  },
);

test('the book trades and rests exactly as a plain list searched by price, then time', () => {
  fc.assert(
    fc.property(fc.array(operation, { minLength: 1, maxLength: 120 }), (operations) => {
      const book = createBook(price(10_500));
      const list: Plain[] = [];
      const [got, wanted]: [string[], string[]] = [[], []];
      const named = new Map<number, number>();
      const placed = new Map<number, number>();
      const place = (id: number) => placed.get(id) as number;
      const sink: MatchSink = {
        trade: (_side, at, qty, maker, _owner, left) =>
          got.push(`${qty}@${at} with ${named.get(maker)}, left ${left}`),
        selfTrade: (maker) => got.push(`self ${named.get(maker)}`),
      };
      let id = 0;
      for (const o of operations) {
        if (o.kind === 'submit') {
          submit(book, { ...o, limit: price(o.at) }, sink);
          named.set(book.placed, ++id);
          placed.set(id, book.placed);
          naiveSubmit(
            list,
            { id, side: o.side, price: price(o.at), qty: o.qty, owner: o.owner },
            o.rest,
            wanted,
          );
        } else {
          const target = list[o.pick % Math.max(1, list.length)];
          if (!target) continue;
          if (o.kind === 'cancel') {
            expect(cancel(book, place(target.id))).toBe(target.qty);
            list.splice(list.indexOf(target), 1);
          } else if (reduce(book, place(target.id), o.to)) target.qty = o.to;
          else expect(o.to).toBeGreaterThanOrEqual(target.qty);
        }
        const [bid, ask] = [bestBid(book), bestAsk(book)];
        if (bid !== null && ask !== null) expect(bid).toBeLessThan(ask);
      }
      expect(got).toEqual(wanted);
      for (const side of ['buy', 'sell'] as const)
        expect(depth(book, side, 1000)).toEqual(naiveDepth(list, side));
      for (const o of list) {
        expect(openQty(book, place(o.id))).toBe(o.qty);
        const before = list.slice(0, list.indexOf(o)).filter((x) => x.side === o.side && x.price === o.price);
        expect(queueAhead(book, place(o.id))).toBe(before.reduce((a, x) => a + x.qty, 0));
      }
    }),
    { numRuns: 400 },
  );
});

test('shares and cash are conserved: what each order was for has filled, was taken out or still rests, and the cash of all sums to zero', () => {
  fc.assert(
    fc.property(fc.array(operation, { minLength: 1, maxLength: 120 }), (operations) => {
      const book = createBook(price(10_500));
      const orders = new Map<
        number,
        { side: Side; qty: number; filled: number; gone: number; cash: number }
      >();
      const of = (id: number) =>
        orders.get(id) ?? { side: 'buy' as const, qty: 0, filled: 0, gone: 0, cash: 0 };
      let id = 0;
      const named = new Map<number, number>();
      const placed = new Map<number, number>();
      const place = (k: number) => placed.get(k) ?? 0;
      const book_ = (k: number, at: number, qty: number) => {
        const o = of(k);
        orders.set(k, {
          ...o,
          filled: o.filled + qty,
          cash: o.cash + (o.side === 'buy' ? -1 : 1) * at * qty,
        });
      };
      const sink: MatchSink = {
        trade(_side, at, qty, maker) {
          book_(id, at, qty);
          book_(named.get(maker) as number, at, qty);
        },
        selfTrade(maker) {
          const k = named.get(maker) as number;
          orders.set(k, { ...of(k), gone: of(k).qty - of(k).filled });
        },
      };
      for (const o of operations) {
        if (o.kind === 'submit') {
          orders.set(++id, { side: o.side, qty: o.qty, filled: 0, gone: 0, cash: 0 });
          const left = submit(book, { ...o, limit: price(o.at) }, sink);
          named.set(book.placed, id);
          placed.set(id, book.placed);
          if (!o.rest) orders.set(id, { ...of(id), gone: left });
        } else {
          const target = 1 + (o.pick % Math.max(1, id));
          const open = openQty(book, place(target));
          if (o.kind === 'cancel')
            orders.set(target, { ...of(target), gone: of(target).gone + cancel(book, place(target)) });
          else if (reduce(book, place(target), o.to))
            orders.set(target, { ...of(target), gone: of(target).gone + open - o.to });
        }
      }
      for (const [k, o] of orders)
        if (o.qty > 0) expect([k, o.filled + o.gone + openQty(book, place(k))]).toEqual([k, o.qty]);
      expect([...orders.values()].reduce((a, o) => a + o.cash, 0)).toBe(0);
      const net = (side: Side) =>
        [...orders.values()].filter((o) => o.side === side).reduce((a, o) => a + o.filled, 0);
      expect(net('buy')).toBe(net('sell'));
    }),
    { numRuns: 300 },
  );
});

test('an order too far from the rest of the book is refused and leaves the book as it was', () => {
  const book = createBook(price(50_000));
  const sink: MatchSink = { trade: () => {}, selfTrade: () => {} };
  submit(book, { side: 'buy', limit: price(50_000), qty: 100, owner: 0, rest: true }, sink);
  expect(submit(book, { side: 'sell', limit: price(90_000_000), qty: 100, owner: 0, rest: true }, sink)).toBe(
    -1,
  );
  expect(depth(book, 'buy', 5)).toEqual([{ price: 50_000, qty: 100 }]);
  expect(bestAsk(book)).toBeNull();
});
