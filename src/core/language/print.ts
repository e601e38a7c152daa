import { formOf, KINDS } from './forms/index.ts';
import type { Leaf, Part } from './grammar.ts';
import { inBrackets, type Slot } from './slots.ts';
import type { Kind, Tree } from './tree.ts';

const accepts = new Map<Slot, ReadonlySet<Kind>>();
/** The kinds that a slot takes without brackets: its own, and those of what a list of one is. */
export function kindsIn(slot: Slot): ReadonlySet<Kind> {
  const known = accepts.get(slot);
  if (known) return known;
  const out = new Set<Kind>();
  accepts.set(slot, out);
  for (const kind of KINDS) {
    const f = formOf(kind);
    if (!f.slots.includes(slot)) continue;
    out.add(kind);
    if (!f.collapses) continue;
    const inner = f.parts.find((p) => p.how === 'one' || p.how === 'many');
    if (inner && 'is' in inner) for (const k of kindsIn(inner.is as Slot)) out.add(k);
  }
  return out;
}

/** Two pieces of text side by side; brackets hold what is in them without blanks. */
const joined = (a: string, b: string): string =>
  a === '' ? b : /[(/]$/.test(a) || /^[):/\n]/.test(b) ? a + b : `${a} ${b}`;

/** The tidy text of a tree: reading it gives the same tree again. Exits stand on lines of their own. */
export const printTree = (tree: Tree): string =>
  printParts(formOf(tree.kind).parts, tree as unknown as Record<string, unknown>);

/** Parts with the fields of a tree, or of a reading, as text. */
export function printParts(parts: readonly Part[], fields: Readonly<Record<string, unknown>>): string {
  let out = '';
  for (const p of parts) {
    const text = printPart(p, fields);
    if (text !== '') out = joined(out, text);
  }
  return out;
}

function printPart(p: Part, fields: Readonly<Record<string, unknown>>): string {
  if (p.how === 'words') return p.text;
  const value = fields[p.key];
  switch (p.how) {
    case 'flag':
      return value ? p.words.join(' ') : '';
    case 'one':
      return printValue(p.is as Slot | Leaf<never>, value, fields);
    case 'maybe':
      return value === null
        ? ''
        : [...p.lead, printValue(p.is as Slot | Leaf<never>, value, fields), ...p.tail].join(' ');
    case 'many': {
      const each = (value as readonly Tree[]).map((t) => inSlot(p.is, t));
      // One alone stands on the line itself.
      if (p.by === 'block' && each.length === 1) return each[0] as string;
      if (p.by === 'lines' || p.by === 'block')
        return each.map((e) => `\n  ${e.replaceAll('\n', '\n  ')}`).join('');
      return each.join(p.by === 'and' || p.by === 'or' ? ` ${p.by} ` : ' ');
    }
  }
}

const printValue = (
  is: Slot | Leaf<never>,
  value: unknown,
  fields: Readonly<Record<string, unknown>>,
): string => (typeof is === 'string' ? inSlot(is, value as Tree) : is.write(value as never, fields));

const inSlot = (slot: Slot, tree: Tree): string =>
  inBrackets(slot) && !kindsIn(slot).has(tree.kind) ? `(${printTree(tree)})` : printTree(tree);

/** The trees that begin on each line of the printed text. */
export function linesIn(statements: readonly Tree[]): Tree[][] {
  const lines: Tree[][] = [];
  const under = (tree: Tree): void => {
    const fields = tree as unknown as Record<string, readonly Tree[]>;
    for (const p of formOf(tree.kind).parts) {
      if (p.how !== 'many' || (p.by !== 'lines' && p.by !== 'block')) continue;
      const list = fields[p.key] as readonly Tree[];
      for (const inner of list) {
        if (p.by === 'block' && list.length === 1) (lines[lines.length - 1] as Tree[]).push(inner);
        else lines.push([inner]);
        under(inner);
      }
    }
  };
  for (const s of statements) {
    lines.push([s]);
    under(s);
  }
  return lines;
}
