import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Sources of core, with their text; tests may use what the core may not. */
const sources = readdirSync('src/core', { recursive: true })
  .map(String)
  .filter((f) => f.endsWith('.ts') && !f.endsWith('.test.ts'))
  .map((f): [string, string] => [f, readFileSync(join('src/core', f), 'utf8')]);

const used = (text: string): string[] => [
  ...new Set([...text.matchAll(/\bMath\.(\w+)/g)].map((m) => m[1] as string)),
];

test('nothing in core draws from an ambient random source', () => {
  expect(sources.length).toBeGreaterThan(30);
  expect(sources.filter(([, text]) => used(text).includes('random')).map(([f]) => f)).toEqual([]);
});

// ECMA-262 leaves the last digits of log, exp, pow and the circular functions to the implementation; these are exact.
test('the simulated day and what prices its options use only functions that give the same digits on every machine', () => {
  const exact = new Set([
    'abs',
    'ceil',
    'clz32',
    'E',
    'floor',
    'imul',
    'max',
    'min',
    'PI',
    'round',
    'sign',
    'sqrt',
    'trunc',
  ]);
  for (const [file, text] of sources.filter(([f]) => /^(sim|venue|options)\//.test(f))) {
    expect([file, used(text).filter((name) => !exact.has(name))]).toEqual([file, []]);
    expect([file, /[\w)\]] \*\* [\w(]/.test(text)]).toEqual([file, false]);
  }
});
