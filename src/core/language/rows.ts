// A statement as rows of words: what a guided editor shows, and where each word stands in the tree.
import { formOf } from './forms/index.ts';
import type { Kept, Leaf, Part } from './grammar.ts';
import type { Role } from './marks.ts';
import { kindsIn, printTree } from './print.ts';
import { inBrackets, type Slot } from './slots.ts';
import type { Kind, Statement, Tree } from './tree.ts';

/** Steps from a statement to something in it: the name of a field, and in a list the number of what is meant. */
export type Path = readonly (string | number)[];

/** A word or a few in a row, and what they are: words of a form, a value, or a flag that is set. */
export interface Word {
  text: string;
  role: Role;
  what: 'form' | 'value' | 'flag';
  /** The form, value or flag that it is of. */
  path: Path;
}

/** A line: the sentence itself, or an exit or order under it. */
export interface Row {
  indent: number;
  words: readonly Word[];
  /** The tree that the line is of. */
  path: Path;
}

/** A tree in a statement, and the slot that it stands in. */
export interface Node {
  slot: Slot;
  tree: Tree;
  path: Path;
}

export const partsOf = (kind: Kind): readonly Part[] => formOf(kind).parts;
export const fieldsOf = (tree: Tree): Readonly<Record<string, unknown>> =>
  tree as unknown as Record<string, unknown>;

/** Whether a tree is a price by its name. */
export const isNamed = (tree: Tree): boolean => kindsIn('reference').has(tree.kind);

/** A statement line by line, in the order in which it is printed. */
export function rowsOf(statement: Statement): Row[] {
  const rows: { indent: number; words: Word[]; path: Path }[] = [{ indent: 0, words: [], path: [] }];
  const say = (text: string, role: Role, what: Word['what'], path: Path) =>
    rows[rows.length - 1]?.words.push({ text, role, what, path });

  const slotted = (slot: Slot, tree: Tree, path: Path): void => {
    // A price by its name is one word.
    if (isNamed(tree)) {
      say(printTree(tree), 'price', 'form', path);
      return;
    }
    const bracketed = inBrackets(slot) && !kindsIn(slot).has(tree.kind);
    if (bracketed) say('(', 'word', 'form', path);
    form(tree, path);
    if (bracketed) say(')', 'word', 'form', path);
  };
  const value = (is: Slot | Leaf<never>, fields: Readonly<Record<string, unknown>>, path: Path): void => {
    const there = fields[path[path.length - 1] as string];
    if (typeof is === 'string') slotted(is, there as Tree, path);
    else say(is.write(there as never, fields), is.role, 'value', path);
  };
  let indent = 0;
  const list = (p: Extract<Part, { how: 'many' }>, trees: readonly Tree[], path: Path): void => {
    const depth = indent;
    trees.forEach((tree, n) => {
      const at = [...path, n];
      indent = depth;
      if (standsAlone(p, trees)) {
        indent = depth + 1;
        rows.push({ indent, words: [], path: at });
      }
      if (n > 0 && (p.by === 'and' || p.by === 'or')) say(p.by, 'word', 'form', path.slice(0, -1));
      slotted(p.is, tree, at);
    });
    indent = depth;
  };
  const form = (tree: Tree, path: Path): void => {
    const fields = fieldsOf(tree);
    for (const p of partsOf(tree.kind)) {
      if (p.how === 'words') say(p.text, 'word', 'form', path);
      else part(p, fields, [...path, p.key]);
    }
  };
  const part = (p: Kept, fields: Readonly<Record<string, unknown>>, at: Path): void => {
    const there = fields[p.key];
    if (p.how === 'many') list(p, there as readonly Tree[], at);
    else if (p.how === 'flag') {
      if (there) say(p.words.join(' '), 'word', 'flag', at);
    } else if (there !== null) {
      const [lead, tail] = p.how === 'maybe' ? [p.lead, p.tail] : [[], []];
      if (lead.length > 0) say(lead.join(' '), 'word', 'flag', at);
      value(p.is as Slot | Leaf<never>, fields, at);
      if (tail.length > 0) say(tail.join(' '), 'word', 'flag', at);
    }
  };
  form(statement, []);
  return rows;
}

/** Whether each of a list has a line of its own: one alone in a block does not. */
export const standsAlone = (p: Extract<Part, { how: 'many' }>, trees: readonly Tree[]): boolean =>
  p.by === 'lines' || (p.by === 'block' && trees.length > 1);

/** The trees on the way to a place, the statement first; a value or flag belongs to the last of them. */
export function nodesTo(statement: Statement, path: Path): Node[] {
  const out: Node[] = [{ slot: 'statement', tree: statement, path: [] }];
  for (let k = 0; k < path.length; k++) {
    const { tree } = out[out.length - 1] as Node;
    const key = path[k] as string;
    const part = partsOf(tree.kind).find((p) => p.how !== 'words' && p.key === key);
    if (!part || part.how === 'words' || part.how === 'flag') break;
    const { is } = part as { is: Slot | Leaf<never> };
    const field = fieldsOf(tree)[key];
    if (part.how === 'many') {
      k++;
      const inner = (field as readonly Tree[])[path[k] as number];
      if (!inner) break;
      out.push({ slot: part.is, tree: inner, path: path.slice(0, k + 1) });
    } else if (typeof is === 'string' && field !== null)
      out.push({ slot: is, tree: field as Tree, path: path.slice(0, k + 1) });
    else break;
  }
  return out;
}

/** The statement with something else at a place; a list that is left with one, or with none, is what it comes down to. */
export function put(statement: Statement, path: Path, value: unknown): Statement {
  const [step, ...rest] = path;
  if (step === undefined) return value as Statement;
  const old = fieldsOf(statement)[step as string];
  if (rest.length === 0) return { ...statement, [step]: value } as Statement;
  if (!Array.isArray(old)) return tidy({ ...statement, [step]: put(old as Statement, rest, value) });
  const [n, ...inner] = rest as [number, ...Path];
  const list = [...old];
  if (inner.length > 0) list[n] = put(list[n] as Statement, inner, value);
  else if (value === null) list.splice(n, 1);
  else list[n] = value;
  return tidy({ ...statement, [step]: list });
}

/** A list of one is that one; a price without distances is its base. */
function tidy<T>(tree: T): T {
  const { kind, of, base, shifts } = tree as { kind: Kind; of?: Tree[]; base?: Tree; shifts?: Tree[] };
  if (!formOf(kind).collapses) return tree;
  if (of?.length === 1) return of[0] as T;
  return shifts?.length === 0 ? (base as T) : tree;
}
