// What is read and never printed: other spellings, retired forms, and near misses that get an answer of their own.
import type { NamedPrice } from '../market/index.ts';
import { PRICE_SCALE } from '../units/index.ts';
import { ONE, writeDecimal } from './decimal.ts';
import { flag, many, maybe, one, type Reading, words } from './grammar.ts';
import {
  ACCOUNT_NAME,
  CANDLE,
  DECIMAL,
  MONEY,
  oneOf,
  PART,
  PRICE,
  RS,
  SHARE_OF_POWER,
  SHARES,
  SYMBOL,
  TIME,
} from './leaves.ts';
import { REFERENCE } from './reference-leaf.ts';
import type {
  Condition,
  Exit,
  LifeTree,
  PriceTree,
  PricingTree,
  Rule,
  Tree,
  TreeIn,
  TreeOf,
} from './tree.ts';

/** Declares a reading with the fields that its parts give. */
const reading = <F>(
  r: Omit<Reading, 'becomes' | 'wrong'> & {
    becomes: (fields: F) => Tree | null;
    wrong?: (fields: F, print: (t: Tree) => string) => ReturnType<NonNullable<Reading['wrong']>>;
  },
): Reading => r as unknown as Reading;

const dayOpen: PriceTree = { kind: 'reference', reference: { words: 'day open', args: [] } };
const bare = (n: number): string => writeDecimal(n, n % ONE === 0 ? 0 : 2);

/** What a bare number may have been meant as. */
const measures = (n: number): string[] =>
  n % ONE === 0
    ? [`${bare(n)}c`, `$${bare(n)}`, n === ONE ? '1 tick' : `${bare(n)} ticks`]
    : [`$${bare(n)}`, `${writeDecimal(n * 100)}c`];

/** The close of the last finished candle of so many minutes. */
const closeOf = (minutes: number): NamedPrice => ({
  words: 'CANDLE high|low|open|close [BACK back]',
  args: [minutes, 'close', null],
});

interface Sided {
  staged: boolean;
  verb: 'buy' | 'short' | 'sell' | 'cover' | 'close';
  pricing: PricingTree;
  symbol: string;
  life: readonly LifeTree[];
}

/** The own price of an order taken as that of another symbol. */
function foreignPricing(p: PricingTree, symbol: string): PricingTree {
  const foreign = (t: PriceTree): PriceTree => {
    if (t.kind === 'reference') return { kind: 'foreign', reference: t.reference, symbol };
    return t.kind === 'sum' ? { ...t, base: foreign(t.base) as typeof t.base } : t;
  };
  if (p.kind === 'limit' || p.kind === 'sweep') return { ...p, price: foreign(p.price) };
  return p.kind === 'stop' ? { ...p, trigger: foreign(p.trigger) } : p;
}

const whose = (tree: (f: Sided, over: { symbol: string | null; pricing: PricingTree }) => Tree) => ({
  becomes: (f: Sided) => tree(f, { symbol: f.symbol, pricing: f.pricing }),
  wrong: (f: Sided, print: (t: Tree) => string) => ({
    code: 'whose price' as const,
    symbol: f.symbol,
    fixes: [
      print(tree(f, { symbol: f.symbol, pricing: f.pricing })),
      print(tree(f, { symbol: null, pricing: foreignPricing(f.pricing, f.symbol) })),
    ],
  }),
});

export const READINGS: readonly Reading[] = [
  // --- sizes
  reading<{ r: number }>({
    slots: ['entry size', 'add size', 'ticket size'],
    parts: [one('r', RS)],
    becomes: ({ r }) => ({ kind: 'risk', r }),
  }),
  ...['shares', 'share'].map((unit) =>
    reading<{ n: number }>({
      slots: ['entry size', 'add size', 'close size', 'ticket size'],
      parts: [one('n', SHARES), words(unit)],
      unsaid: true,
      becomes: ({ n }) => ({ kind: 'shares', shares: n }),
    }),
  ),
  // Money in words: 1200 dollars, $1200 worth, 1200 dollars' worth of it.
  ...['dollars', 'dollar', 'dollars worth', "dollars' worth", 'usd', 'bucks', '$'].map((unit) =>
    reading<{ n: number }>({
      slots: ['entry size', 'add size', 'close size', 'ticket size'],
      parts: [one('n', SHARES), words(unit)],
      unsaid: true,
      becomes: ({ n }) => ({ kind: 'money', money: n * PRICE_SCALE }),
    }),
  ),
  reading<{ money: number }>({
    slots: ['entry size', 'add size', 'close size', 'ticket size'],
    parts: [one('money', MONEY), words('worth')],
    unsaid: true,
    becomes: ({ money }) => ({ kind: 'money', money }),
  }),
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
  reading<TreeOf<'part'>>({
    slots: ['entry size'],
    parts: [one('part', PART)],
    becomes: () => ({ kind: 'shares', shares: 100 }),
    wrong: () => ({ code: 'part on entry', fixes: [] }),
  }),
  ...[[words('risk'), one('money', MONEY)], [words('risk'), one('r', RS)], [one('r', RS)]].map((parts) =>
    reading<object>({
      slots: ['close size'],
      parts,
      becomes: () => ({ kind: 'part', part: { kind: 'all' } }),
      wrong: () => ({ code: 'risk on close', fixes: [] }),
    }),
  ),
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
          ? [`at ${bare(n)}`, `${bare(n)}c`, `$${bare(n)} away`]
          : [`at ${bare(n)}`, `$${bare(n)} away`],
    }),
  }),
  // --- the open and the close: once both an auction and a price
  reading<object>({ slots: ['price', 'base'], parts: [words('open')], becomes: () => dayOpen, retired: 1 }),
  reading<object>({
    slots: ['pricing'],
    parts: [words('at open')],
    insists: true,
    becomes: () => ({ kind: 'auction', which: 'open', price: null }),
    wrong: () => ({ code: 'which open', fixes: ['at the open', 'at day open'] }),
  }),
  reading<{ price: PriceTree }>({
    slots: ['pricing'],
    parts: [words('at open'), one('price', 'price')],
    becomes: ({ price }) => ({ kind: 'auction', which: 'open', price }),
    retired: 1,
  }),
  reading<object>({
    slots: ['pricing'],
    parts: [words('at close')],
    insists: true,
    becomes: () => ({ kind: 'auction', which: 'close', price: null }),
    wrong: () => ({ code: 'which close', fixes: ['at the close', 'at prior close'] }),
  }),
  reading<{ price: PriceTree }>({
    slots: ['pricing'],
    parts: [words('at close'), one('price', 'price')],
    becomes: ({ price }) => ({ kind: 'auction', which: 'close', price }),
    retired: 1,
  }),
  reading<{ reference: NamedPrice; symbol: string }>({
    slots: ['base'],
    parts: [one('reference', REFERENCE), words('of'), one('symbol', SYMBOL)],
    inBrackets: true,
    becomes: ({ reference, symbol }) => ({ kind: 'foreign', reference, symbol }),
  }),
  // --- a symbol after the price
  reading<Sided & { size: TreeIn<'entry size'>; exits: readonly Exit[]; plan: string | null }>({
    slots: ['statement', 'action', 'order'],
    parts: [
      flag('staged', 'stage'),
      one('verb', oneOf('buy or short', 'verb', 'buy', 'short')),
      one('size', 'entry size'),
      one('pricing', 'pricing'),
      words('of'),
      one('symbol', SYMBOL),
      many('life', 'life', 'once each'),
    ],
    ...(whose((f, over) => ({
      kind: 'enter',
      staged: f.staged,
      verb: f.verb as 'buy',
      size: (f as unknown as TreeOf<'enter'>).size,
      life: f.life,
      plan: null,
      exits: [],
      chain: [],
      ...over,
    })) as object as {
      becomes: (f: Sided) => Tree;
    }),
  }),
  reading<Sided & { size: TreeIn<'close size'> }>({
    slots: ['statement', 'action', 'order'],
    parts: [
      flag('staged', 'stage'),
      one('verb', oneOf('sell, cover or close', 'verb', 'sell', 'cover', 'close')),
      one('size', 'close size'),
      one('pricing', 'pricing'),
      words('of'),
      one('symbol', SYMBOL),
      many('life', 'life', 'once each'),
    ],
    ...(whose((f, over) => ({
      kind: 'close',
      staged: f.staged,
      verb: f.verb as 'sell',
      size: (f as unknown as TreeOf<'close'>).size,
      life: f.life,
      alone: false,
      chain: [],
      ...over,
    })) as object as {
      becomes: (f: Sided) => Tree;
    }),
  }),
  // --- how conditions are said as well
  ...(['above', 'below'] as const).map((way) =>
    reading<{ left: NamedPrice; symbol: string | null; right: PriceTree }>({
      slots: ['condition clause'],
      parts: [one('left', REFERENCE), maybe('symbol', SYMBOL, 'of'), words(way), one('right', 'price')],
      becomes: ({ left, symbol, right }) => ({
        kind: 'price is',
        left,
        symbol,
        op: way === 'above' ? '>' : '<',
        right,
      }),
    }),
  ),
  reading<{ what: 'gain' | 'loss'; profit: TreeIn<'profit'> }>({
    slots: ['condition clause'],
    parts: [one('what', oneOf('gain or loss', 'word', 'gain', 'loss')), words('>'), one('profit', 'profit')],
    becomes: ({ what, profit }) => ({ kind: 'gain is', what, profit }),
  }),
  reading<{ time: number }>({
    slots: ['condition clause'],
    parts: [words('time >'), one('time', TIME)],
    becomes: ({ time }) => ({ kind: 'time is', op: '>=', time }),
  }),
  ...(['above', 'below'] as const).map((way) =>
    reading<{ minutes: number; right: PriceTree }>({
      slots: ['condition clause'],
      parts: [one('minutes', CANDLE), words(`candle closes ${way}`), one('right', 'price')],
      becomes: ({ minutes, right }) => ({
        kind: 'price is',
        left: closeOf(minutes),
        symbol: null,
        op: way === 'above' ? '>' : '<',
        right,
      }),
    }),
  ),
  reading<{ low: number; high: number }>({
    slots: ['condition clause'],
    parts: [words('time between'), one('low', TIME), words('and'), one('high', TIME)],
    becomes: ({ low, high }) => ({
      kind: 'all conditions',
      of: [
        { kind: 'time is', op: '>=', time: low },
        { kind: 'time is', op: '<', time: high + 1 },
      ],
    }),
  }),
  // --- telling when something other than a rule comes true
  reading<{ symbol: string | null; condition: Condition; until: TreeIn<'wait end'> | null }>({
    slots: ['statement'],
    parts: [
      words('alert'),
      maybe('symbol', SYMBOL, 'of'),
      words('when'),
      one('condition', 'condition'),
      maybe('until', 'wait end'),
    ],
    becomes: ({ symbol, condition, until }) => ({
      kind: 'when',
      newly: false,
      condition,
      until,
      actions: [{ kind: 'tell', symbol }],
    }),
  }),
  reading<{ price: PriceTree }>({
    slots: ['statement'],
    parts: [words('alert me at'), one('price', 'price')],
    unsaid: true,
    becomes: ({ price }) => ({ kind: 'alert', symbol: null, price }),
  }),
  // --- what is not said here
  reading<object>({
    slots: ['pricing'],
    parts: [words('at ticket')],
    unsaid: true,
    becomes: () => ({ kind: 'market' }),
    wrong: () => ({ code: 'ticket price', fixes: [] }),
  }),
  reading<object>({
    slots: ['life'],
    parts: [words('route'), one('where', oneOf('lit, mid or sweep', 'word', 'lit', 'mid', 'sweep'))],
    unsaid: true,
    becomes: () => ({ kind: 'day' }),
    wrong: () => ({ code: 'route', fixes: [] }),
  }),
  reading<object>({
    slots: ['action'],
    parts: [words('use account'), one('name', ACCOUNT_NAME)],
    unsaid: true,
    becomes: () => ({ kind: 'cancel last', symbol: null }),
    wrong: () => ({ code: 'account waits', fixes: [] }),
  }),
  reading<{ symbol: string | null }>({
    slots: ['statement', 'action'],
    parts: [words('cancel stop'), maybe('symbol', SYMBOL, 'of')],
    becomes: ({ symbol }) => ({ kind: 'cancel some', which: 'stops', symbol }),
  }),
  // --- the other spelling
  reading<object>({
    slots: ['wait end'],
    parts: [words('until canceled')],
    becomes: () => ({ kind: 'until cancelled' }),
  }),
  // --- alerts said their symbol at the end
  reading<{ price: PriceTree; symbol: string }>({
    slots: ['statement'],
    parts: [words('alert at'), one('price', 'price'), words('of'), one('symbol', SYMBOL)],
    becomes: ({ price, symbol }) => ({ kind: 'alert', symbol, price }),
    retired: 1,
  }),
  reading<{ rule: Rule; symbol: string }>({
    slots: ['statement'],
    parts: [words('alert when'), one('rule', 'rule'), words('of'), one('symbol', SYMBOL)],
    becomes: ({ rule, symbol }) => ({ kind: 'alert when', symbol, rule }),
    retired: 1,
  }),
  reading<{ on: 'news' | 'halt'; symbol: string }>({
    slots: ['statement'],
    parts: [
      words('alert on'),
      one('on', oneOf('news or halt', 'word', 'news', 'halt')),
      words('of'),
      one('symbol', SYMBOL),
    ],
    becomes: ({ on, symbol }) => ({ kind: 'alert on', symbol, on }),
    retired: 1,
  }),
];
