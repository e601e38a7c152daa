import { type Parsed, parseScript } from '../core/language/index.ts';

// --- texts that have been read before are not read again

const KEPT = 400;

const trees = new Map<string, Parsed>();

/** The statements of a text: read when it is first seen, so that a key only has to look at the moment. */
export function parsed(text: string): Parsed {
  const known = trees.get(text);
  if (known) return known;
  const fresh = parseScript(text);
  if (trees.size >= KEPT) trees.delete(trees.keys().next().value as string);
  trees.set(text, fresh);
  return fresh;
}
