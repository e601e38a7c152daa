// npm run fuzz: very many random and mutated texts through the reader of the language. `npm run fuzz -- 300000 7`
// tries so many from seed 7 on. No text may make it throw, take longer than 50 ms, or yield a number out of bounds;
// no word may be suggested for itself; and what reads must print as a text that reads the same.
import { isDeepStrictEqual } from 'node:util';
import {
  choicesFor,
  explain,
  MANUAL,
  parseRule,
  parseScript,
  printScript,
  printTree,
} from '../src/core/language/index.ts';
import { randomTree } from '../src/core/language/random-trees.ts';
import { createRandom, uniform } from '../src/core/sim/random.ts';

const count = Number(process.argv[2] ?? 300_000);
const seed = Number(process.argv[3] ?? 1);
const LONGEST_MS = 50;
const r = createRandom(seed, 'fuzz');
const draw = () => uniform(r);
const below = (n: number) => Math.floor(draw() * n);
const pick = <T,>(list: readonly T[]): T => list[below(list.length)] as T;

const examples = MANUAL.flatMap((g) => g.entries.map((e) => e.script));
const words = [...new Set(examples.join(' ').split(/\s+/))];
const odd = [
  '0',
  '-',
  '–',
  '"',
  '“',
  '(',
  ')',
  '\n',
  ',',
  '#',
  '%',
  '$',
  '€',
  '😀',
  '\u0000',
  '\u00a0',
  '9'.repeat(40),
  '1e9',
  '.5',
  '1,2',
  '5m',
  '24:99',
  '2026-13-40',
  'of',
  'not',
  'NaN',
  '∞',
  '٣',
];

/** Forms whose numbers are values of a field. */
const VALUES = new Set(['compare', 'between', 'field of', 'field between of']);

/** A text to try: a sentence that reads, changed in some places; or words thrown together. */
function someText(): string {
  const k = draw();
  if (k < 0.1) return Array.from({ length: below(30) }, () => pick(words)).join(' ');
  let text =
    k < 0.5
      ? printTree(randomTree('statement', draw))
      : k < 0.8
        ? pick(examples)
        : printTree(randomTree('condition', draw));
  for (let n = below(5); n > 0; n--) {
    const at = below(text.length + 1);
    const to = Math.min(text.length, at + below(6));
    const put = pick([
      '',
      pick(odd),
      ` ${pick(words)} `,
      text.slice(at, to).toUpperCase(),
      text.slice(at, to).repeat(below(20)),
      String.fromCharCode(below(0x2100)),
    ]);
    text = text.slice(0, at) + put + text.slice(to);
  }
  return draw() < 0.002 ? text.repeat(below(400)) : text;
}

/** Numbers in a tree that are not whole, safe, or finite; values of rules may be fractions. */
function oddNumbers(tree: unknown, inRule = false): number[] {
  if (typeof tree === 'number')
    return Number.isFinite(tree) && (inRule || Number.isSafeInteger(tree)) && Math.abs(tree) <= 1e13
      ? []
      : [tree];
  if (typeof tree !== 'object' || tree === null) return [];
  const { kind } = tree as { kind?: string };
  return Object.values(tree).flatMap((v) => oddNumbers(v, inRule || VALUES.has(kind as string)));
}

let read = 0;
let slowest = 0;
let slowestText = '';
const faults: string[] = [];
const fault = (what: string, text: string) =>
  faults.length < 10 && faults.push(`${what}: ${JSON.stringify(text.slice(0, 300))}`);
const started = performance.now();
for (let n = 0; n < count && faults.length < 10; n++) {
  const text = someText();
  try {
    const t = performance.now();
    const parsed = parseScript(text);
    const took = performance.now() - t;
    if (took > slowest) {
      // A first look may hit the collector; what is slow is slow again.
      const before = performance.now();
      parseScript(text);
      const again = Math.min(took, performance.now() - before);
      if (again > slowest) [slowest, slowestText] = [again, text];
      if (again > LONGEST_MS) fault(`${again.toFixed(0)} ms`, text);
    }
    for (const p of parsed.problems) {
      if (explain(p).length < 10) fault('says nothing', text);
      if (p.code === 'unknown word' && p.nearest?.toLowerCase() === p.word.toLowerCase())
        fault('suggests what was typed', text);
    }
    const numbers = oddNumbers(parsed.statements);
    if (numbers.length > 0) fault(`out of bounds ${numbers}`, text);
    if (parsed.problems.length === 0) {
      read++;
      const tidy = printScript(parsed);
      const again = parseScript(tidy);
      if (again.problems.length > 0 || !isDeepStrictEqual(again.statements, parsed.statements))
        fault('does not come back', text);
      if (printScript(again) !== tidy) fault('prints otherwise the second time', text);
    }
    parseRule(text);
    choicesFor(n % 2 === 0 ? 'script' : 'rule', text.slice(0, below(text.length + 1)));
  } catch (e) {
    fault(`throws ${e instanceof Error ? e.message : e}`, text);
  }
}
for (const f of faults) console.log(f);
console.log(`slowest: ${JSON.stringify(slowestText.slice(0, 100))}`);
console.log(
  `${count} texts from seed ${seed} in ${((performance.now() - started) / 1000).toFixed(0)} s: ${read} read, slowest ${slowest.toFixed(0)} ms, ${faults.length} faults`,
);
process.exit(faults.length > 0 ? 1 : 0);
