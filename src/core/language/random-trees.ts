import { FORMS } from './forms.ts';
import { IN_BRACKETS, type Leaf, type Part, type Slot } from './grammar.ts';
import { kindsIn } from './print.ts';
import type { Tree, TreeIn } from './tree.ts';

const DEEPEST = 4;

/** A tree that the forms allow in a slot, made up for a test; `r` gives numbers from 0 up to 1. It may be one that a check finds fault with. */
export function randomTree<S extends Slot>(slot: S, r: () => number, depth = 0): TreeIn<S> {
  const nests = (k: string) => k === 'lower' || k === 'higher' || k === 'not';
  const own = Object.keys(FORMS).filter(
    (k) =>
      (FORMS[k as keyof typeof FORMS].slots as readonly Slot[]).includes(slot) &&
      !(depth > DEEPEST && nests(k)),
  );
  const inner = IN_BRACKETS[slot];
  if (inner && depth > 0 && depth < DEEPEST && r() < 0.2) {
    const bracketed = randomTree(inner, r, depth + 1);
    if (!kindsIn(slot).has(bracketed.kind)) return bracketed as Tree as TreeIn<S>;
  }
  const kind = own[Math.floor(r() * own.length)] as keyof typeof FORMS;
  const form = FORMS[kind];
  const fields: Record<string, unknown> = { kind };
  for (const p of form.parts as readonly Part[])
    if (p.how !== 'words') fields[p.key] = randomField(p, fields, r, depth + 1);
  if ('collapses' in form) {
    const { of, base, shifts } = fields as { of?: Tree[]; base?: Tree; shifts?: Tree[] };
    if (of?.length === 1) return of[0] as TreeIn<S>;
    if (shifts?.length === 0) return base as TreeIn<S>;
  }
  return fields as TreeIn<S>;
}

function randomField(
  p: Exclude<Part, { how: 'words' }>,
  before: Record<string, unknown>,
  r: () => number,
  depth: number,
): unknown {
  const value = (is: unknown): unknown =>
    typeof is === 'string' ? randomTree(is as Slot, r, depth) : (is as Leaf<unknown>).random(r, before);
  switch (p.how) {
    case 'flag':
      return r() < 0.3;
    case 'one':
      return value(p.is);
    case 'maybe':
      return r() < 0.5 ? null : value(p.is);
    case 'many': {
      const least = p.by === 'and' || p.by === 'or' || p.by === 'block' ? 1 : 0;
      const most = depth >= DEEPEST ? least : 3;
      const list = Array.from(
        { length: least + Math.floor(r() * r() * (most - least + 1)) },
        () => value(p.is) as Tree,
      );
      if (p.by !== 'once each') return list;
      const order = Object.keys(FORMS);
      return list
        .filter((x, i) => list.findIndex((y) => y.kind === x.kind) === i)
        .sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind));
    }
  }
}
