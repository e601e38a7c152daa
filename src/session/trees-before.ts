// Trees that an earlier version kept, as this one reads them.
import { instrumentNamed, readAs } from '../core/language/index.ts';

type Node = Record<string, unknown>;
type Change = (n: Node) => Node;

/** A price by its name was a pattern and what stood in it. */
const named = (x: unknown): unknown => {
  const { words, args } = x as { words?: string; args?: unknown[] };
  if (words === undefined || args === undefined) return x;
  const left = [...args];
  const out: string[] = [];
  for (const w of words.split(' ')) {
    if (/^[a-z]+$/.test(w) || w === '15m') out.push(w);
    else if (w.endsWith(']')) out.push(w.slice(0, -1));
    else {
      const arg = left.shift();
      // What may be left out goes with the word behind it.
      if (arg == null) break;
      out.push(written(w, arg));
    }
  }
  const tree = readAs('reference', out.join(' '));
  // Another price in its place would be another order.
  if (tree === null) throw new Error(`A price that was kept is not known: ${out.join(' ')}`);
  return tree;
};
const written = (place: string, arg: unknown): string => {
  if (place === 'NAME') return `"${arg}"`;
  if (place === 'PERCENT') return `${arg}%`;
  return ['CANDLE', 'MINUTES'].includes(place) || (place === 'CANDLES' && arg !== 'day')
    ? `${arg}m`
    : `${arg}`;
};

const renamed =
  (kind: string): Change =>
  (n) => ({ ...n, kind });
/** A field of no other symbol was a clause without one. */
const ofNone: Change = (n) => ('field' in n && !('symbol' in n) ? { ...n, symbol: null } : n);
const ruled: Change = (n) => {
  const { rule, ...rest } = n;
  if (rule === undefined) return n;
  return { ...rest, condition: rule, ...(n.kind === 'alert when' ? { until: null } : {}) };
};
/** What is traded was a text. */
const ofText: Change = (n) => {
  const { symbol, ...rest } = n;
  // What is sent to the broker says its account, and a symbol all the same.
  if (symbol === undefined || 'account' in n) return n;
  return { ...rest, instrument: symbol === null ? null : instrumentNamed(symbol as string) };
};
/** One thing in a place where now several may stand. */
const several =
  (from: string, to: string): Change =>
  (n) => {
    const { [from]: one, ...rest } = n;
    return one === undefined ? n : { ...rest, [to]: [one] };
  };
const priced: Change = (n) => {
  const pricing = n.pricing as Node | null | undefined;
  const kind = { stop: 'stop order', mid: 'hidden mid' }[pricing?.kind as string];
  return kind === undefined ? n : { ...n, pricing: { ...pricing, kind } };
};
const nameAt =
  (key: string): Change =>
  (n) => {
    const tree = named(n[key]);
    return tree === n[key] ? n : { ...n, [key]: tree };
  };
const both =
  (...changes: Change[]): Change =>
  (n) =>
    changes.reduce((x, change) => change(x), n);

const CHANGES: Readonly<Record<string, Change>> = {
  // Until version 2.
  when: several('action', 'actions'),
  'once filled': several('order', 'orders'),
  'once filled when': several('order', 'orders'),
  away: (n) => (n.sure === undefined ? { ...n, sure: (n.by as Node).kind === 'dollars' } : n),
  // Until version 3.
  reference: (n) => (n.reference === undefined ? n : (named(n.reference) as Node)),
  foreign: nameAt('reference'),
  'price is': nameAt('left'),
  'price crosses': nameAt('left'),
  'price between': nameAt('left'),
  'any condition': renamed('any'),
  'all conditions': renamed('all'),
  'not condition': renamed('not'),
  'field of': renamed('compare'),
  'field between of': renamed('between'),
  'choice of': renamed('is'),
  'flag of': renamed('flag'),
  compare: ofNone,
  between: ofNone,
  is: ofNone,
  flag: ofNone,
  'alert when': ruled,
  'alert any when': ruled,
  enter: both(ofText, priced),
  add: both(ofText, priced),
  close: both(ofText, priced),
  replacement: priced,
  ...Object.fromEntries(
    [
      'reverse',
      'move stop',
      'move all',
      'replace last',
      'cancel last',
      'cancel some',
      'cancel symbol',
      'flatten',
      'attach',
      'attach plan',
      'last order',
    ].map((kind) => [kind, ofText]),
  ),
};

/** The same with every tree in it as this version has it; itself where nothing has changed. */
export function treesFromBefore<T>(x: T): T {
  if (Array.isArray(x)) {
    const list = x.map(treesFromBefore);
    return (list.some((y, k) => y !== x[k]) ? list : x) as T;
  }
  if (typeof x !== 'object' || x === null) return x;
  const tree = x as Node;
  const inner: Node = {};
  for (const key in tree) inner[key] = treesFromBefore(tree[key]);
  const same = Object.keys(tree).every((key) => inner[key] === tree[key]);
  const change = CHANGES[tree.kind as string];
  const out = change ? change(same ? tree : inner) : same ? tree : inner;
  return out as T;
}
