// The reference page: every form, as its own declaration says it.
import { FIELDS, REFERENCES } from '../market/index.ts';
import { FORMS, GROUPS } from './forms.ts';
import { type Leaf, type Part, SLOTS, type Slot } from './grammar.ts';
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

/** Where an example that is not a sentence by itself may be tried: % stands for it. */
const TRIED_IN: Readonly<Record<Slot, string>> = {
  statement: '%',
  replacement: 'replace last with %',
  'entry size': 'buy % at ask + 2c\n  stop 30c',
  'add size': 'add % at bid',
  'close size': 'close % at bid',
  'ticket size': 'size %',
  pricing: 'buy 100 %\n  stop 30c',
  room: 'buy 100 above day high + 4c limit %\n  stop 30c',
  'exit room': 'buy 100 at ask\n  stop 30c limit %',
  life: 'buy 100 at bid %\n  stop 30c',
  exit: 'buy 100 at ask + 2c\n  stop 30c for half\n  target 1R for half\n  %',
  place: 'buy 100 at ask + 2c\n  stop %',
  reach: 'buy 100 at ask + 2c\n  stop 30c\n  trail %',
  range: 'buy 100 at ask + 2c\n  stop beyond % by 2c',
  candles: 'buy 100 at ask + 2c\n  stop 30c\n  trail beyond % by 2c',
  price: 'alert at %',
  base: 'alert at %',
  shift: 'alert at last %',
  offset: 'buy 100 at bid - %\n  stop 30c',
  distance: 'buy 100 at bid\n  stop 30c\n  target %',
  gain: 'buy 100 at bid\n  stop 30c\n  target 1R for half\n  breakeven after %',
  'stop move': 'move stop %',
  'which order': 'move % up 1c',
  'order move': 'move last order %',
  whose: 'discard staged %',
  rule: 'alert when %',
  conjunct: 'alert when %',
  clause: 'alert when %',
  condition: 'when %: alert at last + 10c',
  'condition part': 'when %: alert at last + 10c',
  'condition clause': 'when %: alert at last + 10c',
  profit: 'when gain >= %: close half at ask',
  'wait end': 'when last >= 999.00 %: buy 100 at ask + 2c',
  action: 'when last >= 999.00: %',
  order: '%',
  chained: 'buy 100 at ask + 2c\n  %',
};
/** Forms for which the place above does not do. */
const TRIED_ELSEWHERE: Partial<Readonly<Record<Kind, string>>> = {
  trailing: 'close all %',
  'stop exit': 'buy 100 at ask + 2c\n  %',
  'post only': 'buy 100 at bid - 1c %\n  stop 30c',
  R: 'buy 100 at bid\n  stop 30c\n  target %',
  replacement: 'replace last with %',
};

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
      return `[${[...p.lead, named(p.is as Slot | Leaf<never>)].join(' ')}]`;
    case 'many':
      if (p.by === 'lines') return '[exits on lines below]';
      if (p.by === 'block') return `${p.is.toUpperCase()}, or several on lines below`;
      return p.by === 'and' || p.by === 'or'
        ? `${p.is.toUpperCase()} ${p.by} …`
        : `[${p.is.toUpperCase()} …]`;
  }
}

/** Every form in its group, with what it means and an example that can be tried. */
export const MANUAL: readonly { name: string; entries: readonly Entry[] }[] = GROUPS.map(
  ({ name, kinds }) => ({
    name,
    entries: kinds.map((kind): Entry => {
      const f = FORMS[kind as Kind];
      const script = (TRIED_ELSEWHERE[kind as Kind] ?? TRIED_IN[f.slots[0] as Slot]).replace('%', f.example);
      return {
        kind: kind as Kind,
        pattern: (f.parts as readonly Part[])
          .map(patternOf)
          .join(' ')
          .replaceAll('( ', '(')
          .replaceAll(' )', ')'),
        says: f.says,
        example: f.example,
        script,
        aka: 'aka' in f ? Object.keys(f.aka) : [],
      };
    }),
  }),
);

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
  for (const { name, entries } of MANUAL) {
    out.push('', `## ${name}`, '', '| written | means | for example |', '| --- | --- | --- |');
    for (const e of entries) out.push(`| \`${cell(e.pattern)}\` | ${cell(e.says)} | \`${cell(e.script)}\` |`);
  }
  out.push('', '## Prices by name', '', '| written | means |', '| --- | --- |');
  for (const r of REFERENCES) out.push(`| \`${cell(r.words)}\` | ${cell(r.meaning)} |`);
  out.push('', '## Fields of rules', '', '| field | means |', '| --- | --- |');
  for (const f of FIELDS)
    out.push(`| \`${f.name}\` | ${cell(f.meaning)}${f.choices ? ` One of: ${f.choices.join(', ')}.` : ''} |`);
  out.push('', '## What the capitals stand for', '', '| | |', '| --- | --- |');
  for (const p of PLACES) out.push(`| ${p.name} | ${cell(p.says)} |`);
  return `${out.join('\n')}\n`;
}

/** The kinds of all forms. */
export const allForms = (): readonly string[] => Object.keys(FORMS);
