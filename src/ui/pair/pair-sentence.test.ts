import fc from 'fast-check';
import { parseScript } from '@/core/language';
import { formatPrice, type Price } from '@/core/units';
import { pairSentence } from './pair-sentence';

const pair = fc.record({
  id: fc.constant('p'),
  symbol: fc.constant(''),
  size: fc.constantFrom('100', '1,500', 'risk 1R', '$2,500', '20% of power', 'ticket'),
  plan: fc.constantFrom('', 'two steps'),
  when: fc.constantFrom('now' as const, 'staged' as const, 'at the open' as const),
  market: fc.boolean(),
  extended: fc.boolean(),
});

const SHARES = new Map([
  ['100', 100],
  ['1,500', 1_500],
]);

test('a pair says one sentence that reads, at the price on the button; it never turns a position, and closes no more than is held', () => {
  fc.assert(
    fc.property(
      pair,
      fc.constantFrom('buy' as const, 'sell' as const),
      fc.integer({ min: -3_000, max: 3_000 }),
      fc.integer({ min: 1, max: 9_000 }),
      (p, side, position, cents) => {
        const price = (cents * 100) as Price;
        const text = pairSentence(p, side, 'VULPN', position, price);
        // A risk needs a stop, which the plan brings; everything else reads as it stands.
        const { statements, problems } = parseScript(text);
        expect(problems.filter((x) => x.code !== 'risk without stop')).toEqual([]);
        const [s] = statements;
        const order = s?.kind === 'when' ? s.actions[0] : s;
        if (order?.kind !== 'enter' && order?.kind !== 'close') throw new Error(text);
        expect(order.instrument).toEqual({ kind: 'stock', symbol: 'VULPN' });
        expect(text.includes(p.market ? 'at market' : `at ${formatPrice(price)}`)).toBe(true);
        const against = side === 'buy' ? position < 0 : position > 0;
        expect(order.kind).toBe(against ? 'close' : 'enter');
        const shares = SHARES.get(p.size) ?? Number.POSITIVE_INFINITY;
        if (order.kind === 'close')
          expect(order.size).toEqual(
            shares < Math.abs(position)
              ? { kind: 'shares', shares }
              : { kind: 'part', part: { kind: 'all' } },
          );
      },
    ),
    { numRuns: 400 },
  );
});
