import fc from 'fast-check';
import { parseScript, printTree } from '@/core/language';
import { TICKET_PARTS } from '@/store/ticket-parts';
import {
  afterSending,
  closes,
  fieldsOf,
  ofSymbol,
  sentenceOf,
  stepped,
  type TicketFields,
  turned,
} from './ticket-form';

const value = (min: number, max: number, per = 1) =>
  fc.integer({ min, max }).map((n) => (per === 1 ? String(n) : (n / per).toFixed(2)));
const entered: fc.Arbitrary<TicketFields['size']> = fc.oneof(
  fc.record({ by: fc.constant('shares' as const), value: value(1, 90_000) }),
  fc.record({ by: fc.constant('dollars' as const), value: value(1, 90_000) }),
  fc.record({
    by: fc.constant('R' as const),
    value: fc.integer({ min: 1, max: 40 }).map((n) => String(n / 4)),
  }),
  fc.record({ by: fc.constant('power' as const), value: value(1, 100) }),
);
const closed: fc.Arbitrary<TicketFields['size']> = fc.oneof(
  fc.record({ by: fc.constant('shares' as const), value: value(1, 90_000) }),
  fc.record({ by: fc.constant('part' as const), value: fc.constantFrom('all', 'half', 'third', '25%') }),
);
const price: fc.Arbitrary<TicketFields['price']> = fc.oneof(
  fc.constantFrom({ by: 'market' as const }, { by: 'usual' as const }, { by: 'hidden' as const }),
  fc.record({ by: fc.constantFrom('ask', 'bid', 'mid', 'last'), cents: value(-90, 90) }),
  fc.record({ by: fc.constant('limit' as const), value: value(100, 90_000, 100) }),
  fc.record({
    by: fc.constant('stop' as const),
    value: value(100, 90_000, 100),
    limit: fc.oneof(fc.constant(''), value(100, 90_000, 100)),
  }),
);
const about = {
  life: fc.constantFrom('' as const, 'day' as const, 'gtc' as const, 'ioc' as const, 'fok' as const),
  extended: fc.boolean(),
  account: fc.constantFrom('', 'Practice cash'),
  symbol: fc.constantFrom('', 'ORBNT'),
  condition: fc.constantFrom('', 'last >= 6.60', '5m close > vwap and volume > 10k'),
  plan: fc.constant(''),
};
const fields: fc.Arbitrary<TicketFields> = fc.oneof(
  fc.record({
    ...about,
    verb: fc.constantFrom('buy' as const, 'short' as const),
    size: entered,
    price,
    exits: fc.constantFrom('stop 30c', 'stop 2%\ntarget 1R for half', 'stop usual\nbreakeven after 1R'),
  }),
  fc.record({
    ...about,
    verb: fc.constantFrom('sell' as const, 'cover' as const),
    size: closed,
    price: fc.oneof(
      price,
      fc.constantFrom({ by: 'trail' as const, value: '20c' }, { by: 'trail' as const, value: '0.5 atr' }),
    ),
    exits: fc.constant(''),
  }),
);

test('the form and the sentence are two views of one thing: there and back nothing is lost', () => {
  let read = 0;
  fc.assert(
    fc.property(fields, (f) => {
      // Not everything that the fields can say may go together: a stop does not take ioc.
      const text = sentenceOf(f);
      if (parseScript(text).problems.length > 0) return;
      read++;
      expect(fieldsOf(text)).toEqual(f);
    }),
    { numRuns: 600 },
  );
  expect(read).toBeGreaterThan(150);
});

test('another side: the same place beside its quote, a size and a price that it can have, its exits kept', () => {
  fc.assert(
    fc.property(fields, fc.constantFrom(...(['buy', 'short', 'sell', 'cover'] as const)), (f, verb) => {
      const to = turned(f, verb);
      expect(to.exits).toBe(f.exits);
      if (parseScript(sentenceOf(f)).problems.length > 0 || to.price.by === 'stop') return;
      expect(
        parseScript(sentenceOf({ ...to, exits: closes(verb) ? to.exits : 'stop usual' })).problems,
      ).toEqual([]);
    }),
  );
  const buy = fieldsOf('buy risk 1R at ask + 2c\n  stop usual') as TicketFields;
  expect(sentenceOf(turned(buy, 'short'))).toBe('short risk 1R at bid - 2c\n  stop usual');
  expect(sentenceOf(turned(buy, 'sell'))).toBe('sell all at bid - 2c');
});

test('after it was sent what is to stay stays, and the rest is plain', () => {
  const f = fieldsOf('short 300 at bid - 2c gtc extended\n  stop 30c') as TicketFields;
  expect(sentenceOf(afterSending(f, TICKET_PARTS))).toBe(sentenceOf(f));
  expect(sentenceOf(afterSending(f, []))).toBe('buy risk 1R at usual through\n  stop usual');
  expect(sentenceOf(afterSending(f, ['side', 'exits']))).toBe('short risk 1R at usual through\n  stop 30c');
});

test.each([
  'buy 100 at ask + 2c extended\n  stop 20c\n  target 2R',
  'short risk 1R at usual through with plan "two steps"',
  'buy 20% of power at 5.75\n  stop 2%',
  'short $2,500 below 5.20\n  stop usual',
  'when newly last >= 6.60: buy 80 above 6.70 limit 6.80\n  stop 5c',
  'sell half trailing 20c account "Practice cash"',
  'cover all at usual through',
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
  'buy 1 of ORBNT 2027-03-19 5 call at ask',
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

test('an order of another symbol keeps its symbol in the ticket, and every field beside it', () => {
  const text = 'buy 100 at 5.20\n  stop 30c';
  expect(ofSymbol(text, 'DAMET')).toBe('buy 100 of DAMET at 5.20\n  stop 30c');
  expect(ofSymbol('buy 100 of ORBNT at 5.20', 'DAMET')).toBe('buy 100 of ORBNT at 5.20');
  expect(fieldsOf('buy 100 of ORBNT at 5.20\n  stop 30c')).toMatchObject({
    symbol: 'ORBNT',
    exits: 'stop 30c',
  });
});
