import { formOf, type Kind } from './forms/index.ts';
import { parseScript } from './script.ts';
import type { Slot } from './slots.ts';
import { tokenize } from './tokens.ts';
import type { Tree } from './tree.ts';
import { walk } from './walk.ts';

/** Trees of a kind for a slot: its example first, then others, where the example does not fit what is there. */
export function madeAll(slot: Slot, kind: Kind): Tree[] {
  const texts = [formOf(kind).example, ...(formOf(kind).others ?? [])];
  return texts.flatMap((text) => {
    if (slot === 'statement') {
      const { statements, problems } = parseScript(text);
      return problems.length === 0 && statements.length === 1 ? [...statements] : [];
    }
    const tokens = tokenize(text.split('\n')[0] as string).filter((t) => t.kind !== 'line end');
    const { got } = walk(slot, tokens);
    return got && got.at.i === tokens.length && got.at.flaws === 0 && (got.tree as Tree).kind === kind
      ? [got.tree as Tree]
      : [];
  });
}
