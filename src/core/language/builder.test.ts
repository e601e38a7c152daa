import fc from 'fast-check';
import { additionsTo, begin, choicesAt, TASKS, typedAt } from './builder.ts';
import { checkTree } from './checks.ts';
import { FORMS } from './forms/index.ts';
import { parseScript, printTree } from './index.ts';
import { randomTree } from './random-trees.ts';
import { nodesTo, rowsOf, type Word } from './rows.ts';
import type { Kind, Statement } from './tree.ts';

/** Numbers from 0 up to 1 that fast-check draws, so that a failing tree is found again by its seed. */
const draws = fc.infiniteStream(fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true }));

/** What the rows read as: without blanks, because brackets and colons stand close. */
const bare = (text: string) => text.replaceAll(/\s/g, '');
const textOf = (s: Statement) =>
  rowsOf(s)
    .flatMap((r) => r.words.map((w) => w.text))
    .join('');
const read = (s: Statement) => {
  const { statements, problems } = parseScript(printTree(s));
  return { statements, problems };
};
/** Everything that may be done next. */
const next = (s: Statement): Statement[] =>
  rowsOf(s).flatMap((row) => [
    ...additionsTo(s, row.path).map((c) => c.statement),
    ...row.words.flatMap((w) => {
      const { values, instead, without } = choicesAt(s, w);
      return [...values, ...instead].map((c) => c.statement).concat(without ? [without] : []);
    }),
  ]);

test('the rows of any statement read as its text, and each word leads to where it stands', () => {
  fc.assert(
    fc.property(draws, (stream) => {
      const s = randomTree('statement', () => stream.next().value as number) as Statement;
      expect(bare(textOf(s))).toBe(bare(printTree(s)));
      for (const row of rowsOf(s)) expect(nodesTo(s, row.path).at(-1)?.path).toEqual(row.path);
    }),
    { numRuns: 2_000 },
  );
});

test('whatever is offered at any word of any statement reads, as one statement, and says what the rows say', () => {
  fc.assert(
    fc.property(draws, fc.nat(), (stream, pick) => {
      let s = randomTree('statement', () => stream.next().value as number) as Statement;
      if (checkTree(s).length > 0) s = begin('enter');
      // A walk: each step is one of what is offered.
      for (let k = 0; k < 3; k++) {
        const offered = next(s);
        for (const made of offered) expect(read(made)).toEqual({ statements: [made], problems: [] });
        if (offered.length === 0) return;
        s = offered[(pick + k * 7) % offered.length] as Statement;
      }
    }),
    { numRuns: 12 },
  );
});

test('every form of the language can be built by choosing, from the tasks', () => {
  const seen = new Set<string>();
  const note = (x: unknown): void => {
    if (typeof x !== 'object' || x === null) return;
    if ('kind' in x && String(x.kind) in FORMS) seen.add(String(x.kind));
    for (const v of Object.values(x)) note(v);
  };
  let found = TASKS.flatMap((t) => t.kinds.map(begin));
  expect(new Set(found.map((s) => s.kind)).size).toBe(found.length);
  for (let round = 0; round < 3; round++) {
    const onward: Statement[] = [];
    for (const s of found) {
      const before = seen.size;
      note(s);
      if (round === 0 || seen.size > before) onward.push(...next(s));
    }
    found = onward;
  }
  for (const s of found) note(s);
  expect((Object.keys(FORMS) as Kind[]).filter((k) => !seen.has(k))).toEqual([]);
});

const wordOf = (s: Statement, text: string): Word => {
  const found = rowsOf(s)
    .flatMap((r) => r.words)
    .find((w) => w.text === text);
  if (!found) throw new Error(`no word “${text}” in ${textOf(s)}`);
  return found;
};

// Without knowing the language: half off at the ask, and the stop to breakeven.
test('by choices alone: close half at the ask; a bracket turned into one that waits', () => {
  let s = begin('close');
  const choose = (word: string, text: string) => {
    const { values, instead } = choicesAt(s, wordOf(s, word));
    const found = [...values, ...instead].find((c) => c.text === text);
    if (!found) throw new Error(`“${text}” is not offered at “${word}”`);
    s = found.statement;
  };
  choose('half', 'third');
  choose('ask', 'bid');
  expect(printTree(s)).toBe('close third at bid');
  s = begin('enter');
  const add = (line: number, text: string) => {
    const offered = additionsTo(s, rowsOf(s)[line]?.path ?? []);
    const found = offered.find((c) => c.text === text);
    if (!found) throw new Error(`“${text}” is not among ${offered.map((c) => c.text).join(', ')}`);
    s = found.statement;
  };
  add(0, 'out by 15:50');
  add(0, 'when … :');
  expect(s.kind).toBe('when');
  expect(printTree(s)).toContain('out by 15:50');
});

test('a value that is typed is taken where it fits, else the word says what would', () => {
  const s = begin('close');
  const good = typedAt(s, wordOf(s, 'half'), '40%');
  expect(good.ok && printTree(good.statement)).toBe('close 40% at ask');
  expect(typedAt(s, wordOf(s, 'half'), '140%')).toMatchObject({ ok: false });
  expect(typedAt(s, wordOf(s, 'half'), 'half of it')).toMatchObject({ ok: false });
});

test('a price by its name is one word, in whose place another one may be typed or chosen', () => {
  const [s] = parseScript('when last crosses above premarket high: flatten').statements;
  if (!s) throw new Error('reads');
  const word = rowsOf(s)
    .flatMap((r) => r.words)
    .find((w) => w.text === 'premarket high') as Word;
  const typed = typedAt(s, word, 'ema 9 on 2m');
  expect(typed.ok && printTree(typed.statement)).toBe('when last crosses above ema 9 on 2m: flatten');
  // Nothing is rounded to what was not typed.
  expect(typedAt(s, word, '7m high').ok).toBe(false);
  const texts = choicesAt(s, word).values.map((v) => v.text);
  expect(['vwap', 'premarket low', '5m close'].every((x) => texts.includes(x))).toBe(true);
});
