// The guided editor's arithmetic: what each word of a statement may be instead, and what may be added to it.
// All of it comes from the forms, so that a form that is added later is offered by itself; and nothing is
// offered that does not read.
import { formOf, KINDS } from './forms/index.ts';
import type { Kept, Leaf, Part, Task } from './grammar.ts';
import { ACCOUNT_NAME, LEVEL_NAME, PLAN_NAME, SYMBOL } from './leaves/names.ts';
import { madeAll } from './made.ts';
import { NAMED_PRICES } from './named-prices.ts';
import { readAs, readsAs } from './piece.ts';
import { kindsIn, printTree } from './print.ts';
import type { Problem } from './problems.ts';
import {
  fieldsOf,
  isNamed,
  type Node,
  nodesTo,
  type Path,
  partsOf,
  put,
  standsAlone,
  type Word,
} from './rows.ts';
import { parseScript } from './script.ts';
import { placeOf, type Slot } from './slots.ts';
import { tokenize } from './tokens.ts';
import type { Kind, Statement, Tree } from './tree.ts';

/** Something that may be chosen, and what the statement is then. */
export interface Choice {
  text: string;
  /** What it means; '' where the words say it. */
  says: string;
  /** What it is one of, where it is one of several forms. */
  slot: Slot | null;
  statement: Statement;
}

/** The trader's own names, that are offered where one may stand; the first of each is taken unasked. */
export interface Known {
  symbols: readonly string[];
  plans: readonly string[];
  accounts: readonly string[];
  levels: readonly string[];
}
const NOTHING_KNOWN: Known = { symbols: [], plans: [], accounts: [], levels: [] };
const namesFor = (leaf: Leaf<never>, known: Known): readonly string[] => {
  const of = new Map<unknown, readonly string[]>([
    [SYMBOL, known.symbols],
    [PLAN_NAME, known.plans],
    [ACCOUNT_NAME, known.accounts],
    [LEVEL_NAME, known.levels],
  ]);
  return of.get(leaf) ?? [];
};

/** What may be done at a word. */
export interface Choices {
  /** A value that may be typed: what it is called, as it stands. */
  typed: { is: string; text: string } | null;
  values: readonly Choice[];
  instead: readonly Choice[];
  /** The statement without it, where it may be left out. */
  without: Statement | null;
}

const SAYS: Readonly<Record<Task, string>> = {
  Enter: 'Open a position, or add to it',
  Exit: 'Out of a part or of all',
  'Move a stop or an order': 'Stops, targets and orders that work',
  Protect: 'Put exits on what is held',
  Cancel: 'Take back what works or waits',
  Size: 'The size of the ticket',
  'Wait for': 'Do something once it comes',
  'Tell me': 'Alerts, levels and notes',
  'See and set': 'Focus, hours, accounts',
};
/** What a trader wants to do, and the kinds of statements that do it. */
export const TASKS: readonly { name: string; says: string; kinds: readonly Kind[] }[] = (
  Object.keys(SAYS) as Task[]
).map((name) => ({
  name,
  says: SAYS[name],
  kinds: KINDS.filter((k) => formOf(k).task === name && kindsIn('statement').has(k)),
}));

/** A first statement of a kind. */
export const begin = (kind: Kind): Statement => madeIn('statement', kind) as Statement;

/** What may stand in place of a word. */
export function choicesAt(statement: Statement, word: Word, known = NOTHING_KNOWN): Choices {
  const nodes = nodesTo(statement, word.path);
  const node = nodes[nodes.length - 1] as Node;
  const part = partAt(node, word.path);
  const leaf = leafOf(part);
  const fields = fieldsOf(node.tree);
  const named = isNamed(node.tree);
  const values = named
    ? namedPrices(statement, node.path)
    : leaf
      ? valuesOf(leaf, fields, statement, word.path, known)
      : [];
  const instead = (word.what === 'form' ? [node] : leaf ? standingFor(nodes) : []).flatMap((n) =>
    insteadOf(statement, n),
  );
  return {
    typed: named
      ? { is: placeOf(node.slot).says, text: printTree(node.tree) }
      : leaf && part && 'key' in part
        ? { is: leaf.leaf, text: leaf.write(fields[part.key] as never, fields) }
        : null,
    values,
    instead: instead.filter((c) => !values.some((v) => v.text === c.text)),
    without: withoutIt(statement, nodes, word),
  };
}

/** The statement with another value typed at a word, or what is wrong with what was typed. */
export function typedAt(
  statement: Statement,
  word: Word,
  text: string,
): { ok: true; statement: Statement } | { ok: false; problem: Problem | null; is: string } {
  const nodes = nodesTo(statement, word.path);
  const node = nodes[nodes.length - 1] as Node;
  if (isNamed(node.tree)) {
    const { says: is } = placeOf(node.slot);
    const tree = readsAs([node.slot], text) ? readAs(node.slot, text) : null;
    const made = tree && put(statement, node.path, tree);
    return made && reads(made) ? { ok: true, statement: made } : { ok: false, problem: null, is };
  }
  const leaf = leafOf(partAt(node, word.path));
  if (!leaf) return { ok: false, problem: null, is: '' };
  const tokens = tokenize(text).filter((t) => t.kind !== 'line end');
  const taken = leaf.take(tokens, 0, fieldsOf(node.tree), () => {});
  if (!taken || taken.next < tokens.length || taken.finding)
    return { ok: false, problem: null, is: leaf.leaf };
  const made = put(statement, word.path, taken.value);
  const [problem] = parseScript(printTree(made)).problems;
  return problem ? { ok: false, problem, is: leaf.leaf } : { ok: true, statement: made };
}

/** What may be added to a line: what its forms allow and do not have yet. */
export function additionsTo(statement: Statement, line: Path, known = NOTHING_KNOWN): Choice[] {
  const nodes = nodesOfLine(statement, line);
  const all = nodes.flatMap((node) => [
    ...partsOf(node.tree.kind).flatMap((p) => addingTo(statement, node, p, known)),
    ...wrapped(statement, node),
  ]);
  if (line.length === 0 && kindsIn('action').has(statement.kind)) all.push(waiting(statement));
  const seen = new Set<string>();
  return all.filter((c) => {
    const text = printTree(c.statement);
    if (seen.has(text) || !reads(c.statement)) return false;
    seen.add(text);
    return true;
  });
}

/** What a part of a form that is not there may be. */
function addingTo(statement: Statement, node: Node, p: Part, known: Known): Choice[] {
  if (p.how === 'words' || p.how === 'one') return [];
  const fields = fieldsOf(node.tree);
  const at = [...node.path, p.key];
  switch (p.how) {
    case 'flag':
      return fields[p.key]
        ? []
        : [{ text: p.words.join(' '), says: '', slot: null, statement: put(statement, at, true) }];
    case 'maybe':
      return fields[p.key] !== null
        ? []
        : valuesFor(p.is as Slot | Leaf<never>, fields, known).map(([text, says, value]) => ({
            text: [...p.lead, text].join(' '),
            says,
            slot: typeof p.is === 'string' ? (p.is as Slot) : null,
            statement: put(statement, at, value),
          }));
    case 'many': {
      const there = fields[p.key] as readonly Tree[];
      return [...kindsIn(p.is)].flatMap((kind) => {
        const made = (tree: Tree) => put(statement, at, inOrder(p, [...there, tree]));
        const found = madeAll(p.is, kind).find((tree) => reads(made(tree)));
        return found
          ? [{ text: printTree(found), says: formOf(kind).says, slot: p.is, statement: made(found) }]
          : [];
      });
    }
  }
}

/** The same, once something has come. */
const waiting = (action: Statement): Choice => ({
  text: 'when … :',
  says: formOf('when').says,
  slot: 'condition',
  statement: { ...begin('when'), actions: [action] } as unknown as Statement,
});

// --- what there is at a place

/** The forms that a value stands for: those that are nothing but it, from the innermost out. */
function standingFor(nodes: readonly Node[]): Node[] {
  const out: Node[] = [];
  for (const node of [...nodes].reverse()) {
    const parts = partsOf(node.tree.kind);
    const wordless = parts.every((p) => p.how !== 'words');
    if (wordless) out.push(node);
    if (!wordless || parts.filter((p) => p.how !== 'maybe').length > 1) break;
  }
  return out;
}

function partAt(node: Node, path: Path): Kept | null {
  const key = path[node.path.length];
  const found = partsOf(node.tree.kind).find((p) => p.how !== 'words' && p.key === key);
  return (found as Kept | undefined) ?? null;
}

const leafOf = (p: Kept | null): Leaf<never> | null =>
  p && 'is' in p && typeof p.is !== 'string' ? (p.is as Leaf<never>) : null;

/** The trees of a line, those of lines under it left out. */
function nodesOfLine(statement: Statement, line: Path): Node[] {
  const nodes = nodesTo(statement, line);
  const out: Node[] = [];
  const visit = (node: Node) => {
    out.push(node);
    for (const p of partsOf(node.tree.kind)) {
      if (p.how === 'words' || p.how === 'flag') continue;
      const at = [...node.path, p.key];
      const there = fieldsOf(node.tree)[p.key];
      if (p.how === 'many') {
        if (!standsAlone(p, there as readonly Tree[]))
          for (const [n, tree] of (there as readonly Tree[]).entries())
            visit({ slot: p.is, tree, path: [...at, n] });
      } else if (typeof p.is === 'string' && there !== null)
        visit({ slot: p.is as Slot, tree: there as Tree, path: at });
    }
  };
  visit(nodes[nodes.length - 1] as Node);
  return out;
}

/** Whether a statement is one that its own text says. */
const reads = (statement: Statement): boolean => {
  const text = printTree(statement);
  const { problems, statements } = parseScript(text);
  const [read, second] = statements;
  return problems.length === 0 && read !== undefined && second === undefined && printTree(read) === text;
};

// --- what may be made

const madeIn = (slot: Slot, kind: Kind): Tree => madeAll(slot, kind)[0] as Tree;

/** Choices for what may be left out: its value, or one of each form. */
function valuesFor(
  is: Slot | Leaf<never>,
  fields: Readonly<Record<string, unknown>>,
  known: Known,
): [string, string, unknown][] {
  if (typeof is === 'string')
    return [...kindsIn(is)].flatMap((kind) =>
      madeAll(is, kind)
        .slice(0, 1)
        .map((tree): [string, string, unknown] => [printTree(tree), formOf(kind).says, tree]),
    );
  const [own] = namesFor(is, known);
  if (own !== undefined) return [[is.write(own as never, fields), is.leaf, own]];
  const taken = is.take(tokenize(is.example), 0, fields, () => {});
  return taken ? [[is.write(taken.value as never, fields), is.leaf, taken.value]] : [];
}

/** The prices by name that may stand in a place. */
const namedPrices = (statement: Statement, path: Path): Choice[] =>
  NAMED_PRICES.flatMap(({ tree, text, says }) => {
    const made = put(statement, path, tree);
    return reads(made) ? [{ text, says, slot: null, statement: made }] : [];
  });

/** The values that a leaf has to choose from. */
function valuesOf(
  leaf: Leaf<never>,
  fields: Readonly<Record<string, unknown>>,
  statement: Statement,
  path: Path,
  known: Known,
): Choice[] {
  const own = namesFor(leaf, known).map((name) => leaf.write(name as never, fields));
  return [...own, ...(leaf.choices?.(fields) ?? [])].flatMap((text) => {
    const tokens = tokenize(text);
    const taken = leaf.take(tokens, 0, fields, () => {});
    if (!taken || taken.next < tokens.length) return [];
    const made = put(statement, path, taken.value);
    return reads(made) ? [{ text, says: '', slot: null, statement: made }] : [];
  });
}

/** Every other form of the slot, with what it shares with the one that is there. */
function insteadOf(statement: Statement, { slot, tree, path }: Node): Choice[] {
  return [...kindsIn(slot)]
    .filter((kind) => kind !== tree.kind && !formOf(kind).collapses)
    .flatMap((kind) => {
      for (const fresh of madeAll(slot, kind))
        for (const made of [carried(tree, fresh), fresh]) {
          const whole = put(statement, path, made);
          if (reads(whole))
            return [
              {
                text: printTree(made).split('\n')[0] as string,
                says: formOf(kind).says,
                slot,
                statement: whole,
              },
            ];
        }
      return [];
    });
}

/** A new tree with the fields of the old one that fit: same name, same thing. */
function carried(old: Tree, fresh: Tree): Tree {
  const before = partsOf(old.kind);
  const out: Record<string, unknown> = { ...fieldsOf(fresh) };
  for (const p of partsOf(fresh.kind)) {
    if (p.how === 'words') continue;
    const same = before.find((q) => q.how === p.how && 'key' in q && q.key === p.key);
    if (
      !same ||
      (('is' in same || 'is' in p) && (same as { is?: unknown }).is !== (p as { is?: unknown }).is)
    )
      continue;
    out[p.key] = fieldsOf(old)[p.key];
  }
  return out as unknown as Tree;
}

const inOrder = (p: Extract<Part, { how: 'many' }>, list: readonly Tree[]): readonly Tree[] =>
  p.by === 'once each' ? [...list].sort((a, b) => KINDS.indexOf(a.kind) - KINDS.indexOf(b.kind)) : list;

/** A single thing made a list: a price with a distance, a clause with another one. */
function wrapped(statement: Statement, { slot, tree, path }: Node): Choice[] {
  return [...kindsIn(slot)].flatMap((kind): Choice[] => {
    if (!formOf(kind).collapses || tree.kind === kind || !slotsOf(kind).includes(slot)) return [];
    const parts = partsOf(kind).filter((p) => p.how !== 'words') as Kept[];
    const [first, second] = parts;
    if (first?.how === 'many')
      return kindsIn(first.is).has(tree.kind)
        ? firstOf(first.is).map((other) => ({
            text: `${first.by} ${printTree(other)}`,
            says: formOf(kind).says,
            slot: first.is,
            statement: put(statement, path, { kind, [first.key]: [tree, other] }),
          }))
        : [];
    if (first?.how !== 'one' || second?.how !== 'many' || !kindsIn(first.is as Slot).has(tree.kind))
      return [];
    return [...kindsIn(second.is)].flatMap((shift) =>
      madeAll(second.is, shift).map((other) => ({
        text: printTree(other),
        says: formOf(shift).says,
        slot: second.is,
        statement: put(statement, path, { kind, [first.key]: tree, [second.key]: [other] }),
      })),
    );
  });
}
const slotsOf = (kind: Kind): readonly Slot[] => formOf(kind).slots;
/** One thing for a slot, to begin with. */
const firstOf = (slot: Slot): Tree[] =>
  [...kindsIn(slot)].filter((k) => !('collapses' in formOf(k))).flatMap((k) => madeAll(slot, k).slice(0, 1));

/** The statement without what a word is of: a flag, what may be left out, one of a list, or the waiting around an action. */
function withoutIt(statement: Statement, nodes: readonly Node[], word: Word): Statement | null {
  const node = nodes[nodes.length - 1] as Node;
  const part = partAt(node, word.path);
  const tries: Statement[] = [];
  if (part?.how === 'flag') tries.push(put(statement, word.path, false));
  if (part?.how === 'maybe') tries.push(put(statement, word.path, null));
  for (let k = nodes.length - 1; k > 0; k--) {
    const inner = nodes[k] as Node;
    const last = inner.path[inner.path.length - 1];
    const owner = nodes[k - 1] as Node;
    if (typeof last === 'number') tries.push(put(statement, inner.path, null));
    else {
      const held = partsOf(owner.tree.kind).find((p) => p.how === 'maybe' && p.key === last);
      if (held) tries.push(put(statement, inner.path, null));
    }
    if (tries.length > 0) break;
  }
  if (
    tries.length === 0 &&
    statement.kind === 'when' &&
    word.path.length === 0 &&
    statement.actions.length === 1
  )
    tries.push(statement.actions[0] as Statement);
  return tries.find(reads) ?? null;
}
