import fc from 'fast-check';
import {
  fromDollars,
  onTick,
  PRICE_SCALE,
  price,
  roundToTick,
  type Ticks,
  tickSize,
} from '../units/index.ts';
import {
  contractOf,
  idOf,
  instrumentOf,
  legsOf,
  mostToLose,
  nameOf,
  type OptionContract,
  occOf,
  rootOf,
  stock,
  ticksOf,
  type Vertical,
} from './index.ts';

const contract: fc.Arbitrary<OptionContract> = fc.record({
  kind: fc.constant('option' as const),
  root: fc.stringMatching(/^[A-Z]{1,6}$/),
  expiry: fc.constantFrom('2027-03-19', '2027-06-17', '2028-01-21'),
  right: fc.constantFrom('call' as const, 'put' as const),
  strike: fc.integer({ min: 1, max: 40_000 }).map((n) => price(n * 0.5 * PRICE_SCALE)),
});

// Source: OCC option symbology: root padded to six, yymmdd, C or P, strike × 1000 in eight digits.
test('published names: examples, and every contract is read back', () => {
  const call: OptionContract = {
    kind: 'option',
    root: 'VULPN',
    expiry: '2027-04-16',
    right: 'call',
    strike: fromDollars(47.5),
  };
  const put: OptionContract = { ...call, right: 'put', strike: fromDollars(45) };
  expect(idOf(call)).toBe('VULPN 270416C00047500');
  expect(idOf(put)).toBe('VULPN 270416P00045000');
  const legs = [
    { ratio: 1, of: put },
    { ratio: -1, of: { ...put, strike: fromDollars(40) } },
  ];
  expect(idOf({ kind: 'combination', legs })).toBe('+1 VULPN 270416P00045000 -1 VULPN 270416P00040000');
  expect(occOf('VULPN 2027-04-16 45/40 put')).toBe('1 VULPN 270416P00045000 -1 VULPN 270416P00040000');
  expect(occOf('VULPN 2027-04-16 47.5 call')).toBe('VULPN 270416C00047500');
  expect(contractOf('VULPN 270416X00045000')).toBeNull();
  expect(contractOf('VULPN')).toBeNull();
  fc.assert(fc.property(contract, (c) => expect(contractOf(idOf(c))).toEqual(c)));
});

test('names as sentences write them are read back; legs and what can still be lost follow from them', () => {
  fc.assert(
    fc.property(contract, fc.integer({ min: 1, max: 40 }), (c, width) => {
      expect(instrumentOf(nameOf(c))).toEqual(c);
      expect(rootOf(nameOf(c))).toBe(c.root);
      const other = price(c.strike + width * 0.5 * PRICE_SCALE);
      const v: Vertical = {
        kind: 'vertical',
        root: c.root,
        expiry: c.expiry,
        right: c.right,
        dear: c.right === 'call' ? c.strike : other,
        cheap: c.right === 'call' ? other : c.strike,
      };
      expect(instrumentOf(nameOf(v))).toEqual(v);
      expect(legsOf(nameOf(v)).map((l) => l.sign)).toEqual([1, -1]);
      // What the one side can lose the other can win.
      const at = width * 0.2 * PRICE_SCALE;
      expect(mostToLose(nameOf(v), 1, at) + mostToLose(nameOf(v), -1, at)).toBeCloseTo(other - c.strike, 6);
    }),
  );
  expect(mostToLose('VULPN 2027-04-16 45 call', -1, 100)).toBe(Number.POSITIVE_INFINITY);
  expect(instrumentOf('VULPN')).toEqual(stock('VULPN'));
  expect(ticksOf('VULPN 2027-04-16 5/4.5 put', false)).toBe('cent');
});

// Source: the penny program of the options exchanges (common practice): a cent and a nickel, or a nickel and a dime, by three dollars.
test('steps of prices: each rounds onto its own, never the wrong way', () => {
  expect([2.99, 3].map((d) => tickSize(fromDollars(d), 'penny class'))).toEqual([100, 500]);
  expect([2.99, 3].map((d) => tickSize(fromDollars(d), 'nickel class'))).toEqual([500, 1_000]);
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 5_000_000 }),
      fc.constantFrom<Ticks>('stock', 'cent', 'penny class', 'nickel class'),
      (units, ticks) => {
        const [down, near, up] = (['down', 'nearest', 'up'] as const).map((how) =>
          roundToTick(units, how, ticks),
        ) as number[] as [number, number, number];
        for (const p of [down, near, up]) expect(onTick(price(p), ticks)).toBe(true);
        if (units >= tickSize(units, ticks)) expect(down).toBeLessThanOrEqual(units);
        expect(up).toBeGreaterThanOrEqual(units);
        expect(up - down).toBeLessThanOrEqual(tickSize(up, ticks));
      },
    ),
  );
});
