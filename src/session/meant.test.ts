// What a sentence must not mean: it asks, or says what it takes, where a trader who writes it may mean something else.
import { morning } from '../../tests/morning.ts';
import { everything, holdingOf, isLive, openTrade, positionOf } from '../core/orders/index.ts';
import { at, formatPrice } from '../core/units/index.ts';
import { advance, apply, type Engine } from './engine.ts';
import { peek } from './peek.ts';

const { early, late } = morning();
const run = (e: Engine, text: string, yes = false) => {
  const asks = peek(e, text, 'VULPN').lines.flatMap((l) => l.asks);
  return apply(e, { kind: 'run', text, focus: 'VULPN', ...(yes ? { yes: asks } : {}) }).result;
};
const done = (e: Engine, text: string, yes = false) => {
  const result = run(e, text, yes);
  expect([text, result.problem]).toEqual([text, null]);
  return result;
};
const asked = (e: Engine, text: string) =>
  peek(e, text, 'VULPN').lines.flatMap((l) => l.asks.map((q) => q.kind));
const held = (e: Engine, symbol = 'VULPN') => {
  const t = openTrade(holdingOf(e.state.broker, e.state.desk.account, symbol));
  return t ? t.sign * positionOf(t) : 0;
};
const quote = (e: Engine) => e.market.quote('VULPN') as { bid: number; ask: number };
const away = (e: Engine, part: number) => formatPrice(Math.round((quote(e).bid * part) / 100) * 100);

test('dollars that might be a price are asked about, with both readings; cents, percent and “away” are not', () => {
  const e = late();
  const near = away(e, 0.97);
  const text = `buy 100 at 3c through\n  stop $${near}`;
  const { problem, fixes } = run(e, text);
  expect(problem).toContain(`$${near} away`);
  const kinds = fixes.map((f) => peek(e, f, 'VULPN'));
  // At the price; or that far away, which leaves the stop under a dollar.
  const [at1, away1] = kinds.map((k) => k.lines[0]?.facts?.stop as number);
  expect([at1, (away1 as number) < 10_000]).toEqual([Math.round(Number(near) * 10_000), true]);
  expect(fixes[1]).toContain(`stop $${near} away`);
  for (const exit of [
    'stop $0.30',
    'stop 30c',
    'stop 30%',
    `stop at ${near}`,
    'stop $2 away',
    'target 250c\n  stop 30c',
  ])
    expect([exit, run(e, `buy 1 at 3c through\n  ${exit}`).problem]).toEqual([exit, null]);
  // From a quarter of the price on.
  for (const [part, asks] of [
    [0.23, false],
    [0.27, true],
  ] as const) {
    const { problem: why } = run(late(), `buy 1 at 3c through\n  stop $${away(e, part)}`);
    expect([part, why?.includes('at the price') ?? false]).toEqual([part, asks]);
  }
  for (const gain of ['breakeven after $40', 'trail 20c after $40']) {
    const asks = run(e, `buy 100 at 3c through\n  stop 30c\n  ${gain}`);
    expect(asks.problem).toContain('a share');
    expect(asks.fixes.map((f) => f.split('\n')[2]?.trim())).toEqual([
      `${gain.replace('$40', '$40.00 a share')}`,
      `${gain} in all`,
    ]);
  }
});

test('a gain in all is reached when all the shares that came in have made it', () => {
  const e = late();
  done(e, 'buy 300 at 5c through\n  stop $2 away\n  breakeven after $30 in all');
  const stop = () =>
    everything(e.state.broker).orders.find((o) => o.role === 'stop' && isLive(o))?.stop as number;
  const { entryNotional } = openTrade(holdingOf(e.state.broker, e.state.desk.account, 'VULPN')) as {
    entryNotional: number;
  };
  const tape = e.market.tape('VULPN');
  const before = stop();
  let reached = false;
  while (!reached && e.market.now() < at(12)) {
    const { prints } = tape;
    expect(stop()).toBe(before);
    advance(e, at(12), () => tape.prints > prints);
    reached = (tape.last as number) * 300 - entryNotional >= 30 * 10_000;
  }
  expect([reached, stop() > before]).toEqual([true, true]);
});

test('a close that may be meant as a stop asks, whatever the confirmations; what is written from the quote never does', () => {
  const e = late();
  done(e, 'buy 400 at 5c through\n  stop $2 away');
  done(e, `level "lid" at ${away(e, 0.9)}`);
  for (const price of [
    away(e, 0.95),
    'level "lid"',
    'day low',
    'premarket low',
    '(lower of (vwap) and (day low))',
  ])
    expect([price, asked(e, `sell all at ${price}`)]).toEqual([price, ['far through']]);
  for (const close of [
    'sell all at bid - 30c',
    'close all',
    'close half at 20c through',
    'sell all at last - 9%',
    'flatten',
    'sell all at mid - $1',
  ])
    expect([close, asked(e, close)]).toEqual([close, []]);
  expect(asked(e, `sell all at ${away(e, 1.05)}`)).toEqual([]);
  const text = `sell all at ${away(e, 0.95)}`;
  const [q] = peek(e, text, 'VULPN').lines[0]?.asks ?? [];
  expect(q?.kind === 'far through' && q.at).toBe(quote(e).bid);
  const [stop] = q?.kind === 'far through' ? q.instead : [];
  expect(stop).toBe(`sell all below ${away(e, 0.95)}`);
  expect(run(e, text).ok).toBe(false);
  expect(held(e)).toBe(400);
  // The stop is a press of its own, and rests; a yes sends what was written.
  done(late(), 'cancel entries');
  expect(peek(e, stop as string, 'VULPN').problem).toBeNull();
  done(e, text, true);
  expect(held(e)).toBe(0);
  // What waits is asked of nobody.
  done(e, 'buy 100 at 5c through\n  stop $2 away');
  expect(asked(e, `when time >= 10:00: sell all at ${away(e, 0.9)}`)).toEqual([]);
});

test('an entry that would sleep asks; an auction, a stop, what is staged or waits, and what says so do not', () => {
  const e = early();
  const day = 'buy 100 at ask + 2c\n  stop 20c';
  expect(asked(e, day)).toEqual(['sleeps']);
  for (const text of [
    'buy 100 at the open',
    'buy 100 above day high + 50c\n  stop 20c',
    'stage buy 100 at ask + 2c',
    'when last > 99: buy 100 at ask',
    'buy 100 at ask + 2c extended',
    'buy 100 at ask + 2c at next open',
  ])
    expect([text, asked(e, text), peek(e, text, 'VULPN').problem]).toEqual([text, [], null]);
  expect(peek(e, 'buy 100 above day high + 50c', 'VULPN').lines[0]?.warnings.join()).toContain(
    'Asleep until 09:30',
  );
  done(e, day, true);
  expect(run(late(), 'buy 100 at ask at next open').problem).toContain('session is open');
});

test('a stop that goes farther away says what the trade then risks, asks beyond its own R, and can be taken back', () => {
  const e = late();
  done(e, 'buy 100 at 5c through\n  stop 40c');
  done(e, 'move stop by 20c');
  const stop = () => everything(e.state.broker).orders.find((o) => o.role === 'stop' && isLive(o));
  const tight = stop()?.stop as number;
  // Wider, and still within what it risked at first: it goes, is said, and is taken back by one press.
  const wider = done(e, 'move stop down 10c');
  expect(wider.warnings.join()).toMatch(/Farther away: .*, \d\.\dR → .*, \d\.\dR/);
  expect(wider.back).toHaveLength(1);
  done(e, wider.back[0] as string);
  expect(stop()?.stop).toBe(tight);
  // Beyond it: by key and by its number, the old one works until the yes.
  for (const text of ['move stop down $1', `move order ${stop()?.id} to ${formatPrice(tight - 10_000)}`]) {
    expect([text, asked(e, text)]).toEqual([text, ['farther']]);
    expect(run(e, text).ok).toBe(false);
    expect(stop()?.stop).toBe(tight);
  }
  // A sale that is a stop is one of them: one press takes back all that went.
  done(e, `sell all below ${formatPrice(tight + 500)}`);
  // It goes first, so that the stop behind it risks nothing more.
  const far = done(e, `move order ${stop()?.id} to ${formatPrice(tight - 10_000)}`);
  done(e, far.back.join('\n'));
  const both = done(e, 'move stop down 10c', true);
  expect(both.back).toHaveLength(2);
  done(e, both.back.join('\n'));
  expect(asked(e, 'move stop down 0.1c')).toEqual([]);
  done(e, 'cancel last');
  expect(asked(e, 'move stop by 1c')).toEqual([]);
  done(e, 'move stop down $1', true);
  expect(stop()?.stop).toBe(tight - 10_000);
});

test('flatten closes a symbol’s options and verticals too, each as one order, and never says that nothing is open', () => {
  const e = late();
  done(e, 'buy 2 of 2027-03-19 5 call at ask');
  done(e, 'buy 1 of 2027-03-19 6/5 put at ask debit');
  const names = Object.keys(e.state.broker.holdings).map((k) => k.replace('main ', ''));
  expect(names.map((n) => held(e, n))).toEqual([2, 1]);
  const [line] = peek(e, 'flatten', 'VULPN').lines;
  expect(line?.about).toContain('call');
  expect(line?.about).toContain('put');
  done(e, 'buy 100 at 5c through');
  // Shares go last: they may stand behind a call.
  expect(peek(e, 'flatten', 'VULPN').lines[0]?.about).toMatch(/ call .*sell \d+ VULPN at market$/);
  done(e, 'flatten');
  advance(e, at(9, 50));
  expect([held(e), ...names.map((n) => held(e, n))]).toEqual([0, 0, 0]);
  // At night options wait for the open.
  done(e, 'buy 1 of 2027-03-19 5 call at ask');
  advance(e, at(17));
  expect(peek(e, 'flatten', 'VULPN').lines[0]?.about).toContain('at the open');
});

test('credit and debit: what the legs cannot earn is refused, of closes too, and never turned round', () => {
  const e = late();
  for (const text of [
    'buy 1 of 2027-03-19 6/5 put at mid credit',
    'short 1 vertical of 10 days 40 delta 1 wide put at mid debit',
    'buy 1 of 2027-03-19 5 call at ask credit',
    'buy 100 at ask credit',
  ])
    expect([text, run(e, text).ok, run(e, text).fixes]).toEqual([text, false, []]);
  done(e, 'buy 1 of 2027-03-19 6/5 put at ask debit');
  expect(run(e, 'close all of 2027-03-19 6/5 put at bid debit').problem).toContain('credit');
  done(e, 'close all of 2027-03-19 6/5 put at bid credit');
});

test('days that no expiry is near to, and percent of an option that quotes wide, are said with what they were taken for', () => {
  const e = late();
  const warned = (text: string) => peek(e, text, 'VULPN').lines.flatMap((l) => l.warnings);
  const expiries = new Set<number>();
  for (let days = 1; days < 60; days++) {
    const [line] = peek(e, `buy 1 of ${days} days at the money call at ask`, 'VULPN').lines;
    const date = /\d{4}-\d\d-\d\d/.exec(line?.sayBack ?? '')?.[0] ?? '';
    const got = Math.round((Date.parse(date) - Date.parse(e.market.date)) / 86_400_000);
    expiries.add(got);
    const said = line?.warnings.find((w) => w.startsWith('No expiry'));
    expect([days, said?.includes(`is ${days} days away: this one is in ${got}`) ?? false]).toEqual([
      days,
      Math.abs(got - days) > 3,
    ]);
  }
  expect(expiries.size).toBeGreaterThan(1);
  const wide = warned('buy 1 of 45 days at the money call at ask\n  stop 50%');
  expect(
    wide.some((w) =>
      /^The stop of 50% is taken from .*: it is at .* From the middle of .* it would be at/.test(w),
    ),
  ).toBe(true);
  expect(warned('buy 100 at ask\n  stop 50%').some((w) => w.includes('the middle'))).toBe(false);
});

test('what is meant instead is the whole text with that sentence in it, so that a key may keep it', () => {
  const e = late();
  const near = away(e, 0.97);
  const text = `note "hello"  # first\nbuy 100 at 3c through  # in\n  stop $${near}\nnote "over"`;
  const seen = peek(e, text, 'VULPN');
  expect(seen.lasting).toBe(true);
  expect(seen.fixes[0]).toBe(
    `note "hello"  # first\nbuy 100 at 3c through  # in\n  stop at ${near}\nnote "over"`,
  );
  // What was done is not done again.
  const result = run(e, text);
  expect([result.done.length, result.lasting]).toEqual([1, false]);
  expect(result.fixes[0]).toBe(`buy 100 at 3c through  # in\n  stop at ${near}\nnote "over"`);
  // A number of this moment is for this moment.
  expect(peek(e, 'buy 100 at last + 90%', 'VULPN').lasting).toBe(false);
  const [q] = peek(early(), 'buy 100 at ask  # early\nnote "over"', 'VULPN').lines[0]?.asks ?? [];
  expect(q && 'instead' in q && q.instead[0]).toBe('buy 100 at ask extended  # early\nnote "over"');
});
