// How a text is laid out: lines that stand under one another by how far they are indented, and what follows a comma.
import type { Mark } from './marks.ts';
import type { Token } from './tokens.ts';

/** A line of a script, or a piece of one behind a comma, with everything that stands under it. */
export interface Line {
  tokens: readonly Token[];
  /** How far it is indented, in characters. */
  indent: number;
  /** Whether it stands behind a comma of the line that it is under. */
  comma: boolean;
  under: Line[];
}

/** A comment as it stands: on a line of its own, or behind one. `line`: the line that it stands behind, or the next one; null after the last. */
export interface Remark {
  line: Line | null;
  alone: boolean;
  text: string;
}

/** The lines of a text, the outermost in a row. A line that is deeper than the one before stands under it, what follows a comma under its line. */
export function linesOf(
  tokens: readonly Token[],
  text: string,
): { lines: Line[]; count: number; remarks: Remark[]; marks: Mark[] } {
  const lines: Line[] = [];
  const remarks: Remark[] = [];
  const marks: Mark[] = [];
  const open: Line[] = [];
  let waiting: Remark[] = [];
  let piece: Token[] = [];
  /** The line under way, and its last piece. */
  let head: Line | null = null;
  let last: Line | null = null;
  let count = 0;
  const close = () => {
    const [first] = piece;
    if (!first) return;
    const line: Line = {
      tokens: piece,
      indent: first.from - (text.lastIndexOf('\n', first.from - 1) + 1),
      comma: head !== null,
      under: [],
    };
    if (head) head.under.push(line);
    else {
      while ((open[open.length - 1]?.indent ?? -1) >= line.indent) open.pop();
      (open[open.length - 1]?.under ?? lines).push(line);
      open.push(line);
      head = line;
    }
    for (const r of waiting) r.line = line;
    waiting = [];
    last = line;
    count++;
    piece = [];
  };
  for (const t of tokens) {
    if (t.kind === 'comment') {
      close();
      const remark: Remark = { line: last, alone: head === null, text: t.text.trimEnd() };
      if (remark.alone) {
        remark.line = null;
        waiting.push(remark);
      }
      remarks.push(remark);
      marks.push({ from: t.from, to: t.to, role: 'comment' });
    } else if (t.kind === 'line end') {
      close();
      head = null;
    } else if (t.word === ',' && t.kind === 'sign') close();
    else piece.push(t);
  }
  close();
  return { lines, count, remarks, marks };
}

/** From the first to the last character of a line, without what stands under it. */
export const spanOf = ({ tokens }: Line): { from: number; to: number } => ({
  from: (tokens[0] as Token).from,
  to: (tokens[tokens.length - 1] as Token).to,
});
