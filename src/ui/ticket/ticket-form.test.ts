import fc from 'fast-check';
import { parseScript, printTree } from '@/core/language';
import { fieldsOf, sentenceOf, stepped, type TicketFields } from './ticket-form';

const fields: fc.Arbitrary<TicketFields> = fc.record({
  verb: fc.constantFrom('buy', 'short'),
  size: fc.oneof(
    fc.record({ by: fc.constant('shares' as const), value: fc.integer({ min: 1, max: 90_000 }).map(String) }),
    fc.record({
      by: fc.constant('dollars' as const),
      value: fc.integer({ min: 1, max: 90_000 }).map(String),
    }),
    fc.record({
      by: fc.constant('R' as const),
      value: fc.integer({ min: 1, max: 40 }).map((n) => String(n / 4)),
    }),
    fc.record({ by: fc.constant('power' as const), value: fc.integer({ min: 1, max: 100 }).map(String) }),
  ),
  price: fc.oneof(
    fc.constant({ by: 'market' as const }),
    fc.constant({ by: 'usual' as const }),
    fc.record({
      by: fc.constantFrom('ask', 'bid', 'mid', 'last'),
      cents: fc.integer({ min: -90, max: 90 }).map(String),
    }),
    fc.record({
      by: fc.constantFrom('limit', 'stop'),
      value: fc.integer({ min: 100, max: 90_000 }).map((c) => (c / 100).toFixed(2)),
    }),
  ),
  extended: fc.boolean(),
  plan: fc.constant(''),
  exits: fc.constantFrom('stop 30c', 'stop 2%\ntarget 1R for half', 'stop usual\nbreakeven after 1R'),
});

test('the form and the sentence are two views of one thing: there and back nothing is lost', () => {
  fc.assert(
    fc.property(fields, (f) => {
      // Before and after the regular session nothing goes at market.
      const text = sentenceOf(f);
      if (parseScript(text).problems.length > 0) return;
      expect(fieldsOf(text)).toEqual(f);
    }),
    { numRuns: 400 },
  );
});

test.each([
  'buy 100 at ask + 2c extended\n  stop 20c\n  target 2R',
  'short risk 1R at usual through with plan "two steps"',
  'buy 20% of power at 5.75\n  stop 2%',
  'short $2,500 below 5.20\n  stop usual',
])('%s is in the form, and comes back as it was', (text) => {
  const f = fieldsOf(text);
  if (!f) throw new Error('no form');
  const [was] = parseScript(text).statements;
  const [is] = parseScript(sentenceOf(f)).statements;
  expect(is && printTree(is)).toBe(was && printTree(was));
});

test.each([
  'flatten',
  'buy 100 at ask until 10:00',
  'buy 100 at ask\n  once filled: sell half at ask + 5c',
  'stage buy 100 at ask',
  'buy 100 of ORBNT at ask',
  'buy 100 above day high',
  'buy 100 at ask # mine',
  'buy 100 at',
  '',
])('what the form has no room for is left to the text: %s', (text) => {
  expect(fieldsOf(text)).toBeNull();
});

test('numbers step, and what is no number stays', () => {
  expect(stepped('5.75', 0.01, 0.01, 2)).toBe('5.76');
  expect(stepped('0.01', -0.01, 0.01, 2)).toBe('0.01');
  expect(stepped('100', 10, 1, 0)).toBe('110');
  expect(stepped('five', 1, 0, 0)).toBe('five');
});
