// What can be wrong with a tree that reads, whatever the market does. Each finding says which part it is about.
import type { Part } from '../units/index.ts';
import { printTree } from './print.ts';
import type { Finding } from './problems.ts';
import { scanFindings } from './scan-checks.ts';
import type { Exit, Kind, LifeTree, OffsetTree, PricingTree, Tree, TreeIn, TreeOf } from './tree.ts';

const CHECKS: { readonly [K in Kind]?: (tree: TreeOf<K>) => Finding[] } = {
  enter: (t) => [
    ...lifeOf(t, t.pricing, t.life),
    ...trailing(t.pricing),
    ...exitsOf(t, t.exits, t.size, t.plan),
  ],
  add: (t) => [
    ...lifeOf(t, t.pricing, t.life),
    ...trailing(t.pricing),
    ...exitsOf(t, t.exits, t.size, t.plan),
  ],
  close: (t) => lifeOf(t, t.pricing, t.life),
  reverse: (t) => exitsOf(t, t.exits, null, t.plan),
  attach: (t) =>
    t.exits.length === 0
      ? [{ code: 'nothing attached', at: t, fixes: [`${printTree(t)}\n  stop 30c`] }]
      : exitsOf(t, t.exits, null, null),
  'one of': (t) => (t.of.length === 2 ? [] : [{ code: 'not two', at: t, have: t.of.length, fixes: [] }]),
  'price between': (t) =>
    t.low.kind === 'number' && t.high.kind === 'number' && t.low.price > t.high.price
      ? [
          {
            code: 'between turned',
            at: t,
            low: printTree(t.low),
            high: printTree(t.high),
            fixes: [printTree({ ...t, low: t.high, high: t.low })],
          },
        ]
      : [],
  between: (t) => turned(t),
  'alert any when': (t) => scanFindings(t.condition),
};

const turned = (t: TreeOf<'between'>): Finding[] =>
  t.low <= t.high
    ? []
    : [
        {
          code: 'between turned',
          at: t,
          low: String(t.low),
          high: String(t.high),
          fixes: [printTree({ ...t, low: t.high, high: t.low })],
        },
      ];

/** Everything that can be seen to be wrong with a tree and what is in it. */
export function checkTree(tree: Tree): Finding[] {
  const own = (CHECKS[tree.kind] as ((t: Tree) => Finding[]) | undefined)?.(tree) ?? [];
  for (const value of Object.values(tree))
    for (const inner of Array.isArray(value) ? value : [value])
      if (isTree(inner)) own.push(...checkTree(inner));
  return own;
}
const isTree = (v: unknown): v is Tree => typeof v === 'object' && v !== null && 'kind' in v;

const trailing = (p: PricingTree | null): Finding[] =>
  p?.kind === 'trailing' ? [{ code: 'trailing entry', at: p, fixes: ['above 1m high + 1c'] }] : [];

const isLife = (l: LifeTree): boolean =>
  l.kind !== 'post only' && l.kind !== 'extended hours' && l.kind !== 'account' && l.kind !== 'at next open';
/** A life that is over at once, or lasts beyond the day, does not fit every price. */
function lifeOf(
  tree: TreeOf<'enter' | 'add' | 'close'>,
  pricing: PricingTree | null,
  life: readonly LifeTree[],
): Finding[] {
  const lives = life.filter(isLife);
  const without = (l: LifeTree): string =>
    printTree({
      ...tree,
      ...('exits' in tree ? { exits: [] } : {}),
      life: life.filter((x) => x !== l),
    } as Tree);
  const [first, second] = lives;
  if (first && second)
    return [
      {
        code: 'two lives',
        at: tree,
        first: printTree(first),
        second: printTree(second),
        fixes: [without(second), without(first)],
      },
    ];
  const misfit = (l: LifeTree, because: string): Finding[] => [
    { code: 'unfit life', at: l, life: printTree(l), because, fixes: [''] },
  ];
  const has = (kind: LifeTree['kind']) => life.find((l) => l.kind === kind);
  const instant = has('ioc') ?? has('fok');
  const nextOpen = has('at next open');
  if (nextOpen && has('extended hours'))
    return misfit(nextOpen, 'what works outside the regular session does not wait for it');
  if (!pricing) return [];
  // In which account it goes is no life.
  const other = life.find((l) => l.kind !== 'account');
  if (pricing.kind === 'auction' && other)
    return misfit(other, 'an auction order works in that auction and ends with it');
  const mid =
    pricing.kind === 'hidden mid'
      ? (has('extended hours') ?? has('gtc') ?? has('until date') ?? has('post only'))
      : undefined;
  if (mid) return misfit(mid, 'midpoint orders live for the regular session: day, ioc or fok');
  const post = has('post only');
  if (post && (instant || pricing.kind !== 'limit'))
    return misfit(post, 'only a limit order that may rest can be post only: at PRICE post only');
  if (instant && (pricing.kind === 'market' || pricing.kind === 'stop order' || pricing.kind === 'trailing'))
    return misfit(
      instant,
      'only a limit order can be over at once: at PRICE, at mid hidden or sweep mid at PRICE',
    );
  return [];
}

const isR = (o: TreeIn<'gain'> | OffsetTree): boolean => o.kind === 'R';
const usesR = (e: Exit): boolean => {
  if (e.kind === 'target exit') return e.place.kind === 'away' && isR(e.place.by);
  if (e.kind === 'breakeven') return isR(e.after);
  if (e.kind === 'trail')
    return (e.after !== null && isR(e.after)) || (e.reach.kind === 'away' && isR(e.reach.by));
  return false;
};

/** Parts that make more than all, a second exit for the rest, R that nothing measures. */
function exitsOf(
  tree: Tree,
  exits: readonly Exit[],
  size: TreeIn<'entry size'> | TreeIn<'add size'> | null,
  plan: string | null,
): Finding[] {
  if (plan !== null && exits.length > 0) return [{ code: 'plan and exits', at: exits[0] as Exit, fixes: [] }];
  if (plan !== null) return [];
  const stops = exits.filter((e) => e.kind === 'stop exit');
  const targets = exits.filter((e) => e.kind === 'target exit');
  const out: Finding[] = [...partsOf('stops', stops), ...partsOf('targets', targets)];
  for (const kind of ['trail', 'breakeven', 'out by'] as const) {
    const second = exits.filter((e) => e.kind === kind)[1];
    if (second) out.push({ code: 'two of a kind', at: second, what: kind, fixes: [] });
  }
  for (const e of exits) {
    const after = e.kind === 'breakeven' || e.kind === 'trail' ? e.after : null;
    if (after?.kind === 'after target' && after.number > targets.length)
      out.push({
        code: 'no such target',
        at: after,
        number: after.number,
        have: targets.length,
        fixes: targets.length === 0 ? ['1R'] : [`target ${targets.length}`],
      });
    if (e.kind === 'stop exit' && e.place.kind === 'away' && isR(e.place.by))
      out.push({ code: 'stop in R', at: e.place, fixes: ['30c', '2%'] });
  }
  if (stops.length > 0) return out;
  const risk = size?.kind === 'risk' || size?.kind === 'risk money';
  const inR = exits.find(usesR);
  if (risk) out.push({ code: 'risk without stop', at: tree, fixes: [] });
  else if (inR && tree.kind !== 'attach') out.push({ code: 'R without stop', at: inR, fixes: [] });
  return out;
}

const share = (p: Part | null): number => (p === null || p.kind === 'all' ? 0 : p.num / p.den);
function partsOf(
  what: 'stops' | 'targets',
  exits: readonly (TreeOf<'stop exit'> | TreeOf<'target exit'>)[],
): Finding[] {
  const rest = exits.filter((e) => e.part === null || e.part.kind === 'all');
  const last = exits[exits.length - 1];
  if (rest.length > 1) {
    const second = rest[1] as Exit;
    return [{ code: 'two of a kind', at: second, what: what.slice(0, -1), fixes: [] }];
  }
  const sum = exits.reduce((a, e) => a + share(e.part), 0);
  if (sum <= 1 + 1e-9 && !(rest.length > 0 && sum > 1 - 1e-9)) return [];
  return [
    {
      code: 'too many parts',
      at: last as Exit,
      what,
      total: `${Math.round(sum * 100)}%${rest.length > 0 ? ' and the rest' : ''}`,
      fixes: [],
    },
  ];
}
