import fc from 'fast-check';
import { at, CENT, type Price, type Side, type WireId } from '../units/index.ts';
import type { VenueOrder } from '../venue/index.ts';
import {
  carryOut,
  createMarket,
  depthOf,
  type Market,
  practiceDay,
  quoteOf,
  stepMarket,
  tapeOf,
} from './index.ts';

const scenario = practiceDay('fresh-headlines', 7, 0, null, 12);
const SYMBOL = 'VULPN';
const started = (() => {
  const m = createMarket(scenario);
  while (stepMarket(m, at(9, 40)) >= 0);
  tapeOf(m, SYMBOL);
  return m;
})();
const copy = (): Market => ({ ...structuredClone({ ...started, scenario: null }), scenario });

type Command =
  | {
      kind: 'send';
      side: Side;
      cents: number;
      qty: number;
      how: 'day' | 'ioc' | 'fok' | 'post only' | 'mid' | 'mid ioc' | 'sweep';
    }
  | { kind: 'pull'; pick: number }
  | { kind: 'shrink'; pick: number; to: number }
  | { kind: 'wait'; ms: number };

const command: fc.Arbitrary<Command> = fc.oneof(
  {
    weight: 4,
    arbitrary: fc.record({
      kind: fc.constant('send' as const),
      side: fc.constantFrom<Side>('buy', 'sell'),
      cents: fc.integer({ min: -12, max: 12 }),
      qty: fc.integer({ min: 1, max: 3_000 }),
      how: fc.constantFrom(
        'day' as const,
        'ioc' as const,
        'fok' as const,
        'post only' as const,
        'mid' as const,
        'mid ioc' as const,
        'sweep' as const,
      ),
    }),
  },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('pull' as const), pick: fc.nat() }) },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('shrink' as const),
      pick: fc.nat(),
      to: fc.integer({ min: 1, max: 2_000 }),
    }),
  },
  {
    weight: 3,
    arbitrary: fc.record({ kind: fc.constant('wait' as const), ms: fc.integer({ min: 1, max: 20_000 }) }),
  },
);

/** What the test believes of one of its orders. */
interface Believed {
  side: Side;
  limit: number | null;
  qty: number;
  filled: number;
  over: boolean;
  instant: boolean;
  all: boolean;
  postOnly: boolean;
}

test('whatever the trader sends, pulls and shrinks: fills add up, keep their limits, and end when the order ends', () => {
  fc.assert(
    // biome-ignore lint/complexity/noExcessiveCognitiveComplexity: a player of commands
    fc.property(fc.array(command, { minLength: 3, maxLength: 25 }), (commands) => {
      const m = copy();
      const orders = new Map<number, Believed>();
      let now = m.now;
      let id = 0;
      // biome-ignore lint/complexity/noExcessiveCognitiveComplexity: one branch a report
      const hear = () => {
        for (const r of m.reports.splice(0)) {
          const o = orders.get(r.id) as Believed;
          expect([r.id, o.over]).toEqual([r.id, false]);
          if (r.kind === 'new' || r.kind === 'replaced') continue;
          if (r.kind !== 'fill') {
            o.over = true;
            continue;
          }
          o.filled += r.qty;
          const left = o.qty - o.filled;
          expect(r.qty > 0 && left >= 0 && r.better >= 0).toBe(true);
          if (o.limit !== null) expect(o.side === 'buy' ? r.price <= o.limit : r.price >= o.limit).toBe(true);
          if (o.postOnly) expect(r.liquidity).toBe('added');
          if (left === 0) o.over = true;
        }
      };
      const working = () => [...orders].filter(([, o]) => !o.over).map(([k]) => k);
      for (const c of commands) {
        const ids = working();
        if (c.kind === 'wait') {
          now += c.ms;
          while (stepMarket(m, now) >= 0);
          hear();
        } else if (c.kind === 'send') {
          const quote = quoteOf(m, SYMBOL);
          const from = (c.side === 'buy' ? quote.ask : quote.bid) as number;
          const limit = c.how === 'mid' || c.how === 'mid ioc' ? null : ((from + c.cents * CENT) as Price);
          const order: VenueOrder = {
            id: ++id as WireId,
            side: c.side,
            limit,
            qty: c.qty,
            life: c.how === 'ioc' || c.how === 'mid ioc' ? 'ioc' : c.how === 'fok' ? 'fok' : 'day',
            route: c.how === 'mid' || c.how === 'mid ioc' ? 'mid' : c.how === 'sweep' ? 'sweep' : 'lit',
            postOnly: c.how === 'post only',
            short: false,
          };
          const o: Believed = {
            side: c.side,
            limit,
            qty: c.qty,
            filled: 0,
            over: false,
            instant: order.life !== 'day',
            all: order.life === 'fok',
            postOnly: order.postOnly,
          };
          orders.set(id, o);
          carryOut(m, { kind: 'new', symbol: SYMBOL, ...order });
          hear();
          if (o.instant) expect(o.over).toBe(true);
          if (o.all) expect([0, o.qty]).toContain(o.filled);
        } else if (ids.length > 0) {
          const target = ids[c.pick % ids.length] as number;
          const o = orders.get(target) as Believed;
          if (c.kind === 'pull') {
            carryOut(m, { kind: 'cancel', id: target as WireId, symbol: SYMBOL });
            expect(m.reports.splice(0)).toMatchObject([{ kind: 'out', id: target, why: 'canceled' }]);
            o.over = true;
          } else {
            o.qty = o.filled + c.to;
            carryOut(m, {
              kind: 'replace',
              id: target as WireId,
              symbol: SYMBOL,
              qty: o.qty,
              limit: o.limit as Price | null,
            });
            hear();
          }
        }
        const { bids, asks } = depthOf(m, SYMBOL, 1);
        if (bids[0] && asks[0]) expect(bids[0].price).toBeLessThan(asks[0].price);
      }
      // Whoever is left is taken out, and then the exchange knows of nobody.
      for (const k of working()) carryOut(m, { kind: 'cancel', id: k as WireId, symbol: SYMBOL });
      while (stepMarket(m, now + 5_000) >= 0);
      expect(m.reports.filter((r) => r.kind === 'fill')).toEqual([]);
    }),
    { numRuns: 40 },
  );
});
