import fc from 'fast-check';
import { advance, createEngine } from '../../session/engine.ts';
import { runContext } from '../../session/moment.ts';
import { simMarket } from '../../session/sim-market.ts';
import { parseExits, printTree } from '../language/index.ts';
import type { Bar } from '../market/index.ts';
import { exitsOf, PLAIN_PLANS, type RunContext, resolvePlan } from '../reading/index.ts';
import { at, fromDollars, MINUTE } from '../units/index.ts';
import { movedExit, partedExits, pictureOf, planOnBars } from './index.ts';

const engine = createEngine(
  simMarket({ ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 24 }, own: null }),
);
advance(engine, at(9, 40));
const c: RunContext = runContext(engine, 'VULPN', null);
const view = c.view('VULPN') as NonNullable<ReturnType<RunContext['view']>>;
const TEN = fromDollars(10);
const picture = (text: string, side: 'buy' | 'sell' = 'buy', qty = 200) => {
  const seen = pictureOf(exitsOf(text), { side, entry: TEN, qty }, view, c);
  if (!seen.ok) throw new Error(seen.problem);
  return seen.picture;
};

// By hand: 200 at 10.00, stop 30 cents; half at +30c, half at +60c. In: $1.00 and 60c to the exchange. Out by a target of 100,
// which rests: $1.00, 20c paid back, 3c SEC, 2c TAF, so 85c; by what takes: $1.00, 30c, 3c, 2c. 200 at the stop: $1.00, 60c, 6c, 4c.
test('a plan as numbers by hand: prices, R, shares, worst case, every target, reward to risk', () => {
  const p = picture('stop 30c\ntarget 1R for half\ntarget 2R\nbreakeven after target 1');
  expect(p.exits.map((e) => [e.kind, e.price, e.r, e.shares, e.movable])).toEqual([
    ['stop', fromDollars(9.7), -1, 200, true],
    ['target', fromDollars(10.3), 1, 100, true],
    ['target', fromDollars(10.6), 2, 100, true],
  ]);
  expect(p.costs).toBe(33_000);
  expect(p.worst).toBe(-600_000 - 33_000);
  expect(p.rewardToRisk).toBeCloseTo(1.5, 9);
  // After the first target what is left stands at breakeven, and goes there as an order of its own.
  expect(p.exits[1]?.net).toBe(300_000 - 38_000);
  expect(p.exits[2]?.net).toBe(300_000 + 600_000 - 33_000);
  // Breakeven that begins beyond the first target leaves the rest at its stop there: 100 at −30c.
  const late = picture('stop 30c\ntarget 1R for half\ntarget 2R\nbreakeven after 1.5R');
  expect(late.exits[1]?.net).toBe(300_000 - 300_000 - 38_000);
  const noStop = picture('target 30c');
  expect([noStop.worst, noStop.perShare, noStop.rewardToRisk]).toEqual([null, null, null]);
});

test('long and short are the same plan mirrored: same gains, same R, prices on the other side', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 200 }),
      fc.integer({ min: 1, max: 30 }),
      fc.integer({ min: 1, max: 900 }),
      (stop, tenths, qty) => {
        const text = `stop ${stop}c\ntarget ${tenths / 10}R for third\ntarget ${tenths / 10 + 1}R`;
        const [long, short] = [picture(text, 'buy', qty), picture(text, 'sell', qty)];
        long.exits.forEach((e, k) => {
          const other = short.exits[k];
          expect([e.kind, e.gain, e.r, e.shares]).toEqual([
            other?.kind,
            other?.gain,
            other?.r,
            other?.shares,
          ]);
          expect(Math.abs(e.price + (other?.price ?? 0) - 2 * TEN)).toBeLessThanOrEqual(100);
        });
        const shares = long.exits.filter((e) => e.kind === 'target').reduce((a, e) => a + e.shares, 0);
        expect(shares).toBe(qty);
      },
    ),
  );
});

test('every plan that comes with the app reads, has a stop or a trail, and can be drawn both ways', () => {
  expect(PLAIN_PLANS.plans.length).toBeGreaterThanOrEqual(8);
  for (const { name, text } of PLAIN_PLANS.plans) {
    expect([name, parseExits(text).problems]).toEqual([name, []]);
    for (const e of exitsOf(text))
      if (e.kind === 'stop exit' && e.place.kind === 'away')
        expect([name, picture(text).worst, picture(text, 'sell').worst]).toEqual([
          name,
          expect.any(Number),
          expect.any(Number),
        ]);
  }
});

test('an exit that is moved keeps its unit and reads back; the others stay as they are', () => {
  const exits = exitsOf('stop 3%\ntarget 1R for half\ntarget 2 atr\nbreakeven after 30c\ntrail 20c after 1R');
  const m = { price: TEN, atr: 5_000, perShare: 3_000 };
  const moved = (line: number, units: number) => printTree(movedExit(exits, line, units, m)[line] as never);
  expect([moved(0, 2_500), moved(1, 4_600), moved(2, 7_400), moved(3, 1_230), moved(4, 6_000)]).toEqual([
    'stop 2.5%',
    'target 1.5R for half',
    'target 1.5 atr',
    'breakeven after 12c',
    'trail 20c after 2R',
  ]);
  fc.assert(
    fc.property(fc.nat(4), fc.integer({ min: 1, max: 50_000 }), (line, units) => {
      const to = movedExit(exits, line, units, m);
      expect(exitsOf(to.map(printTree).join('\n'))).toEqual(to);
      expect(to.filter((_, k) => k !== line)).toEqual(exits.filter((_, k) => k !== line));
    }),
  );
});

test('how far a trail stays behind stands in the picture from where it begins, and is moved apart from that', () => {
  // By hand: 1R is 30c; the trail begins at +30c and stands 20c behind, at +10c.
  const text = 'stop 30c\ntarget 2R for half\ntrail 20c after 1R';
  expect(
    picture(text)
      .exits.filter((e) => e.line === 2)
      .map((e) => [e.kind, e.gain, e.base]),
  ).toEqual([
    ['trail', 3_000, 0],
    ['reach', 1_000, 3_000],
  ]);
  const moved = movedExit(exitsOf(text), 2, -2_500, { price: TEN, atr: null, perShare: 3_000 }, true);
  expect(moved.map(printTree)[2]).toBe('trail 25c after 1R');
  expect(picture('stop 30c\ntrail beyond 1m candle by 2c').exits.map((e) => e.kind)).toEqual(['stop']);
  expect(picture('stop 30c\ntarget 1R for half\ntrail 2% after target 1').exits.pop()).toMatchObject({
    kind: 'reach',
    base: 3_000,
    // 2 % of 10.30.
    gain: 3_000 - 2_060,
  });
});

test('parts of targets by hand: what one takes the next gives; they never make more than all, and all of it stays all of it', () => {
  const parts = (text: string, target: number, percent: number) =>
    partedExits(exitsOf(text), target, percent).map(printTree).join(', ');
  const three = 'stop 30c\ntarget 1R for half\ntarget 2R for quarter\ntarget 3R';
  expect(parts(three, 0, 30)).toBe('stop 30c, target 1R for 30%, target 2R for 45%, target 3R');
  expect(parts(three, 1, 90)).toBe('stop 30c, target 1R for half, target 2R for 40%, target 3R');
  expect(parts(three, 1, 200)).toBe('stop 30c, target 1R for half, target 2R for 45%, target 3R');
  expect(parts('stop 30c\ntarget 1R for half', 0, 100)).toBe('stop 30c, target 1R');
  expect(parts('stop 30c\ntarget 1R for third\ntarget 2R for third\ntarget 3R for third', 0, 50)).toBe(
    'stop 30c, target 1R for half, target 2R for 16%, target 3R',
  );
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 5, max: 60 }), { minLength: 1, maxLength: 4 }),
      fc.boolean(),
      fc.array(fc.tuple(fc.nat(3), fc.integer({ min: -20, max: 140 })), { minLength: 1, maxLength: 6 }),
      (shares, rest, moves) => {
        fc.pre(shares.reduce((a, b) => a + b, 0) <= (rest ? 95 : 100));
        let exits = exitsOf(
          [
            'stop 30c',
            ...shares.map((x, k) => `target ${k + 1}R for ${x}%`),
            ...(rest ? ['target 9R'] : []),
          ].join('\n'),
        );
        const whole = (all: typeof exits) => all.some((e) => e.kind === 'target exit' && e.part === null);
        for (const [target, percent] of moves) {
          const before = exits;
          exits = partedExits(exits, target, percent);
          expect(parseExits(exits.map(printTree).join('\n'))).toMatchObject({ problems: [] });
          expect(exits).toHaveLength(before.length);
          expect(whole(exits) || !whole(before)).toBe(true);
        }
      },
    ),
  );
});

/** From 09:50 on, so that a time that is up lies ahead. */
const bar = (k: number, open: number, high: number, low: number, close: number): Bar => ({
  start: at(9, 50) + k * MINUTE,
  open: fromDollars(open),
  high: fromDollars(high),
  low: fromDollars(low),
  close: fromDollars(close),
  volume: 1_000,
  turnover: 0,
});
const planOf = (text: string) => {
  const read = resolvePlan(exitsOf(text), { side: 'buy', from: TEN, held: false, view, c });
  if (!read.ok) throw new Error(read.problem);
  return read.resolved.plan;
};
const on = (text: string, ...bars: Bar[]) =>
  planOnBars(planOf(text), { side: 'buy', entry: TEN, perShare: 3_000, qty: 200 }, bars);

test('a plan on bars by hand: the stop comes first within a bar, a gap fills at the open, breakeven counts from the next bar', () => {
  const text = 'stop 30c\ntarget 1R for half\ntarget 2R\nbreakeven after target 1';
  const both = on(text, bar(0, 10, 10.7, 9.6, 10.5));
  expect([both.steps.map((s) => [s.what, s.price, s.shares]), both.r]).toEqual([
    [['stop', fromDollars(9.7), 200]],
    -1,
  ]);
  const gap = on(text, bar(0, 9.4, 9.5, 9.3, 9.4));
  expect([gap.steps[0]?.price, gap.r]).toEqual([fromDollars(9.4), -2]);
  const goesOn = on(
    text,
    bar(0, 10, 10.35, 9.95, 10.3),
    bar(1, 10.3, 10.3, 9.98, 10.02),
    bar(2, 10, 11, 9, 11),
  );
  expect(goesOn.steps.map((s) => [s.what, s.price, s.shares])).toEqual([
    ['target', fromDollars(10.3), 100],
    ['breakeven', TEN, 0],
    ['stop', TEN, 100],
  ]);
  expect([goesOn.r, goesOn.curve.length]).toEqual([0.5, 2]);
  const open = on(text, bar(0, 10, 10.1, 9.9, 10.06));
  expect([open.steps[0]?.what, open.r]).toEqual(['still open', 0.2]);
});

test('a trail on bars follows the best price and never loosens; what is out by a time goes at that bar’s open', () => {
  const trailed = on(
    'stop 30c\ntrail 20c after 30c',
    bar(0, 10, 10.5, 9.9, 10.45),
    bar(1, 10.4, 10.45, 10.25, 10.3),
  );
  expect(trailed.steps.map((s) => [s.what, s.price])).toEqual([['stop', fromDollars(10.3)]]);
  const out = on(
    'stop 30c\nout by 09:52',
    bar(0, 10, 10.1, 9.9, 10),
    bar(1, 10, 10.1, 9.9, 10),
    bar(2, 10.05, 10.2, 9, 10),
  );
  expect(out.steps.map((s) => [s.what, s.price])).toEqual([['out by', fromDollars(10.05)]]);
});
