// npm run bench: speed of the core, with the packages named beside it run on the same work in the
// same process. Medians of several runs; the figures are kept in docs/performance.md.

import * as theirsB from 'hft-limit-order-book';
import * as theirsA from 'nodejs-order-book';
import { EMA } from 'technicalindicators';
import { DEFAULT_ACCOUNT } from '../src/core/account/index.ts';
import { emaLine } from '../src/core/market/index.ts';
import { rank, rowOf, SCAN_FIELDS, type ScanRow } from '../src/core/scan/index.ts';
import { parseRule } from '../src/core/script/index.ts';
import { createMarket, demoDay, quoteOf, stepMarket, tapeOf } from '../src/core/sim/index.ts';
import { below, createRandom } from '../src/core/sim/random.ts';
import { AFTER_CLOSE, at, type Price } from '../src/core/units/index.ts';
import { cancel, createBook, type MatchSink, submit } from '../src/core/venue/index.ts';
import { advance, apply, createEngine, restore, save } from '../src/session/engine.ts';
import { simMarket } from '../src/session/sim-market.ts';

function median(runs: number, work: () => void): number {
  const times = Array.from({ length: runs }, () => {
    const t = performance.now();
    work();
    return performance.now() - t;
  });
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)] as number;
}
const rows: string[][] = [];
const say = (what: string, value: string, beside = '') => {
  rows.push([what, value, beside]);
  console.log(`${what.padEnd(58)} ${value.padStart(22)}  ${beside}`);
};

// --- matching, the same operations for all; a quarter cancels
interface Op {
  id: number;
  kind: 'limit' | 'cancel';
  buy: boolean;
  cents: number;
  qty: number;
}
function operations(count: number, spread: number): Op[] {
  const r = createRandom(3, `operations ${spread}`);
  const open: number[] = [];
  return Array.from({ length: count }, (_, i) => {
    if (open.length > 50 && below(r, 4) === 0) return { id: open.splice(below(r, open.length), 1)[0] as number, kind: 'cancel', buy: false, cents: 0, qty: 0 };
    const buy = below(r, 2) === 0;
    if (open.length > 20_000) open.shift();
    open.push(i + 1);
    return { id: i + 1, kind: 'limit', buy, cents: 10_000 + below(r, spread) - spread / 2 + (buy ? -spread / 3 : spread / 3), qty: 1 + below(r, 200) } as Op;
  });
}
for (const [name, spread, count] of [
  ['shallow', 60, 100_000],
  ['deep', 6_000, 60_000],
] as const) {
  const ops = operations(count, spread).map((o) => ({ ...o, cents: Math.round(o.cents) }));
  let trades = 0;
  const sink: MatchSink = { trade: () => trades++, selfTrade: () => {} };
  const ours = median(7, () => {
    trades = 0;
    const book = createBook(1_000_000 as Price);
    for (const o of ops) {
      if (o.kind === 'cancel') cancel(book, o.id);
      else submit(book, o.id, o.buy ? 'buy' : 'sell', (o.cents * 100) as Price, o.qty, 0, true, sink);
    }
  });
  const perSecond = (ms: number) => `${(count / ms / 1_000).toFixed(2)} M/s`;
  const peers = [
    ['nodejs-order-book', theirsA],
    ['hft-limit-order-book', theirsB],
  ].map(([label, lib]) => {
    const { OrderBook, Side } = lib as typeof theirsA;
    const ms = median(1, () => {
      const book = new OrderBook();
      for (const o of ops) {
        if (o.kind === 'cancel') book.cancel(String(o.id));
        else if (label === 'nodejs-order-book') book.limit({ id: String(o.id), side: o.buy ? Side.BUY : Side.SELL, price: o.cents, size: o.qty });
        else (book as unknown as { limit(s: string, id: string, q: number, p: number): void }).limit(o.buy ? 'buy' : 'sell', String(o.id), o.qty, o.cents);
      }
    });
    return `${label} ${perSecond(ms)} (${(ms / ours).toFixed(0)}×)`;
  });
  say(`matching, ${name}, ${count / 1000}k operations, ${trades} trades`, perSecond(ours), peers.join(', '));
}

// --- indicators
const series = Array.from({ length: 100_000 }, (_, i) => 70_000 + ((i * 7919) % 3_001));
const ema = median(9, () => emaLine(series, 20));
say(
  'EMA 20 over 100,000 values',
  `${ema.toFixed(2)} ms`,
  `technicalindicators ${(median(5, () => EMA.calculate({ period: 20, values: series })) / ema).toFixed(1)}×`,
);

// --- the simulated day
say(
  'whole day, 37 symbols with full books',
  `${median(3, () => {
    const m = createMarket(demoDay());
    while (stepMarket(m, AFTER_CLOSE - 1) >= 0);
  }).toFixed(0)} ms`,
  'no peer',
);
say(
  '04:00 to 09:10, as at the first start',
  `${median(5, () => advance(createEngine(simMarket({ scenario: demoDay() }), DEFAULT_ACCOUNT), at(9, 10))).toFixed(0)} ms`,
  'no peer',
);

// --- scan: ten clauses over 8,000 rows
const market = createMarket(demoDay());
while (stepMarket(market, at(9, 40)) >= 0);
const base = market.scenario.symbols.map(({ instrument }) =>
  rowOf({ instrument, tape: tapeOf(market, instrument.symbol), quote: quoteOf(market, instrument.symbol), now: market.now, newsAt: null }),
);
const many: ScanRow[] = Array.from({ length: 8_000 }, (_, i) => ({ ...(base[i % base.length] as ScanRow), symbol: `S${i}` }));
const rule = parseRule(
  'gap > 1% and price between 2 and 20 and premarket volume > 10k and relative volume > 1 and float < 60M and spread < 20c and change > 0% and volume > 20k and float turnover > 0.001 and from vwap > -20%',
  SCAN_FIELDS,
);
if (rule.ok)
  say('scan, ten clauses over 8,000 rows, ranked', `${median(51, () => rank(many, rule.rule, 'gap')).toFixed(2)} ms`, 'no peer; budget of a later step: 1 ms');

// --- a session: one trade saved in the middle, brought back
const e = createEngine(simMarket({ scenario: demoDay() }), DEFAULT_ACCOUNT);
advance(e, at(9, 33));
apply(e, { kind: 'run', text: 'buy risk 1R at ask + 3c\n stop 30c\n target 1R for half\n breakeven after 1.3R', focus: 'VULPN' });
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
say(
  'a saved session copied and run on for ten minutes',
  `${median(5, () => {
    const copy = structuredClone(saved);
    restore(copy, simMarket({ saved: copy.market }), [], at(9, 43));
  }).toFixed(0)} ms`,
  'budget 2,000 ms',
);
