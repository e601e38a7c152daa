import { MAIN } from '@/core/account';
import { everything } from '@/core/orders';
import { reviewTrade } from '@/core/review';
import { at } from '@/core/units';
import { advance, apply, createEngine } from '../../session/engine.ts';
import { runInput } from '../../session/scripts.ts';
import { simMarket } from '../../session/sim-market.ts';
import { cardsOf } from './cards';

test('the trades of a morning as cards: what is bare first, then what is near its stop, what waits, what is over', () => {
  const e = createEngine(
    simMarket({ ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 60 }, own: null }),
  );
  advance(e, at(9, 40));
  const run = (text: string, symbol: string) => {
    const { result } = apply(e, runInput(text, symbol));
    if (result.problem !== null) throw new Error(`${text}: ${result.problem}`);
  };
  const cards = (since = 0) => {
    const { trades, orders, scopes, fills } = everything(e.state.broker);
    const book = {
      whole: true,
      trades: trades.filter((t) => t.status !== 'closed'),
      orders,
      scopes,
      reviews: trades.flatMap((t) => reviewTrade(t, fills) ?? []),
      events: [],
    };
    const last = Object.fromEntries(['VULPN', 'ORBNT', 'BRYXT', 'QUOLS'].map((s) => [s, e.market.last(s)]));
    return cardsOf(book, MAIN, last, since);
  };
  expect(cards()).toEqual([]);
  run('buy 100 at 5c through\n  stop 40%\n  target 90%', 'VULPN');
  run('buy 10 at 3.00', 'QUOLS');
  run('locate 100\nshort 100 at 5c through\n  stop 40%', 'ORBNT');
  run('buy 50 at 5c through', 'BRYXT');
  run('buy 20 at 5c through\n  stop 40%', 'PIVTS');
  run('flatten', 'PIVTS');
  const seen = cards();
  expect(seen.map((c) => [c.symbol, c.state]).filter(([s]) => s !== 'QUOLS')).toEqual([
    ['BRYXT', 'bare'],
    ...seen.filter((c) => c.state === 'open').map((c) => [c.symbol, 'open']),
    ['PIVTS', 'finished'],
  ]);
  expect(seen.find((c) => c.symbol === 'QUOLS')?.state).toMatch(/waits|bare/);
  expect(seen[0]?.bare).toBe(50);
  const [long, short] = ['VULPN', 'ORBNT'].map((s) => seen.find((c) => c.symbol === s));
  // The losing side is left, whichever way the trade goes: the stop stands left of the entry, the target right.
  const places = (c: typeof long) =>
    c?.ruler?.exits.map(({ at: x, line }) => [line.role, x < (c.ruler?.entry ?? 0)]);
  expect(places(long)).toEqual(
    expect.arrayContaining([
      ['stop', true],
      ['target', false],
    ]),
  );
  expect(places(short)).toEqual([['stop', true]]);
  expect(long?.ruler?.exits.every(({ at: x }) => x >= 0 && x <= 1)).toBe(true);
  // What ended on a day before is not of today.
  expect(cards(at(16, 0)).map((c) => c.state)).not.toContain('finished');
  // A stop that is nearly reached is seen before the others that are covered.
  run('move stop to last - 5c', 'VULPN');
  expect(cards().find((c) => c.symbol === 'VULPN')?.state).toBe('near stop');
  expect(cards().map((c) => c.state)[1]).toBe('near stop');
});
