import fc from 'fast-check';
import { checkBroker } from '../../tests/model/rules.ts';
import { DEFAULT_ACCOUNT } from '../core/account/index.ts';
import { parseRule } from '../core/language/index.ts';
import { averageEntry, eventText, everything, statusOf } from '../core/orders/index.ts';
import { sift } from '../core/scan/index.ts';
import { at, CENT, DAY as DAY_MS } from '../core/units/index.ts';
import { memoryStore } from '../store/memory-store.ts';
import type { DaySource } from './day-ref.ts';
import { account, advance, apply, createEngine, dayEnd, type Engine } from './engine.ts';
import type { LogEntry } from './log.ts';
import { peek } from './peek.ts';
import { restore, save } from './saving.ts';
import { simMarket } from './sim-market.ts';
import { marketView, stocksOf } from './view.ts';

const BRACKET = 'stop 30c\n target 1R for half\n target 2R for half\n breakeven after 1.3R';
/** The first practice day with few listed symbols beside the ones it tells of. */
const DAY: DaySource = { ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 60 }, own: null };
const morning = structuredClone(save(start(at(9, 10))));

function start(until: number): Engine {
  const engine = createEngine(simMarket(DAY));
  advance(engine, until);
  return engine;
}

/** A fresh engine at 09:10, from one saved state. */
function at910(): Engine {
  const saved = structuredClone(morning);
  return restore(saved, simMarket(DAY, saved.market), [], null);
}

const run = (e: Engine, text: string, focus = 'VULPN') => apply(e, { kind: 'run', text, focus });

const action = fc.record({
  wait: fc.integer({ min: 0, max: 240_000 }),
  focus: fc.constantFrom('VULPN', 'ORBNT', 'SOLVN'),
  text: fc.constantFrom(
    `buy risk 1R at ask + 3c extended\n ${BRACKET}`,
    'buy 700 at ask + 2c extended\n stop 5%\n target 4% for third\n target 7% for third\n breakeven after target 1 plus costs',
    'buy 300 at bid extended\n stop 4%',
    'buy 150 at ask + 1c extended',
    'short 400 at bid - 3c extended\n stop 3%\n target 1R for half\n breakeven after 1R',
    'close half at bid',
    'close third at ask',
    'sell 90 at last + 1c',
    'cover all at ask + 1c',
    'move stop to entry - 4c',
    'move stop to last - 2c',
    'move last order up 1c',
    'cancel last',
    'cancel symbol',
    'flatten',
    'flatten everything',
    'alert at last + 2c',
    'alert any when from vwap > 1%',
    'when last > vwap: buy 200 at 3c through extended\n stop 3%\n target 1R for half',
    'when newly 1m close < vwap or gain >= 1R: close half at 2c through',
    'buy 300 at bid working to ask + 1c within 40s extended\n stop 4%\n once filled: close third at ask + 4c',
    'one of\n buy 200 at bid extended\n  stop 3%\n short 200 below bid - 9c extended\n  stop 3%',
  ),
});

test('no sequence of orders, fills, moves and cancels closes more than the position or leaves it unprotected', () => {
  fc.assert(
    fc.property(fc.array(action, { minLength: 3, maxLength: 14 }), (actions) => {
      const e = at910();
      let now = at(9, 10) as number;
      for (const a of actions) {
        now += a.wait;
        advance(e, now);
        checkBroker(e.state.broker);
        run(e, a.text, a.focus);
        checkBroker(e.state.broker);
      }
      advance(e, now + 600_000);
      checkBroker(e.state.broker);
    }),
    { numRuns: process.env.FEW_RUNS ? 8 : 40 },
  );
});

test('time cut into other pieces, or a session brought back from store and log, ends in the same state', async () => {
  const store = memoryStore();
  await store.begin({ id: 1, day: DAY.ref, from: null, reached: 0, net: 0, r: 0, trades: 0 }, []);
  const e = at910();
  await store.save(save(e));
  const steps: [number, string][] = [
    [at(9, 11), `buy risk 1R at ask + 3c extended\n ${BRACKET}`],
    [at(9, 12), 'alert at last + 3c of ORBNT\nalert any when speed 1m > 1% and price > 2\nalert any on halt'],
    [at(9, 24), 'close quarter at bid'],
    [at(9, 36), 'move stop to entry - 10c'],
  ];
  for (const [when, text] of steps) {
    await store.append(1, advance(e, when));
    await store.append(1, run(e, text).entries);
  }
  await store.append(1, advance(e, at(9, 45)));
  await store.beat(at(9, 45));

  const kept = await store.load();
  if (!kept.saved) throw new Error('nothing was kept');
  const back = restore(kept.saved, simMarket(DAY, kept.saved.market), kept.log, kept.heartbeat);
  expect(back.state).toEqual(e.state);
  expect(back.market.now()).toBe(e.market.now());

  const cut = at910();
  for (const [when, text] of steps) {
    for (let t = cut.market.now(); t < when; t += 777) advance(cut, Math.min(t, when));
    advance(cut, when);
    run(cut, text);
  }
  for (let t = cut.market.now(); t < at(9, 45); t += 1_333) advance(cut, t);
  advance(cut, at(9, 45));
  expect(cut.state).toEqual(e.state);
  expect(new Set(e.state.alerts.fired.map((f) => f.kind)).has('entrant')).toBe(true);
  for (const { symbol } of cut.market.instruments)
    expect(cut.market.tape(symbol)).toEqual(e.market.tape(symbol));
});

/** Plays until a text appears in the log, and fails when it has not by `until`. */
function playUntil(e: Engine, text: RegExp, until: number): LogEntry {
  for (let t = e.market.now(); t < until; t += 250) {
    const hit = advance(e, t).find((x) => x.events.some((ev) => text.test(eventText(ev))));
    if (hit) return hit;
  }
  throw new Error(`“${text}” did not happen`);
}

test('the first target shrinks the stop in its own step; then breakeven moves it and it only tightens', () => {
  // Where the price goes is chance: one of these entries sees its first target, and then a third of an R more.
  const text = `buy 200 at ask + 3c\n stop 12c\n target 1R for half\n target 9R for half\n breakeven after 1.3R`;
  let entry: LogEntry | null = null;
  let e = start(at(9, 32));
  for (let minute = 32; entry === null && minute < 50; minute += 2) {
    e = start(at(9, minute));
    expect(run(e, text).result.ok).toBe(true);
    const moved = restore(
      structuredClone(save(e)),
      simMarket(DAY, structuredClone(save(e).market)),
      [],
      null,
    );
    const until = at(9, minute + 12);
    if (advance(moved, until).some((x) => x.events.some((v) => /moved to breakeven/.test(eventText(v)))))
      entry = playUntil(e, /Target 1: sold/, until);
  }
  if (!entry) throw new Error('no entry came to its first target and breakeven');
  const sold = entry.events.findIndex((x) => /Target 1: sold/.test(eventText(x)));
  expect(entry.events.slice(sold).some((x) => /^Stop of VULPN now for/.test(eventText(x)))).toBe(true);
  playUntil(e, /Stop of .* moved to breakeven/, at(10, 5));
  const trade = everything(e.state.broker).trades[0];
  const stop = everything(e.state.broker).orders.find((o) => o.role === 'stop' && o.phase.k !== 'ended');
  const average = trade ? averageEntry(trade) : null;
  expect(
    average !== null &&
      stop?.stop !== null &&
      stop !== undefined &&
      stop.stop >= average &&
      stop.stop - average < CENT,
  ).toBe(true);
});

test('an order without “extended” sleeps until 09:30, and its exits protect it from then on', () => {
  const e = at910();
  const text = 'buy 100 at ask + 50c\n stop 40c';
  // Said to sleep, or asked about with both readings.
  expect(run(e, text).result.problem).toContain('sleeps until 09:30');
  const [line] = peek(e, text, 'VULPN').lines;
  expect(line?.asks).toMatchObject([
    { instead: [expect.stringContaining('extended'), expect.stringContaining('at next open')] },
  ]);
  expect(run(e, 'buy 100 at ask + 50c at next open\n stop 40c').result.ok).toBe(true);
  expect(everything(e.state.broker).orders.map(statusOf)).toEqual(['Suspended']);
  advance(e, at(9, 31));
  expect(everything(e.state.broker).orders.map((o) => [o.role, statusOf(o)])).toEqual([
    ['entry', 'Filled'],
    ['stop', 'New'],
  ]);
});

test.each([
  ['buy 100 at market', 'Market orders work in the regular session'],
  ['buy 100 at ask + 2.00 extended', 'Price collar'],
  ['buy 9000 at ask extended', 'Guard on size: 9000 shares in all; at most 5000 may be'],
  [
    'buy $119,999 of FOXID at ask extended\nbuy $119,999 of FOXID at ask extended',
    'Buying power: this needs',
  ],
  ['buy 100 at ask extended\n  stop at ask + 10c', 'must be below '],
  ['close half at bid', 'No position in VULPN to close'],
  ['move stop to breakeven', 'There is no stop in VULPN'],
  ['buy 100 above last - 5c extended', 'A buy stop waits above the market'],
  ['buy 100 above last + 5c limit last + 2c extended', 'must be at'],
  ['cancel order 77', 'There is no order 77'],
  ['buy 100 of NOPE at ask', '“NOPE” does not trade today'],
  ['buy 100 at day open + 2c extended', '“day open” has no value for VULPN now'],
  ['buy 100 at mid hidden', 'Midpoint orders work in the regular session'],
  ['short 100 of SOLVN at bid extended', 'No shares of SOLVN can be borrowed today'],
])('%j is refused with %j', (text, says) => {
  expect(run(at910(), text).result.problem).toContain(says);
});

test('what peek shows is what the key then does', () => {
  const e = at910();
  const text = `buy risk 1R at ask + 3c extended\n ${BRACKET}`;
  const shown = peek(e, text, 'VULPN').lines[0];
  const before = account(e).buyingPower;
  const { result } = run(e, text);
  expect(result.done).toEqual([shown?.sayBack]);
  const trade = everything(e.state.broker).trades[0];
  expect(trade?.entered).toBe(shown?.facts?.qty);
  expect(before - account(e).buyingPower).toBeGreaterThan(0);
  expect(shown?.facts?.risk).toBeLessThanOrEqual(DEFAULT_ACCOUNT.riskUnit);
});

test('peek says what is wrong with a text, and where it can go says nothing is wrong', () => {
  expect(peek(at910(), 'bye 100 at ask', 'VULPN').problem).toContain('buy');
  expect(peek(at910(), 'buy 100 at ask extended', 'VULPN').problem).toBeNull();
});

test('over the night: day orders end, GTC ones survive, and a gap through the stop fills at the open’s price', () => {
  const source: DaySource = { ref: { kind: 'practice', id: 'overnight-gap', seed: 7, size: 60 }, own: null };
  // Who opens far below is not told beforehand: a first run of the same days finds out.
  const before = simMarket(source);
  while (before.next(at(20)));
  const closes = before.instruments.map((x) => before.last(x.symbol) ?? 0);
  before.nextDay();
  while (before.next(DAY_MS + at(9, 31)));
  const gaps = before.instruments.map((_, i) => ((before.board.open[i] as number) || 1e9) / (closes[i] || 1));
  const low = gaps.indexOf(Math.min(...gaps));
  const { symbol } = before.instruments[low] as { symbol: string };
  expect(gaps[low]).toBeLessThan(0.93);
  const e = createEngine(simMarket(source));
  advance(e, at(15, 30));
  expect(run(e, `buy 200 of ${symbol} at ask + 3c gtc\n stop 2%`, symbol).result.ok).toBe(true);
  run(e, 'buy 100 of ALDRK at bid - 4.00', 'ALDRK');
  advance(e, at(15, 30, 1));
  const trade = () => everything(e.state.broker).trades[0];
  expect(trade()?.entered).toBe(200);
  // The stop is moved far enough away to see the night.
  const asked = peek(e, 'move stop to last - 5%', symbol).lines.flatMap((l) => l.asks);
  expect(asked.every((q) => q.kind === 'farther')).toBe(true);
  expect(apply(e, { kind: 'run', text: 'move stop to last - 5%', focus: symbol, yes: asked }).result.ok).toBe(
    true,
  );
  advance(e, dayEnd(e));
  const statuses = () => everything(e.state.broker).orders.map((o) => [o.symbol, o.role, statusOf(o)]);
  expect(statuses()).toEqual([
    [symbol, 'entry', 'Filled'],
    [symbol, 'stop', 'Suspended'],
    ['ALDRK', 'entry', 'Expired'],
  ]);
  const { board, number } = e.market;
  const close = board.close[number(symbol)] as number;
  const stop = everything(e.state.broker).orders.find((o) => o.role === 'stop')?.stop as number;
  const entry = apply(e, { kind: 'next day' }).entries.at(-1);
  expect([entry?.at, e.market.date, e.market.instrument(symbol).priorClose]).toEqual([
    DAY_MS + at(4),
    '2027-09-16',
    close,
  ]);
  advance(e, DAY_MS + at(9, 40));
  expect(trade()?.status).toBe('closed');
  const average = (trade()?.exitNotional ?? 0) / (trade()?.exited ?? 1);
  expect(average).toBeLessThan(stop * 0.99);
  expect(average).toBeGreaterThan(close * 0.4);
});

test('over nights that are carried coarsely the trader lives through the same, also when it is brought back from its log', () => {
  const texts = [
    'buy 200 at ask + 2c extended gtc\n stop 3%\n target 6%',
    'short 100 at last + 5% gtc\n stop 8%',
    'alert at last + 1%',
    'alert when change > 2%',
    'when last > vwap: buy 100 at 2c through gtc\n stop 5%',
  ];
  const live = (run: 'coarsely' | 'in full') => {
    const e = at910();
    const log: LogEntry[] = [];
    const input = (asked: LogEntry['input']) => asked && log.push(...apply(e, asked).entries);
    for (const text of texts) input({ kind: 'run', text, focus: 'VULPN' });
    input({ kind: 'run', text: texts[0] as string, focus: 'KELTN' });
    if (run === 'coarsely') input({ kind: 'others', run });
    for (let k = 0; k < 2; k++) {
      log.push(...advance(e, dayEnd(e)));
      input({ kind: 'next day' });
    }
    log.push(...advance(e, e.market.dayStart + at(10, 40)));
    if (run === 'coarsely') input({ kind: 'others', run: 'in full' });
    return { e, log };
  };
  const told = ({ log }: { log: LogEntry[] }) =>
    log.flatMap((x) => x.events.map((v) => [x.at, eventText(v)]));
  const [a, b] = [live('in full'), live('coarsely')];
  expect(told(b)).toEqual(told(a));
  expect(told(b).length).toBeGreaterThan(5);
  expect(b.e.state.broker).toEqual(a.e.state.broker);
  expect(b.e.state.alerts.fired.map((x) => [x.at, x.text])).toEqual(
    a.e.state.alerts.fired.map((x) => [x.at, x.text]),
  );
  const saved = structuredClone(morning);
  const back = restore(saved, simMarket(DAY, saved.market), b.log, b.e.market.now());
  expect(save(back)).toEqual(save(b.e));
  // What nobody looked at then is looked at now.
  for (const { symbol } of b.e.market.instruments)
    expect([symbol, b.e.market.instrument(symbol), b.e.market.restricted(symbol)]).toEqual([
      symbol,
      a.e.market.instrument(symbol),
      a.e.market.restricted(symbol),
    ]);
  for (const s of ['BRYXT', 'ORBNT', b.e.market.instruments[55]?.symbol ?? '']) {
    expect(b.e.market.daily(s)).toEqual(a.e.market.daily(s));
    expect(b.e.market.tape(s)).toEqual(a.e.market.tape(s));
  }
});

test('a day that was run after some that were not: what is known before the next is that of a full run', () => {
  const [whole, coarse] = (['in full', 'coarsely'] as const).map((run) => {
    const e = at910();
    apply(e, { kind: 'others', run });
    for (let k = 0; k < 3; k++) {
      advance(e, dayEnd(e));
      apply(e, { kind: 'next day' });
      if (k === 0) apply(e, { kind: 'others', run: 'in full' });
    }
    return e.market.instruments.map(({ symbol }) => [e.market.instrument(symbol), e.market.daily(symbol)]);
  });
  expect(coarse).toEqual(whole);
});

test('looking at what stood still changes nothing: neither what scans know of before the day, nor what is kept, nor the days after', () => {
  const seen = [false, true].map((looks) => {
    const e = at910();
    const night = () => {
      advance(e, dayEnd(e));
      apply(e, { kind: 'next day' });
    };
    const look = () => {
      if (!looks) return;
      for (const { symbol } of e.market.instruments) {
        e.market.daily(symbol);
        e.market.tape(symbol);
        e.market.quote(symbol);
        expect(e.market.instrument(symbol).symbol).toBe(symbol);
      }
    };
    for (let k = 0; k < 2; k++) {
      apply(e, { kind: 'others', run: 'coarsely' });
      night();
      apply(e, { kind: 'others', run: 'in full' });
      look();
    }
    advance(e, e.market.dayStart + at(9, 31));
    const { facts } = marketView(e.market);
    night();
    return { facts, kept: save(e) };
  });
  expect(seen[1]).toEqual(seen[0]);
});

test('a price alert fires at the first print at its price after it was set, and at no other; the exchange’s own prints are the oracle', () => {
  const e = at910();
  const set: { symbol: string; price: number; up: boolean; from: number }[] = [];
  for (const [when, symbol, cents] of [
    [at(9, 11), 'VULPN', 6],
    [at(9, 14), 'VULPN', -4],
    [at(9, 20), 'ORBNT', 5],
    [at(9, 26), 'QUOLS', -12],
    [at(9, 31), 'VULPN', 20],
    [at(9, 31), 'ORBNT', -30],
  ] as const) {
    advance(e, when);
    const last = e.market.last(symbol) as number;
    run(e, `alert at last ${cents > 0 ? '+' : '-'} ${Math.abs(cents)}c of ${symbol}`);
    set.push({ symbol, price: last + cents * CENT, up: cents > 0, from: when });
  }
  advance(e, at(9, 40));
  const fired = new Map(e.state.alerts.fired.map((f) => [f.alert, f.at]));
  let hits = 0;
  set.forEach(({ symbol, price, up, from }, k) => {
    const first = e.market
      .history(symbol)
      .find((p) => p.at > from && (up ? p.price >= price : p.price <= price));
    expect([symbol, price, fired.get(k + 1)]).toEqual([symbol, price, first?.at]);
    if (first) hits++;
  });
  expect(hits).toBeGreaterThanOrEqual(3);
});

test('newcomers of a rule are those that a second look at each whole second finds, on a market of its own', () => {
  const text = 'speed 1m > 0.8% and price > 2 and relative volume > 1';
  const parsed = parseRule(text);
  if (!parsed.ok) throw new Error('the rule should read');
  const e = at910();
  run(e, `alert any when ${text}`);
  for (let t: number = at(9, 10); t < at(9, 34); t += 7_300) advance(e, t);
  advance(e, at(9, 34));

  const other = at910();
  const inside = () => {
    const who = stocksOf(other.market).slice();
    return new Set(
      [...who.subarray(0, sift(parsed.rule, marketView(other.market), who, who.length))].map(
        (i) => other.market.instruments[i]?.symbol ?? '',
      ),
    );
  };
  const wanted: string[] = [];
  const told = new Map<string, number>();
  let before = inside();
  for (let t: number = at(9, 10) + 1_000; t <= at(9, 34); t += 1_000) {
    advance(other, t);
    const now = inside();
    for (const s of now) {
      if (before.has(s) || t - (told.get(s) ?? Number.NEGATIVE_INFINITY) < 600_000) continue;
      told.set(s, t);
      wanted.push(`${t} ${s}`);
    }
    before = now;
  }
  expect(wanted.length).toBeGreaterThan(3);
  expect(e.state.alerts.fired.map((f) => `${f.at} ${f.symbol}`).sort()).toEqual(wanted.sort());
});
