import { instrumentOf } from '../../core/instruments/index.ts';
import { contractGreeks } from '../../core/options/index.ts';
import { at } from '../../core/units/index.ts';
import { advance, apply, createEngine } from '../../session/engine.ts';
import { chainOf } from '../../session/moment.ts';
import { simMarket } from '../../session/sim-market.ts';
import { chainSlice } from './chain.ts';
import { findVerticals } from './find-verticals.ts';
import { payoffSlice } from './payoff.ts';

const e = createEngine(
  simMarket({ ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 300 }, own: null }),
);
advance(e, at(9, 45));
const asked = {
  rank: 30,
  from: 20,
  to: 500,
  sector: '',
  days: 45,
  delta: 30,
  width: '5',
  right: 'put' as const,
};

test('verticals are found by rank: within the band, the strike sold nearest to the delta, what may be lost in R', () => {
  const { rows, fit } = findVerticals(e, asked);
  expect(rows.length).toBeGreaterThan(4);
  expect(fit).toBeGreaterThanOrEqual(rows.length);
  expect(rows.map((r) => r.rank)).toEqual(rows.map((r) => r.rank).sort((a, b) => b - a));
  for (const row of rows) {
    expect(row.rank).toBeGreaterThanOrEqual(30);
    expect(row.spot / 10_000).toBeGreaterThanOrEqual(19);
    const i = instrumentOf(row.name);
    const m = chainOf(e, row.symbol);
    if (i.kind !== 'vertical' || !m) throw new Error(row.name);
    expect([i.expiry, i.right]).toEqual(['2027-04-16', 'put']);
    const delta = (strike: typeof i.dear) =>
      Math.abs(
        contractGreeks(
          { kind: 'option', root: i.root, expiry: i.expiry, right: i.right, strike },
          m,
          null,
          null,
        ).delta,
      );
    const strikes = chainSlice(e, row.symbol, i.expiry)?.rows.map((r) => r.strike) ?? [];
    const nearest = Math.min(...strikes.map((k) => Math.abs(delta(k) - 0.3)));
    expect(Math.abs(delta(i.dear) - 0.3)).toBeCloseTo(nearest, 10);
    expect(row.least).toBeCloseTo((i.dear - i.cheap - row.mid) * 100, 4);
    expect(row.profit).toBeGreaterThan(0.5);
  }
  expect(findVerticals(e, { ...asked, rank: 100.1 })).toEqual({ rows: [], fit: 0 });
  expect(findVerticals(e, { ...asked, sector: 'Energy' }).rows.every((r) => r.sector === 'Energy')).toBe(
    true,
  );
});

test('a chain and a payoff agree with what the sentence says, and with what is held', () => {
  const text = 'short 2 verticals of FOXID 45 days 30 delta 5 wide put at mid credit';
  const p = payoffSlice(e, text, 'FOXID');
  if (!p) throw new Error('no payoff');
  const name = instrumentOf(p.name);
  if (name.kind !== 'vertical') throw new Error(p.name);
  // At its end: the whole credit above, the width less it below, nothing at the breakeven.
  const credit = p.lines[p.lines.length - 1]?.end ?? 0;
  expect(p.lines[0]?.end).toBeCloseTo(credit - ((name.dear - name.cheap) / 10_000) * 200, 1);
  expect(p.even[0]).toBeCloseTo(name.dear - (credit / 200) * 10_000, -2);
  expect(p.grid.values[1]?.[2]).toBeCloseTo(0, -1);
  const before = chainSlice(e, 'FOXID', null);
  expect(before?.mine).toEqual({ delta: 0, gamma: 0, theta: 0, vega: 0, dollars: 0 });
  apply(e, { kind: 'run', text: 'buy 3 of FOXID 45 days at the money call at ask', focus: 'FOXID' });
  const after = chainSlice(e, 'FOXID', '2027-04-16');
  expect(after?.mine.delta).toBeGreaterThan(140);
  expect(after?.mine.delta).toBeLessThan(180);
  expect(after?.mine.theta).toBeLessThan(0);
  expect(after?.year).toHaveLength(53);
  expect(payoffSlice(e, 'buy 100 at ask', 'FOXID')).toBeNull();
});
