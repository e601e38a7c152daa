import { at, type Price } from '../units/index.ts';
import { createMarket, demoDay, depthOf, type Market, pullOrder, quoteOf, sendOrder, shrinkOrder, stepMarket, tapeOf } from './index.ts';

function run(m: Market, until: number, each: (symbol: number) => void = () => {}): Market {
  for (let i = stepMarket(m, until); i >= 0; i = stepMarket(m, until)) each(i);
  return m;
}

/** A digest of every minute of every symbol: two days are the same day when it is the same. */
function digest(m: Market): string {
  let h = 2166136261;
  for (const t of m.tapes) {
    for (const list of [t.barOpen, t.barHigh, t.barLow, t.barClose, t.barVolume]) for (const v of list) h = Math.imul(h ^ v, 16777619);
    h = Math.imul(h ^ t.prints, 16777619);
  }
  return (h >>> 0).toString(16);
}

const morning = run(createMarket(demoDay(7)), at(9, 40));

test('the same scenario and seed give the same day; another seed another one', () => {
  expect(digest(run(createMarket(demoDay(7)), at(9, 40)))).toBe(digest(morning));
  expect(digest(run(createMarket(demoDay(8)), at(9, 40)))).not.toBe(digest(morning));
});

test('after every deed of the crowd the book is neither crossed nor locked, and a side is empty hardly ever (after a jump)', () => {
  let [deeds, oneSided] = [0, 0];
  const m = createMarket(demoDay(3));
  run(m, at(9, 35), (i) => {
    deeds++;
    const { bid, ask } = quoteOf(m, (m.tapes[i] as Market['tapes'][number]).symbol);
    if (bid === null || ask === null) oneSided++;
    else if (bid >= ask) throw new Error(`${m.tapes[i]?.symbol} is crossed: ${bid} ${ask}`);
  });
  expect(oneSided / deeds).toBeLessThan(0.0005);
});

test('the day is the one that was announced: movers gap on volume, quiet names do not, the open is busier than before it', () => {
  const of = (symbol: string) => ({
    tape: tapeOf(morning, symbol),
    close: demoDay(7).symbols.find((s) => s.instrument.symbol === symbol)?.instrument.priorClose ?? 1,
  });
  const gap = (symbol: string) => (of(symbol).tape.open ?? 0) / of(symbol).close - 1;
  expect(gap('VULP')).toBeGreaterThan(0.4);
  expect(gap('KELO')).toBeLessThan(-0.08);
  expect(Math.abs(gap('MOSS'))).toBeLessThan(0.05);
  const volume = (from: number, to: number) =>
    of('VULP')
      .tape.barVolume.slice(from, to)
      .reduce((a, b) => a + b, 0) /
    (to - from);
  expect(volume(330, 340)).toBeGreaterThan(1.5 * volume(315, 330));
});

test('the trader’s orders meet the book as anyone’s: they take, rest in the queue, shrink and leave, and the crowd’s opinion stays its own', () => {
  const [with_, without] = [structuredClone(morning), structuredClone(morning)];
  const { ask } = quoteOf(with_, 'VULP');
  const before = depthOf(with_, 'VULP', 3).asks;
  const wanted = (before[0]?.qty ?? 0) + 10;
  sendOrder(with_, { id: 1, symbol: 'VULP', side: 'buy', limit: before[1]?.price as Price, qty: wanted, rest: false });
  const fills = with_.reports.splice(0).flatMap((r) => (r.kind === 'fill' ? [r] : []));
  expect(fills.reduce((a, f) => a + f.qty, 0)).toBe(wanted);
  expect(fills[0]?.price).toBe(ask);
  expect(fills[fills.length - 1]?.price).toBe(before[1]?.price);
  expect(depthOf(with_, 'VULP', 1).asks[0]).toEqual({ price: before[1]?.price, qty: (before[1]?.qty ?? 0) - 10 });

  const bid = quoteOf(with_, 'VULP').bid as Price;
  sendOrder(with_, { id: 3, symbol: 'VULP', side: 'buy', limit: bid, qty: 500, rest: true });
  expect(shrinkOrder(with_, 'VULP', 3, 200)).toBe(true);
  expect(pullOrder(with_, 'VULP', 3)).toBe(true);
  expect(pullOrder(with_, 'VULP', 3)).toBe(false);

  run(with_, at(9, 50));
  run(without, at(9, 50));
  const worth = (m: Market) => m.crowds[m.index.get('VULP') as number]?.worth;
  expect(Math.abs((worth(with_) ?? 0) / (worth(without) ?? 1) - 1)).toBeLessThan(1e-3);
  expect(tapeOf(with_, 'ORBN')).toEqual(tapeOf(without, 'ORBN'));
});
