import { formOf, KINDS } from './forms/index.ts';
import type { Leaf, Part } from './grammar.ts';
import type { Slot } from './slots.ts';

/** How something in a slot may begin: the words of each form up to its first value that has no choices, with the choices of those before it. */
export function openings(slot: Slot, seen = new Set<Slot>()): string[] {
  if (seen.has(slot)) return [];
  seen.add(slot);
  return KINDS.filter((kind) => formOf(kind).slots.includes(slot)).flatMap((kind) =>
    beginning(formOf(kind).parts, seen),
  );
}

/** Openings of a few choices are said in full: premarket high, premarket low. */
const FEW = 4;

/** Words with the few choices that may follow them. */
function inFull(said: string, after: Part | undefined): string[] {
  const leaf = after?.how === 'one' && typeof after.is !== 'string' ? (after.is as Leaf<never>) : null;
  const choices = leaf?.choices?.({}) ?? [];
  return choices.length === 0 || choices.length > FEW ? [said] : choices.map((c) => `${said} ${c}`);
}

function beginning(parts: readonly Part[], seen: Set<Slot>): string[] {
  const out: string[] = [];
  for (const [k, p] of parts.entries()) {
    if (p.how === 'words') return [...out, ...inFull(p.words.join(' ').replace(/ \($/, ''), parts[k + 1])];
    if (p.how === 'flag') out.push(p.words.join(' '));
    else if (p.how === 'maybe' && p.lead.length > 0) out.push(p.lead.join(' '));
    else {
      const is = p.is as Slot | Leaf<never>;
      out.push(...(typeof is === 'string' ? openings(is, seen) : (is.choices?.({}) ?? [])));
      if (p.how === 'one' || p.how === 'many') return out;
    }
  }
  return out;
}
