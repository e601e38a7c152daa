import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { checkTree } from './checks.ts';
import { KINDS } from './forms/index.ts';
import {
  choicesFor,
  explain,
  MANUAL,
  manualText,
  parseRule,
  parseScript,
  printScript,
  printTree,
} from './index.ts';
import { isLawful } from './law.ts';
import { randomTree } from './random-trees.ts';
import type { Slot } from './slots.ts';
import type { Statement } from './tree.ts';

/** Numbers from 0 up to 1 that fast-check draws, so that a failing tree is found again by its seed. */
const draws = fc.infiniteStream(fc.double({ min: 0, max: 1, maxExcluded: true, noNaN: true }));
const RUNS = process.env.FEW_RUNS ? 2_000 : 20_000;

test.each(['statement', 'condition'] as Slot[])(
  'a tree of a %s, printed and read, is the same tree; what was read and printed stays the same text',
  (slot) => {
    fc.assert(
      fc.property(draws, (stream) => {
        const tree = randomTree(slot, () => stream.next().value as number);
        const text = printTree(tree);
        if (slot === 'condition') {
          const parsed = parseRule(text);
          // What is turned round is a finding, and what a scan cannot know; everything else reads.
          const whole = { kind: 'alert any when', condition: tree } as Statement;
          expect(parsed.ok).toBe(checkTree(whole).length === 0);
          if (parsed.ok) expect(parsed.rule).toEqual(tree);
          return;
        }
        const { statements, problems } = parseScript(text);
        expect(statements).toEqual([tree]);
        expect(problems.length === 0).toBe(checkTree(tree).length === 0);
        expect(printTree(statements[0] as never)).toBe(text);
        expect(/e[+-]\d/.test(text.replaceAll(/"[^"]*"/g, ''))).toBe(false);
      }),
      { numRuns: RUNS / 2 },
    );
  },
);

const word = fc.constantFrom(
  ...'buy short close stage move cancel stop target trail at ask bid + - 3c 1R $60 half 100 \n , of VULPN % above limit beyond 5m high ( ) "x" until 11:00 gtc extended when gap > 8% and not risk for with plan # €'.split(
    ' ',
  ),
);
const anyText = fc.oneof(
  fc.array(word, { maxLength: 16 }).map((w) => w.join(' ')),
  fc.string({ unit: 'binary', maxLength: 60 }),
  fc.string({ maxLength: 60 }),
);

test('no text makes the reader fail: it gives statements or problems inside the text, each said in a sentence, none naming the word that was typed as its own cure', () => {
  fc.assert(
    fc.property(anyText, (text) => {
      const parsed = parseScript(text);
      for (const p of parsed.problems) {
        expect(p.span.from >= 0 && p.span.to <= text.length && p.span.from <= p.span.to).toBe(true);
        expect(explain(p).length).toBeGreaterThan(10);
        if (p.code === 'unknown word') expect(p.nearest?.toLowerCase()).not.toBe(p.word.toLowerCase());
        for (const f of p.fixes) expect(f.from >= 0 && f.to <= text.length && f.from <= f.to).toBe(true);
      }
      for (const m of parsed.marks) expect(m.to).toBeGreaterThan(m.from);
      // Tidying says the same, comments and all.
      if (parsed.problems.length > 0) return;
      const tidy = printScript(parsed);
      const again = parseScript(tidy);
      expect(again.problems).toEqual([]);
      expect([again.statements, again.comments.map((c) => c.text)]).toEqual([
        parsed.statements,
        parsed.comments.map((c) => c.text),
      ]);
      expect(printScript(again)).toBe(tidy);
    }),
    { numRuns: RUNS / 5 },
  );
});

test('completion leaves alone what stands there: a whole word is not offered again, and a number is whole', () => {
  for (const [text, whole, longer] of [
    ['buy 100 at ask', true, null],
    ['buy 100 at as', false, 'ask'],
    ['buy 100 at 5', true, null],
    ['sell HALF', true, null],
    ['sell hal', false, 'half'],
  ] as const) {
    const { from, choices, whole: is } = choicesFor('script', text);
    expect([text, is, choices.includes(text.slice(from).toLowerCase())]).toEqual([text, whole, false]);
    if (longer) expect([text, choices.includes(longer)]).toEqual([text, true]);
  }
});

test('a sentence cut anywhere is completed by what is offered there: the word that was cut off is among it', () => {
  fc.assert(
    fc.property(draws, fc.nat(), (stream, at) => {
      const tree = randomTree('statement', () => stream.next().value as number);
      const [line = ''] = printTree(tree).split('\n');
      const words = line.split(' ');
      const k = at % words.length;
      const cut = words[k] ?? '';
      fc.pre(/^[a-z]+$/.test(cut) && !line.includes('"') && checkTree(tree).length === 0);
      const before = words.slice(0, k).join(' ');
      const { choices } = choicesFor('script', before === '' ? '' : `${before} `);
      // A choice may be of several words; a unit is offered as of several.
      expect([
        line,
        k,
        choices.some((c) => c.split(' ').some((word) => word === cut || word === `${cut}s`)),
      ]).toEqual([line, k, true]);
    }),
    { numRuns: RUNS / 10 },
  );
});

// A fix never makes another order of what was typed: no example in place of a number, no symbol left out, no word taken for “flatten”.
test.each([
  'bananas',
  'buy -100 at ask',
  'buy 1/2 R at ask',
  'buy 100 at 9.5.5',
  'size up $100',
  // A repair changes no number, and makes none up.
  'buy 100 at 7m high',
  'buy 100 above opening range 90m high',
  'buy 0 at ask',
  'buy 9007199254740993 at ask',
  'alert at 59693749062717',
  'buy 100 at 0.00001',
  'buy half at ask',
  'close risk $500 at bid',
  'buy 100 at ask until 25:99',
  'alert when gap > 100k',
  'buy 100 at',
  'size up',
  'buy again',
  'sell half if vwap is lost',
])('%j is said to be wrong and has no fix', (text) => {
  expect(parseScript(text).problems).toMatchObject([{ fixes: [] }]);
});

/** What a text says in numbers, directions, words that take and words that wait, read without any of our own code. */
const said = (text: string) => {
  const words = text.toLowerCase().match(/[a-z]+/g) ?? [];
  const of = (list: string) => words.filter((w) => list.split(' ').includes(w)).sort();
  return {
    numbers: (text.match(/\d+(?::\d+)?(?:\.\d+)?/g) ?? []).map((n) => n.replace(/^0+(?=\d)/, '')),
    ways: of('buy short sell cover close add reverse above below up down credit debit'),
    takes: of('through market ioc fok flatten'),
    waits: of('when until after stop target limit stage trailing hidden'),
  };
};
const within = (a: readonly string[], b: readonly string[]) => {
  const left = [...b];
  return a.every((x) => left.includes(x) && left.splice(left.indexOf(x), 1));
};

test('no repair of a broken sentence changes a number, turns a way, drops what waits or adds what takes; each reads itself', () => {
  let repairs = 0;
  fc.assert(
    fc.property(draws, fc.nat(), fc.nat(), fc.nat(), (stream, at, other, how) => {
      const tree = randomTree('statement', () => stream.next().value as number);
      const whole = printTree(tree).split('\n')[0] ?? '';
      fc.pre(checkTree(tree).length === 0 && !whole.includes('"') && !whole.endsWith(':'));
      const words = whole.split(' ');
      const k = at % words.length;
      const word = words[k] as string;
      const breaks = [
        () => words.splice(k, 1),
        () => words.splice(k, 1, ...[words[other % words.length] as string, word]),
        () =>
          words.splice(k, 0, ['foo', 'orbnt', 'the', 'and', 'if', 'with', 'stop', '('][other % 8] as string),
        () => words.splice(k, 1, word.length > 3 ? word.slice(0, 2) + word.slice(3) : word),
      ];
      breaks[how % breaks.length]?.();
      const text = words.join(' ');
      const [problem] = parseScript(text).problems;
      for (const f of problem?.fixes ?? []) {
        const after = text.slice(0, f.from) + f.text + text.slice(f.to);
        repairs++;
        const [a, b] = [said(text), said(after)];
        const kept = {
          numbers: within(a.numbers, b.numbers),
          // A word that was mistyped may come back.
          ways: within(a.ways, b.ways) && b.ways.length <= a.ways.length + 1,
          takes: b.takes.length <= a.takes.length + 1,
          waits: within(a.waits, b.waits),
          reads: parseScript(after)
            .problems.filter((p) => p.code !== 'risk without stop' && p.code !== 'R without stop')
            .map((p) => p.code),
        };
        expect([text, after, kept]).toEqual([
          text,
          after,
          { numbers: true, ways: true, takes: true, waits: true, reads: [] },
        ]);
      }
    }),
    { numRuns: RUNS / 10 },
  );
  expect(repairs).toBeGreaterThan(30);
});

// The law itself, whoever proposes: what is taken out, and what is put in its place.
test.each([
  ['buy 100 gtc at ask', ' gtc', '', false],
  ['sell half at bid', 'half', '', false],
  ['sell 100 shares at bid', ' shares', '', true],
  ['buy 100 at ask', '100', '200', false],
  ['buy 100 at 5c', '5c', '0.05', true],
  ['buy 100 at ask', 'buy', 'short', false],
  ['buy 100 att ask', 'att', 'at', true],
  ['buy 100 orbnt at ask', ' orbnt', '', false],
  ['sell all below 9.60', 'below', 'at', false],
  ['buy 100 stage', ' stage', '', false],
  ['sell 100 at bid', 'at bid', 'at market', false],
  ['buy 100 vwap', ' vwap', ' at vwap', true],
  ['buy 100 vwap', ' vwap', ' through vwap', false],
] as const)('the law on %j: %j → %j is %j', (text, out, put, lawful) => {
  const from = text.indexOf(out);
  expect(isLawful(text, { from, to: from + out.length, text: put }, () => false)).toBe(lawful);
});

/** What each mistake says, and the text that its first fix makes; every fix has to read without that mistake. */
test.each([
  ['buy 100 att ask', 'att', 'Did you mean “at”?', 'buy 100 at ask'],
  ['buy 100 at axk + 3c', 'axk', 'Did you mean “ask”?', 'buy 100 at ask + 3c'],
  ['flaten', 'flaten', 'Did you mean “flatten”?', 'flatten'],
  ['buy 100 at hod + 5c', 'hod', 'Did you mean “day high”?', 'buy 100 at day high + 5c'],
  ['sell short 100 at bid', 'sell short', 'Did you mean “short”?', 'short 100 at bid'],
  [
    'buy 100 at ask\n  take profit 1R\n  stop 30c',
    'take profit',
    'Did you mean “target”?',
    'buy 100 at ask\n  target 1R\n  stop 30c',
  ],
  [
    'when last > 5: sell half at bid and move stop to 9.80',
    'and',
    'not known',
    'when last > 5:\n  sell half at bid\n  move stop to 9.80',
  ],
  ['sell half at 1R', 'sell half at 1R', 'A gain is no price', 'when gain >= 1R: sell half'],
  [
    'cancel all and flatten',
    'cancel all',
    '“cancel symbol” or “cancel everything”',
    'cancel symbol\nflatten',
  ],
  ['flatten and cancel all', 'and', 'not known', 'flatten\ncancel symbol'],
  ['when last > 5, sell half at bid', '5', 'and what to do then', 'when last > 5: sell half at bid'],
  ['sell 100 at bid; move stop to 9.80', ';', 'does not fit', 'sell 100 at bid\nmove stop to 9.80'],
  ['sell all if below 9.60', 'if', 'not known', 'sell all below 9.60'],
  ['sell all at stop 9.60', '9.60', 'does not fit', 'sell all below 9.60'],
  ['buy 100 stop 9.60', 'stop', 'not known', 'buy 100 above 9.60'],
  ['buy VULPN 100 at ask', 'VULPN', 'is not known here', 'buy 100 of VULPN at ask'],
  ['buy 1 nearest call at ask', 'nearest', 'not known', 'buy 1 7 days at the money call at ask'],
  ['buy 300 if last > vwap', 'if', 'not known', 'when last > vwap: buy 300 at usual through'],
  ['buy 100 at 2 cents above the ask', 'above', 'not known', 'buy 100 at 2 cents above ask'],
  ['buy 100 @ 9.50', '@', 'Did you mean “at”?', 'buy 100 at 9.50'],
  ['buy 100 9.50', '9.50', 'does not fit here', 'buy 100 at 9.50'],
  ['sell half VULPN', 'VULPN', 'is not known here', 'sell half of VULPN'],
  ['buy 100', '100', 'should be “at” and a price', 'buy 100 at usual through'],
  ['close', 'close', 'should be how much', 'close all'],
  ['sell everything at bid', 'everything', 'Did you mean “all”?', 'sell all at bid'],
  ['buy 100 at ask stop 20c', 'stop', 'is not known here', 'buy 100 at ask, stop 20c'],
  ['buy 100 at ask; stop 20c', ';', 'does not fit here', 'buy 100 at ask, stop 20c'],
  ['buy 100 at ask until 3pm', '3pm', 'a time such as', 'buy 100 at ask until 15:00'],
  ['note too early', 'too', 'a text in quotes', 'note "too early"'],
  ['attach plan two steps', 'two', 'in quotes', 'attach plan "two steps"'],
  ['level lid at 9.50', 'lid', 'in quotes', 'level "lid" at 9.50'],
  ['flatten VULPN', 'VULPN', 'is not known here', 'flatten of VULPN'],
  ['buy $2,5 at ask', '$2,5', 'the decimal sign is a point', 'buy $2.5 at ask'],
  ['buy 100 at ask + 3', '3', '3 what?', 'buy 100 at ask + 3c'],
  [
    'buy 100 at ask\n  stop 9.85',
    '9.85',
    'at the price 9.85, or 9.85 dollars away?',
    'buy 100 at ask\n  stop at 9.85',
  ],
  ['move stop by 0.05', '0.05', 'says its measure', 'move stop by $0.05'],
  ['buy risk 60 at ask\n  stop 30c', 'risk 60', 'Risk 60 what?', 'buy risk $60 at ask\n  stop 30c'],
  ['buy 100 at ask gtc ioc', 'buy', 'an order has one life', 'buy 100 at ask gtc'],
  ['buy 100 at market ioc', 'ioc', 'only a limit order can be over at once', 'buy 100 at market'],
  ['buy 100 at ask post only fok', 'post only', 'only a limit order that may rest', 'buy 100 at ask fok'],
  ['buy 300 at the open gtc', 'gtc', 'ends with it', 'buy 300 at the open'],
  ['buy 100 trailing 20c', 'trailing 20c', 'closes what is held', 'buy 100 above 1m high + 1c'],
  ['sell 20% of POWER at bid', '20% of POWER', 'buying power', 'sell 20% of "POWER" at bid'],
  ['sell all of AT at market', 'AT', 'stands in quotes', 'sell all of "AT" at market'],
  ['sell all of vulpn at market', 'vulpn', 'written in capitals', 'sell all of VULPN at market'],
  ['buy 100 at ask of ORBNT', 'buy', 'Whose?', 'buy 100 of ORBNT at ask'],
  ['buy 300 at open', 'at open', 'could be two things', 'buy 300 at the open'],
  ['buy risk 1R at ask', 'buy', 'add a line such as “stop 30c”', 'buy risk 1R at ask\n  stop 30c'],
  [
    'buy 100 at ask\n  target 2R',
    'target 2R',
    'R is the distance to the stop',
    'buy 100 at ask\n  target 2R\n  stop 30c',
  ],
  [
    'one of\n  buy 50 at bid\n  buy risk $20 at bid - 3c',
    'buy risk $20 at bid - 3c',
    'A size by risk needs a stop',
    'one of\n  buy 50 at bid\n  buy risk $20 at bid - 3c\n    stop 30c',
  ],
  ['buy 100 at ask\n  stop 1R', '1R', 'measured by itself', 'buy 100 at ask\n  stop 30c'],
  ['buy 100 at ask\n  stop 10c\n  stop 20c', 'stop 20c', 'A second stop', 'buy 100 at ask\n  stop 10c'],
  [
    'buy 100 at ask\n  stop 10c\n  target 1R\n  target 2R',
    'target 2R',
    'A second target',
    'buy 100 at ask\n  stop 10c\n  target 1R',
  ],
  [
    'buy 100 at ask\n  stop 10c\n  target 1R for half\n  target 2R for 60%',
    'target 2R',
    'add up to 110%',
    'buy 100 at ask\n  stop 10c\n  target 1R for half',
  ],
  [
    'buy 100 at ask\n  stop 10c\n  target 1R\n  breakeven after target 2',
    'target 2',
    'this order has 1',
    'buy 100 at ask\n  stop 10c\n  target 1R\n  breakeven after target 1',
  ],
  ['target 1R', 'target 1R', 'belongs under an entry', 'attach\n  target 1R'],
  ['attach', 'attach', 'Attach what?', 'attach\n  stop 30c'],
  ['alert when chang > 10%', 'chang', 'Did you mean “change”?', 'alert when change > 10%'],
  [
    'alert when price between 20 and 2',
    'price',
    'the lower value comes first',
    'alert when price between 2 and 20',
  ],
  ['', '', 'Nothing is written yet', 'buy 100 at ask + 2c'],
])('%j is underlined at %j and says %j; its fix is %j', (text, underlined, says, mended) => {
  const [p] = parseScript(text).problems;
  expect(p && text.slice(p.span.from, p.span.to).startsWith(underlined)).toBe(true);
  expect(p && explain(p)).toContain(says);
  const [fix] = p?.fixes ?? [];
  const after = fix ? text.slice(0, fix.from) + fix.text + text.slice(fix.to) : null;
  expect(after).toBe(mended);
  expect(parseScript(mended).problems).toEqual([]);
});

test.each([
  ['gp > 8%', 'Did you mean “gap”?'],
  ['flaot < 20M', 'Did you mean “float”?'],
  ['gap > 8% and premarket vol > 100k', 'Did you mean “volume”?'],
  ['gap > 8% shares', 'the end'],
  ['gap > $5', 'measured in percent, not in dollars'],
  ['price between 2', 'there should be “and”'],
  ['gap 8%', 'a comparison: >, >=, < or <='],
  ['borrow > 3', 'Expected “is”'],
  ['borrow is eazy', 'Did you mean “easy”?'],
  ['options listed > 3', 'the end'],
  [`${'('.repeat(9)}gap > 8%${')'.repeat(9)}`, 'More than eight brackets'],
  ['', 'gap > 8% and price between'],
])('the rule %j says %j', (text, says) => {
  const parsed = parseRule(text);
  expect(!parsed.ok && explain(parsed.problem)).toContain(says);
});

// Written otherwise, read alike; the version before wrote the last eight.
test.each([
  ['BUY 100 OF VULPN AT 5M HIGH + 3C', 'buy 100 of VULPN at 5m high + 3c'],
  ['buy 1R at ask, stop 30c', 'buy risk 1R at ask\n  stop 30c'],
  ['buy 100 at “ask”', null],
  ['buy 100 at ask – 3c', 'buy 100 at ask - 3c'],
  ['buy 100\u00a0at ask', 'buy 100 at ask'],
  ['buy 1,000 at 1,204.50', 'buy 1000 at 1204.50'],
  ['buy 1,200 dollars’ worth of ORBNT at ask', 'buy $1,200 of ORBNT at ask'],
  ['sell $1200 worth at bid', 'sell $1,200 at bid'],
  ['size 2500$', 'size $2,500'],
  ['buy 100 at ask + 0.05', 'buy 100 at ask + $0.05'],
  ['buy 100 at (ask of ORBNT - 1c)', 'buy 100 at (ask of ORBNT) - 1c'],
  ['close rest at bid', 'close all at bid'],
  ['buy 100 at ask extended gtc', 'buy 100 at ask gtc extended'],
  ['alert when float < 20m', 'alert when float < 20M'],
  ['alert when float < 20M and (gap > 8%)', 'alert when float < 20M and gap > 8%'],
  ['alert at premarket high of VULPN', 'alert of VULPN at premarket high'],
  ['alert at last + 10c of VULPN', 'alert of VULPN at last + 10c'],
  ['alert when change > 12% of QUOLS', 'alert of QUOLS when change > 12%'],
  ['alert on halt of VULPN', 'alert of VULPN on halt'],
  ['buy 300 at open 4.20', 'buy 300 at the open limit 4.20'],
  ['buy 300 at open + 5c', 'buy 300 at day open + 5c'],
  ['sell all at close 7.20', 'sell all at the close limit 7.20'],
  ['buy 100 above open', 'buy 100 above day open'],
])('%j is %j', (text, tidy) => {
  const parsed = parseScript(text);
  if (tidy === null) expect(parsed.problems.length).toBe(1);
  else expect([parsed.problems.map(explain), printScript(parsed)]).toEqual([[], tidy]);
});

test('comments in blocks stay with their lines', () => {
  const text = 'when time >= 15:50: # late\n  # all\n  cancel everything # first\n  flatten  # then\n# done';
  expect(printScript(parseScript(text))).toBe(
    'when time >= 15:50:  # late\n  # all\n  cancel everything  # first\n  flatten  # then\n# done',
  );
});

test('comments survive tidying, each where it was', () => {
  const text = '# in\nBUY 100 AT ASK  # now\n  # out\n  stop 20c   # far\n\n# done';
  expect(printScript(parseScript(text))).toBe(
    '# in\nbuy 100 at ask  # now\n  # out\n  stop 20c  # far\n# done',
  );
});

test('texts far too long, too deep or too many are answered, not worked on', () => {
  for (const text of [
    'q',
    '(',
    'not ',
    'buy ',
    '"',
    '\n',
    'q\n',
    '$',
    'a b ',
    'gap > 8% and ',
    'buy 100 at ask\n',
    '😀',
    'lower of (',
    ' + 1c',
  ].map((s) => s.repeat(12_000 / s.length))) {
    expect(parseScript(text).problems[0]?.code).toBe('too long');
    const [p] = parseScript(text.slice(0, 10_000)).problems;
    expect(p && explain(p).length).toBeGreaterThan(10);
    expect(parseRule(text.slice(0, 10_000)).ok).toBe(false);
  }
});

test('a rule reads, prints and reads again; “and” binds tighter than “or”', () => {
  const text =
    'gap > 8% and price between 2 and 20 and news kind is not trial result or not (premarket volume < 100k and gap <= 3%) and options listed and not restricted';
  const parsed = parseRule(text);
  expect(parsed.ok && printTree(parsed.rule)).toBe(text);
  expect(parsed.ok && parsed.rule.kind).toBe('any');
});

test('every form is on the reference page, in one group, with an example that reads and prints as it stands', () => {
  const entries = MANUAL.flatMap((g) => g.entries);
  expect(entries.map((e) => e.kind).sort()).toEqual([...KINDS].sort());
  for (const e of entries) {
    const { statements, problems, comments } = parseScript(e.script);
    expect([e.kind, problems.map(explain), printScript({ statements, comments })]).toEqual([
      e.kind,
      [],
      e.script,
    ]);
    // The form itself is in what was read.
    expect([e.kind, JSON.stringify(statements).includes(`"kind":"${e.kind}"`)]).toEqual([e.kind, true]);
  }
  for (const { text } of MANUAL.flatMap((g) => g.chapter?.scripts ?? []))
    expect([text, printScript(parseScript(text)), parseScript(text).problems]).toEqual([text, text, []]);
  expect(readFileSync('docs/script-reference.md', 'utf8')).toBe(manualText());
});

test('what other people call a thing leads to ours wherever it may begin a sentence or a price', () => {
  const led = (text: string, ours: string) => {
    const [p] = parseScript(text).problems;
    expect([text, p?.code === 'unknown word' ? p.nearest : p?.code]).toEqual([text, ours]);
  };
  led('buy 100 at lod', 'day low');
  led('buy 100 at previous close - 5c', 'prior close');
  led('buy 100 at average', 'entry');
  led('flip', 'reverse');
  led('modify last order up 1c', 'move');
  led('cancel all', 'cancel symbol” or “cancel everything');
  led('exit half at bid', 'close');
  led('buy to cover 100 at bid', 'cover');
  led('move stop to be', 'breakeven');
});

test('a word is only suggested where it fits: what follows a short one reads, too', () => {
  for (const text of ['buy max at ask', 'buy 100 if last > 10 at ask', 'tell me when 10', 'alert price 10']) {
    const [p] = parseScript(text).problems;
    expect([text, p?.code, p?.code === 'unknown word' && p.nearest]).toEqual([text, 'unknown word', null]);
  }
  for (const [text, nearest] of [
    ['byu 100 at ask', 'buy'],
    ['buy 100 at ask\n  be after 1R\n  stop 30c', 'breakeven'],
    ['buy 100 att ask', 'at'],
    ['buy 100 at premaket hihg', 'premarket'],
  ] as const)
    expect([text, parseScript(text).problems[0]]).toMatchObject([text, { nearest }]);
});

test.each([
  'buy 100 at 5.20 gtc account "Practice cash"',
  'buy 100 at the open account "Practice cash"',
  'sell all at 5.20 until 11:00 extended account "Practice cash"',
])('the account is no life, and stands beside any: %s', (text) => {
  expect(parseScript(text).problems).toEqual([]);
});

/** What waits, by the verbs of what it does. */
const waits = (text: string) =>
  parseScript(text).statements.map((s) => (s.kind === 'when' ? s.actions.map((a) => a.kind) : s.kind));

test.each([
  ['when time >= 15:50:\n  cancel everything\n  flatten', [['cancel everything', 'flatten']]],
  [
    'when last > 10: buy 100 at ask\n  stop 30c\n  once filled: sell half at bid\n  cancel last',
    [['enter', 'cancel last']],
  ],
  [
    'when gain >= 1R:\n    sell half at bid\n    move stop to 9.80\nflatten',
    [['close', 'move stop'], 'flatten'],
  ],
  [
    'when last > 10:\n  attach\n    stop 20c\n  alert at last + 5c\n  note "in"\n  buy 100 at ask\n  stop 30c',
    [['attach', 'alert', 'note', 'enter']],
  ],
])('a block is a block, whatever stands in it: %j', (text, kinds) => {
  const parsed = parseScript(text);
  expect(parsed.problems.map(explain)).toEqual([]);
  expect(waits(text)).toEqual(kinds);
  const tidy = printScript(parsed);
  expect(parseScript(tidy).statements).toEqual(parsed.statements);
});

test.each([
  ['when time >= 15:50: cancel entries, flatten', [['when', 'flatten'], ['when']]],
  ['when gain >= 1R: sell half at bid, move stop to 9.80', [['when', 'move stop'], ['when']]],
  ['buy 100 at ask, stop 30c, flatten', [['enter', 'flatten']]],
  ['buy 100 at ask\n  stop 30c\n  flatten', [['enter', 'flatten']]],
])(
  'a comma joins exits and nothing else, and no line stands under what does not hold it: %j',
  (text, readings) => {
    const { problems } = parseScript(text);
    expect(problems.map((p) => p.code)).toEqual(['whose line']);
    const texts = problems[0]?.fixes.map((f) => text.slice(0, f.from) + f.text + text.slice(f.to)) ?? [];
    expect(texts.map((t) => parseScript(t).problems.map(explain))).toEqual(readings.map(() => []));
    expect(texts.map((t) => parseScript(t).statements.map((s) => s.kind))).toEqual(readings);
  },
);

test('a colon with nothing under it waits for nothing: what stands beside it is not done now', () => {
  const text = 'when time >= 15:50:\nflatten';
  const [p] = parseScript(text).problems;
  expect(p && explain(p)).toContain('After “:” there should be what to do then');
  const [fix] = p?.fixes ?? [];
  expect(fix && waits(text.slice(0, fix.from) + fix.text + text.slice(fix.to))).toEqual([['flatten']]);
  expect(parseScript('when time >= 15:50:\nuse account "Cash"').problems.length).toBeGreaterThan(0);
  expect(parseScript('buy 100 at ask\n  once filled:').problems[0]).toMatchObject({ code: 'missing' });
});

test('a mistyped exit is named as one, wherever it stands', () => {
  for (const [text, nearest] of [
    ['buy 100 at ask\n  trgaet 30c', 'target'],
    ['buy 100 at ask, stpo 30c', 'stop'],
    ['when last > 10: buy 100 at ask\n  stpo 30c', 'stop'],
    ['when last > 10:\n  buy 100 at ask\n    brekeven after 30c', 'breakeven'],
  ] as const)
    expect([text, parseScript(text).problems]).toMatchObject([text, [{ code: 'unknown word', nearest }]]);
});

test('what an exit belongs to: the order before it, at its depth or above', () => {
  const exits = (text: string) =>
    parseScript(text).statements.flatMap((s) =>
      (s.kind === 'when' ? s.actions : [s]).map((a) =>
        a.kind === 'enter' ? a.exits.map((x) => x.kind) : [],
      ),
    );
  expect(exits('buy 100 at ask\nstop 30c\ntarget 1R')).toEqual([['stop exit', 'target exit']]);
  expect(exits('buy 100 at ask, stop 30c\n  target 1R')).toEqual([['stop exit', 'target exit']]);
  expect(exits('when last > 10: buy 100 at ask\n  stop 30c\n  buy 50 of ORBNT at ask\n  stop 20c')).toEqual([
    ['stop exit'],
    ['stop exit'],
  ]);
});

test('a line that is deeper than the one before is its exit, its chain, or a problem; what stands beside it goes as ever', () => {
  const codes = (text: string) => parseScript(text).problems.map((p) => p.code);
  expect(codes('buy 100 at ask\n  once filled: sell half at ask + 5c\n    flatten')).toEqual(['whose line']);
  expect(codes('  buy 100 at ask\n    stop 30c\n  flatten\ncancel entries')).toEqual([]);
  expect(codes('cancel entries\nflatten')).toEqual([]);
});

test('a symbol in small letters is taken for one only where it is listed', () => {
  const text = 'buy 100 orbnt at ask';
  const mended = (isListed?: (symbol: string) => boolean) =>
    parseScript(text, isListed).problems[0]?.fixes.map(
      (f) => text.slice(0, f.from) + f.text + text.slice(f.to),
    );
  expect([mended(), mended((s) => s === 'ORBNT')]).toEqual([[], ['buy 100 ORBNT at ask']]);
  expect(parseScript('sell all calls at bid').problems[0]?.fixes.some((f) => f.text.includes('CALLS'))).toBe(
    false,
  );
});

test('a rule is one condition on any lines, with its remarks; no repair makes two lines or an order of it', () => {
  expect(parseRule('gap > 8% # big\n  and float < 20M # small')).toMatchObject({ ok: true });
  for (const text of [
    'gap > 8%, float < 20M',
    'last > 5 then gap > 8%',
    'gap > 8%: flatten',
    'gap > 8% stop 30c',
  ]) {
    const parsed = parseRule(text);
    expect(parsed.ok).toBe(false);
    if (parsed.ok) continue;
    expect(explain(parsed.problem)).not.toMatch(/exits|line of its own/);
    for (const f of parsed.problem.fixes)
      expect(parseRule(text.slice(0, f.from) + f.text + text.slice(f.to))).toMatchObject({ ok: true });
  }
});

test('a comma between two conditions is offered as “and”', () => {
  const parsed = parseRule('gap > 8%, float < 20M');
  expect(!parsed.ok && parsed.problem.fixes.map((f) => f.text)).toEqual([' and']);
});

test('what a scan cannot know is refused there with the reason, and read where it can be known', () => {
  for (const text of [
    'gain >= 1R',
    'last of ORBNT > 5',
    '5m close > vwap',
    'bid crosses above vwap',
    'last > entry',
    'last > vwap + 1R',
    'last > (ask of ORBNT)',
  ]) {
    const parsed = parseRule(text);
    expect([text, !parsed.ok && parsed.problem.code]).toEqual([text, 'not in a scan']);
    expect(parseScript(`alert when ${text}`).problems).toEqual([]);
  }
});
