import type { Slot } from './slots.ts';
import { tokenize } from './tokens.ts';
import { choicesAt, walk } from './walk.ts';

/**
 * What may stand at the end of a beginning: `from` is where the word under way began. A rule is read
 * as a whole, a script line by line; a line that may be an exit offers exits too. The word that stands there
 * is not among them; `whole`: it may stay as it is, as any number may.
 */
export function choicesFor(
  kind: 'script' | 'rule',
  before: string,
): { from: number; choices: readonly string[]; whole: boolean } {
  const start = kind === 'rule' ? 0 : Math.max(before.lastIndexOf('\n'), lastComma(before)) + 1;
  const line = before.slice(start);
  const all = tokenize(line).filter((t) => t.kind !== 'comment' && t.kind !== 'line end');
  const last = all[all.length - 1];
  if (all.length > 500) return { from: before.length, choices: [], whole: false };
  const begun =
    last !== undefined && last.to === line.length && (last.kind === 'word' || last.kind === 'number');
  const tokens = begun ? all.slice(0, -1) : all;
  const from = start + (begun ? last.from : line.length);
  const slots: Slot[] =
    kind === 'rule'
      ? ['condition']
      : tokens.length === 0 && before.slice(0, start).trim() === ''
        ? ['statement']
        : ['statement', 'exit', 'chained'];
  const out = new Set<string>();
  for (const slot of slots) {
    const { walk: w } = walk(slot, tokens);
    if (w.far === tokens.length) for (const c of choicesAt(w)) out.add(c);
  }
  const word = before.slice(from).toLowerCase();
  const choices = [...out].filter((c) => c.toLowerCase() !== word);
  return { from, choices, whole: choices.length < out.size || (begun && last.kind === 'number') };
}

/** A comma before an exit ends a sentence; one within a number does not. */
const lastComma = (text: string): number => {
  const m = /,(?!\d)[^,\n]*$/.exec(text);
  return m ? m.index : -1;
};
