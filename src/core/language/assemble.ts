// Lines put together to statements: each is read as one of the things that may stand where it is.
import { formOf } from './forms/index.ts';
import { type Line, spanOf } from './lines.ts';
import type { Mark, Span } from './marks.ts';
import { manyTries, type Piece, readPiece, readsAs, type Tries } from './piece.ts';
import { type Problem, placed } from './problems.ts';
import { SLOTS, type Slot } from './slots.ts';
import type { Statement, Tree } from './tree.ts';

/** What a script came to. `trees`: what each line was read as. */
export interface Assembled {
  statements: Statement[];
  spans: Span[];
  marks: Mark[];
  problems: Problem[];
  places: Map<object, Span>;
  trees: Map<Line, Tree>;
  retired: boolean;
  tries: Tries;
}

/** A place for lines: what may stand there, and the list that it goes to; null where what it would belong to could not be read. */
interface Place {
  slot: Slot;
  list: Tree[] | null;
}

/** Where lines stand: their places, the likeliest first, and the line that they are under. */
interface Room {
  places: readonly Place[];
  under: Line | null;
}

/** In what could not be read anything may have been meant. */
const LOST: readonly Place[] = (['exit', 'chained', 'action', 'statement'] as const).map((slot) => ({
  slot,
  list: null,
}));

/** Reads the lines of a script, one after another, until so many mistakes have been found. */
export function assemble(
  lines: readonly Line[],
  text: string,
  mostProblems: number,
  isListed?: Tries['isListed'],
): Assembled {
  const out: Assembled = {
    statements: [],
    spans: [],
    marks: [],
    problems: [],
    places: new Map(),
    trees: new Map(),
    retired: false,
    tries: manyTries(isListed),
  };
  let before: readonly Place[] = [];
  const room: Room = { places: [{ slot: 'statement', list: out.statements as Tree[] }], under: null };
  for (const [k, line] of lines.entries()) {
    if (out.problems.length >= mostProblems) break;
    const had = out.statements.length;
    const places = readLine(out, line, room, before, text);
    if (places) before = places;
    const to = endOf(line);
    const tree = out.trees.get(line);
    if (!tree) continue;
    if (out.statements.length > had) out.spans.push({ ...spanOf(line), to });
    else if (out.spans.length > 0) (out.spans[out.spans.length - 1] as Span).to = to;
    const slot = isRead(out, line) ? emptyBlock(tree) : null;
    if (slot) out.problems.push(nothingToDo(slot, line, lines[k + 1], text));
  }
  return out;
}

const endOf = (line: Line): number => Math.max(spanOf(line).to, ...line.under.map(endOf));

/**
 * Reads one line and what is under it. `before`: places of the line before it at the same depth, since an exit that is not indented belongs to the
 * order before it all the same.
 * @returns its own places, for the next one; null where it is itself a part of an order.
 */
function readLine(
  out: Assembled,
  line: Line,
  room: Room,
  before: readonly Place[],
  text: string,
): readonly Place[] | null {
  const hanging = before.filter((p) => p.slot === 'exit' || p.slot === 'chained');
  const all = [...(line.comma ? [] : hanging), ...room.places];
  // A comma joins exits to their order, and nothing else.
  const places = line.comma ? all.filter((p) => p.slot === 'exit') : all;
  const piece =
    places.length > 0
      ? readPiece([...new Set(places.map((p) => p.slot))], line.tokens, text, out.tries)
      : null;
  const stray = piece?.tree ? null : strayLine(line, room, text, out.tries);
  out.marks.push(...(piece?.marks ?? []));
  if (stray) out.problems.push(stray);
  else if (piece)
    take(
      out,
      line,
      line.under.length > 0
        ? piece
        : { ...piece, problems: piece.problems.map((p) => whole(p, spanOf(line))) },
      places,
    );
  const own = piece?.tree ? placesUnder(piece.tree) : LOST;
  readUnder(out, line, own, room, text);
  return piece?.tree && (piece.slot === 'exit' || piece.slot === 'chained') ? null : own;
}

/** A problem of a line without what would leave a block there that has nothing in it. */
const whole = (p: Problem, { to }: Span): Problem => ({
  ...p,
  fixes: p.fixes.filter((f) => f.to < to || !f.text.endsWith(':')),
});

/** The lines and pieces under a line; what follows the comma of an exit goes where that went. */
function readUnder(out: Assembled, line: Line, own: readonly Place[], room: Room, text: string): void {
  let before: readonly Place[] = [];
  for (const x of line.under) {
    const exits = own.some((p) => p.slot === 'exit') ? [] : room.places.filter((p) => p.slot === 'exit');
    const places = x.comma ? [...own, ...exits] : own;
    const next = readLine(out, x, { places, under: line }, before, text);
    if (next && !x.comma) before = next;
  }
}

/** Puts what was read where it belongs. */
function take(out: Assembled, line: Line, piece: Piece, places: readonly Place[]): void {
  out.problems.push(...piece.problems);
  out.retired ||= piece.retired;
  for (const [tree, where] of piece.places) out.places.set(tree, where);
  if (!piece.tree) return;
  out.trees.set(line, piece.tree);
  places.find((p) => p.slot === piece.slot)?.list?.push(piece.tree);
}

/** The places for lines under a tree, the innermost first: exits of an order that waits before the next of what waits. */
function placesUnder(tree: Tree): Place[] {
  const fields = tree as unknown as Record<string, Tree[]>;
  return formOf(tree.kind).parts.flatMap((p): Place[] => {
    if (p.how !== 'many' || (p.by !== 'lines' && p.by !== 'block')) return [];
    const list = fields[p.key] as Tree[];
    const [first] = list;
    return [...(p.by === 'block' && first ? placesUnder(first) : []), { slot: p.is, list }];
  });
}

/**
 * A line under a sentence, or behind its comma, that is none of what may stand there but would be a sentence of its own: it must not be done at once,
 * which nobody means who writes it there. Both readings are offered. An exit that belongs to nothing is told where it may stand.
 */
function strayLine(line: Line, { places, under }: Room, text: string, tries: Tries): Problem | null {
  const span = spanOf(line);
  const own = text.slice(span.from, span.to);
  const word = (line.tokens[0] as { text: string }).text;
  const asExit = readPiece(['exit', 'chained'], line.tokens, text, tries);
  const byName = asExit.tree === null && !under && (asExit.problems[0]?.fixes.length ?? 0) > 0;
  if ((asExit.tree || byName) && !((line.comma || byName) && readsAs(['statement'], own))) {
    if (places.some((p) => p.list === null)) return null;
    const mended = asExit.problems.flatMap((p) =>
      p.fixes.map((f) => text.slice(span.from, f.from) + f.text + text.slice(f.to, span.to)),
    );
    const texts = asExit.slot === 'exit' && !line.comma ? (asExit.problems.length > 0 ? mended : [own]) : [];
    return {
      ...placed({ code: 'stray exit', word, fixes: [] }, span),
      fixes: texts.map((x) => ({ ...span, text: `attach\n  ${x}` })),
    };
  }
  if (!under || places.some((p) => p.list === null) || !readsAs(['statement'], own)) return null;
  const waits = places.some((p) => p.slot === 'action' || p.slot === 'order');
  const head = (text.slice(0, spanOf(under).from).match(/[ \t]*$/) ?? [''])[0] as string;
  const before = /[\s,]*$/.exec(text.slice(0, span.from))?.index ?? span.from;
  const place = { from: before, to: span.to };
  const alone = { ...place, text: `\n${head}${own}` };
  // Behind a comma of a sentence that waits: on a line under it, it waits with it.
  const within = { ...place, text: `\n${head}  ${own}` };
  return {
    ...placed({ code: 'whose line', what: word, comma: line.comma, waits, fixes: [] }, span),
    fixes: line.comma && waits && readsAs(['action'], own) ? [alone, within] : [alone],
  };
}

/** Whether a line and all under it could be read. */
const isRead = (out: Assembled, line: Line): boolean =>
  out.trees.has(line) && line.under.every((x) => isRead(out, x));

/** What may stand in a block that has nothing in it, of a tree or of what is under it; null where none is empty. */
function emptyBlock(tree: Tree): Slot | null {
  const fields = tree as unknown as Record<string, readonly Tree[]>;
  for (const p of formOf(tree.kind).parts) {
    if (p.how !== 'many' || (p.by !== 'lines' && p.by !== 'block')) continue;
    const list = fields[p.key] as readonly Tree[];
    if (p.by === 'block' && list.length === 0) return p.is;
    for (const inner of list) {
      const slot = emptyBlock(inner);
      if (slot) return slot;
    }
  }
  return null;
}

/** A sentence that ends with its colon: what it does stands on lines under it, indented. */
function nothingToDo(slot: Slot, line: Line, next: Line | undefined, text: string): Problem {
  const span = spanOf(line);
  const wrong = { code: 'missing', expected: SLOTS[slot].says, after: ':', fixes: [] } as const;
  const indents =
    next && next.indent <= line.indent && readsAs([slot], text.slice(spanOf(next).from, spanOf(next).to));
  const from = indents ? spanOf(next).from : 0;
  return {
    ...placed(wrong, { from: span.to - 1, to: span.to }),
    fixes: indents ? [{ from, to: from, text: ' '.repeat(line.indent + 2 - next.indent) }] : [],
  };
}
