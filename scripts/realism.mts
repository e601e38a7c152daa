// npm run realism [-- pairs]: measures the invented market as an onlooker would, beside what is published,
// and lets naive rules trade on it. Writes docs/realism.md. Seeds from 5,000 on, which no test uses.

import { writeFileSync } from 'node:fs';
import {
  carryOf,
  createMarket,
  PRACTICE_DAYS,
  practiceDay,
  runAlone,
  type Scenario,
  stepMarket,
} from '../src/core/sim/index.ts';
import {
  AFTER_CLOSE,
  at,
  DAY,
  MINUTE,
  REGULAR_CLOSE,
  REGULAR_OPEN,
  SECOND,
} from '../src/core/units/index.ts';
import {
  autocorrelation,
  branching,
  correlation,
  deviation,
  effectiveOverQuoted,
  fano,
  mean,
  median,
  mids,
  outside,
  responseAfter,
  returns,
  type Seen,
  sided,
  spreadOf,
  varianceRatio,
  waitsVariation,
  watchDay,
} from '../tests/model/tape.ts';
import { RULES, tapeOfDay } from '../tests/model/zoo.ts';
import { createHand, mid, ORDER_RULES, resultOf, send, wait } from '../tests/model/zoo-orders.ts';

const PAIRS = Number(process.argv[2] ?? 200);
const FIRST_SEED = 5_000;
const pairOf = (k: number) => ({
  id: (PRACTICE_DAYS[k % PRACTICE_DAYS.length] as { id: string }).id,
  seed: FIRST_SEED + Math.floor(k / PRACTICE_DAYS.length),
});

interface Line {
  what: string;
  figure: string;
  band: string;
  source: string;
}
const lines: Line[] = [];
const say = (what: string, figure: string, band: string, source: string) => {
  lines.push({ what, figure, band, source });
  console.log(`${what.padEnd(74)} ${figure.padStart(20)}   ${band}`);
};
const f = (x: number, digits = 2) => x.toFixed(digits);
const error = (list: readonly number[]) => deviation(list) / Math.sqrt(Math.max(1, list.length));
const MEMORY = 'from memory';

// --- tapes of a few symbols of each kind
const kinds = ['mover', 'index name', 'small', 'below a dollar'] as const;
type Kind = (typeof kinds)[number];
const seen: Record<Kind | 'index', Seen[]> = {
  mover: [],
  'index name': [],
  small: [],
  'below a dollar': [],
  index: [],
};
const choose = (s: Scenario): Record<Kind | 'index', string[]> => {
  const pick = (n: number, test: (x: Scenario['symbols'][number]) => boolean) =>
    s.symbols
      .filter(test)
      .slice(0, n)
      .map((x) => x.instrument.symbol);
  const usual = (x: Scenario['symbols'][number]) => x.given !== null;
  return {
    mover: pick(5, (x) => !usual(x) && x.instrument.kind === 'stock' && x.rate > 0.4),
    'index name': pick(3, (x) => usual(x) && x.instrument.tier === 1),
    small: pick(
      4,
      (x) =>
        usual(x) &&
        x.instrument.tier === 2 &&
        x.instrument.priorClose > 20_000 &&
        x.instrument.averageVolume > 100_000 &&
        x.instrument.averageVolume < 700_000 &&
        x.instrument.float < 90e6,
    ),
    'below a dollar': pick(3, (x) => usual(x) && x.instrument.priorClose < 10_000),
    index: ['FOXID'],
  };
};
const TAPES = Math.max(4, Math.min(30, Math.floor(PAIRS / 8)));
for (let k = 0; k < TAPES; k++) {
  const { id, seed } = pairOf(k);
  if (id === 'half-day') continue;
  const scenario = practiceDay(id, seed, 0, null, 700);
  const chosen = choose(scenario);
  const all = watchDay(scenario, Object.values(chosen).flat(), REGULAR_CLOSE);
  for (const [kind, symbols] of Object.entries(chosen))
    seen[kind as Kind].push(...all.filter((s) => symbols.includes(s.symbol)));
}
const over = (kind: Kind | 'index', measure: (s: Seen) => number) =>
  mean(seen[kind].map(measure).filter(Number.isFinite));
const each = (measure: (s: Seen) => number, digits = 2) =>
  kinds.map((k) => f(over(k, measure), digits)).join(' · ');
const C = REGULAR_CLOSE;
const noon: [number, number] = [at(11, 30), at(14)];
const minuteReturns = (s: Seen) => returns(mids(s, MINUTE, REGULAR_OPEN + MINUTE, C));
console.log(`columns of four: ${kinds.join(' · ')}`);

for (const [name, ms] of [
  ['1 s', SECOND],
  ['1 min', MINUTE],
  ['5 min', 5 * MINUTE],
] as const)
  say(
    `mid after a print, with its side, after ${name}, in half spreads`,
    each((s) => responseAfter(s, ms, C)),
    '0.4–1',
    'J.-P. Bouchaud and others, Quantitative Finance 4, 2004; from memory',
  );
for (const [lag, band] of [
  [1, '0.3'],
  [50, '0.05'],
] as const)
  say(
    `autocorrelation of sides, lag ${lag}`,
    each((s) =>
      autocorrelation(
        sided(s).map((p) => p.side),
        lag,
      ),
    ),
    band,
    'F. Lillo and J. D. Farmer, 2004; from memory',
  );
say(
  'variance ratio of mids, 30 minutes beside one',
  each((s) => varianceRatio(mids(s, MINUTE, REGULAR_OPEN + MINUTE, C), 30)),
  '1',
  'A. Lo and C. MacKinlay, 1988',
);
say(
  'variation of waits between prints, 10:30–15:00',
  each((s) => waitsVariation(s, at(10, 30), at(15))),
  '> 1.3',
  'R. Engle and J. Russell, 1998; from memory',
);
say(
  'variance over mean of prints a minute, midday',
  each((s) => fano(s, MINUTE, ...noon), 1),
  'far above 1',
  MEMORY,
);
say(
  'branching ratio, midday, windows of 5 minutes',
  each((s) => branching(fano(s, 5 * MINUTE, ...noon))),
  '0.6–0.95',
  'V. Filimonov and D. Sornette, 2012; from memory',
);
for (const [lag, band] of [
  [1, '0.3'],
  [10, '0.15'],
] as const)
  say(
    `autocorrelation of absolute minute returns, lag ${lag}`,
    each((s) => autocorrelation(minuteReturns(s).map(Math.abs), lag)),
    band,
    'R. Cont, Quantitative Finance 1, 2001; from memory',
  );
say(
  'prints a second in the first two minutes',
  each(
    (s) => s.prints.filter((p) => p.at >= REGULAR_OPEN && p.at < REGULAR_OPEN + 2 * MINUTE).length / 120,
    1,
  ),
  'tens in a mover',
  MEMORY,
);
say('prints outside the quote that was public', each(outside, 4), '≈ 0', 'Regulation NMS, Rule 611');
say(
  'changes of the quote a print',
  each((s) => s.quotes.length / s.prints.length, 1),
  '≥ 10',
  MEMORY,
);
say(
  'odd lots among the prints',
  each((s) => mean(s.prints.map((p) => (p.qty < 100 ? 1 : 0)))),
  '0.2–0.5',
  MEMORY,
);
say(
  'spread at midday, basis points',
  each((s) => spreadOf(s, at(12), at(13)), 1),
  'index names 2–8, below a dollar 40–300',
  MEMORY,
);
say(
  'spread of the first minute beside midday',
  each((s) => spreadOf(s, REGULAR_OPEN, REGULAR_OPEN + MINUTE) / spreadOf(s, at(12), at(13))),
  '2–4',
  MEMORY,
);
say('effective beside quoted spread', each(effectiveOverQuoted), '0.7–0.95', MEMORY);
say(
  'the same of the index stand-in: response 1 s, 1 min; spread',
  [
    f(over('index', (s) => responseAfter(s, SECOND, C))),
    f(over('index', (s) => responseAfter(s, MINUTE, C))),
    f(
      over('index', (s) => spreadOf(s, at(12), at(13))),
      2,
    ),
  ].join(' · '),
  '0.4–1, 0.4–1, under 1 bp',
  MEMORY,
);

// --- paths of the same company in different variations; the index; five minutes beside the index
{
  const hour = (scenario: Scenario, symbol: string, until = at(10, 30)) => {
    const i = scenario.symbols.findIndex((x) => x.instrument.symbol === symbol);
    const out: number[] = [];
    let last = 0;
    let next = REGULAR_OPEN;
    runAlone(scenario, i, until, (h) => {
      while (h.at >= next) {
        if (last > 0) out.push(last);
        next += MINUTE;
      }
      last = h.price;
    });
    return out;
  };
  const pairs: number[] = [];
  const moves: number[] = [];
  const ups: number[] = [];
  const minutesOfIndex: number[][] = [];
  const days: number[] = [];
  for (const d of PRACTICE_DAYS) {
    const paths: number[][] = [];
    for (let v = 0; v < 8; v++) {
      const scenario = practiceDay(d.id, FIRST_SEED + v, 0, null, 60);
      const path = hour(scenario, 'VULPN');
      if (path.length > 55) paths.push(path.slice(0, 56));
      const index = hour(scenario, 'FOXID', scenario.hours.close);
      ups.push((index.at(-1) as number) > (index[1] as number) ? 1 : 0);
      if (v === 0) minutesOfIndex.push(returns(index.slice(0, 180)));
      days.push(path.length);
    }
    for (const [k, a] of paths.entries()) {
      moves.push(Math.log((a[12] as number) / (a[1] as number)) > 0 ? 1 : 0);
      for (const b of paths.slice(k + 1)) pairs.push(correlation(a, b));
    }
  }
  say(
    'correlation of first-hour paths of one company, variations of a day',
    `${f(mean(pairs))} ± ${f(error(pairs))}`,
    '0',
    'a random walk',
  );
  say(
    'how often a well-known company is up after twelve minutes',
    `${f(mean(moves))} of ${moves.length}`,
    '0.5',
    'a random walk',
  );
  say(
    'how often the index closes above its open',
    `${f(mean(ups))} of ${ups.length}`,
    '0.5',
    'a random walk',
  );
  const between = minutesOfIndex.flatMap((a, k) => minutesOfIndex.slice(k + 1).map((b) => correlation(a, b)));
  say(
    'correlation of the index’s minutes, days of one variation',
    `${f(mean(between))} ± ${f(error(between))}`,
    '0',
    'a random walk',
  );
}
{
  const five = (s: Seen) => returns(mids(s, 5 * MINUTE, REGULAR_OPEN + 5 * MINUTE, C));
  const perDay = seen.index.length;
  const with_ = (kind: Kind, n: number) => {
    const list: number[] = [];
    seen.index.forEach((index, day) => {
      for (const s of seen[kind].slice(
        (day * seen[kind].length) / perDay,
        ((day + 1) * seen[kind].length) / perDay,
      )) {
        const [a, b] = [five(s), five(index)];
        if (a.length === b.length) list.push(correlation(a, b));
      }
    });
    return `${f(mean(list))} of ${n || list.length}`;
  };
  say('five-minute correlation with the index: index names', with_('index name', 0), '0.3–0.6', MEMORY);
  say('five-minute correlation with the index: small', with_('small', 0), '0.2', MEMORY);
}

// --- the whole market
{
  const ratio: Record<string, number[]> = { 'large names': [], others: [], index: [] };
  const closing: number[] = [];
  let [pauses, gapped, paused, violations] = [0, 0, 0, 0];
  const reach: number[] = [];
  const later: number[] = [];
  const earlier: number[] = [];
  for (const k of [0, 1, 6, 11]) {
    const { id, seed } = pairOf(k);
    const size = k === 0 ? 8_000 : 1_500;
    const scenario = practiceDay(id, seed, 0, null, size);
    const m = createMarket(scenario);
    while (stepMarket(m, AFTER_CLOSE) >= 0);
    const { board: b } = m;
    scenario.symbols.forEach(({ instrument: x, given }, i) => {
      const r = (b.volume[i] as number) / x.averageVolume;
      if (x.kind !== 'stock') ratio.index?.push(r);
      else if (given !== null) {
        (x.averageVolume > 2_000_000 ? ratio['large names'] : ratio.others)?.push(r);
        reach.push(((b.high[i] as number) - (b.low[i] as number)) / x.atr);
      }
      if (given === null && Math.abs((b.open[i] as number) / x.priorClose - 1) > 0.2) {
        gapped++;
        if ((b.halts[i] as number) > 0) paused++;
      }
    });
    if (k === 0) pauses = b.halts.reduce((a, x) => a + x, 0);
    for (let i = 40; i < 160; i++) {
      let [all, cross] = [0, 0];
      runAlone(scenario, i, AFTER_CLOSE, (h) => {
        all += h.qty;
        if (h.condition === 2) cross += h.qty;
      });
      closing.push(cross / all);
    }
    if (k === 0) continue;
    const carry = carryOf(m);
    const next = createMarket(practiceDay(id, seed, 1, carry, size), 1);
    while (stepMarket(next, DAY + AFTER_CLOSE) >= 0);
    scenario.symbols.forEach(({ instrument: x }, i) => {
      if ((carry.busy[i] as number) < 4 || x.kind !== 'stock') return;
      earlier.push(carry.busy[i] as number);
      later.push((next.board.volume[i] as number) / x.averageVolume);
    });
  }
  say(
    'traded beside stated volume: large names, others, index',
    [ratio['large names'], ratio.others, ratio.index].map((x) => f(mean(x ?? []))).join(' · '),
    '1',
    'common practice',
  );
  say('day’s range beside ATR, median', f(median(reach)), '1', 'common practice');
  say('closing cross, part of the day’s volume', f(mean(closing), 3), '0.07–0.10', MEMORY);
  say('volatility pauses in a day of 8,000 names', String(pauses), 'tens', MEMORY);
  say('paused among names that gap over 20 %', `${paused} of ${gapped}`, '15–50 %', MEMORY);
  say(
    'movers on the day after: then, now, in usual volumes',
    `${f(median(earlier), 1)} · ${f(median(later), 1)}`,
    '2–4 after 7',
    MEMORY,
  );
  // Bands are followed trade by trade.
  const scenario = practiceDay('low-float', FIRST_SEED, 0, null, 300);
  let n = 0;
  scenario.symbols.forEach((plan, i) => {
    if (plan.given !== null) return;
    runAlone(scenario, i, AFTER_CLOSE, (h) => {
      n++;
      if (
        h.condition === 0 &&
        h.at > REGULAR_OPEN &&
        h.at < C &&
        h.upper > 0 &&
        (h.price > h.upper || h.price < h.lower)
      )
        violations++;
    });
  });
  say('prints beyond their price band', `${violations} of ${n}`, '0', 'National Market System Plan');
}

// --- the trace of 10,000 shares
{
  const rows: Record<string, number[][]> = { block: [], pieces: [] };
  for (let k = 0; k < Math.min(24, PAIRS); k++) {
    const { id, seed } = pairOf(k);
    const scenario = practiceDay(id, seed, 0, null, 140);
    const thin = scenario.symbols.find(
      (s, i) =>
        i > 40 &&
        s.given !== null &&
        s.instrument.averageVolume < 150_000 &&
        s.instrument.priorClose > 30_000,
    );
    if (!thin) continue;
    const one = { ...scenario, symbols: [thin] };
    const symbol = thin.instrument.symbol;
    for (const [how, pieces] of [
      ['block', 1],
      ['pieces', 1_000],
    ] as const) {
      const [hand, still] = [createHand(one, symbol, at(10, 30)), createHand(one, symbol, at(10, 30))];
      for (let p = 0; p < pieces; p++) {
        send(hand, 'buy', 10_000 / pieces, null);
        if (pieces > 1) wait(hand, 60);
      }
      if (pieces > 1) wait(still, 60 * pieces);
      const away = () => 1e4 * (mid(hand) / mid(still) - 1);
      const out = [1e4 * ((hand.fills.at(-1)?.price ?? 0) / mid(still) - 1)];
      for (const ms of [MINUTE, 4 * MINUTE, 10 * MINUTE]) {
        wait(hand, ms);
        wait(still, ms);
        out.push(away());
      }
      rows[how]?.push(out);
    }
  }
  const at_ = (how: string, k: number) => mean((rows[how] ?? []).map((r) => r[k] as number));
  say(
    '10,000 shares of a thin name at once: last fill, then mid after 1, 5, 15 min, bp',
    [0, 1, 2, 3].map((k) => f(at_('block', k), 0)).join(' · '),
    '30–60 % left',
    'E. Zarinelli and others, 2015; from memory',
  );
  say(
    'the same in 1,000 pieces over a minute',
    [0, 1, 2, 3].map((k) => f(at_('pieces', k), 0)).join(' · '),
    'not further than at once',
    'G. Huberman and W. Stanzl, 2004',
  );
}

// --- the zoo
interface Score {
  n: number;
  net: number[];
  gross: number[];
}
const scores = new Map<string, Score>();
const note = (name: string, net: readonly number[], gross: readonly number[]) => {
  if (net.length === 0) return;
  const s = scores.get(name) ?? { n: 0, net: [], gross: [] };
  s.n += net.length;
  s.net.push(mean(net));
  s.gross.push(mean(gross));
  scores.set(name, s);
};
for (let k = 0; k < PAIRS; k++) {
  const { id, seed } = pairOf(k);
  const scenario = practiceDay(id, seed, 0, null, 260);
  const found = new Map<string, { net: number[]; gross: number[] }>();
  scenario.symbols.forEach((s, i) => {
    if (s.given !== null && i % 17 !== 0) return;
    const tape = tapeOfDay(scenario, i);
    for (const [name, rule] of Object.entries(RULES))
      for (const o of rule(tape)) {
        if (!o) continue;
        const list = found.get(name) ?? { net: [], gross: [] };
        list.net.push(o.by);
        list.gross.push(o.gross);
        found.set(name, list);
      }
  });
  for (const [name, list] of found) note(name, list.net, list.gross);
  const wild = scenario.symbols.findIndex((s) => s.given === null && s.instrument.kind === 'stock');
  for (const i of [wild, 10 + (seed % 20), 60 + (k % 40)]) {
    const one = { ...scenario, symbols: [scenario.symbols[i] as Scenario['symbols'][number]] };
    const { symbol } = (one.symbols[0] as Scenario['symbols'][number]).instrument;
    for (const [name, rule] of Object.entries(ORDER_RULES)) {
      const hand = createHand(one, symbol, at(10));
      rule(hand, 20);
      const r = resultOf(hand);
      if (hand.traded > 0) note(name, [r.by], [r.gross]);
    }
  }
  if (k % 20 === 19) console.log(`zoo: ${k + 1} of ${PAIRS} pairs`);
}
const zoo = [...scores].map(([name, s]) => ({
  name,
  n: s.n,
  net: mean(s.net),
  netError: error(s.net),
  gross: mean(s.gross),
  grossError: error(s.gross),
}));
for (const z of zoo)
  console.log(
    `${z.name.padEnd(62)} ${String(z.n).padStart(7)}  net ${f(z.net, 1).padStart(7)} ± ${f(z.netError, 1)}   before costs ${f(z.gross, 1).padStart(7)} ± ${f(z.grossError, 1)}`,
  );

const table = (head: string[], rows: string[][]) =>
  [
    `| ${head.join(' | ')} |`,
    `| ${head.map(() => '---').join(' | ')} |`,
    ...rows.map((r) => `| ${r.join(' | ')} |`),
  ].join('\n');
writeFileSync(
  'docs/realism.md',
  `# How real the market is

Written by \`npm run realism -- ${PAIRS}\` on seeds from ${FIRST_SEED} on. Figures with several parts are of ${kinds.join(' · ')} unless said.

${table(
  ['what', 'here', 'published', 'source'],
  lines.map((l) => [l.what, l.figure, l.band, l.source]),
)}

## A zoo of naive rules

${PAIRS} pairs of day and variation. Gains in basis points of what was put in, after costs (half a cent a share, three tenths of a cent for taking, two back for adding) and before; the error is that of the mean of pairs. A rule that takes pays the spread both ways; before costs it is measured from mid to mid. Rules of the second half send real orders, for twenty minutes from 10:00, in a mover, a quiet name and one of the others.

${table(
  ['rule', 'trades', 'after costs', 'before costs'],
  zoo.map((z) => [
    z.name,
    String(z.n),
    `${f(z.net, 1)} ± ${f(z.netError, 1)}`,
    `${f(z.gross, 1)} ± ${f(z.grossError, 1)}`,
  ]),
)}
`,
);
const earns = zoo.filter((z) => z.net > 2 * z.netError);
console.log(earns.length === 0 ? 'no rule earns' : `these earn: ${earns.map((z) => z.name).join('; ')}`);
process.exit(earns.length === 0 ? 0 : 1);
