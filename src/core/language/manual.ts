// The reference page: every form, as its own declaration says it.
import { FIELDS } from '../market/index.ts';
import { GROUPS } from './forms/index.ts';
import type { Chapter, Leaf, Part } from './grammar.ts';
import { placeOf, SLOTS, type Slot } from './slots.ts';
import type { Kind } from './tree.ts';

/** One form on the reference page. */
export interface Entry {
  kind: Kind;
  /** How it is written: what may be left out in square brackets, what is to be filled in in capitals. */
  pattern: string;
  says: string;
  example: string;
  /** A whole script with the example in it: to be tried, and put on a key. */
  script: string;
  /** What other people call it. */
  aka: readonly string[];
}

/** What stands for a value: its choices where they are few, else its name. */
function named(is: Slot | Leaf<never>): string {
  if (typeof is === 'string') return is.toUpperCase();
  if (is.name) return is.name;
  const choices = is.choices?.({}) ?? [];
  return choices.length > 0 && choices.length <= 6
    ? choices.join('|')
    : is.leaf
        .replace(/ such as.*/, '')
        .replace(/^(a|an|the) /, '')
        .toUpperCase();
}

function patternOf(p: Part): string {
  switch (p.how) {
    case 'words':
      return p.words.join(' ');
    case 'flag':
      return `[${p.words.join(' ')}]`;
    case 'one':
      return named(p.is as Slot | Leaf<never>);
    case 'maybe':
      return `[${[...p.lead, named(p.is as Slot | Leaf<never>), ...p.tail].join(' ')}]`;
    case 'many':
      if (p.by === 'lines') return '[exits on lines below]';
      if (p.by === 'block') return `${p.is.toUpperCase()}, or several on lines below`;
      return p.by === 'and' || p.by === 'or'
        ? `${p.is.toUpperCase()} ${p.by} …`
        : `[${p.is.toUpperCase()} …]`;
  }
}

/** Every form in its group, with what it means and an example that can be tried. */
export const MANUAL: readonly { name: string; entries: readonly Entry[]; chapter: Chapter | null }[] =
  GROUPS.map(({ name, forms, chapter = null }) => ({
    name,
    chapter,
    entries: Object.entries(forms).map(
      ([kind, f]): Entry => ({
        kind: kind as Kind,
        pattern: f.parts
          .map(patternOf)
          .join(' ')
          .replaceAll('( ', '(')
          .replaceAll(' )', ')')
          .replaceAll('/ ', '/'),
        says: f.says,
        example: f.example,
        script: (f.tried ?? placeOf(f.slots[0] as Slot).tried).replace('%', f.example),
        aka: Object.keys(f.aka ?? {}),
      }),
    ),
  }));

/** What the words in capitals stand for. */
export const PLACES: readonly { name: string; says: string }[] = Object.entries(SLOTS)
  .filter(([slot]) => slot !== 'statement')
  .map(([slot, { says }]) => ({ name: slot.toUpperCase(), says }));

const cell = (text: string): string => text.replaceAll('|', '\\|').replaceAll(/\n */g, ' ⏎ ');

/** The reference page as a document; docs/script-reference.md is this text. */
export function manualText(): string {
  const out = [
    '# The script language',
    '',
    'Made from the forms themselves by `npm run reference`; in the app it stands under Keys, with what each example would do now.',
    '',
    'One sentence a line; exits stand on lines under their entry, or after a comma. `#` starts a comment. Keywords and units in any case, symbols in capitals; a symbol that is also a word of the language stands in quotes. What stands in square brackets may be left out, what stands in capitals is filled in. Lines run in order; a refused line stops the script, and what was sent before it is said.',
  ];
  for (const { name, entries, chapter } of MANUAL) {
    out.push('', `## ${name}`);
    if (chapter) out.push('', chapter.text);
    for (const s of chapter?.scripts ?? []) out.push('', `${s.says}:`, '', '```', s.text, '```');
    out.push('', '| written | means | for example |', '| --- | --- | --- |');
    for (const e of entries) out.push(`| \`${cell(e.pattern)}\` | ${cell(e.says)} | \`${cell(e.script)}\` |`);
  }
  out.push('', '## Fields of rules', '', '| field | means |', '| --- | --- |');
  for (const f of FIELDS)
    out.push(`| \`${f.name}\` | ${cell(f.meaning)}${f.choices ? ` One of: ${f.choices.join(', ')}.` : ''} |`);
  out.push('', '## What the capitals stand for', '', '| | |', '| --- | --- |');
  for (const p of PLACES) out.push(`| ${p.name} | ${cell(p.says)} |`);
  return `${out.join('\n')}\n`;
}
