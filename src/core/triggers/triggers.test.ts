import fc from 'fast-check';
import { at, MINUTE } from '../units/index.ts';
import {
  dueAt,
  type Happening,
  symbolsOf,
  type Trigger,
  tell,
  touched,
  trailLevel,
  trailOn,
  trigger,
  type When,
} from './index.ts';

const T = at(10);
const tick = (
  last: number,
  over: Partial<{ symbol: string; at: number; bid: number; ask: number }> = {},
): Happening => ({
  kind: 'tick',
  tick: { symbol: 'VULPN', at: T, last, bid: last - 100, ask: last + 100, ...over },
});
const touch = (way: 'up' | 'down', price: number, on: 'last' | 'bid' | 'ask' = 'last'): When => ({
  kind: 'touch',
  symbol: 'VULPN',
  on,
  way,
  price,
});
const candle = (minutes = 3, symbol = 'VULPN'): Happening => ({ kind: 'candle', at: T, symbol, minutes });
const test3m: When<string> = {
  kind: 'test',
  test: '3m close',
  looks: [{ at: 'candle', symbol: 'VULPN', minutes: 3 }],
};
const each = (test: string): When<string> => ({ kind: 'test', test, looks: [{ at: 'seconds' }] });
const no = () => false;

/** What a condition comes to over some happenings, one letter each: w waits, f fired, o over. */
function run<X>(t: Trigger<X>, happenings: Happening[], passes: (test: X) => boolean = no): string {
  let now = t;
  return happenings
    .map((h) => {
      const told = tell(now, h, passes);
      now = told.trigger;
      return told.outcome[0];
    })
    .join('');
}

test.each([
  ['up', 100, 99, false],
  ['up', 100, 100, true],
  ['up', 100, 101, true],
  ['down', 100, 101, false],
  ['down', 100, 100, true],
  ['down', 100, 99, true],
  ['up', 100, null, false],
] as const)('going %s to %d, %p touches: %p', (way, level, price, expected) => {
  expect(touched(way, level, price)).toBe(expected);
});

test('a touch looks at last, bid or ask of its own symbol', () => {
  expect(
    run(trigger(touch('up', 100_000)), [tick(99_900), tick(120_000, { symbol: 'ORBNT' }), tick(100_000)]),
  ).toBe('wwf');
  expect(run(trigger(touch('up', 100_000, 'bid')), [tick(100_000), tick(100_100)])).toBe('wf');
  expect(run(trigger(touch('down', 100_000, 'ask')), [tick(100_000), tick(99_900)])).toBe('wf');
});

test('what looks at a candle is told of that one only, and knows nothing before it', () => {
  const t = trigger(test3m);
  const yes = () => true;
  expect(run(t, [tick(101_000), candle(5), candle(3, 'ORBNT'), candle()], yes)).toBe('wwwf');
  const not = trigger<string>({ kind: 'not', of: test3m });
  expect(run(not, [{ kind: 'set', at: T }, tick(1), { kind: 'clock', at: T }, candle()], () => false)).toBe(
    'wwwf',
  );
});

test('set: everything but candles is looked at; what crosses has to have been false first', () => {
  expect(run(trigger(each('gap')), [{ kind: 'set', at: T }], () => true)).toBe('f');
  const crossing: When<string> = { ...each('gap'), crossing: true } as When<string>;
  let now = true;
  const told = [true, true, false, true].map((x) => ({ kind: 'clock' as const, at: T, x }));
  let t = trigger(crossing);
  const letters = told.map(({ x, ...h }) => {
    now = x;
    const step = tell(t, h, () => now);
    t = step.trigger;
    return step.outcome[0];
  });
  expect(letters.join('')).toBe('wwwf');
});

test('what is not known decides nothing, unless the rest decides it', () => {
  const truth: Record<string, boolean | null> = { yes: true, no: false, dark: null };
  const outcome = (w: When<string>) =>
    tell(trigger(w), { kind: 'clock', at: T }, (x) => truth[x] ?? null).outcome;
  const both = (kind: 'all' | 'any', x: string): When<string> => ({ kind, of: [each(x), each('dark')] });
  expect(outcome(both('any', 'yes'))).toBe('fired');
  expect(outcome(both('any', 'no'))).toBe('waits');
  expect(outcome(both('all', 'yes'))).toBe('waits');
  expect(outcome({ kind: 'not', of: both('all', 'no') })).toBe('fired');
  expect(outcome({ kind: 'not', of: each('dark') })).toBe('waits');
});

test('newly fires only after the whole has been false once; paused sees but does not fire; until ends the waiting', () => {
  const up = touch('up', 100_000);
  expect(run(trigger(up), [tick(100_000)])).toBe('f');
  expect(run(trigger(up, { newly: true }), [tick(100_000), tick(101_000), tick(99_900), tick(100_000)])).toBe(
    'wwwf',
  );
  expect(run({ ...trigger(up), paused: true }, [tick(100_000)])).toBe('w');
  const told = tell({ ...trigger(up), paused: true }, tick(100_000), no);
  expect(tell({ ...told.trigger, paused: false }, tick(100_000), no).outcome).toBe('fired');
  expect(
    run(trigger(up, { until: T + 10 }), [tick(99_000, { at: T + 9 }), tick(100_000, { at: T + 10 })]),
  ).toBe('wo');
});

test('a clock’s time is reached by whatever comes at it or after it; a test is looked at when the clock is told', () => {
  expect(
    run(trigger({ kind: 'time', at: T }), [
      { kind: 'clock', at: T - 1 },
      { kind: 'clock', at: T },
    ]),
  ).toBe('wf');
  let open = false;
  const t = trigger<string>(each('gap'));
  expect(run(t, [{ kind: 'clock', at: T }], () => open)).toBe('w');
  open = true;
  expect(run(t, [tick(1), { kind: 'clock', at: T }], (name) => open && name === 'gap')).toBe('wf');
});

test('when it next has to be told: nothing for touches, the next candle, the time, the next second, the end; the nearest of several', () => {
  const now = T + 61_500;
  expect(dueAt(trigger(touch('up', 1)), now)).toBeNull();
  expect(dueAt(trigger(test3m), now)).toBe(T + 3 * MINUTE);
  expect(dueAt(trigger({ kind: 'time', at: now + 5 }), now)).toBe(now + 5);
  expect(dueAt(trigger({ kind: 'time', at: now }), now)).toBeNull();
  expect(dueAt(trigger(each('')), now)).toBe(T + 62_000);
  expect(dueAt(trigger(touch('up', 1), { until: now + 1 }), now)).toBe(now + 1);
  expect(
    dueAt(
      trigger({
        kind: 'any',
        of: [
          { kind: 'time', at: now + 9 },
          { kind: 'time', at: now + 7 },
        ],
      }),
      now,
    ),
  ).toBe(now + 7);
  expect(
    symbolsOf(
      trigger<string>({
        kind: 'all',
        of: [
          touch('up', 1),
          { kind: 'not', of: touch('down', 1) },
          { kind: 'test', test: '', looks: [{ at: 'candle', symbol: 'B', minutes: 1 }] },
        ],
      }),
    ),
  ).toEqual(['VULPN', 'B']);
});

const leaf = fc.record({
  kind: fc.constant('touch' as const),
  symbol: fc.constant('VULPN'),
  on: fc.constantFrom('last' as const, 'bid' as const),
  way: fc.constantFrom('up' as const, 'down' as const),
  price: fc.integer({ min: 95, max: 105 }),
});
const { tree } = fc.letrec<{ tree: When }>((tie) => ({
  tree: fc.oneof(
    { maxDepth: 3 },
    leaf,
    fc.record({
      kind: fc.constantFrom('all' as const, 'any' as const),
      of: fc.array(tie('tree'), { minLength: 1, maxLength: 3 }),
    }),
    fc.record({ kind: fc.constant('not' as const), of: tie('tree') }),
  ),
}));

test('all, any and not of touches are what a plain reading of the prices gives, at each tick, and unchanged is the same object', () => {
  const plain = (w: When, last: number, bid: number): boolean => {
    switch (w.kind) {
      case 'touch': {
        const p = w.on === 'bid' ? bid : last;
        return w.way === 'up' ? p >= w.price : p <= w.price;
      }
      case 'all':
        return w.of.every((x) => plain(x, last, bid));
      case 'any':
        return w.of.some((x) => plain(x, last, bid));
      case 'not':
        return !plain(w.of, last, bid);
      default:
        throw new Error('only touches are made here');
    }
  };
  fc.assert(
    fc.property(
      tree,
      fc.array(fc.integer({ min: 93, max: 107 }), { minLength: 1, maxLength: 12 }),
      (w, prices) => {
        let t = trigger(w);
        for (const p of prices) {
          const told = tell(t, tick(p, { bid: p - 1 }), no);
          expect(told.outcome).toBe(plain(w, p, p - 1) ? 'fired' : 'waits');
          t = told.trigger;
          expect(tell(t, tick(p, { bid: p - 1 }), no).trigger).toBe(t);
        }
      },
    ),
  );
});

test.each([
  [1, { kind: 'distance' as const, units: 500 }, 99_500],
  [-1, { kind: 'distance' as const, units: 500 }, 95_500],
  [1, { kind: 'percent' as const, percent: 2 }, 98_000],
  [-1, { kind: 'percent' as const, percent: 2 }, 96_900],
  [1, { kind: 'atr' as const, times: 1.5, atr: 1_000 }, 98_500],
  [-1, { kind: 'candle' as const, minutes: 2, beyond: 100 }, 99_100],
  [1, { kind: 'candle' as const, minutes: 2, beyond: 100 }, 96_900],
] as const)(
  'by hand: a trail of side %d by %j stands at %d after 97,000, 100,000 and 95,000',
  (sign, reach, level) => {
    let t: ReturnType<typeof trailOn> = { reach, mark: null };
    expect(trailLevel(t, sign, () => ({ high: 99_000, low: 97_000 }))).toBeNull();
    for (const p of [97_000, 100_000, 95_000]) t = trailOn(t, sign, p);
    expect(trailOn(t, sign, t.mark as number)).toBe(t);
    expect(
      Math.round(
        trailLevel(t, sign, (minutes) => (minutes === 2 ? { high: 99_000, low: 97_000 } : null)) as number,
      ),
    ).toBe(level);
  },
);
