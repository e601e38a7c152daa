import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import {
  type Exit,
  explain,
  type Handling,
  type Offset,
  type Part,
  type PriceExpr,
  type Pricing,
  parseRule,
  parseScript,
  printRule,
  printScript,
  type Size,
  type Statement,
} from './index.ts';

const amount = fc.integer({ min: 1, max: 9_999 }).map((n) => n / 100);
const offset: fc.Arbitrary<Offset> = fc.record({ value: amount, unit: fc.constantFrom('cents', 'dollars', 'ticks', 'percent', 'R') });
const distance: fc.Arbitrary<Offset> = fc.record({ value: amount, unit: fc.constantFrom('cents', 'dollars', 'ticks', 'percent') });
const priceExpr: fc.Arbitrary<PriceExpr> = fc.record({
  base: fc.oneof(
    fc.record({ kind: fc.constant('number' as const), dollars: amount }),
    fc.record({
      kind: fc.constant('name' as const),
      name: fc.constantFrom(
        'bid',
        'ask',
        'mid',
        'last',
        'vwap',
        'entry',
        'stop',
        'prior close',
        'day high',
        'premarket low',
        'whole dollar above',
        'half dollar below',
        'cursor',
      ),
    }),
    fc.record({ kind: fc.constant('premarket candle' as const), edge: fc.constantFrom('high', 'low') }),
    fc.record({ kind: fc.constant('opening range' as const), minutes: fc.constantFrom(1, 5, 30), edge: fc.constantFrom('high', 'low') }),
    fc.record({ kind: fc.constant('candle' as const), minutes: fc.constantFrom(1, 2, 5, 15), edge: fc.constantFrom('high', 'low', 'open', 'close') }),
  ),
  offsets: fc.array(fc.record({ sign: fc.constantFrom(1 as const, -1 as const), by: offset }), { maxLength: 2 }),
});
const part: fc.Arbitrary<Part> = fc.constantFrom<Part>(
  { kind: 'all' },
  { kind: 'fraction', num: 1, den: 2 },
  { kind: 'fraction', num: 1, den: 3 },
  { kind: 'fraction', num: 1, den: 4 },
  { kind: 'fraction', num: 35, den: 100 },
);
const pricing: fc.Arbitrary<Pricing> = fc.oneof(
  fc.constant<Pricing>({ kind: 'market' }),
  fc.record({ kind: fc.constant('limit' as const), price: priceExpr }),
  fc.record({ kind: fc.constant('stop' as const), way: fc.constantFrom('above', 'below'), trigger: priceExpr, limit: fc.option(priceExpr) }),
  fc.record({ kind: fc.constant('sweep' as const), price: priceExpr }),
);
/** Prices with words after them that go together. */
const handled: fc.Arbitrary<Handling & { pricing: Pricing }> = fc.oneof(
  fc.record({ pricing, life: fc.constantFrom('day' as const, 'gtc' as const), postOnly: fc.constant(false), extended: fc.boolean() }),
  fc.record({
    pricing: fc.record({ kind: fc.constant('limit' as const), price: priceExpr }),
    life: fc.constantFrom('day' as const, 'gtc' as const),
    postOnly: fc.constant(true),
    extended: fc.boolean(),
  }),
  fc.record({
    pricing: fc.oneof(fc.record({ kind: fc.constantFrom('limit' as const, 'sweep' as const), price: priceExpr }), fc.constant<Pricing>({ kind: 'mid' })),
    life: fc.constantFrom('ioc' as const, 'fok' as const),
    postOnly: fc.constant(false),
    extended: fc.constant(false),
  }),
  fc.record({
    pricing: fc.oneof(
      fc.constant<Pricing>({ kind: 'mid' }),
      fc.record({ kind: fc.constant('auction' as const), which: fc.constantFrom('open', 'close'), price: fc.option(priceExpr) }),
    ),
    life: fc.constant('day' as const),
    postOnly: fc.constant(false),
    extended: fc.constant(false),
  }),
);
const symbol = fc.option(fc.constantFrom('VULPN', 'ORBNT'));
const entrySize: fc.Arbitrary<Size> = fc.oneof(
  fc.record({ kind: fc.constant('shares' as const), shares: fc.integer({ min: 1, max: 99_999 }) }),
  fc.record({ kind: fc.constant('money' as const), dollars: amount }),
  fc.record({ kind: fc.constant('risk' as const), amount: fc.record({ kind: fc.constant('R' as const), r: amount }) }),
);
const exits: fc.Arbitrary<Exit[]> = fc
  .tuple(distance, fc.option(fc.record({ place: offset, part: fc.option(part) })), fc.option(offset))
  .map(([stop, target, after]) => [
    { kind: 'stop', place: { kind: 'distance', by: stop } },
    ...(target ? [{ kind: 'target', place: { kind: 'distance', by: target.place }, part: target.part } satisfies Exit] : []),
    ...(after ? [{ kind: 'breakeven', after: { kind: 'gain', by: after }, plusCosts: true } satisfies Exit] : []),
  ]);
function mixed<A extends object, B extends object>(a: fc.Arbitrary<A>, b: { [K in keyof B]: fc.Arbitrary<B[K]> }): fc.Arbitrary<A & B> {
  return fc.tuple(a, fc.record(b)).map(([x, y]) => ({ ...y, ...x }) as A & B);
}
const statement: fc.Arbitrary<Statement> = fc.oneof(
  mixed(handled, {
    kind: fc.constant('entry' as const),
    verb: fc.constantFrom('buy', 'short'),
    staged: fc.boolean(),
    size: entrySize,
    symbol,
    exits,
  }),
  mixed(handled, {
    kind: fc.constant('close' as const),
    verb: fc.constantFrom('sell', 'cover', 'close'),
    staged: fc.boolean(),
    size: part.map((p): Size => ({ kind: 'part', part: p })),
    symbol,
  }),
  fc.record({ kind: fc.constant('move stop' as const), symbol, to: priceExpr }),
  fc.record({
    kind: fc.constant('move order' as const),
    order: fc.oneof(fc.constant('last' as const), fc.integer({ min: 1, max: 999 })),
    by: fc.record({ kind: fc.constantFrom('up' as const, 'down' as const), by: offset }),
  }),
  fc.record({ kind: fc.constant('flatten' as const), everything: fc.constant(false), symbol }),
  fc.constant<Statement>({ kind: 'cancel', what: { kind: 'everything' } }),
  fc.record({
    kind: fc.constant('alert' as const),
    any: fc.constant(false),
    symbol,
    on: fc.oneof(fc.record({ kind: fc.constant('price' as const), price: priceExpr }), fc.record({ kind: fc.constantFrom('news' as const, 'halt' as const) })),
  }),
  fc.constantFrom<Statement>(
    { kind: 'alert', any: true, symbol: null, on: { kind: 'news' } },
    { kind: 'alert', any: true, symbol: null, on: { kind: 'halt' } },
  ),
);

test('printing a tree and reading it back gives the same tree', () => {
  fc.assert(
    fc.property(fc.array(statement, { minLength: 1, maxLength: 4 }), (statements) => {
      const text = printScript({ lines: statements.map((s) => ({ statement: s, span: { from: 0, to: 0 } })) });
      const { script, problems } = parseScript(text);
      expect(problems).toEqual([]);
      expect(script.lines.map((l) => l.statement)).toEqual(statements);
      expect(printScript(script)).toBe(text);
    }),
    { numRuns: 500 },
  );
});

test('no text makes the reader fail: it gives a tree or a problem inside the text', () => {
  const words = fc.constantFrom(
    'buy',
    'short',
    'close',
    'stop',
    'target',
    'at',
    'ask',
    '+',
    '3c',
    '1R',
    'risk',
    '$',
    'half',
    '100',
    '\n',
    ',',
    'of',
    'VULPN',
    '%',
    'above',
    'limit',
    '€',
  );
  fc.assert(
    fc.property(fc.array(words, { maxLength: 14 }), (list) => {
      const text = list.join(' ');
      for (const p of parseScript(text).problems) {
        expect(p.span.from).toBeGreaterThanOrEqual(0);
        expect(p.span.to).toBeLessThanOrEqual(text.length);
        expect(explain(p).length).toBeGreaterThan(10);
      }
    }),
    { numRuns: 600 },
  );
});

test.each([
  ['buy 100 att ask', 'att', 'Did you mean “at”?'],
  ['buy 100 at axk + 3c', 'axk', 'Did you mean “ask”?'],
  ['buy risk 1R at ask', 'buy risk 1R at ask', 'add a line such as “stop 30c”'],
  ['buy 100 at ask\n  target 2R', 'buy 100 at ask', 'R is the distance to the stop'],
  ['buy half at ask', 'half', 'A part of the position cannot be bought'],
  ['buy 100 at ask\n stop 10c\n stop 20c', 'stop 20c', 'One stop covers the position'],
  ['buy 100 at ask\n stop 10c\n target 1R for half\n target 2R for 60%', 'buy 100', 'add up to 110%'],
  ['target 1R', 'target 1R', 'belongs under an entry'],
  ['buy 100 at', 'at', 'there should be a price'],
  ['buy 100 at 7m high', '7m', 'a candle of 1m, 2m, 5m or 15m'],
  ['flaten', 'flaten', 'Did you mean “flatten”?'],
  ['alert any at 5', 'at', '“when” and a rule, “on news” or “on halt”'],
  ['alert when chang > 10%', 'chang', 'Did you mean “change”?'],
  ['buy 100 above opening range 90m high', '90m', 'up to 60m'],
  ['buy 100 at whole dollar', 'dollar', 'above or below'],
  ['', '', 'Nothing is written yet'],
])('%j is underlined at %j and says %j', (text, underlined, says) => {
  const [problem] = parseScript(text).problems;
  expect(problem && text.slice(problem.span.from, problem.span.to).startsWith(underlined)).toBe(true);
  expect(problem && explain(problem)).toContain(says);
});

test('a rule reads, prints and reads again; “and” binds tighter than “or”', () => {
  const text =
    'gap > 8% and price between 2 and 20 and news kind is not trial result or not (premarket volume < 100k and gap <= 3%) and options listed and not restricted';
  const parsed = parseRule(text);
  expect(parsed.ok && printRule(parsed.rule)).toBe(text);
  expect(parsed.ok && parsed.rule.kind).toBe('or');
});

test.each([
  ['gp > 8%', 'Did you mean “gap”?'],
  ['flaot < 20M', 'Did you mean “float”?'],
  ['gap > 8% and premarket vol > 100k', 'Did you mean “premarket volume”?'],
  ['gap > 100k shares', 'the end of the rule'],
  ['gap > $5', 'measured in percent, not in dollars'],
  ['price between 2', 'there should be “and”'],
  ['premarket volum > 100k', 'Did you mean “premarket volume”?'],
  ['gap 8%', '>, >=, <, <='],
  ['borrow > 3', '“is” and one of: easy, hard, none'],
  ['borrow is eazy', 'Did you mean “easy”?'],
  ['options listed > 3', 'the end of the rule'],
  ['', 'gap > 8% and price between'],
])('the rule %j says %j', (text, says) => {
  const parsed = parseRule(text);
  expect(!parsed.ok && explain(parsed.problem)).toContain(says);
});

test('every example of the reference page reads without a problem, prints, and reads again as the same', () => {
  const page = readFileSync('docs/script-reference.md', 'utf8');
  const blocks = [...page.matchAll(/```(script|rule)\n([\s\S]*?)```/g)];
  expect(blocks.length).toBeGreaterThanOrEqual(3);
  for (const [, kind, text = ''] of blocks) {
    if (kind === 'script') {
      const { script, problems } = parseScript(text);
      expect(problems.map(explain)).toEqual([]);
      expect(parseScript(printScript(script)).script.lines.map((l) => l.statement)).toEqual(script.lines.map((l) => l.statement));
    } else {
      for (const line of text.trim().split('\n')) {
        const parsed = parseRule(line);
        expect(parsed.ok && printRule(parsed.rule)).toBe(line);
      }
    }
  }
});
