// npm run bench:review: what Review works out of 100,000 executions, medians of several runs; the figures are kept in docs/performance.md.
import { guessExecutionMap, readExecutions } from '../src/core/formats/index.ts';
import {
  ALL,
  countedOf,
  dayPoints,
  excursions,
  type Filter,
  figuresOf,
  findingsOf,
  groupsOf,
  hoursByWeekday,
  joinTrades,
  ledgerOf,
  outlookOf,
  sift,
  type TradeRecord,
} from '../src/core/review/index.ts';
import { createRandom, normal, uniform } from '../src/core/sim/index.ts';
import { dateAfter, isTradingDay } from '../src/core/units/index.ts';

function median(runs: number, work: () => void): number {
  const times = Array.from({ length: runs }, () => {
    const t = performance.now();
    work();
    return performance.now() - t;
  });
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)] as number;
}
const say = (what: string, ms: number, budget: string) =>
  console.log(`${what.padEnd(64)} ${`${ms.toFixed(0)} ms`.padStart(9)}  ${budget}`);

const EXECUTIONS = 100_000;
const r = createRandom(1, 'bench review');
const rows = [
  ['date', 'time', 'symbol', 'side', 'qty', 'price', 'commission', 'fees', 'account', 'execution', 'risk'],
];
let date = '2026-01-05';
for (let k = 0; rows.length <= EXECUTIONS; k++) {
  if (k % 60 === 59)
    do date = dateAfter(date, 1);
    while (!isTradingDay(date));
  const qty = 100 * (1 + Math.floor(uniform(r) * 9));
  const price = 2 + 40 * uniform(r);
  const symbol = `S${String.fromCharCode(65 + (k % 26))}${String.fromCharCode(65 + (Math.floor(k / 26) % 26))}`;
  const at = 34_200 + Math.floor(uniform(r) * 23_000);
  const time = (s: number) => new Date(s * 1000).toISOString().slice(11, 19);
  const add = (side: string, q: number, p: number, s: number) =>
    rows.push([
      date,
      time(s),
      symbol,
      side,
      String(q),
      p.toFixed(2),
      '1.00',
      '0.03',
      'Main',
      String(rows.length),
      '60',
    ]);
  add('buy', qty, price, at);
  add('sell', qty / 2, price * (1 + 0.01 * normal(r)), at + 60);
  add('sell', qty / 2, price * (1 + 0.02 * normal(r)), at + 300);
}
const map = guessExecutionMap(rows);
const place = (d: string, at: number) => ({ date: d, at });
const read = readExecutions(rows, map, place);
say(
  'reading 100,000 rows',
  median(5, () => readExecutions(rows, map, place)),
  '',
);
const joined = joinTrades(read.executions);
say(
  'joining them to trades',
  median(5, () => joinTrades(read.executions)),
  `${joined.length} trades`,
);
const trades = joined.map(
  (t, k): TradeRecord => ({
    ...t,
    ref: `i1.${k}`,
    source: { kind: 'import', id: 1 },
    scenario: `kind ${k % 9}`,
    day: t.opened.date,
    mfe: Math.abs(t.gross) * 1.3,
    mae: -400_000,
    sentence: 'buy risk 1R at ask + 3c\n  stop 30c',
    plan: `plan ${k % 7}`,
    script: `script ${k % 12}`,
    scan: null,
    float: 1e6 * (1 + (k % 300)),
  }),
);
const remarks = new Map();
const all = () => ledgerOf(trades, remarks, countedOf(trades, []));
const l = all();
say('all trades into columns (once, when Review is opened)', median(5, all), '');
const page = (f: Filter) => {
  const places = sift(l, f);
  figuresOf(l, places);
  dayPoints(l, places);
  hoursByWeekday(l, places);
  excursions(l, places, 1_500);
  return places;
};
say(
  'figures, days, hours, excursions of all',
  median(15, () => page(ALL)),
  'budget 200 ms',
);
say(
  'what to stop doing, of all',
  median(9, () => findingsOf(l, sift(l, ALL), 'R')),
  'in the budget above',
);
const filtered: Filter = { ...ALL, search: 'sb', groups: { side: 'long' } };
say(
  'a changed filter: the same, of what it leaves',
  median(15, () => findingsOf(l, page(filtered), 'R')),
  'budget 50 ms',
);
const months: Filter = { ...ALL, from: '2026-06-01', to: '2027-02-01' };
say(
  'a changed filter: eight months',
  median(15, () => findingsOf(l, page(months), 'R')),
  'budget 50 ms',
);
say(
  'one dimension taken apart',
  median(15, () => groupsOf(l, sift(l, ALL), 'symbol')),
  'budget 50 ms',
);
const days = Array.from({ length: 250 }, (_, d) =>
  Array.from({ length: 4 }, (_, k) => [1.8, -1, -1, 0.4][(d + k) % 4] as number),
);
say(
  '10,000 × 300 resampled trades',
  median(9, () =>
    outlookOf({ from: days, trades: 300, runs: 10_000, equity: 30_000, unit: 60, ruin: 15_000, seed: 1 }),
  ),
  'budget 200 ms',
);
