import { barsOf, createTape, record, statusOf } from '../market/index.ts';
import { at, type Price, REGULAR_OPEN, type Side, type WireId } from '../units/index.ts';
import type { Request, VenueOrder } from '../venue/index.ts';
import { copyOne, newHappening } from './columns.ts';
import {
  auctionOf,
  carryOut,
  createMarket,
  depthOf,
  haltOf,
  keepFloor,
  type Market,
  numberOf,
  PRACTICE_DAYS,
  practiceDay,
  printOf,
  quoteOf,
  runAlone,
  type Scenario,
  stepMarket,
  tapeOf,
} from './index.ts';
import { createRandom } from './random.ts';
import { stepSketch } from './sketch.ts';

const SIZE = 70;
const day = (id: string, seed = 7) => practiceDay(id, seed, 0, null, SIZE);

function run(m: Market, until: number, each: (symbol: number) => void = () => {}): Market {
  for (let i = stepMarket(m, until); i >= 0; i = stepMarket(m, until)) each(i);
  return m;
}

/** A digest of the trades and makers of every symbol: two days are the same day when it is the same. */
function digest({ board: b, sketches: s }: Market): string {
  let h = 2166136261;
  for (const column of [
    b.last,
    b.high,
    b.low,
    b.open,
    b.prints,
    b.volume,
    b.turnover,
    b.spark,
    b.halts,
    s.low,
    s.high,
    s.worth,
  ])
    for (const v of column) h = Math.imul(h ^ (v % 4294967296), 16777619);
  return (h >>> 0).toString(16);
}

const order = (
  id: number,
  side: Side,
  limit: number | null,
  qty: number,
  over: Partial<VenueOrder> = {},
): VenueOrder => ({
  id: id as WireId,
  side,
  limit: limit as Price | null,
  qty,
  life: 'day',
  route: 'lit',
  postOnly: false,
  short: false,
  ...over,
});
const send = (m: Market, symbol: string, o: VenueOrder) => carryOut(m, { kind: 'new', symbol, ...o });
/** What the exchange has said since, but for its acknowledgements. */
const news = (m: Market) => m.reports.splice(0).filter((r) => r.kind !== 'new');
/** How the exchange answers a request. */
const asked = (m: Market, c: Request) => {
  m.reports.splice(0);
  carryOut(m, c);
  return m.reports.splice(0)[0]?.kind;
};
const range = (from: number, to: number) => Array.from({ length: to - from }, (_, k) => from + k);
const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / list.length;
const symbolOf = (m: Market, i: number) => m.scenario.symbols[i] as Market['scenario']['symbols'][number];
const at940 = run(createMarket(day('fresh-headlines')), at(9, 40));
const copy = (m: Market): Market => ({ ...structuredClone({ ...m, scenario: null }), scenario: m.scenario });

test('the same scenario and seed give the same day, whoever is looked at and when; another seed another one', () => {
  const m = createMarket(day('fresh-headlines'));
  for (const [until, symbol] of [
    [at(7, 30), 'VULPN'],
    [at(9, 20), 'SOLVN'],
    [at(9, 31), 'MOSSG'],
    [at(9, 33), 'ORBNT'],
  ] as const) {
    run(m, until);
    depthOf(m, symbol, 10);
  }
  run(m, at(9, 40));
  expect(digest(m)).toBe(digest(at940));
  expect(digest(run(createMarket(day('fresh-headlines', 8)), at(9, 40)))).not.toBe(digest(at940));
});

test('a book that is opened late is the one that was there: same depth, same tape, prints those of the plan', () => {
  const early = createMarket(day('fresh-headlines'));
  depthOf(early, 'VULPN', 1);
  run(early, at(9, 40));
  const late = copy(at940);
  expect(depthOf(late, 'VULPN', 12)).toEqual(depthOf(early, 'VULPN', 12));
  expect(tapeOf(late, 'VULPN')).toEqual(tapeOf(early, 'VULPN'));
  const plan = createTape('VULPN');
  runAlone(early.scenario, numberOf(early, 'VULPN'), at(9, 40), (h) => record(plan, printOf('VULPN', 0, h)));
  expect(barsOf(tapeOf(early, 'VULPN'), 1)).toEqual(barsOf(plan, 1));
});

test('a company follows the move of the market, once: by what trades say of it, not beyond it', () => {
  const i = numberOf(at940, 'KELOD');
  const plan = symbolOf(at940, i);
  const ends = (seed: number, pending: number) => {
    const s = copyOne(at940.sketches, i);
    s.random.set(createRandom(seed, 'once'));
    s.pending[0] = pending;
    const h = newHappening();
    while ((s.nextAt[0] as number) < at(9, 41)) stepSketch(s, 0, plan, at940.frame, h);
    return Math.log(s.worth[0] as number);
  };
  const moves = (pending: number) => mean(range(0, 300).map((k) => ends(k, pending) - ends(k, 0)));
  for (const by of [0.005, -0.005]) {
    const part = moves(by) / by;
    expect([by, part > 0.85 && part < 1.15, part]).toEqual([by, true, part]);
  }
});

test.each(['fresh-headlines', 'low-float', 'wild-index'])(
  'on the day “%s” no lit book is ever crossed or locked, and snapshots agree with it',
  (id) => {
    const m = createMarket(day(id));
    run(m, at(9, 25));
    const watched = ['VULPN', 'ORBNT', 'SOLVN', 'QUOLS', 'KELOD'];
    for (const s of watched) depthOf(m, s, 1);
    run(m, at(9, 45), (i) => {
      const symbol = m.scenario.symbols[i]?.instrument.symbol ?? '';
      const { bids, asks } = depthOf(m, symbol, 3);
      const [bid, ask] = [bids[0]?.price ?? 0, asks[0]?.price ?? Number.POSITIVE_INFINITY];
      if (bid >= ask) throw new Error(`${symbol} is crossed or locked: ${bid} ${ask}`);
      const q = quoteOf(m, symbol);
      if ((q.bid ?? 0) !== bid || (q.ask ?? Number.POSITIVE_INFINITY) !== ask)
        throw new Error(`${symbol}: the board shows another quote than the book`);
    });
  },
);

test('the first day is the one announced: leaders gap on volume, quiet names do not, the open is busier than before it', () => {
  const m = copy(at940);
  const gap = (i: number) => (m.board.open[i] as number) / (symbolOf(m, i).instrument.priorClose ?? 1) - 1;
  const busy = (i: number) => (m.board.volume[i] as number) / symbolOf(m, i).instrument.averageVolume;
  const [leaders, quiet] = [range(0, 10), range(10, 36).filter((i) => symbolOf(m, i).given !== null)];
  expect(Math.max(...leaders.map(gap))).toBeGreaterThan(0.15);
  expect(quiet.length).toBeGreaterThan(15);
  for (const i of quiet) expect(Math.abs(gap(i))).toBeLessThan(0.1);
  expect(mean(leaders.map(busy))).toBeGreaterThan(8 * mean(quiet.map(busy)));
  const { barVolume } = tapeOf(m, 'VULPN');
  const volume = (from: number, to: number) => mean([...barVolume.slice(from, to)]);
  expect(volume(330, 340)).toBeGreaterThan(1.5 * volume(315, 330));
});

test('there are ten days or more, each with its own character and news at its own times', () => {
  expect(PRACTICE_DAYS.length).toBeGreaterThanOrEqual(10);
  expect(new Set(PRACTICE_DAYS.map((d) => d.character)).size).toBe(PRACTICE_DAYS.length);
  for (const { id } of PRACTICE_DAYS) {
    const { news, symbols } = day(id);
    expect(news.every((n) => symbols.some((s) => s.instrument.symbol === n.symbol))).toBe(true);
  }
  expect(day('half-day').hours.close).toBe(at(13));
});

test('whoever is rushed is paused, reopens by auction, and nothing trades in between', () => {
  const m = run(createMarket(day('low-float')), at(12));
  const i = m.board.halts.indexOf(Math.max(...m.board.halts));
  const { symbol } = symbolOf(m, i).instrument;
  const stops = m.stops.filter((s) => s.i === i);
  expect(m.board.halts[i]).toBeGreaterThanOrEqual(1);
  const spans = stops.flatMap((s, k) =>
    s.stopped ? [[s.at, stops[k + 1]?.at ?? Number.POSITIVE_INFINITY] as const] : [],
  );
  const prints: [number, string][] = [];
  runAlone(m.scenario, i, at(12), (h) => {
    const p = printOf(symbol, 0, h);
    prints.push([p.at, p.condition]);
  });
  for (const [from, to] of spans) {
    expect(prints.filter(([t]) => t > from && t < to)).toEqual([]);
    if (to < Number.POSITIVE_INFINITY) expect(prints.find(([t]) => t >= to)?.[1]).toBe('reopening auction');
  }
});

/** The company that is halted for news, and when. */
const halted = (scenario: Scenario) => {
  const hero = scenario.symbols.find((s) => s.halts.length > 0);
  const [halt] = hero?.halts ?? [];
  if (!hero || !halt) throw new Error('nobody is halted on this day');
  return { symbol: hero.instrument.symbol, ...halt };
};

test('a halt has a reason; orders wait in it, join the reopening auction, and what it leaves rests in the book', () => {
  const scenario = day('halted-for-news');
  const { symbol, at: from, until } = halted(scenario);
  const m = run(createMarket(scenario), from - 60_000);
  const before = quoteOf(m, symbol).bid as number;
  const low = before / 2 - ((before / 2) % 100);
  send(m, symbol, order(1, 'buy', low, 200));
  run(m, from + 1_000);
  expect(statusOf(m.board, numberOf(m, symbol))).toBe('halted');
  expect(haltOf(m, symbol)?.reason).toContain('news pending');
  send(m, symbol, order(3, 'buy', before * 2 - (before % 100), 300));
  send(m, symbol, order(5, 'buy', before, 100, { life: 'ioc' }));
  expect(news(m)).toMatchObject([{ kind: 'out', id: 5, why: 'trading is halted' }]);
  expect(auctionOf(m, symbol)?.kind).toBe('reopening');
  run(m, until);
  const fills = m.reports.splice(0).flatMap((r) => (r.kind === 'fill' ? [r] : []));
  expect(fills.map((f) => [f.id, f.qty])).toEqual([[3, 300]]);
  const opened = tapeOf(m, symbol).recent.find((p) => p.condition === 'reopening auction');
  expect(opened?.price).toBe(fills[0]?.price);
  expect(Math.abs((opened?.price ?? 0) / before - 1)).toBeGreaterThan(0.05);
  expect(asked(m, { kind: 'cancel', id: 1 as WireId, symbol })).toBe('out');
});

test('an order that takes what there is waits through a halt, joins the reopening, and never rests', () => {
  const scenario = day('halted-for-news');
  const { symbol, at: from, until } = halted(scenario);
  const m = run(createMarket(scenario), from + 60_000);
  const before = tapeOf(m, symbol).last ?? 0;
  send(m, symbol, order(1, 'buy', before * 2 - (before % 100), 300, { life: 'take' }));
  send(m, symbol, order(3, 'buy', before / 2 - ((before / 2) % 100), 300, { life: 'take' }));
  expect(news(m)).toEqual([]);
  run(m, until);
  expect(
    news(m).map((r) => (r.kind === 'fill' ? [r.id, r.qty] : r.kind === 'out' ? [r.id, r.why] : r.kind)),
  ).toEqual([
    [1, 300],
    [3, 'unfilled rest'],
  ]);
});

test.each([[0], [-100], [1.5], [Number.NaN]])(
  'a quantity of %d never reaches the book, in an order or in a change of one',
  (qty) => {
    const m = copy(at940);
    const before = depthOf(m, 'VULPN', 30);
    const bid = quoteOf(m, 'VULPN').bid as Price;
    send(m, 'VULPN', order(1, 'sell', bid, qty));
    expect(m.reports.splice(0)).toMatchObject([
      {
        kind: 'rejected',
        id: 1,
        why: expect.stringContaining('a quantity must be a whole number from 1 on'),
      },
    ]);
    expect(depthOf(m, 'VULPN', 30)).toEqual(before);
    send(m, 'VULPN', order(3, 'buy', (bid - 100) as Price, 100));
    expect(asked(m, { kind: 'replace', id: 3 as WireId, symbol: 'VULPN', qty, limit: bid })).toBe('refused');
  },
);

// The book is made anew when the trader comes: whoever has only looked before leaves no trace in how fills split.
test('14: how an order’s fills split does not depend on when the book was first looked at', () => {
  const fills = (looked: number | null) => {
    const m = createMarket(day('fresh-headlines'));
    if (looked !== null) {
      run(m, looked);
      depthOf(m, 'VULPN', 10);
    }
    run(m, at(9, 41));
    send(m, 'VULPN', order(1, 'buy', (m.board.last[numberOf(m, 'VULPN')] as number) + 6_000, 9_000));
    run(m, at(9, 42));
    return m.reports.splice(0);
  };
  const late = fills(null);
  expect(late.filter((r) => r.kind === 'fill').length).toBeGreaterThan(3);
  for (const looked of [at(4), at(9, 31), at(9, 40, 59)]) expect(fills(looked)).toEqual(late);
});

test.each(['VULPN', 'KELOD'])(
  'the quote of %s is the same at any moment, whether nobody watches, somebody looks or the book is kept, which tells each',
  (symbol) => {
    const nobody = copy(at940);
    const looked = copy(at940);
    const kept = copy(at940);
    keepFloor(kept, symbol);
    const seen = new Set<string>();
    const steps = new Map([nobody, looked, kept].map((m) => [m, [] as number[]]));
    for (let t: number = at(9, 40); t < at(9, 42); t += 271) {
      for (const m of steps.keys()) run(m, t, () => steps.get(m)?.push(m.now));
      const { bids, asks } = depthOf(looked, symbol, 12);
      const quote = quoteOf(nobody, symbol);
      expect(quoteOf(kept, symbol)).toEqual(quote);
      expect(quoteOf(looked, symbol)).toEqual(quote);
      expect([bids[0]?.price ?? null, asks[0]?.price ?? null]).toEqual([quote.bid, quote.ask]);
      expect(depthOf(kept, symbol, 12)).toEqual({ bids, asks });
      seen.add(JSON.stringify(quote));
    }
    const [prints = [], all = []] = [steps.get(looked), steps.get(kept)];
    expect(all.length - prints.length).toBeGreaterThan(0.5 * seen.size);
    expect(all[0]).toBeLessThan(at(9, 40) + 300);
    expect(seen.size).toBeGreaterThan(3);
  },
);

test('an order that never traded leaves no trace: the book, the tape and a later order’s fills are as if it had not been', () => {
  const fills = (before: boolean) => {
    const m = copy(at940);
    if (before) {
      send(m, 'VULPN', order(1, 'buy', (quoteOf(m, 'VULPN').bid as number) - 20_000, 500));
      run(m, at(9, 40, 30));
      expect(asked(m, { kind: 'cancel', symbol: 'VULPN', id: 1 as WireId })).toBe('out');
    }
    run(m, at(9, 41));
    const book = depthOf(m, 'VULPN', 12);
    send(m, 'VULPN', order(2, 'buy', (quoteOf(m, 'VULPN').ask as number) + 6_000, 9_000));
    run(m, at(9, 42));
    return { book, reports: m.reports.splice(0), bars: barsOf(tapeOf(m, 'VULPN'), 1) };
  };
  expect(fills(true)).toEqual(fills(false));
});

test('from the trader’s first order on each quote of its symbol is told, not only its prints', () => {
  const m = copy(at940);
  send(m, 'KELOD', order(1, 'buy', 10_000, 100));
  const told: number[] = [];
  run(m, at(9, 41), () => told.push(m.now));
  expect(told[0]).toBeLessThan(at(9, 40) + 300);
});

test('a flush that a halt cuts short has happened all the same', () => {
  const i = numberOf(at940, 'VULPN');
  const s = copyOne(at940.sketches, i);
  const when = at(9, 40, 1);
  const halts = [{ at: when, until: at(9, 50), gap: 0, reason: 'news' }];
  Object.assign(s, { halt: s.halt.fill(0), flush: s.flush.fill(-20) });
  s.nextAt[0] = when;
  s.cueAt[0] = when;
  const [worth, sigma] = [s.worth[0] as number, s.sigma[0] as number];
  stepSketch(s, 0, { ...symbolOf(at940, i), halts }, at940.frame, newHappening());
  expect(s.flush[0]).toBe(0);
  expect((s.worth[0] as number) / worth - 1).toBeCloseTo(-40 * sigma, 2);
});

test('a rush and its flush come to nothing on average: what one brings the other takes back', () => {
  const i = numberOf(at940, 'VULPN');
  const rushes = { from: at(9, 40), until: at(9, 40), perHour: 0, up: 0.5, tilt: 0.24, trades: 60 };
  const plan = { ...symbolOf(at940, i), rushes: { ...rushes, untilPaused: false } };
  const moves = range(0, 400).map((k) => {
    const s = copyOne(at940.sketches, i);
    s.random.set(createRandom(k, 'rush'));
    s.rush[0] = rushes.tilt;
    s.flush[0] = 0;
    const h = newHappening();
    while ((s.rush[0] !== 0 || s.flush[0] !== 0) && (s.nextAt[0] as number) < at(9, 55))
      stepSketch(s, 0, plan, at940.frame, h);
    return Math.log(s.worth[0] as number) / (at940.sketches.sigma[i] as number);
  });
  const start = Math.log(at940.sketches.worth[i] as number) / (at940.sketches.sigma[i] as number);
  const away = moves.map((m) => m - start);
  expect([Math.abs(mean(away)) < 4, mean(away)]).toEqual([true, mean(away)]);
});

test('an order at the open clears at the auction’s one price; without the trader the auction is the plan’s', () => {
  const m = run(createMarket(day('fresh-headlines')), at(9, 27));
  const { ask } = quoteOf(m, 'VULPN');
  send(m, 'VULPN', order(1, 'buy', null, 400, { route: 'open' }));
  send(m, 'VULPN', order(3, 'buy', (ask as number) - 5_000, 100, { route: 'open' }));
  run(m, at(9, 29, 59));
  const forming = auctionOf(m, 'VULPN');
  run(m, REGULAR_OPEN);
  const reports = news(m);
  const cross = tapeOf(m, 'VULPN').recent.find((p) => p.condition === 'opening auction');
  expect(reports).toMatchObject([
    { kind: 'fill', id: 1, qty: 400, price: cross?.price },
    { kind: 'out', id: 3, why: 'unfilled rest' },
  ]);
  expect(Math.abs((forming?.price ?? 0) / (cross?.price ?? 1) - 1)).toBeLessThan(0.03);
});

test('the trader’s orders meet the book as anyone’s: they take, thin it out, rest in the queue, shrink and leave', () => {
  const [with_, without] = [copy(at940), copy(at940)];
  const before = depthOf(with_, 'VULPN', 3).asks;
  const wanted = (before[0]?.qty ?? 0) + 10;
  send(with_, 'VULPN', order(1, 'buy', before[1]?.price ?? 0, wanted, { life: 'ioc' }));
  const fills = with_.reports.splice(0).flatMap((r) => (r.kind === 'fill' ? [r] : []));
  expect(fills.reduce((a, f) => a + f.qty, 0)).toBe(wanted);
  expect([fills[0]?.price, fills[fills.length - 1]?.price]).toEqual([before[0]?.price, before[1]?.price]);
  expect(depthOf(with_, 'VULPN', 1).asks[0]).toEqual({
    price: before[1]?.price,
    qty: (before[1]?.qty ?? 0) - 10,
  });

  const bid = quoteOf(with_, 'VULPN').bid as Price;
  send(with_, 'VULPN', order(3, 'buy', bid, 500));
  expect(asked(with_, { kind: 'replace', id: 3 as WireId, symbol: 'VULPN', qty: 200, limit: bid })).toBe(
    'replaced',
  );
  expect(asked(with_, { kind: 'cancel', id: 3 as WireId, symbol: 'VULPN' })).toBe('out');
  expect(asked(with_, { kind: 'cancel', id: 3 as WireId, symbol: 'VULPN' })).toBe('refused');
  run(with_, at(9, 42));
  run(without, at(9, 42));
  expect(with_.sketches.worth).toEqual(without.sketches.worth);
  expect(tapeOf(with_, 'ORBNT')).toEqual(tapeOf(without, 'ORBNT'));
});

test('lives and routes: fill-or-kill, immediate-or-cancel, post only, and the midpoint with its price improvement', () => {
  const m = copy(at940);
  const { bid, ask } = quoteOf(m, 'TARNH') as { bid: Price; ask: Price };
  const shown = depthOf(m, 'TARNH', 1).asks[0]?.qty ?? 0;
  const said = () =>
    news(m).map((r) =>
      r.kind === 'out' ? r.why : r.kind === 'fill' ? `${r.liquidity} ${r.qty} ${r.venue}` : r.kind,
    );
  send(m, 'TARNH', order(1, 'buy', ask, shown + 1, { life: 'fok' }));
  expect(said()).toEqual(['not all could fill at once']);
  send(m, 'TARNH', order(3, 'buy', ask, 100, { postOnly: true }));
  expect(said()).toEqual(['would take liquidity, and was post only']);
  send(m, 'TARNH', order(5, 'buy', bid, 100, { life: 'ioc' }));
  expect(said()).toEqual(['unfilled rest']);
  send(m, 'TARNH', order(7, 'buy', ask, shown, { life: 'fok' }));
  expect(said()).toEqual([`removed ${shown} LIT`]);
  send(m, 'TARNH', order(9, 'buy', null, 400, { route: 'mid' }));
  run(m, at(9, 55));
  const fills = m.reports.splice(0).flatMap((r) => (r.kind === 'fill' ? [r] : []));
  expect(fills.reduce((a, f) => a + f.qty, 0)).toBe(400);
  for (const f of fills) expect([f.venue, f.better > 0]).toEqual(['MID', true]);
});

// Rule 201 looks at the regular session: a fall before the open restricts nobody yet.
test('a fall before the open does not restrict short sales; one after it does, and only above the bid they go', () => {
  const scenario = day('wild-index');
  const i = scenario.symbols.findIndex(
    (s) => s.jumps[0] && s.jumps[0].by < -0.1 && s.instrument.priorClose > 20_000,
  );
  const { symbol } = (scenario.symbols[i] as Scenario['symbols'][number]).instrument;
  const m = run(createMarket(scenario), at(9, 20));
  const sell = (id: number) =>
    send(m, symbol, order(id, 'sell', quoteOf(m, symbol).bid, 100, { life: 'ioc', short: true }));
  expect(m.board.restricted[i]).toBe(0);
  sell(1);
  expect(news(m)[0]).toMatchObject({ kind: 'fill', id: 1 });
  run(m, at(15));
  expect(m.board.restricted[i]).toBe(2);
  sell(3);
  expect(news(m)).toMatchObject([{ kind: 'out', id: 3, why: 'unfilled rest' }]);
});

// A tick is a hundredth of a cent below one dollar, and a cent from there on.
test('a symbol that trades around one dollar quotes and prints on ticks of either side', () => {
  const scenario = day('fresh-headlines');
  const plan = symbolOf(at940, 0);
  const instrument = { ...plan.instrument, symbol: 'AROND', priorClose: 9_970 as Price };
  const m = createMarket({
    ...scenario,
    symbols: [{ ...plan, instrument, stood: 9_970, overnight: 0, jumps: [], lot: 500, depth: 2_000 }],
  });
  keepFloor(m, 'AROND');
  const below = new Set<boolean>();
  run(m, at(9, 50), () => {
    const q = quoteOf(m, 'AROND');
    for (const p of [q.bid, q.ask])
      if (p !== null && !(p < 10_000 || p % 100 === 0)) throw new Error(`${p} is not on a tick`);
    below.add((q.bid ?? 0) < 10_000);
  });
  expect(below.size).toBe(2);
});
