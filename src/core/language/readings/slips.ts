// What is read and never printed: retired forms, and near misses that get an answer of their own.

import { ONE, writeDecimal } from '../decimal.ts';
import { RIGHT, ROOT } from '../forms/instruments.ts';
import { LIFE, STAGED } from '../forms/shared.ts';
import { one, type Reading, words } from '../grammar.ts';
import { DECIMAL, PRICE, SHARE_OF_POWER } from '../leaves/measures.ts';
import { ACCOUNT_NAME, SYMBOL } from '../leaves/names.ts';
import { TIME } from '../leaves/times.ts';
import type { LifeTree, OrderTree, PriceTree, PricingTree, ReferenceTree, TreeIn, TreeOf } from '../tree.ts';
import { reading } from './reading.ts';
import { said } from './said.ts';

const bare = (n: number): string => writeDecimal(n, n % ONE === 0 ? 0 : 2);

/** What a bare number may have been meant as. */
const measures = (n: number): string[] =>
  n % ONE === 0
    ? [`${bare(n)}c`, `$${bare(n)}`, n === ONE ? '1 tick' : `${bare(n)} ticks`]
    : [`$${bare(n)}`, `${writeDecimal(n * 100)}c`];

interface Sided {
  staged: boolean;
  size: TreeIn<'entry size'>;
  pricing: PricingTree;
  symbol: string;
  life: readonly LifeTree[];
}

/** The own price of an order taken as that of another symbol. */
function foreignPricing(p: PricingTree, symbol: string): PricingTree {
  const foreign = (t: PriceTree): PriceTree => {
    switch (t.kind) {
      case 'sum':
        return { ...t, base: foreign(t.base) };
      case 'number':
      case 'foreign':
      case 'lower':
      case 'higher':
        return t;
      default:
        return { kind: 'foreign', reference: t, symbol };
    }
  };
  if (p.kind === 'limit' || p.kind === 'sweep') return { ...p, price: foreign(p.price) };
  return p.kind === 'stop order' ? { ...p, trigger: foreign(p.trigger) } : p;
}

/** An order with its symbol behind its price: whose is the price? */
const whose = (
  verb: TreeOf<'enter'>['verb'] | TreeOf<'close'>['verb'],
  size: 'entry size' | 'close size',
  rest: object,
): Reading => {
  const tree = (f: Sided, own: { symbol: string | null; pricing: PricingTree }) =>
    ({
      ...f,
      ...rest,
      verb,
      instrument: own.symbol === null ? null : { kind: 'stock', symbol: own.symbol },
      pricing: own.pricing,
      chain: [],
    }) as unknown as OrderTree;
  return reading<Sided>({
    slots: ['statement', 'action', 'order'],
    parts: [
      STAGED,
      words(verb),
      one('size', size),
      one('pricing', 'pricing'),
      words('of'),
      one('symbol', SYMBOL),
      LIFE,
    ],
    becomes: ({ symbol, ...f }) => tree({ symbol, ...f }, { symbol, pricing: f.pricing }),
    wrong: (f, print) => ({
      code: 'whose price',
      symbol: f.symbol,
      fixes: [
        print(tree(f, f)),
        print(tree(f, { symbol: null, pricing: foreignPricing(f.pricing, f.symbol) })),
      ],
    }),
  });
};

const SIZES = ['entry size', 'add size', 'close size', 'ticket size'] as const;

export const SLIPS: readonly Reading[] = [
  // --- sizes
  said(['entry size', 'add size', 'ticket size'], 'R', 'risk R'),
  ...['shares', 'share'].map((unit) => said(SIZES, `SHARES ${unit}`, 'SHARES')),
  // Money in words: 1200 dollars, $1200 worth, 1200 dollars' worth of it.
  ...['dollars', 'dollar', 'dollars worth', "dollars' worth", 'usd', 'bucks', '$'].map((unit) =>
    said(SIZES, `SHARES ${unit}`, '$ SHARES'),
  ),
  said(SIZES, 'MONEY worth', 'MONEY'),
  reading<{ n: number }>({
    slots: ['entry size', 'add size', 'ticket size'],
    parts: [words('risk'), one('n', PRICE)],
    becomes: ({ n }) => ({ kind: 'risk money', money: n }),
    wrong: ({ n }) => ({
      code: 'bare risk',
      found: bare(n),
      fixes: [`risk $${bare(n)}`],
    }),
  }),
  said('entry size', 'PART', '100', { wrong: 'part on entry' }),
  ...['risk MONEY', 'risk R', 'R'].map((size) => said('close size', size, 'all', { wrong: 'risk on close' })),
  reading<{ percent: number }>({
    slots: ['close size'],
    parts: [one('percent', SHARE_OF_POWER), words('of power')],
    becomes: () => ({ kind: 'part', part: { kind: 'all' } }),
    wrong: ({ percent }) => ({
      code: 'power on close',
      percent: `${bare(percent)}%`,
      fixes: [`${bare(percent)}% of "POWER"`],
    }),
  }),
  // --- distances
  reading<{ units: number }>({
    slots: ['offset'],
    parts: [one('units', DECIMAL)],
    becomes: ({ units }) => ({ kind: 'dollars', units }),
  }),
  reading<{ n: number }>({
    slots: ['offset'],
    parts: [one('n', PRICE)],
    becomes: ({ n }) => (n % ONE === 0 ? { kind: 'dollars', units: n } : null),
    wrong: ({ n }) => ({ code: 'bare number', found: bare(n), fixes: measures(n) }),
  }),
  reading<{ n: number }>({
    slots: ['distance', 'gain'],
    parts: [one('n', PRICE)],
    becomes: ({ n }) => ({ kind: 'dollars', units: n }),
    wrong: ({ n }) => ({ code: 'bare number', found: bare(n), fixes: measures(n) }),
  }),
  reading<{ n: number }>({
    slots: ['place'],
    parts: [one('n', PRICE)],
    becomes: ({ n }) => ({ kind: 'at', price: { kind: 'number', price: n } }),
    wrong: ({ n }) => ({
      code: 'at or away',
      found: bare(n),
      fixes:
        n % ONE === 0
          ? [`at ${writeDecimal(n, 2)}`, `$${bare(n)} away`, `${bare(n)}c`]
          : [`at ${bare(n)}`, `$${bare(n)} away`],
    }),
  }),
  reading<{ reference: ReferenceTree; symbol: string }>({
    slots: ['base'],
    parts: [one('reference', 'reference'), words('of'), one('symbol', SYMBOL)],
    inBrackets: true,
    becomes: ({ reference, symbol }) => ({ kind: 'foreign', reference, symbol }),
  }),
  // --- a symbol after the price
  ...(['buy', 'short'] as const).map((verb) =>
    whose(verb, 'entry size', { kind: 'enter', plan: null, exits: [] }),
  ),
  ...(['sell', 'cover', 'close'] as const).map((verb) =>
    whose(verb, 'close size', { kind: 'close', alone: false }),
  ),
  // --- an option without its expiry
  ...[
    [one('strike', 'strike'), one('right', RIGHT)],
    [one('right', RIGHT), one('strike', 'strike')],
    [one('right', RIGHT)],
  ].map((parts) =>
    reading<{ root: string | null; strike?: TreeIn<'strike'>; right: 'call' | 'put' }>({
      slots: ['instrument'],
      parts: [ROOT, ...parts],
      unsaid: true,
      becomes: ({ root }) => ({ kind: 'stock', symbol: root ?? 'X' }),
      wrong: ({ root, strike, right }, print) => ({
        code: 'no expiry',
        found: [...(strike ? [print(strike)] : []), right].join(' '),
        fixes: [7, 30, 45].map((days) =>
          print({
            kind: 'option',
            root,
            expiry: { kind: 'expires in', days },
            strike: strike ?? { kind: 'strike at the money' },
            other: null,
            right,
          }),
        ),
      }),
    }),
  ),
  reading<{ low: number; high: number }>({
    slots: ['clause'],
    parts: [words('time between'), one('low', TIME), words('and'), one('high', TIME)],
    becomes: ({ low, high }) => ({
      kind: 'all',
      of: [
        { kind: 'time is', op: '>=', time: low },
        { kind: 'time is', op: '<', time: high + 1 },
      ],
    }),
  }),
  reading<object>({
    slots: ['action'],
    parts: [words('use account'), one('name', ACCOUNT_NAME)],
    unsaid: true,
    becomes: () => ({ kind: 'cancel last', instrument: null }),
    wrong: () => ({ code: 'account waits', fixes: [] }),
  }),
];
