import fc from 'fast-check';
import { FIRST_SEED } from '@/core/rehearsal';
import { PRESETS } from '@/core/scan';
import { DEFAULT_SETTINGS } from '@/store/settings';
import { type Draft, draftSchema, FIRST_DRAFT, readDraft } from './draft';

const { scans } = DEFAULT_SETTINGS;
const choice = {
  practice: ['fresh-headlines', 'crowded-open', 'thin', 'second-headline'].map((id) => ({
    id,
    title: id,
    character: '',
    date: '2027-03-09',
    startAt: 0,
  })),
  own: [{ id: 'own 1', title: 'mine', symbols: 1, dates: ['2026-05-04', '2026-05-05'] }],
};
const read = (d: Partial<Draft>) => readDraft({ ...FIRST_DRAFT, ...d }, scans, choice);
const flawsOf = (d: Partial<Draft>) => {
  const got = read(d);
  return got.ok ? [] : got.flaws.map((f) => `${f.where}: ${f.text}`);
};

test('the form as it comes is ready; its days take turns and begin beyond those that a trader would come to', () => {
  const got = read({});
  if (!got.ok) throw new Error(JSON.stringify(got.flaws));
  expect(got.days).toHaveLength(30);
  expect(got.days.slice(0, 4)).toEqual([
    { kind: 'practice', id: 'fresh-headlines', seed: FIRST_SEED },
    { kind: 'practice', id: 'crowded-open', seed: FIRST_SEED },
    { kind: 'practice', id: 'second-headline', seed: FIRST_SEED },
    { kind: 'practice', id: 'fresh-headlines', seed: FIRST_SEED + 1 },
  ]);
  expect(got.terms).toMatchObject({ from: 571, to: 630, out: 690, reaction: 350, line: 40 });
  expect(got.terms.symbols).toMatchObject({ kind: 'scan', rule: PRESETS[0]?.rule, first: 5 });
});

test('imported dates go one by one, beside practice days or alone', () => {
  const got = read({ practice: [], own: ['own 1', 'gone'], each: 'none' });
  expect(got.ok && got.days.map((d) => d.kind === 'own' && [d.n, d.date])).toEqual([
    [0, '2026-05-04'],
    [1, '2026-05-05'],
  ]);
});

test.each<[Partial<Draft>, RegExp]>([
  [{ first: { keys: [] } }, /first: None of these keys opens a position/],
  [
    { first: { keys: [{ when: 'last > vwap', script: 'flatten', most: '1' }] } },
    /one has to buy or to short/,
  ],
  [
    { first: { keys: [{ when: 'last >', script: 'buy 1 at ask', most: '1' }] } },
    /first: when it is pressed: /,
  ],
  [
    { first: { keys: [{ when: 'last > 1: flatten', script: 'buy 1 at ask', most: '1' }] } },
    /when it is pressed/,
  ],
  [{ first: { keys: [{ when: '', script: '', most: '' }] } }, /what it does: write a script/],
  [{ first: { keys: [{ when: 'last > vwap', script: 'buy at', most: '1' }] } }, /what it does: /],
  [{ first: { keys: [{ when: 'last > vwap', script: 'buy 1 at ask', most: '0' }] } }, /from 1 to 999/],
  [{ compare: true }, /second: A and B are the same/],
  [{ from: '9' }, /from: A time of day/],
  [{ from: '10:30', to: '10:30' }, /to: Later than the first minute/],
  [{ out: '10:00' }, /out: Later than the last way in/],
  [{ out: '21:00' }, /out: A time of day from 04:00 to 20:00/],
  [{ reaction: '0' }, /reaction: A whole number from 50/],
  [{ line: '0' }, /line: A whole number from 1/],
  [{ best: '21' }, /best: A whole number from 1 to 20/],
  [{ scan: 'gone' }, /scan: Choose a scan/],
  [{ who: 'one', symbol: ' ' }, /symbol: Write a symbol/],
  [{ practice: [] }, /days: Choose at least one/],
  [{ practice: choice.practice.map((p) => p.id), each: '1000', own: [] }, /^$/],
  [{ each: '1.5' }, /each: A whole number/],
])('%j is answered in words', (draft, says) => {
  const flaws = flawsOf(draft);
  if (says.source === '^$') expect(flaws).toEqual([]);
  else expect(flaws.join('\n')).toMatch(says);
});

test('whatever is written, the form reads or says what is wrong, and is kept as it is', () => {
  const anything = fc.oneof(
    fc.string({ unit: 'grapheme', maxLength: 30 }),
    fc.constantFrom('', '09:31', '5', 'last > vwap'),
  );
  const key = fc.record({ when: anything, script: anything, most: anything });
  const hand = fc.record({ keys: fc.array(key, { maxLength: 3 }) });
  const drafts = fc.record({
    ...Object.fromEntries(
      (['name', 'scan', 'best', 'symbol', 'from', 'to', 'out', 'reaction', 'line', 'each'] as const).map(
        (k) => [k, anything],
      ),
    ),
    first: hand,
    second: hand,
    compare: fc.boolean(),
    who: fc.constantFrom('scan', 'one'),
    practice: fc.subarray(['fresh-headlines', 'thin', 'no such day']),
    own: fc.subarray(['own 1', 'gone']),
  }) as unknown as fc.Arbitrary<Draft>;
  fc.assert(
    fc.property(drafts, (d) => {
      const got = readDraft(d, scans, choice);
      expect(got.ok ? got.days.length : got.flaws.length).toBeGreaterThan(0);
      expect(draftSchema.validateSync(d, { strict: true })).toEqual(d);
    }),
    { numRuns: 150 },
  );
});
