import { atrOf } from '../../core/market/index.ts';
import { at, type Price, roundToTick } from '../../core/units/index.ts';
import type { DaySource } from '../../session/day-ref.ts';
import { accountInUse, advance, apply, createEngine, type Engine } from '../../session/engine.ts';
import { peek } from '../../session/peek.ts';
import { simMarket } from '../../session/sim-market.ts';
import { sheetOf } from './sheet.ts';

const day: DaySource = { ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 60 }, own: null };

function engineAt(when: number): Engine {
  const e = createEngine(simMarket(day));
  advance(e, when);
  return e;
}

test('every level of the sheet means the same price under its name in a script, before and after the open', () => {
  const e = engineAt(at(9, 10));
  let known = 0;
  for (const when of [at(9, 10), at(9, 37)]) {
    advance(e, when);
    for (const symbol of ['VULPN', 'SOLVN', 'ORBNT']) {
      for (const { name, price } of sheetOf(e, symbol).levels) {
        const { lines, problem } = peek(e, `alert of ${symbol} at ${name}`, null);
        const deed = lines[0]?.deeds[0];
        const alert = deed?.kind === 'alert' ? deed.asked : undefined;
        if (price === null) expect([name, problem]).toEqual([name, expect.stringContaining('has no value')]);
        else if (roundToTick(price as Price) === e.market.last(symbol))
          expect(problem).toContain('stands at');
        else {
          known++;
          expect([name, alert?.on.kind === 'price' ? alert.on.price : problem]).toEqual([
            name,
            roundToTick(price as Price),
          ]);
        }
      }
    }
  }
  expect(known).toBeGreaterThan(60);
});

test('the draft of each side can be read, risks what it says, and stands beyond the pre-market candle on its side', () => {
  const e = engineAt(at(9, 10));
  const { drafts, levels } = sheetOf(e, 'VULPN');
  const level = (name: string) => levels.find((l) => l.name === name)?.price ?? 0;
  const long = peek(e, drafts.long ?? '', null);
  expect(long.problem).toBeNull();
  const facts = long.lines[0]?.facts;
  expect(facts?.price).toBeGreaterThan(level('premarket 15m high'));
  expect(facts?.stop).toBeLessThan(level('premarket 15m low'));
  // Whole shares: less than one more share would have risked beyond 1R.
  const share = ((facts?.price ?? 0) - (facts?.stop ?? 0)) as number;
  expect(
    (facts?.risk ?? 0) <= accountInUse(e).rules.riskUnit &&
      (facts?.risk ?? 0) + share * 1.05 > accountInUse(e).rules.riskUnit,
  ).toBe(true);
  const early = engineAt(at(4, 5));
  expect(sheetOf(early, 'VULPN').drafts).toEqual({ long: null, short: null });
});

test('over a night the daily candles go on and their ATR stays the one that every other place shows', () => {
  const e = engineAt(at(19, 59));
  const atr = () => e.market.instrument('VULPN').atr;
  const charted = () => atrOf(sheetOf(e, 'VULPN').daily) as number;
  expect(Math.abs(charted() - atr())).toBeLessThanOrEqual(200);
  advance(e, at(20));
  apply(e, { kind: 'next day' });
  expect(sheetOf(e, 'VULPN').daily).toHaveLength(61);
  expect(Math.abs(charted() - atr())).toBeLessThanOrEqual(200);
});
