import fc from 'fast-check';
import { type AccountRules, type FeeTable, MAIN } from '../core/account/index.ts';
import { barsOf } from '../core/market/index.ts';
import { everything, liveOrders, openOf } from '../core/orders/index.ts';
import { at, formatPrice, MINUTE, SECOND } from '../core/units/index.ts';
import type { DaySource } from './day-ref.ts';
import { advance, apply, createEngine, dayEnd, type Engine } from './engine.ts';
import { journalOf } from './journal.ts';
import type { LogEntry } from './log.ts';
import { peek } from './peek.ts';
import { restore, save } from './saving.ts';
import { simMarket } from './sim-market.ts';

const DAY: DaySource = { ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 24 }, own: null };
const opened = createEngine(simMarket(DAY));
advance(opened, at(9, 35));
const kept = structuredClone(save(opened));

/** A session at 09:35. */
function begun(): Engine {
  const saved = structuredClone(kept);
  return restore(saved, simMarket(DAY, saved.market), [], null);
}
const run = (e: Engine, text: string, focus = 'VULPN') => apply(e, { kind: 'run', text, focus });
/** Presses, and answers what is asked with yes. */
const yes = (e: Engine, text: string) => {
  const asks = peek(e, text, 'VULPN').lines.flatMap((l) => l.asks);
  expect(asks).not.toEqual([]);
  const { result } = apply(e, { kind: 'run', text, focus: 'VULPN', yes: asks });
  expect([text, result.problem]).toEqual([text, null]);
  return result;
};
const done = (e: Engine, text: string) => {
  const { result } = run(e, text);
  expect([text, result.problem]).toEqual([text, null]);
  return result;
};
const last = (e: Engine, symbol = 'VULPN') => e.market.last(symbol) as number;
const near = (e: Engine, cents: number) => formatPrice(Math.round(last(e) / 100) * 100 + cents * 100);
const entries = (e: Engine) => everything(e.state.broker).orders.filter((o) => o.role === 'entry');
const waited = (e: Engine) => e.state.desk.waited.map((w) => w.how);

test('a condition fires once, at the first trade that makes it true, priced as of then, and says what was seen', () => {
  const e = begun();
  const level = near(e, 10);
  done(e, `when last >= ${level}: buy 100 at 3c through\n stop 20c`);
  expect(entries(e)).toEqual([]);
  let firstTime: number | null = null;
  const tape = e.market.tape('VULPN');
  const log: LogEntry[] = [];
  while (entries(e).length === 0 && e.market.now() < at(9, 50)) {
    const { prints } = tape;
    log.push(...advance(e, at(9, 50), () => tape.prints > prints));
    // Its own purchase may print below, in the same moment.
    const there = tape.recent.some(
      (p) => p.at === e.market.now() && p.price >= Math.round(Number(level) * 1e4),
    );
    if (firstTime === null && there) firstTime = e.market.now();
  }
  const [entry] = entries(e);
  expect(entry?.at).toBe(firstTime);
  expect(e.state.desk.waiting).toEqual([]);
  expect(e.state.desk.waited).toMatchObject([
    { how: 'fired', seen: `last of VULPN ${level}`, at: firstTime },
  ]);
  expect(log.find((x) => x.fired)).toMatchObject({ fired: { of: 'condition', id: 1 }, input: null });
  expect(e.state.alerts.fired).toMatchObject([{ kind: 'condition', symbol: 'VULPN' }]);
  advance(e, at(10));
  expect(entries(e).length).toBe(1);
});

test('what is true already is asked about: now, or once it has been false', () => {
  const e = begun();
  const { result } = run(e, `when last >= ${near(e, -5)}: buy 100 at 3c through\n stop 20c`);
  expect(result.problem).toContain('true already');
  const [now, newly] = result.fixes as [string, string];
  expect([now.startsWith('buy 100 of VULPN'), newly.startsWith('when newly last')]).toEqual([true, true]);
  done(e, newly);
  const level = last(e) - 500;
  const tape = e.market.tape('VULPN');
  let below = false;
  while (e.state.desk.waiting.length > 0 && e.market.now() < at(11)) {
    const { prints } = tape;
    advance(e, at(11), () => tape.prints > prints);
    below ||= last(e) < level;
    if (e.state.desk.waiting.length === 0) expect([below, last(e) >= level]).toEqual([true, true]);
  }
  expect(below).toBe(true);
  done(e, now);
});

test('a candle’s close counts when it has finished and traded, as the bars of the tape have it', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('VULPN', 'ORBNT', 'SOLVN'),
      fc.constantFrom(1, 2, 3, 5),
      fc.integer({ min: -40, max: 40 }),
      fc.constantFrom('>', '<'),
      (symbol, minutes, cents, op) => {
        const e = begun();
        const level = Math.max(100, Math.round(last(e, symbol) / 100) * 100 + cents * 100);
        done(e, `when ${minutes}m close of ${symbol} ${op} ${formatPrice(level)}: note "fired"`);
        advance(e, at(9, 35) + 20 * MINUTE);
        const close = barsOf(e.market.tape(symbol), minutes).find(
          (b) =>
            b.start + minutes * MINUTE > at(9, 35) &&
            b.start + minutes * MINUTE <= e.market.now() &&
            (op === '>' ? b.close > level : b.close < level),
        );
        expect(e.state.desk.waited.map((w) => w.at)).toEqual(close ? [close.start + minutes * MINUTE] : []);
      },
    ),
    { numRuns: process.env.FEW_RUNS ? 4 : 14 },
  );
});

test('at a price counts for >= and not for >', () => {
  const e = begun();
  const here = formatPrice(last(e));
  expect(run(e, `when last >= ${here}: note "at"`).result.problem).toContain('true already');
  expect(done(e, `when last > ${here}: note "beyond"`).about[0]).toContain('not beyond it yet');
});

test('a candle in which nothing traded fires nothing', () => {
  const early = createEngine(simMarket(DAY));
  advance(early, at(4, 30));
  const quiet = early.market.instruments
    .map((x) => x.symbol)
    .filter(
      (s) => barsOf(early.market.tape(s), 1).every((b) => b.start < at(4, 29)) && last(early, s) !== null,
    );
  expect(quiet.length).toBeGreaterThan(0);
  for (const s of quiet) done(early, `when 1m close of ${s} > 0.01: note "${s}"`);
  advance(early, at(5, 30));
  for (const w of early.state.desk.waited) {
    const symbol = /of (\w+) >/.exec(w.text)?.[1] ?? '';
    const traded = barsOf(early.market.tape(symbol), 1).map((b) => b.start + MINUTE);
    expect([symbol, w.at]).toEqual([symbol, traded.find((end) => end > at(4, 30))]);
  }
});

test('paused sees and does not fire; resumed it does; its time ends it; flatten and cancel take it along', () => {
  const e = begun();
  done(e, 'when time >= 09:36: note "one"\nwhen time >= 09:50 until 09:40: note "two"');
  done(e, 'pause condition 1');
  advance(e, at(9, 38));
  expect(waited(e)).toEqual([]);
  done(e, 'resume condition 1');
  advance(e, at(9, 38, 1));
  expect(e.state.desk.notes.map((n) => n.text)).toEqual(['one']);
  advance(e, at(9, 41));
  expect(waited(e)).toEqual(['fired', 'over']);
  done(
    e,
    'when last >= 99: buy 100 at market\nwhen last >= 99: close all\nwhen last of ORBNT >= 99: flatten of ORBNT',
  );
  done(e, 'cancel entries');
  expect(e.state.desk.waiting.map((w) => w.id)).toEqual([4, 5]);
  done(e, 'flatten');
  expect(e.state.desk.waiting.map((w) => w.symbol)).toEqual(['ORBNT']);
  expect(run(e, 'cancel condition 3').result.problem).toContain('No condition 3 waits. Waiting: 5.');
});

test('one that waits through the night is there the next day, and one for the day is not', () => {
  const e = begun();
  done(e, 'when last >= 99 until cancelled: flatten\nwhen last >= 99: flatten');
  advance(e, dayEnd(e));
  apply(e, { kind: 'next day' });
  expect(e.state.desk.waiting.map((w) => w.id)).toEqual([1]);
  expect(waited(e)).toEqual(['over']);
  // What a candle of yesterday said does not count today.
  const next = begun();
  done(next, 'when 1m close > 0.01 and time < 04:20 until cancelled: note "early"');
  advance(next, dayEnd(next));
  apply(next, { kind: 'next day' });
  const start = next.market.dayStart;
  advance(next, start + at(4, 20));
  const first = barsOf(next.market.tape('VULPN'), 1)[0]?.start ?? 0;
  expect(next.state.desk.waited.map((w) => w.at - start)).toEqual([(first % (24 * 60 * MINUTE)) + MINUTE]);
});

test('of two conditions in one moment the second sees what the first has done', () => {
  const e = begun();
  done(e, 'buy 100 at 9c through\n stop $2 away');
  const level = near(e, 10);
  done(e, `when last >= ${level}: close all at 20c through`);
  done(e, `when last >= ${level} and last > entry - $3: alert at last + $2`);
  advance(e, at(9, 50), () => waited(e).length > 0);
  expect(everything(e.state.broker).trades.map((t) => t.status)).toEqual(['closed']);
  // Without a position there is no entry to compare with: it goes on waiting.
  expect([waited(e), e.state.desk.waiting.map((w) => w.id)]).toEqual([['fired'], [2]]);
});

test('a trend line is a level that moves: a condition on it comes true when the price meets the line, not its points', () => {
  const e = begun();
  const from = last(e) + 3_000;
  const line = (now: number) => from + ((now - at(9, 35)) / (15 * MINUTE)) * -6_000;
  const price = (units: number) => formatPrice(Math.round(units / 100) * 100);
  done(e, `level "slope" from ${price(from)} at 09:35 to ${price(from - 6_000)} at 09:50`);
  done(e, 'when last >= level "slope" until 10:30: buy 20 at 3c through\n stop 50c');
  let above = false;
  while (entries(e).length === 0 && e.market.now() < at(10, 30)) {
    const before = last(e);
    const { prints } = e.market.tape('VULPN');
    const then = e.market.now();
    advance(e, at(10, 30), () => e.market.tape('VULPN').prints > prints);
    if (entries(e).length === 0) above ||= before > line(then) + 100;
  }
  expect(above).toBe(false);
  const [entry] = entries(e);
  const seen = e.market
    .tape('VULPN')
    .recent.filter((p) => p.at === entry?.at)
    .map((p) => p.price);
  expect(Math.max(...seen)).toBeGreaterThanOrEqual(line(entry?.at ?? 0) - 100);
  expect(line(entry?.at ?? 0)).toBeLessThan(from - 500);
});

test('what is taken off the chart while an order waits for it is said', () => {
  const e = begun();
  done(e, 'level "lid" at last + 50c');
  done(e, 'when last >= level "lid": buy 20 at 3c through\n stop 50c');
  expect(done(e, 'clear drawings').warnings.join()).toContain('Condition 1 waits for “lid”');
  done(e, 'level "lid" at last + 50c');
  expect(done(e, 'discard level "lid"').warnings.join()).toContain('Condition 1 waits for “lid”');
});

test('what could never go is refused when it is set; what cannot go yet is said', () => {
  const e = begun();
  for (const [text, says] of [
    ['when last >= 99: buy 100 at bid with plan "nothing"', 'no plan'],
    ['when last of NOBDY >= 99: flatten', 'does not trade'],
    ['when last >= level "lid": flatten', 'no level'],
    ['when time >= 10:00: buy 100 at bid until 09:50', 'before its condition can be true'],
    ['when last >= 99 until 09:30: flatten', 'would end at 09:30'],
    ['when last >= 99: buy 100000 at bid', 'shares'],
  ] as const)
    expect([text, run(e, text).result.problem]).toEqual([text, expect.stringContaining(says)]);
  expect(done(e, 'when last >= 99: close half').warnings.join()).toContain('As of now it would be refused');
});

test('a chained order goes for what has filled, each time; a part of it is of all that has filled so far', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 900 }), fc.integer({ min: 1, max: 900 }), (qty, chained) => {
      const e = begun();
      done(
        e,
        `buy ${qty} at bid\n  once filled: buy ${chained} of ORBNT at bid - 50c\n  once filled: close half at ask + $3`,
      );
      const [first] = entries(e);
      for (let s = 0; s < 40; s++) {
        advance(e, e.market.now() + 5 * SECOND);
        const filled = everything(e.state.broker).orders.find((o) => o.id === first?.id)?.filled ?? 0;
        const sent = entries(e)
          .filter((o) => o.symbol === 'ORBNT')
          .reduce((a, o) => a + o.qty, 0);
        expect(sent).toBe(Math.floor((chained * filled) / qty));
        // Half of what has filled, however it was cut; of all of it at least one share.
        const closing = everything(e.state.broker)
          .orders.filter((o) => o.symbol === 'VULPN' && o.role === 'close')
          .reduce((a, o) => a + o.qty, 0);
        expect(closing).toBe(filled === qty ? Math.max(1, Math.floor(filled / 2)) : Math.floor(filled / 2));
      }
      done(e, 'cancel everything');
      expect(e.state.desk.chains).toEqual([]);
    }),
    { numRuns: process.env.FEW_RUNS ? 3 : 12 },
  );
});

test('of two orders that are joined, a fill of one takes as much from the other; both never come to more than one', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 2_000 }), fc.integer({ min: 1, max: 4 }), (qty, away) => {
      const e = begun();
      done(e, `one of\n  buy ${qty} of VULPN at bid - ${away}c\n  buy ${qty} of ORBNT at bid - ${away}c`);
      const [a, b] = entries(e).map((o) => o.id);
      for (let s = 0; s < 30; s++) {
        advance(e, e.market.now() + 4 * SECOND);
        const [x, y] = [a, b].map((id) => everything(e.state.broker).orders.find((o) => o.id === id));
        if (!x || !y) throw new Error('both are there');
        expect(x.filled + y.filled).toBeLessThanOrEqual(qty);
        if (x.phase.k !== 'ended' && y.phase.k !== 'ended') expect(openOf(x)).toBe(openOf(y));
      }
    }),
    { numRuns: process.env.FEW_RUNS ? 3 : 15 },
  );
  const e = begun();
  done(
    e,
    `one of\n  buy 200 above ${near(e, 6)}\n    stop 10c\n  short 200 below ${near(e, -6)}\n    stop 10c`,
  );
  advance(e, at(9, 40));
  const [long, short] = entries(e);
  expect([long?.filled, short?.filled].sort()).toEqual([0, 200]);
  expect(liveOrders(e.state.broker).filter((o) => o.role === 'entry')).toEqual([]);
});

test('an order that works its price steps evenly from its start to its end, never beyond, and keeps its exits', () => {
  const e = begun();
  done(e, 'buy 100 at bid - 60c working to bid - 40c within 20s\n stop 20c');
  const from = liveOrders(e.state.broker)[0]?.limit as number;
  const start = e.market.now();
  const moves: number[] = [];
  for (const [seconds, cents] of [
    [1, 1],
    [10, 10],
    [20, 20],
    [60, 20],
  ] as const) {
    for (const x of advance(e, start + seconds * SECOND))
      moves.push(...x.events.flatMap((ev) => (ev.kind === 'moved' ? [ev.at - start] : [])));
    expect([seconds, ((liveOrders(e.state.broker)[0]?.limit as number) - from) / 100]).toEqual([
      seconds,
      cents,
    ]);
  }
  // A cent a second, each at its second, whatever trades meanwhile.
  expect(moves).toEqual(Array.from({ length: 20 }, (_, k) => (k + 1) * SECOND));
  done(e, 'move last order to 3.50');
  advance(e, start + 90 * SECOND);
  expect(liveOrders(e.state.broker)[0]?.limit as number).toBeLessThan(from);
  expect(run(e, 'buy 100 at ask working to bid within 5s').result).toMatchObject({
    problem: expect.stringContaining('Turn them round'),
    fixes: ['buy 100 at bid working to ask within 5s'],
  });
});

test('a session with what waits, chains and pairs comes back from its store and log as it was', () => {
  const e = begun();
  const log: LogEntry[] = [];
  for (const text of [
    `when last >= ${near(e, 8)}: buy 100 at 3c through\n stop 20c\n target 1R for half`,
    'when 1m close > vwap and volume > 100k: short 100 of ORBNT at bid - 5c\n stop 10c',
    'buy 300 at bid\n  stop 10c\n  once filled: close third at ask + 5c\n  once filled: buy 10 of ORBNT at ask + 2c',
    'one of\n  buy 50 of SOLVN at bid\n  short 50 of SOLVN at ask + 90c',
    'when gain >= 5c a share until cancelled: move stop to breakeven',
  ])
    log.push(...run(e, text).entries);
  for (let m = 36; m < 46; m++) {
    log.push(...advance(e, at(9, m)));
    const back = restore(
      structuredClone(kept),
      simMarket(DAY, structuredClone(kept.market)),
      log,
      e.market.now(),
    );
    expect(back.state).toEqual(e.state);
  }
  expect(log.some((x) => x.fired)).toBe(true);
  // What a firing came to is obeyed as it was written down, also where it would be read otherwise today.
  const changed = log.map((x) =>
    x.fired ? { ...x, deeds: [{ kind: 'note' as const, symbol: 'VULPN', text: 'as kept' }] } : x,
  );
  const back = restore(
    structuredClone(kept),
    simMarket(DAY, structuredClone(kept.market)),
    changed,
    e.market.now(),
  );
  expect(back.state.desk.notes.map((n) => n.text)).toContain('as kept');
});

test('what waits, is chained or staged belongs to the account that it was set in, whichever is in use by then', () => {
  const e = begun();
  done(e, 'when time >= 09:36: buy 100 at 3c through');
  done(e, 'buy 100 at bid\n  once filled: buy 50 of ORBNT at 3c through');
  done(e, 'stage buy 10 at bid');
  done(e, 'use account "Practice cash"');
  expect(run(e, 'send staged').result.problem).toContain('Nothing is staged');
  expect(done(e, 'cancel entries').about[0]).toContain('no entries');
  advance(e, at(9, 40));
  expect(new Set(entries(e).map((o) => [o.account, o.symbol].join(' ')))).toEqual(
    new Set(['main VULPN', 'main ORBNT']),
  );
  done(e, 'buy 10 at bid account "Practice margin"');
  done(e, 'use account "Practice margin"');
  expect(e.state.desk.staged).toHaveLength(1);
  done(e, 'send staged');
});

test('what is to send a staged order looks at the prices of its symbol, whatever is in focus', () => {
  const e = begun();
  done(e, 'stage buy 10 of ORBNT at 3c through');
  const { id } = e.state.desk.staged[0] as (typeof e.state.desk.staged)[number];
  // In the focus, VULPN, it would be true at once or never.
  const far = formatPrice(Math.round(last(e, 'ORBNT') / 100) * 100 - 100);
  const { result } = run(e, `when last >= ${far}: send staged order ${id}`);
  expect(result.problem).toContain(`last of ORBNT ${formatPrice(last(e, 'ORBNT'))}`);
  done(e, `when newly last >= ${far} or time >= 09:36: send staged order ${id}`);
  expect(e.state.desk.waiting[0]?.symbol).toBe('ORBNT');
  advance(e, at(9, 37));
  expect(entries(e).map((o) => o.symbol)).toEqual(['ORBNT']);
});

test('what waits for the fill of an order that ends without one is said to be over', () => {
  const e = begun();
  done(e, 'buy 100 at 1.00\n  once filled: sell half at ask + 20c');
  const [order] = entries(e);
  const log = run(e, 'cancel last').entries;
  expect(e.state.desk.chains).toEqual([]);
  done(e, 'when time >= 09:36: buy 10 at bid - 9c');
  log.push(...advance(e, at(9, 36)));
  expect(journalOf(log).filter((x) => x.kind === 'condition')).toMatchObject([
    { symbol: 'VULPN', text: `order ${order?.id} ended without a fill: what was to follow does not go` },
    { symbol: 'VULPN', text: expect.stringMatching(/^condition 1 \(time 09:36:00\): buy 10 of VULPN at/) },
  ]);
  expect(e.state.desk.waited[0]).toMatchObject({
    of: 'chain',
    id: order?.id,
    how: 'over',
    seen: `order ${order?.id} ended without a fill`,
  });
});

test('of a group it is asked whether one is meant or all, and what would stand bare; either goes as it was said', () => {
  const bracket = () => {
    const e = begun();
    done(e, 'buy 100 at 5c through\n  stop 50c\n  target $3 away');
    return { e, role: (r: string) => liveOrders(e.state.broker).find((o) => o.role === r) };
  };
  const asked = (e: Engine, id: number | undefined) => run(e, `cancel order ${id}`).result;
  const first = bracket();
  const stop = asked(first.e, first.role('stop')?.id);
  expect(stop.problem).toContain('Either leaves 100 VULPN without a stop');
  const later = run(first.e, `when last >= 999.00: cancel order ${first.role('stop')?.id}`).result;
  expect(later.fixes[0]).toBe(`when last >= 999.00: cancel order ${first.role('stop')?.id} alone`);
  const target = asked(first.e, first.role('target')?.id);
  expect(target.problem).toContain('All of them leave 100 VULPN without a stop');
  done(first.e, target.fixes[0] as string);
  expect([first.role('stop') !== undefined, first.role('target')]).toEqual([true, undefined]);
  // Alone by now, and still the only one that protects.
  const alone = `cancel order ${first.role('stop')?.id}`;
  expect(run(first.e, alone).result.problem).toContain('100 VULPN would stand without a stop');
  expect(first.role('stop')).toBeDefined();
  const { back } = yes(first.e, alone);
  expect([first.role('stop'), back]).toEqual([undefined, [expect.stringContaining('put back order')]]);
  done(first.e, back[0] as string);
  expect(first.role('stop')).toBeDefined();
  const second = bracket();
  yes(second.e, asked(second.e, second.role('stop')?.id).fixes[1] as string);
  expect([second.role('stop'), second.role('target')]).toEqual([undefined, undefined]);

  const third = begun();
  done(third, 'one of\n  buy 100 at bid - 30c\n  buy 100 of ORBNT at bid - 30c');
  const [one, other] = entries(third);
  const pair = asked(third, one?.id);
  expect(pair.problem).toContain(`order ${other?.id}: entry buy 100 ORBNT`);
  done(third, pair.fixes[1] as string);
  expect(liveOrders(third.state.broker)).toEqual([]);
});

test('an order of another account is named with its account; everything is flattened in one account, or in all of them', () => {
  const e = begun();
  done(e, 'buy 100 at 5c through\n  stop 50c');
  done(e, 'use account "Practice cash"');
  done(e, 'buy 50 of ORBNT at 5c through\n  stop 5%');
  done(e, 'when last >= 999.00: buy 10 at bid account "Practice margin"');
  const stop = liveOrders(e.state.broker).find((o) => o.account === MAIN)?.id;
  const { problem, fixes } = run(e, `cancel order ${stop}`).result;
  expect([problem, fixes]).toEqual([
    expect.stringContaining('belongs to “Practice margin”'),
    ['use account "Practice margin"'],
  ]);
  const open = () =>
    everything(e.state.broker)
      .trades.filter((t) => t.status === 'open')
      .map((t) => t.account);
  done(e, 'flatten everything');
  expect([open(), e.state.desk.waiting.length]).toEqual([[MAIN], 1]);
  done(e, 'buy 50 of ORBNT at 5c through\n  stop 5%');
  const { about } = done(e, 'flatten everything in all accounts');
  expect(about[0]).toMatch(/Practice margin: sell 100 VULPN.*Practice cash: sell 50 ORBNT/);
  expect([open(), e.state.desk.waiting, liveOrders(e.state.broker)]).toEqual([[], [], []]);
});

test('the guards on how fast a hand may send do not ask what goes by itself', () => {
  const e = begun();
  const { rules, fees } = e.state.broker.accounts.main as { rules: AccountRules; fees: readonly FeeTable[] };
  const guards = { ...rules.guards, duplicates: true, ordersPerSecond: 1 };
  apply(e, { kind: 'account', id: MAIN, rules: { ...rules, guards }, fees });
  done(e, 'when time >= 09:36: buy 10 at bid - 9c\nwhen time >= 09:36: buy 10 at bid - 9c');
  advance(e, at(9, 36));
  expect(waited(e)).toEqual(['fired', 'fired']);
  expect(run(e, 'buy 11 at bid - 9c').result.problem).toContain('orders within a second');
});

test('a number on the strip is kept until the strip is empty, and given again only when all nine have been had, the longest free first', () => {
  const e = begun();
  const places = () => e.state.desk.staged.map((x) => x.place);
  const ids = () => e.state.desk.staged.map((x) => x.id);
  for (let k = 1; k <= 3; k++) done(e, `stage buy ${k} at bid`);
  done(e, `discard staged order ${ids()[0]}`);
  // The others keep theirs, and the next one takes a number that nobody has had.
  expect(places()).toEqual([2, 3]);
  for (let k = 4; k <= 9; k++) done(e, `stage buy ${k} at bid`);
  expect(places()).toEqual([2, 3, 4, 5, 6, 7, 8, 9]);
  done(e, `discard staged order ${ids()[1]}`);
  for (let k = 0; k < 3; k++) done(e, `stage buy ${20 + k} at bid`);
  expect(places()).toEqual([2, 4, 5, 6, 7, 8, 9, 1, 3, null]);
  // A number of the strip is never that of a staged order in a sentence.
  expect(Math.min(...ids())).toBeGreaterThan(9);
  expect(run(e, 'send staged order 2').result.problem).toContain('Nothing is staged');
  done(e, 'discard staged everything');
  done(e, 'stage buy 1 at bid');
  expect(places()).toEqual([1]);
});

test('what was staged before a night asks before it goes', () => {
  const e = begun();
  done(e, 'stage buy 10 at bid');
  advance(e, dayEnd(e));
  apply(e, { kind: 'next day' });
  expect(run(e, 'send staged').result.problem).toContain('staged the session before');
  yes(e, 'send staged');
  expect(e.state.desk.staged).toEqual([]);
});

test('what waits is asked when it is set, and the yes goes with it; what nobody was asked about is refused and told, while a close goes', () => {
  const e = begun();
  done(e, 'buy 100 at 5c through\n  stop 50c');
  const set = 'when time >= 09:36: cancel exits';
  expect(run(e, set).result.problem).toContain('100 VULPN would stand without a stop');
  yes(e, set);
  advance(e, at(9, 37));
  const stops = (x: Engine) => liveOrders(x.state.broker).filter((o) => o.role === 'stop');
  expect(stops(e)).toEqual([]);

  // Set while nothing was held: it cannot know what it would take away.
  const other = begun();
  done(other, 'when time >= 09:36: cancel exits');
  done(other, 'buy 100 at 5c through\n  stop 50c');
  done(other, 'when time >= 09:37: close half at market');
  advance(other, at(9, 38));
  expect(stops(other).map((o) => o.qty - o.filled)).toEqual([50]);
  expect(other.state.desk.waited.map((w) => [w.how, w.came])).toEqual([
    ['refused', expect.stringContaining('Nobody was asked')],
    ['fired', expect.any(String)],
  ]);
});
