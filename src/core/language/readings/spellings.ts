// Other ways to say what the forms say: read, and printed as the forms have it.
import { LIFE, OF } from '../forms/shared.ts';
import { maybe, one, type Part, type Reading, words } from '../grammar.ts';
import { MONEY, RS } from '../leaves/measures.ts';
import { oneOf, SYMBOL } from '../leaves/names.ts';
import { TIME } from '../leaves/times.ts';
import type {
  Action,
  CloseSize,
  Condition,
  EntrySize,
  LifeTree,
  OffsetTree,
  PriceTree,
  PricingTree,
  ReferenceTree,
  Statement,
} from '../tree.ts';
import { reading } from './reading.ts';

const from = (time: number): Condition => ({ kind: 'time is', op: '>=', time });
const waiting = (condition: Condition, action: Action): Statement => ({
  kind: 'when',
  newly: false,
  condition,
  until: null,
  actions: [action],
});
const enter = (
  verb: 'buy' | 'short',
  size: EntrySize,
  pricing: PricingTree,
  life: readonly LifeTree[],
): Statement => ({
  kind: 'enter',
  staged: false,
  verb,
  size,
  instrument: null,
  pricing,
  life,
  plan: null,
  exits: [],
  chain: [],
});
const close = (
  verb: 'sell' | 'cover' | 'close',
  size: CloseSize,
  pricing: PricingTree | null,
): Statement => ({
  kind: 'close',
  staged: false,
  verb,
  size,
  instrument: null,
  alone: false,
  pricing,
  life: [],
  chain: [],
});
const moved = (base: PriceTree, way: 'plus' | 'minus', by: OffsetTree): PriceTree =>
  base.kind === 'sum'
    ? { ...base, shifts: [...base.shifts, { kind: way, by }] }
    : { kind: 'sum', base, shifts: [{ kind: way, by }] };
const WAYS = [
  ['above', 'plus'],
  ['over', 'plus'],
  ['below', 'minus'],
  ['under', 'minus'],
] as const;
const LAST: ReferenceTree = { kind: 'last' };
const BUY_SHORT = one('verb', oneOf('buy or short', 'verb', 'buy', 'short'));
const CLOSING = one('verb', oneOf('sell, cover or close', 'verb', 'sell', 'cover', 'close'));

/** The order first, then what it waits for. */
const orderFirst = (lead: string): Reading =>
  reading<{ action: Action; condition: Condition }>({
    slots: ['statement'],
    parts: [one('action', 'action'), words(lead), one('condition', 'condition')],
    unsaid: true,
    becomes: ({ action, condition }) => waiting(condition, action),
  });

export const SPELLINGS: readonly Reading[] = [
  orderFirst('when'),
  orderFirst('if'),
  // --- a time of day instead of a condition
  reading<{ action: Action; time: number }>({
    slots: ['statement'],
    parts: [one('action', 'action'), words('at'), one('time', TIME)],
    unsaid: true,
    becomes: ({ action, time }) => waiting(from(time), action),
  }),
  reading<{ action: Action; time: number }>({
    slots: ['statement'],
    parts: [words('at'), one('time', TIME), one('action', 'action')],
    unsaid: true,
    becomes: ({ action, time }) => waiting(from(time), action),
  }),
  reading<{ time: number }>({
    slots: ['clause'],
    parts: [one('time', TIME)],
    unsaid: true,
    becomes: ({ time }) => from(time),
  }),
  // --- prices
  ...WAYS.flatMap(([word, way]): Reading[] => [
    reading<{ by: OffsetTree; base: PriceTree }>({
      slots: ['price'],
      parts: [one('by', 'offset'), words(word), one('base', 'base')],
      unsaid: true,
      becomes: ({ by, base }) => moved(base, way, by),
    }),
    reading<{ by: OffsetTree; base: PriceTree }>({
      slots: ['place'],
      parts: [one('by', 'offset'), words(word), one('base', 'base')],
      unsaid: true,
      becomes: ({ by, base }) => ({ kind: 'at', price: moved(base, way, by) }),
    }),
    reading<{ price: PriceTree }>({
      slots: ['place'],
      parts: [words(word), one('price', 'price')],
      unsaid: true,
      becomes: ({ price }) => ({ kind: 'at', price }),
    }),
  ]),
  reading<object>({
    slots: ['pricing'],
    parts: [words('hidden at mid')],
    unsaid: true,
    becomes: () => ({ kind: 'hidden mid' }),
  }),
  reading<{ price: PriceTree }>({
    slots: ['stop move'],
    parts: [words('at'), one('price', 'price')],
    unsaid: true,
    becomes: ({ price }) => ({ kind: 'stop to', price }),
  }),
  // --- sizes and kinds before the verb
  ...([one('money', MONEY), one('r', RS)] as Part[]).map((risk) =>
    reading<{
      money?: number;
      r?: number;
      verb: 'buy' | 'short';
      pricing: PricingTree;
      life: readonly LifeTree[];
    }>({
      slots: ['statement', 'action', 'order'],
      parts: [words('risk'), risk, BUY_SHORT, one('pricing', 'pricing'), LIFE],
      unsaid: true,
      becomes: ({ money, r, verb, pricing, life }) =>
        enter(
          verb,
          money === undefined ? { kind: 'risk', r: r as number } : { kind: 'risk money', money },
          pricing,
          life,
        ),
    }),
  ),
  reading<{ verb: 'buy' | 'short'; size: EntrySize }>({
    slots: ['statement', 'action', 'order'],
    parts: [words('market'), BUY_SHORT, one('size', 'entry size')],
    unsaid: true,
    becomes: ({ verb, size }) => enter(verb, size, { kind: 'market' }, []),
  }),
  reading<{ verb: 'sell' | 'cover' | 'close'; size: CloseSize }>({
    slots: ['statement', 'action', 'order'],
    parts: [words('market'), CLOSING, one('size', 'close size')],
    unsaid: true,
    becomes: ({ verb, size }) => close(verb, size, { kind: 'market' }),
  }),
  reading<{ size: CloseSize; pricing: PricingTree | null }>({
    slots: ['statement', 'action', 'order'],
    parts: [words('take'), one('size', 'close size'), words('off'), maybe('pricing', 'pricing')],
    unsaid: true,
    becomes: ({ size, pricing }) => close('close', size, pricing),
  }),
  // --- the last price by its field
  reading<{ symbol: string | null; way: 'above' | 'below'; right: PriceTree }>({
    slots: ['clause'],
    parts: [
      words('price'),
      OF,
      words('crosses'),
      one('way', oneOf('above or below', 'word', 'above', 'below')),
      one('right', 'price'),
    ],
    unsaid: true,
    becomes: ({ symbol, way, right }) => ({
      kind: 'price crosses',
      left: LAST,
      symbol,
      way,
      right,
    }),
  }),
  ...(
    [
      ['>', '>'],
      ['>=', '>='],
      ['<', '<'],
      ['<=', '<='],
      ['above', '>'],
      ['below', '<'],
    ] as const
  ).map(([said, op]) =>
    reading<{ symbol: string | null; right: PriceTree }>({
      slots: ['clause'],
      parts: [words('price'), OF, words(said), one('right', 'price')],
      unsaid: true,
      becomes: ({ symbol, right }) => ({ kind: 'price is', left: LAST, symbol, op, right }),
    }),
  ),
  // --- alerts
  ...(['hits', 'reaches', 'touches'] as const).map((word) =>
    reading<{ symbol: string; price: PriceTree }>({
      slots: ['statement', 'action'],
      parts: [words('alert when'), one('symbol', SYMBOL), words(word), one('price', 'price')],
      unsaid: true,
      becomes: ({ symbol, price }) => ({ kind: 'alert', symbol, price }),
    }),
  ),
  // --- which way?
  ...[one('left', 'reference'), words('price')].map((left) =>
    reading<{ left?: ReferenceTree; symbol: string | null; right: PriceTree }>({
      slots: ['clause'],
      parts: [left, OF, words('crosses'), one('right', 'price')],
      unsaid: true,
      becomes: (x) => ({ kind: 'price crosses', way: 'above', left: LAST, ...x }),
      wrong: (x, print) => ({
        code: 'which way',
        fixes: (['above', 'below'] as const).map((way) =>
          print({ kind: 'price crosses', left: LAST, ...x, way }),
        ),
      }),
    }),
  ),
  // --- a gain where a price would be: at 2R
  reading<{ verb: 'sell' | 'cover' | 'close'; size: CloseSize; r: number }>({
    slots: ['statement'],
    parts: [CLOSING, one('size', 'close size'), words('at'), one('r', RS)],
    unsaid: true,
    becomes: ({ verb, size }) => close(verb, size, null),
    wrong: ({ verb, size, r }, print) => ({
      code: 'gain price',
      fixes: [
        print(
          waiting(
            { kind: 'gain is', what: 'gain', profit: { kind: 'R', r } },
            close(verb, size, null) as Action,
          ),
        ),
      ],
    }),
  }),
];
