import { fromDollars } from '../units/index.ts';
import { idOf, multiplierOf, type OptionContract, stock, tickOf } from './index.ts';

const call: OptionContract = {
  kind: 'option',
  root: 'VULPN',
  expiry: '2026-04-17',
  right: 'call',
  strike: fromDollars(47.5),
};
const put: OptionContract = { ...call, right: 'put', strike: fromDollars(45) };
const vertical = {
  kind: 'combination' as const,
  legs: [
    { ratio: 1, of: call },
    { ratio: -1, of: put },
  ],
};

// Source: OCC option symbology: root padded to six, yymmdd, C or P, strike × 1000 in eight digits.
test('names, multipliers and ticks of a stock, an option and a combination', () => {
  expect([idOf(stock('VULPN')), idOf(call), idOf(put)]).toEqual([
    'VULPN',
    'VULPN 260417C00047500',
    'VULPN 260417P00045000',
  ]);
  expect(idOf(vertical)).toBe('+1 VULPN 260417C00047500 -1 VULPN 260417P00045000');
  expect([stock('A'), call, vertical].map(multiplierOf)).toEqual([1, 100, 100]);
  expect([
    tickOf(stock('A'), fromDollars(1)),
    tickOf(stock('A'), fromDollars(0.9)),
    tickOf(call, fromDollars(2.95)),
    tickOf(call, fromDollars(3)),
    tickOf(vertical, fromDollars(1)),
  ]).toEqual([100, 1, 500, 1_000, 500]);
});
