// npm run bench: speed of the core, with the packages named beside it run on the same work in the
// same process. Medians of several runs; the figures are kept in docs/performance.md.

import * as theirsB from 'hft-limit-order-book';
import * as theirsA from 'nodejs-order-book';
import { EMA } from 'technicalindicators';
import { MAIN } from '../src/core/account/index.ts';
import { parseRule, parseScript } from '../src/core/language/index.ts';
import { READY } from '../src/core/library/index.ts';
import { boardTrade, emaLine, factsOf, type MarketView } from '../src/core/market/index.ts';
import {
  type Broker,
  type BrokerContext,
  type BrokerInput,
  createBroker,
  PLAIN_TERMS,
  stepBroker,
} from '../src/core/orders/index.ts';
import { PLAIN_PLANS, readStatement } from '../src/core/reading/index.ts';
import type { RehearsalTerms } from '../src/core/rehearsal/index.ts';
import { clauseCounts, PRESETS, type Ranking, rank } from '../src/core/scan/index.ts';
import { createMarket, tapeOf as keepBook, practiceDay, stepMarket } from '../src/core/sim/index.ts';
import { below, createRandom } from '../src/core/sim/random.ts';
import { AFTER_CLOSE, at, FULL_DAY, MINUTE, PRE_OPEN, type Price } from '../src/core/units/index.ts';
import {
  cancel,
  createBook,
  depth,
  type MatchSink,
  submit,
  type VenueReport,
} from '../src/core/venue/index.ts';
import type { DaySource } from '../src/session/day-ref.ts';
import { advance, apply, createEngine, dayEnd, setupsOf } from '../src/session/engine.ts';
import type { Members } from '../src/session/members.ts';
import { runContext } from '../src/session/moment.ts';
import { rehearseDay } from '../src/session/rehearse.ts';
import { restore, save } from '../src/session/saving.ts';
import { runInput } from '../src/session/scripts.ts';
import { simMarket } from '../src/session/sim-market.ts';
import { peekedAt } from '../src/worker/session/peeked.ts';
import { NO_GUARDS, oneAccount } from '../tests/model/accounts.ts';
import { createNames } from './bench-names.mts';

const DAY: DaySource = { ref: { kind: 'practice', id: 'fresh-headlines', seed: 7 }, own: null };

function median(runs: number, work: () => void): number {
  const times = Array.from({ length: runs }, () => {
    const t = performance.now();
    work();
    return performance.now() - t;
  });
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)] as number;
}
/** The p-th part of the times of many runs, in ms. */
function quantiles(runs: number, work: () => void): { median: number; p99: number } {
  const times = Array.from({ length: runs }, () => {
    const t = performance.now();
    work();
    return performance.now() - t;
  }).sort((a, b) => a - b);
  return { median: times[Math.floor(runs / 2)] as number, p99: times[Math.floor(runs * 0.99)] as number };
}
const BRACKET =
  'buy risk 1R at ask + 3c extended\n  stop 30c\n  target 1R for half\n  target 2R for half\n  breakeven after 1.3R';
const beforeFirst = performance.now();
parseScript(BRACKET);
const firstRead = performance.now() - beforeFirst;
/** `npm run bench -- word` runs only what has the word in its name, where a part takes minutes. */
const only = process.argv[2];
const wanted = (part: string): boolean => only === undefined || part.includes(only);
const rows: string[][] = [];
const say = (what: string, value: string, beside = '') => {
  rows.push([what, value, beside]);
  console.log(`${what.padEnd(58)} ${value.padStart(22)}  ${beside}`);
};

// --- the simulated day
const memory = () => process.memoryUsage().rss / 1e6;
const full = practiceDay('fresh-headlines', 7);
const BOOKS = 20;
let most = 0;
const whole = !wanted('whole day')
  ? 0
  : median(1, () => {
      const m = createMarket(full);
      for (let t = PRE_OPEN + MINUTE; t <= AFTER_CLOSE; t += MINUTE) {
        // Twenty symbols are looked at the whole day; looking keeps a full book.
        for (const { instrument } of full.symbols.slice(0, BOOKS)) keepBook(m, instrument.symbol);
        while (stepMarket(m, t) >= 0);
        most = Math.max(most, memory());
      }
    });
say(
  `whole day, ${full.symbols.length} symbols, ${BOOKS} with full books`,
  `${(whole / 1000).toFixed(1)} s`,
  `budget 60 s; at most ${most.toFixed(0)} MB of 600 MB`,
);
say(
  'whole day of one busy symbol with its full book',
  `${median(5, () => {
    const m = createMarket({ ...full, symbols: full.symbols.slice(0, 1) });
    keepBook(m, 'VULPN');
    while (stepMarket(m, AFTER_CLOSE) >= 0);
  }).toFixed(0)} ms`,
  'budget 250 ms',
);
say(
  '04:00 to 09:10, as at the first start',
  `${median(3, () => advance(createEngine(simMarket(DAY)), at(9, 10))).toFixed(0)} ms`,
  'no peer',
);

// --- matching: the same operations for all, a quarter cancels, all ending in the same depth. Ours is measured with the
// book's own numbers, as the exchange uses it, and with text ids, as the packages ask for.
function operations(count: number, spread: number) {
  const r = createRandom(3, `operations ${spread}`);
  const open: number[] = [];
  const target = new Int32Array(count);
  const buys = new Uint8Array(count);
  const cents = new Int32Array(count);
  const qty = new Int32Array(count);
  const text: string[] = [];
  for (let i = 0; i < count; i++) {
    if (open.length > 50 && below(r, 4) === 0) {
      const k = below(r, open.length);
      target[i] = open[k] as number;
      open[k] = open[open.length - 1] as number;
      open.pop();
    } else {
      buys[i] = below(r, 2);
      cents[i] = Math.round(10_000 + below(r, spread) - spread / 2 + (buys[i] ? -spread / 3 : spread / 3));
      qty[i] = 1 + below(r, 200);
      if (open.length > 20_000) open[0] = open.pop() as number;
      open.push(i + 1);
    }
    text.push(`A${target[i] || i + 1}`);
  }
  return { count, target, buys, cents, qty, text };
}
for (const [name, spread, count] of [
  ['shallow', 60, 1_000_000],
  ['deep', 6_000, 1_000_000],
] as const) {
  if (!wanted(`matching ${name}`)) continue;
  const ops = operations(count, spread);
  const { target, buys, cents, qty, text } = ops;
  let trades = 0;
  const sink: MatchSink = { trade: () => void trades++, selfTrade: () => {} };
  let book = createBook(1_000_000 as Price);
  const places = new Float64Array(count + 1);
  const play = (named: boolean) => () => {
    trades = 0;
    book = createBook(1_000_000 as Price);
    const names = createNames(count);
    for (let i = 0; i < count; i++) {
      if (target[i] !== 0)
        cancel(book, named ? names.get(text[i] as string) : (places[target[i] as number] as number));
      else {
        submit(
          book,
          buys[i] ? 'buy' : 'sell',
          ((cents[i] as number) * 100) as Price,
          qty[i] as number,
          0,
          true,
          sink,
        );
        if (book.placed === 0) continue;
        if (named) names.add(text[i] as string, book.placed);
        else places[i + 1] = book.placed;
      }
    }
  };
  const ours = median(5, play(false));
  const named = median(5, play(true));
  const mine = (['sell', 'buy'] as const).flatMap((side) =>
    depth(book, side, 1e6).map((l) => `${l.price / 100}:${l.qty}`),
  );
  const perSecond = (ms: number) => `${(count / ms / 1_000).toFixed(2)} M/s`;
  const peers = [
    ['nodejs-order-book', theirsA],
    ['hft-limit-order-book', theirsB],
  ].map(([label, lib]) => {
    const { OrderBook, Side } = lib as typeof theirsA;
    const theirs = new OrderBook();
    const ms = median(1, () => {
      for (let i = 0; i < count; i++) {
        if (target[i] !== 0) theirs.cancel(text[i] as string);
        else if (label === 'nodejs-order-book')
          theirs.limit({
            id: text[i] as string,
            side: buys[i] ? Side.BUY : Side.SELL,
            price: cents[i] as number,
            size: qty[i] as number,
          });
        else
          (theirs as unknown as { limit(s: string, id: string, q: number, p: number): void }).limit(
            buys[i] ? 'buy' : 'sell',
            text[i] as string,
            qty[i] as number,
            cents[i] as number,
          );
      }
    });
    const [asks, bids] = theirs.depth() as [[number, number][], [number, number][]];
    const same =
      [...asks.sort((a, b) => a[0] - b[0]), ...bids.sort((a, b) => b[0] - a[0])]
        .map(([p, q]) => `${p}:${q}`)
        .join() === mine.join();
    return `${label} ${perSecond(ms)} (${(ms / ours).toFixed(0)}×, ${(ms / named).toFixed(0)}× with text ids${same ? ', same depth' : ', ANOTHER DEPTH'})`;
  });
  say(
    `matching, ${name}, 1M operations, ${trades} trades`,
    `${perSecond(ours)}, text ids ${perSecond(named)}`,
    peers.join('; '),
  );
}

// --- indicators
const series = Array.from({ length: 100_000 }, (_, i) => 70_000 + ((i * 7919) % 3_001));
const ema = median(9, () => emaLine(series, 20));
say(
  'EMA 20 over 100,000 values',
  `${ema.toFixed(2)} ms`,
  `technicalindicators ${(median(5, () => EMA.calculate({ period: 20, values: series })) / ema).toFixed(1)}×`,
);

// --- scan: ten clauses over the market, ranked by a blend
const morning = createMarket(full);
while (stepMarket(morning, at(9, 40)) >= 0);
const seen: MarketView = {
  board: morning.board,
  facts: factsOf(full.symbols.map((s) => s.instrument)),
  now: morning.now,
  newsAt: new Float64Array(full.symbols.length).fill(Number.NaN),
  newsKind: new Uint8Array(full.symbols.length),
};
const all = Int32Array.from(full.symbols, (_, i) => i);
const blend: Ranking = [
  { field: 'gap', weight: 2 },
  { field: 'relative volume', weight: 1 },
];
const TEN = {
  'a trader’s':
    'gap > 3% and price between 1 and 20 and premarket volume > 5k and relative volume > 0.5 and float < 60M and spread < 20c and change > 0% and volume > 2k and borrow is not none and from vwap > -20%',
  'a loose one':
    'gap > -3% and price between 2 and 20 and premarket volume > 100 and relative volume > 0.2 and float < 60M and spread < 20c and change > -5% and volume > 2k and float turnover > 0.0001 and from vwap > -20%',
};
for (const [name, text] of Object.entries(TEN)) {
  const rule = parseRule(text);
  if (!rule.ok) continue;
  const { passing } = rank(seen, rule.rule, blend, all, 100);
  say(
    `scan, ten clauses over ${all.length} symbols and a blend, ${name}: ${passing} pass`,
    `${median(301, () => rank(seen, rule.rule, blend, all, 100)).toFixed(2)} ms`,
    'budget 1 ms',
  );
  say(
    `counts of its clauses, alone and only there`,
    `${median(101, () => clauseCounts(seen, rule.rule, all)).toFixed(2)} ms`,
    'once a second',
  );
}

// --- ten minutes of 10,000 quote updates a second, every fifth a trade, with the table worked out four times a second
if (wanted('quote updates')) {
  const r = createRandom(11, 'quotes');
  const { board } = morning;
  const rule = parseRule(TEN['a trader’s']);
  const seconds: number[] = [];
  for (let s = 0; s < 600 && rule.ok; s++) {
    const started = performance.now();
    for (let k = 0; k < 10_000; k++) {
      const i = below(r, all.length);
      const mid = board.last[i] || 100_000;
      board.bid[i] = mid - 100;
      board.ask[i] = mid + 100;
      board.bidSize[i] = 100;
      board.askSize[i] = 300;
      if (k % 5 === 0)
        boardTrade(board, i, morning.now + s * 1_000, mid + 100 * (below(r, 3) - 1), 100, FULL_DAY.close);
      if (k % 2_500 === 0) rank({ ...seen, now: morning.now + s * 1_000 }, rule.rule, blend, all, 100);
    }
    clauseCounts({ ...seen, now: morning.now + s * 1_000 }, rule.rule, all);
    seconds.push(performance.now() - started);
  }
  const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / list.length;
  say(
    'a second with 10,000 quote updates, table and counts',
    `${mean(seconds).toFixed(1)} ms`,
    `first minute ${mean(seconds.slice(0, 60)).toFixed(1)} ms, last ${mean(seconds.slice(-60)).toFixed(1)} ms, longest ${Math.max(...seconds).toFixed(0)} ms of 1,000 ms`,
  );
}

// --- a session: one trade saved in the middle, brought back
const e = createEngine(simMarket(DAY));
advance(e, at(9, 33));
apply(e, {
  kind: 'run',
  text: 'buy risk 1R at ask + 3c\n stop 30c\n target 1R for half\n breakeven after 1.3R',
  focus: 'VULPN',
});
const saved = save(e);
say(
  'peeking at a script',
  `${(
    median(9, () => {
      for (let i = 0; i < 200; i++) apply(e, { kind: 'run', text: 'close half at 99.00', focus: 'NOPE' });
    }) / 200
  ).toFixed(3)} ms`,
  'no peer',
);
// --- the language: a text read and worked out against the moment, and a tree that was read before
if (wanted('language')) {
  const us = (ms: number) => `${(ms * 1_000).toFixed(0)} µs`;
  const read = (text: string) =>
    parseScript(text).statements.map((x) => readStatement(x, runContext(e, 'VULPN', null)));
  for (let k = 0; k < 500; k++) read(BRACKET);
  const text = quantiles(3_000, () => read(BRACKET));
  say('language: a bracket, text → intents', us(text.median), `p99 ${us(text.p99)}; budget p99 1,000 µs`);
  const trees = parseScript(BRACKET).statements;
  const key = quantiles(3_000, () => {
    for (const x of trees) readStatement(x, runContext(e, 'VULPN', null));
  });
  say('language: the same by key, its tree kept', us(key.median), `p99 ${us(key.p99)}; budget 50 µs`);
  const rule = quantiles(3_000, () => parseRule(TEN['a trader’s']));
  say('language: a rule of ten clauses', us(rule.median), `p99 ${us(rule.p99)}; budget 150 µs`);
  say('language: the first sentence of a process', `${firstRead.toFixed(1)} ms`, 'budget 5 ms');
}
// --- sessions run on, of the kind that a run over many of them takes
if (wanted('sessions')) {
  for (const holds of [false, true]) {
    const e = createEngine(simMarket(DAY));
    advance(e, at(10));
    if (holds) apply(e, { kind: 'run', text: 'buy 100 at ask + 5c gtc\n stop 60%', focus: 'VULPN' });
    apply(e, { kind: 'others', run: 'coarsely' });
    const next = () => {
      advance(e, dayEnd(e));
      apply(e, { kind: 'next day' });
    };
    next();
    const took = median(9, next);
    advance(e, e.market.dayStart + at(11));
    const started = performance.now();
    apply(e, { kind: 'others', run: 'in full' });
    say(
      `sessions run on, ${holds ? 'one position held' : 'nothing held'}`,
      `${(took / 1_000).toFixed(2)} s`,
      `budget 2 s; all symbols brought on to 11:00 ${((performance.now() - started) / 1_000).toFixed(1)} s`,
    );
  }
}
// --- conditions: three busy minutes of a symbol that nothing, 20 and 100 conditions look at
if (wanted('conditions')) {
  const took = [0, 20, 100].map((count) => {
    const e = createEngine(simMarket(DAY));
    advance(e, at(9, 33));
    e.market.watch('VULPN');
    const kinds = [
      'last >= 900.00',
      '1m close > 900.00 and volume > 1M',
      'last > vwap + 50% or change > 500%',
    ];
    for (let k = 0; k < count; k++)
      apply(e, { kind: 'run', text: `when ${kinds[k % 3]}: buy 10 at bid`, focus: 'VULPN' });
    const started = performance.now();
    advance(e, at(9, 36));
    return performance.now() - started;
  });
  const [none = 0, some = 0, many = 0] = took;
  say(
    'conditions: three busy minutes with 20, with 100 of them',
    `${(some - none).toFixed(0)} ms, ${(many - none).toFixed(0)} ms`,
    `beside ${none.toFixed(0)} ms without any; at 60× three minutes are 3,000 ms`,
  );
}
// --- keys: what sixty of them would do now, at the busiest minute, while a position is held
if (wanted('keys')) {
  const e = createEngine(simMarket(DAY));
  advance(e, at(9, 31));
  apply(e, runInput('buy 300 at 5c through\n  stop 30c\n  target 1R for half', 'VULPN'));
  const texts = READY.flatMap((g) => g.scripts.map((s) => s.text)).slice(0, 60);
  while (texts.length < 60) texts.push(`buy ${100 + texts.length} at ask + 2c\n  stop 20c\n  target 2R`);
  const ms = quantiles(60, () => {
    for (const text of texts) peekedAt(e, text, 'VULPN');
  });
  say('peek of 60 keys at once', `${ms.median.toFixed(1)} ms`, `p99 ${ms.p99.toFixed(1)} ms; budget 16 ms`);
}
// --- a rehearsal: days of one symbol, and of a scan's members, one core alone
if (wanted('rehearsal')) {
  const hand = {
    name: 'A',
    presses: [
      {
        when: 'last crosses above premarket high',
        script:
          'buy risk 1R at usual through\n  stop usual\n  target 1R for half\n  target 2R for half\n  breakeven after 1.3R',
        most: 2,
      },
    ],
  };
  const accounts = setupsOf(createEngine(simMarket(DAY)));
  const desk = { accounts, account: MAIN, plans: PLAIN_PLANS };
  const [scan] = PRESETS;
  const base = { hands: [hand], from: 571, to: 630, out: 690, reaction: 350, line: 40 };
  const days = Array.from({ length: 12 }, (_, k) => ({
    source: {
      ref: {
        kind: 'practice' as const,
        id: ['fresh-headlines', 'crowded-open', 'thin'][k % 3] as string,
        seed: 10_001 + k,
      },
      own: null,
    },
    n: 0,
    desk,
  }));
  const took = (terms: RehearsalTerms, members: readonly (Members | null)[]) => {
    const started = performance.now();
    const done = days.map((d, k) => rehearseDay({ ...d, terms, members: members[k] ?? null }));
    return { ms: (performance.now() - started) / days.length, members: done.map((d) => d.members) };
  };
  const one = { ...base, symbols: { kind: 'one' as const, symbol: 'VULPN' } };
  took(one, []);
  const alone = took(one, []);
  const of = {
    kind: 'scan' as const,
    name: '',
    rule: scan?.rule ?? '',
    ranking: scan?.ranking ?? [],
    first: 5,
  };
  const first = took({ ...base, symbols: of }, []);
  const again = took({ ...base, symbols: of }, first.members);
  const two = (ms: number) => `${((ms * 500) / 2_000).toFixed(0)} s`;
  say(
    '500 rehearsal days of one symbol on two cores',
    two(alone.ms),
    `${alone.ms.toFixed(0)} ms a day; budget 90 s`,
  );
  say(
    '500 of a scan’s first five, the first time',
    two(first.ms),
    `${first.ms.toFixed(0)} ms a day; budget 900 s`,
  );
  say('the same again, members kept', two(again.ms), `${again.ms.toFixed(0)} ms a day; budget 120 s`);
}
// --- orders: 200 that work and 100 alerts at the busiest minute; and the broker alone with 10,000 finished orders behind it
if (wanted('orders')) {
  const busy = createEngine(simMarket(DAY), oneAccount({ multiple: 1_000 }, NO_GUARDS));
  advance(busy, at(9, 30));
  const run = (text: string) => apply(busy, { kind: 'run', text, focus: 'VULPN' }).result;
  for (let k = 0; k < 200; k++) run(`buy ${1 + (k % 7)} at bid - ${5 + (k % 30)}c extended gtc`);
  for (let k = 0; k < 100; k++) run(`alert at last ${k % 2 ? '+' : '-'} ${80 + k}c`);
  const times: number[] = [];
  for (let k = 0; k < 400; k++) {
    advance(busy, busy.market.now() + 150);
    const started = performance.now();
    run(k % 2 ? 'cancel last' : 'buy 100 at bid - 40c\n stop 30c\n target 1R for half');
    times.push(performance.now() - started);
  }
  times.sort((a, b) => a - b);
  const live = Object.values(busy.state.broker.holdings).reduce((a, h) => a + h.orders.length, 0);
  say(
    `sentence → acknowledged, ${live} orders work, 100 alerts, 09:30 to 09:31`,
    `${(times[200] as number).toFixed(2)} ms`,
    `p95 ${(times[380] as number).toFixed(2)} ms; budget 2 ms`,
  );
}
for (const behind of [0, 10_000]) {
  if (!wanted('orders')) continue;
  let b: Broker = createBroker(oneAccount({ multiple: 1_000 }, NO_GUARDS));
  let last = 100_000 as Price;
  let now = at(9, 31) as number;
  const context = (): BrokerContext => ({
    now,
    session: 'regular',
    quote: () => ({ bid: (last - 100) as Price, ask: (last + 100) as Price, bidSize: 1, askSize: 1 }),
    last: () => last,
    listing: () => ({ borrow: 'easy', restricted: false }),
    candle: () => null,
  });
  const orders = new Map<number, { left: number; limit: Price | null }>();
  const step = (input: BrokerInput) => {
    now++;
    const [next, effects] = stepBroker(b, input, context());
    b = next;
    const reports: VenueReport[] = effects.venue.map((c) => {
      const head = { id: c.id, symbol: c.symbol, at: now };
      if (c.kind === 'cancel')
        return orders.delete(c.id)
          ? { kind: 'out', ...head, why: 'canceled' }
          : { kind: 'refused', ...head, request: 'cancel', why: 'too late' };
      orders.set(c.id, { left: c.qty, limit: c.limit });
      return c.kind === 'new'
        ? { kind: 'new', ...head }
        : { kind: 'replaced', ...head, qty: c.qty, limit: c.limit };
    });
    if (reports.length > 0) step({ kind: 'reports', reports });
  };
  const enter = (qty: number, stop: number) =>
    step({
      kind: 'intent',
      intent: {
        kind: 'entry',
        account: 'main',
        symbol: 'VULPN',
        side: 'buy',
        type: 'Limit',
        qty,
        limit: 100_000 as Price,
        stop: null,
        extended: false,
        sentence: '',
        ...PLAIN_TERMS,
        plan: {
          stops: [{ place: { kind: 'distance', units: stop }, part: null, on: 'last' }],
          targets: [],
          breakeven: null,
          trail: null,
          extended: false,
        },
      },
    });
  const fillAll = () => {
    for (const [id, o] of [...orders]) {
      orders.delete(id);
      step({
        kind: 'reports',
        reports: [
          {
            kind: 'fill',
            id,
            symbol: 'VULPN',
            at: now,
            price: 100_000 as Price,
            qty: o.left,
            liquidity: 'added',
            venue: 'LIT',
            better: 0,
          },
        ],
      });
    }
  };
  while (b.past.orders.count < behind) {
    enter(100, 3_000);
    fillAll();
    step({ kind: 'intent', intent: { kind: 'flatten', account: 'main', symbol: 'VULPN', limit: null } });
    fillAll();
  }
  for (let k = 0; k < 40; k++) enter(100, 5_000 + k * 100);
  fillAll();
  const us = median(21, () => {
    for (let k = 0; k < 2_000; k++) {
      last = (100_000 + (k % 40) * 100) as Price;
      step({ kind: 'price', symbol: 'VULPN' });
    }
  });
  say(
    `a price with 40 stops and ${behind.toLocaleString('en-US')} finished orders`,
    `${(us / 2).toFixed(1)} µs`,
    'budget 20 µs',
  );
}

say(
  'a saved session copied and run on for ten minutes',
  `${median(5, () => {
    const copy = structuredClone(saved);
    restore(copy, simMarket(DAY, copy.market), [], at(9, 43));
  }).toFixed(0)} ms`,
  'budget 2,000 ms',
);
