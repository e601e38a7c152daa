import { formOf, KINDS } from './forms/index.ts';
import type { Kept, Leaf } from './grammar.ts';
import { kindsIn } from './print.ts';
import { inBrackets, type Slot } from './slots.ts';
import type { Tree, TreeIn } from './tree.ts';

const DEEPEST = 4;

/** A tree that the forms allow in a slot, made up for a test; `r` gives numbers from 0 up to 1. It may be one that a check finds fault with. */
export function randomTree<S extends Slot>(slot: S, r: () => number, depth = 0): TreeIn<S> {
  const nests = (k: string) => k === 'lower' || k === 'higher' || k === 'not';
  const own = KINDS.filter((k) => formOf(k).slots.includes(slot) && !(depth > DEEPEST && nests(k)));
  const inner = inBrackets(slot);
  if (inner && depth > 0 && depth < DEEPEST && r() < 0.2) {
    const bracketed = randomTree(inner, r, depth + 1);
    if (!kindsIn(slot).has(bracketed.kind)) return bracketed as Tree as TreeIn<S>;
  }
  const kind = own[Math.floor(r() * own.length)] as (typeof own)[number];
  const form = formOf(kind);
  const fields: Record<string, unknown> = { kind };
  for (const p of form.parts) if (p.how !== 'words') fields[p.key] = randomField(p, fields, r, depth + 1);
  if (form.collapses) {
    const { of, base, shifts } = fields as { of?: Tree[]; base?: Tree; shifts?: Tree[] };
    if (of?.length === 1) return of[0] as TreeIn<S>;
    if (shifts?.length === 0) return base as TreeIn<S>;
  }
  return fields as TreeIn<S>;
}

function randomField(p: Kept, before: Record<string, unknown>, r: () => number, depth: number): unknown {
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
      return list
        .filter((x, i) => list.findIndex((y) => y.kind === x.kind) === i)
        .sort((a, b) => KINDS.indexOf(a.kind) - KINDS.indexOf(b.kind));
    }
  }
}
