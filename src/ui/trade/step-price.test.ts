import { stepLimit } from './step-price';

const times = (text: string, way: 1 | -1, n: number): string | null =>
  n === 0 ? text : times(stepLimit(text, way) ?? 'nothing', way, n - 1);

test.each([
  ['short 1 of VULPN 2027-03-19 5/4.5 put at mid credit', 1, 'at mid + 1c credit'],
  ['short 1 of VULPN 2027-03-19 5/4.5 put at mid + 1c credit', -1, 'at mid credit'],
  ['short 1 vertical of 45 days 30 delta 5 wide put at mid - 3c credit', -1, 'at mid - 4c credit'],
  ['buy 1 of VULPN 2027-03-19 6/5 put at 1.20 debit gtc', 1, 'at 1.21 debit gtc'],
  ['buy 1 of VULPN 2027-03-19 6 call at ask', -1, 'at ask - 1 tick'],
  ['buy 100 at ask + 2c extended\n  stop 20c\n  target 2R', 1, 'at ask + 3c extended'],
  ['when last >= 6.50: buy 1 of 45 days at the money call at mid', 1, 'at mid + 1 tick'],
] as const)('the limit of %j goes a step', (text, way, into) => {
  expect(stepLimit(text, way)?.split('\n')[0]).toContain(into);
});

test('a step there and back is the same sentence, its exits and comments with it', () => {
  const text = 'buy 100 at ask + 2c extended # a try\n  stop 20c\n  target 2R';
  const there = times(text, 1, 5) as string;
  expect(there).toContain('ask + 7c');
  expect(times(there, -1, 5)).toBe(times(times(text, 1, 1) as string, -1, 1));
  expect(times(text, -1, 2)?.split('\n')[0]).toContain('at ask extended');
});

test.each(['buy 100 at market', 'buy 100 above 5.60', 'flatten', 'buy 100 at', ''])(
  '%j has no limit to step',
  (text) => {
    expect(stepLimit(text, 1)).toBeNull();
  },
);
