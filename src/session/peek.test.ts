import fc from 'fast-check';
import { MAIN } from '../core/account/index.ts';
import { MANUAL, parseScript } from '../core/language/index.ts';
import { holdingOf, liveOrders, openTrade, positionOf } from '../core/orders/index.ts';
import { at } from '../core/units/index.ts';
import type { DaySource } from './day-ref.ts';
import { advance, apply, createEngine, type Engine } from './engine.ts';
import type { SavedSession } from './log.ts';
import { peek } from './peek.ts';
import { restore, save } from './saving.ts';
import { simMarket } from './sim-market.ts';

const DAY: DaySource = { ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 60 }, own: null };
const STARTS = [at(9, 10), at(9, 33), at(13), at(16, 30)];
const kept = new Map<number, SavedSession>();
function begun(when: number): Engine {
  let saved = kept.get(when);
  if (!saved) {
    const e = createEngine(simMarket(DAY));
    advance(e, when);
    saved = structuredClone(save(e));
    kept.set(when, saved);
  }
  const copy = structuredClone(saved);
  return restore(copy, simMarket(DAY, copy.market), [], null);
}
const run = (e: Engine, text: string, focus = 'VULPN') => apply(e, { kind: 'run', text, focus }).result;
const held = (e: Engine, symbol = 'VULPN') => {
  const t = openTrade(holdingOf(e.state.broker, MAIN, symbol));
  return t ? t.sign * positionOf(t) : 0;
};

const sentence = fc.constantFrom(
  'buy risk 1R at usual through extended\n  stop usual\n  target 1R for half\n  target 2R\n  breakeven after target 1 plus costs',
  'buy 200 at bid - 4c extended\n  stop 20c',
  'buy $900 at 5m low extended with plan "candle trail"',
  'buy 3% of power at ask + 2c extended\n  stop beyond day by 2c\n  trail 20c after 1R',
  'short 150 at 3c through extended\n  stop 25c\n  target 40c',
  'short 100 below last - 6c limit 5c beyond extended\n  stop usual',
  'buy 100 above last + 5c on ask extended until 19:00\n  stop 20c for half\n  stop 40c\n  out by 19:30',
  'add half',
  'add 100 at bid extended',
  'close half',
  'close third at ask',
  'sell 60 at last + 3c gtc',
  'cover all',
  'close half trailing 20c after 10c',
  'reverse',
  'flatten',
  'flatten everything',
  'move stop to breakeven',
  'move stop by 2c',
  'move stop beyond 5m candle by 1c',
  'move last order up 1c',
  'move last order size up 50',
  'move last order size to 30',
  'move entries down 2c',
  'move targets up 3c',
  'replace last with buy 120 at bid - 1c',
  'cancel last',
  'cancel entries',
  'cancel targets',
  'cancel exits',
  'cancel symbol',
  'cancel everything and exits',
  'attach to half\n  stop 15c\n  target 2R',
  'attach plan "two steps"',
  'stage buy 100 at last - 2c extended\n  stop 20c',
  'send staged',
  'discard staged',
  'size up 100',
  'buy ticket at 2c through extended\n  stop 30c',
  'level "lid" at last + 9c',
  'buy 50 above level "lid" extended\n  stop 20c',
  'alert at last + 4c',
  'note "so far"',
  'focus ORBNT',
);
const act = fc.oneof(
  { weight: 3, arbitrary: fc.record({ texts: fc.array(sentence, { minLength: 1, maxLength: 4 }) }) },
  { weight: 1, arbitrary: fc.record({ wait: fc.integer({ min: 1, max: 90_000 }) }) },
);

test('what a key does is what the peek showed, line by line; where it depends on fills, the peek had said that it guesses', () => {
  fc.assert(
    fc.property(fc.constantFrom(...STARTS), fc.array(act, { minLength: 2, maxLength: 12 }), (start, acts) => {
      const e = begun(start);
      let focus = 'VULPN';
      for (const a of acts) {
        if ('wait' in a) {
          advance(e, e.market.now() + a.wait);
          continue;
        }
        const text = a.texts.join('\n');
        const before = JSON.stringify(e.state);
        const shown = peek(e, text, focus);
        expect(JSON.stringify(e.state)).toBe(before);
        // What it asks is answered with yes.
        const yes = shown.lines.flatMap((l) => l.asks);
        const { result } = apply(e, { kind: 'run', text, focus, yes });
        const sure = shown.lines.findIndex((l) => l.guess);
        const certain = sure < 0 ? shown.lines : shown.lines.slice(0, sure);
        certain.forEach((line, k) => {
          if (line.problem)
            expect([k, result.done.length, result.problem]).toEqual([k, k, line.problem.text]);
          else expect([k, result.done[k] ?? result.problem]).toEqual([k, line.sayBack]);
        });
        if (sure < 0 && shown.problem === null)
          expect([result.problem, result.done.length]).toEqual([null, shown.lines.length]);
        if (result.ok) focus = a.texts.includes('focus ORBNT') ? 'ORBNT' : focus;
      }
    }),
    { numRuns: process.env.FEW_RUNS ? 12 : Number(process.env.PEEKS ?? 60) },
  );
});

test('an order that is moved to where it fills is guessed to fill: what comes after it is not said for sure', () => {
  const e = begun(at(13));
  const { bid, ask } = e.market.quote('VULPN');
  const text = `buy 100 at bid\n  stop 30c\nmove last order up ${((ask as number) - (bid as number)) / 100}c\nmove stop by 2c`;
  const { lines } = peek(e, text, 'VULPN');
  expect(lines.map((l) => [l.guess, l.problem])).toEqual([
    [false, null],
    [false, null],
    [true, null],
  ]);
  expect(run(e, text).done).toHaveLength(3);
});

test('a flatten and what follows it on the next line go by one key; halves of what is left are halves of what is left', () => {
  const e = begun(at(9, 33));
  run(e, 'buy 400 at 5c through\n  stop 40c');
  expect(held(e)).toBe(400);
  const twice = peek(e, 'sell half at last + 40c\nsell half at last + 50c', 'VULPN');
  expect(twice.lines.map((l) => [l.facts?.qty, l.guess])).toEqual([
    [200, false],
    [100, false],
  ]);
  expect(run(e, 'sell half at last + 40c\nsell half at last + 50c').done).toHaveLength(2);
  const text = 'flatten\nshort 100 at 5c through\n  stop 40c';
  const shown = peek(e, text, 'VULPN');
  expect([shown.problem, shown.lines.map((l) => l.guess)]).toEqual([null, [false, true]]);
  expect(run(e, text)).toMatchObject({ ok: true });
  expect(held(e)).toBe(-100);
  expect(run(e, 'reverse').ok).toBe(true);
  expect(held(e)).toBe(100);
  // The turned position is protected by the plan, mirrored.
  expect(
    liveOrders(e.state.broker)
      .filter((o) => o.role === 'stop' && o.side === 'sell')
      .reduce((a, o) => a + o.qty, 0),
  ).toBe(100);
});

test('last, entries and exits are those of the focus, working or staged; what is said back names order and symbol', () => {
  const e = begun(at(9, 33));
  run(e, 'buy 100 at bid - 30c\n  stop 20c', 'ORBNT');
  const none = run(e, 'cancel last', 'VULPN');
  expect([none.ok, none.about]).toEqual([true, ['no entry or close of VULPN is working or staged']]);
  expect(liveOrders(e.state.broker)).toHaveLength(1);
  run(e, 'buy 100 at bid - 30c\n  stop 20c');
  run(e, 'stage buy 200 at bid - 50c\n  stop 20c');
  expect(e.state.desk.staged).toHaveLength(1);
  expect(run(e, 'move last order up 2c\nmove last order size up 50').ok).toBe(true);
  expect(peek(e, 'send staged', 'VULPN').lines[0]?.facts?.qty).toBe(250);
  expect(run(e, 'send staged', 'ORBNT').problem).toBe('Nothing is staged for ORBNT.');
  expect(run(e, 'send staged').ok).toBe(true);
  expect([
    e.state.desk.staged.length,
    liveOrders(e.state.broker)
      .filter((o) => o.symbol === 'VULPN')
      .map((o) => o.qty),
  ]).toEqual([0, [100, 250]]);
  const said = run(e, 'cancel last', 'ORBNT');
  expect(said.about[0]).toMatch(/^order 1: entry buy 100 ORBNT at /);
  // A key that cleans up before it leaves goes on where there is nothing to clean.
  expect(run(e, 'cancel entries\ncancel entries\nflatten')).toMatchObject({ ok: true, problem: null });
  expect(liveOrders(e.state.broker)).toEqual([]);
});

test('an order good till a time ends then, one plan’s out-by takes its shares out, whatever the size of the steps', () => {
  const ends = [1, 17_000, 600_000].map((step) => {
    const e = begun(at(9, 33));
    run(e, 'buy 100 at bid - 90c until 09:45\nbuy 200 at 5c through\n  stop 90c\n  out by 09:40');
    expect([held(e), liveOrders(e.state.broker).filter((o) => o.role === 'entry').length]).toEqual([200, 1]);
    // A pause may be on at 09:40; it is over five minutes later.
    const until = step === 1 ? at(9, 46) : at(9, 50);
    while (e.market.now() < until) advance(e, Math.min(until, e.market.now() + (step === 1 ? 30_000 : step)));
    if (step !== 1) expect(liveOrders(e.state.broker)).toEqual([]);
    return held(e);
  });
  expect(ends).toEqual([0, 0, 0]);
});

test('every example of the reference page can be looked at in any moment: it goes, or says in a sentence why not', () => {
  for (const start of STARTS) {
    const e = begun(start);
    const scripts = MANUAL.flatMap((g) => [
      ...g.entries.map((x) => x.script),
      ...(g.chapter?.scripts ?? []).map((x) => x.text),
    ]);
    for (const script of scripts) {
      expect(parseScript(script).problems).toEqual([]);
      const { lines, problem } = peek(e, script, 'VULPN', 60_000);
      expect(problem === null ? lines.length : problem.length > 15).toBeTruthy();
    }
  }
});
