// Figures of review against independent computation and the statistics package jstat (registry); rules of joining trades against worked examples.
import { readFileSync } from 'node:fs';
import jstat from 'jstat';
import { fixReports, rowsOfFix } from '../../src/core/formats/index.ts';
import {
  ALL,
  dayPoints,
  figuresOf,
  ledgerOf,
  outlookOf,
  realizedOf,
  resultsOf,
  sift,
  tradesToTell,
} from '../../src/core/review/index.ts';
import { createRandom, normal, uniform } from '../../src/core/sim/index.ts';
import { proportionInterval, studentBelow, studentQuantile } from '../../src/core/statistics/index.ts';
import { dateAfter } from '../../src/core/units/index.ts';
import { tradeRecord } from '../trade-record.ts';

// Source: jstat 1.9.6.
test('Student’s t: quantiles and probabilities as jstat has them', () => {
  for (const freedom of [1, 2, 3, 7, 12, 30, 251, 4_000])
    for (const p of [0.001, 0.025, 0.2, 0.5, 0.9, 0.975, 0.9995]) {
      const ours = studentQuantile(p, freedom);
      expect(Math.abs(ours - jstat.studentt.inv(p, freedom))).toBeLessThan(
        1e-6 * Math.max(1, Math.abs(ours)),
      );
      expect(Math.abs(studentBelow(ours, freedom) - p)).toBeLessThan(1e-9);
    }
});

// Tables of every textbook: t(0.975; 1) = 12.706, (5) 2.571, (10) 2.228, (30) 2.042.
test.each([
  [1, 12.706],
  [5, 2.571],
  [10, 2.228],
  [30, 2.042],
])('t(0.975; %d) is %d', (freedom, value) => expect(studentQuantile(0.975, freedom)).toBeCloseTo(value, 3));

// Worked by hand from the formula: 5 of 10 is 0.2366 to 0.7634; none of 10 still leaves 0.2775 (from memory).
test('Wilson’s interval of a rate', () => {
  expect(proportionInterval(5, 10)?.low).toBeCloseTo(0.2366, 4);
  expect(proportionInterval(5, 10)?.high).toBeCloseTo(0.7634, 4);
  expect(proportionInterval(0, 10)).toEqual({ low: 0, high: expect.closeTo(0.2775, 4) });
  expect(proportionInterval(0, 0)).toBeNull();
});

/** Trades of some days, drawn: several a day, days that are alike within. */
function drawn(days: number) {
  const r = createRandom(days, 'review');
  const out: ReturnType<typeof tradeRecord>[] = [];
  for (let d = 0; d < days; d++) {
    const mood = 20 * normal(r);
    for (let k = 0; k < 1 + Math.floor(uniform(r) * 5); k++) {
      const at = 34_200_000 + k * 900_000;
      out.push(
        tradeRecord({
          ref: `a1.${out.length + 1}`,
          net: Math.round((mood + 60 * normal(r) + 4) * 100) / 100,
          costs: Math.round(uniform(r) * 900) / 100,
          risk: uniform(r) < 0.1 ? null : 40 + Math.round(uniform(r) * 40),
          opened: { date: dateAfter('2027-01-04', d), at },
          closed: { date: dateAfter('2027-01-04', d), at: at + 60_000 },
        }),
      );
    }
  }
  return out;
}

test('figures against plain sums, means and running sums worked out apart', () => {
  const trades = drawn(60);
  const l = ledgerOf(trades, new Map(), new Map());
  const f = figuresOf(l, sift(l, ALL));
  const nets = trades.map((t) => t.net);
  const sum = (x: readonly number[]) => x.reduce((a, b) => a + b, 0);
  const wins = nets.filter((x) => x > 0);
  const losses = nets.filter((x) => x < 0);
  expect(f).toMatchObject({
    trades: trades.length,
    days: 60,
    net: sum(nets),
    won: wins.length,
    lost: losses.length,
  });
  expect(f.gross - f.costs).toBe(f.net);
  expect(f.win.money).toBeCloseTo(jstat.mean(wins), 6);
  expect(f.payoff).toBeCloseTo(jstat.mean(wins) / -jstat.mean(losses), 9);
  expect(f.profitFactor).toBeCloseTo(sum(wins) / -sum(losses), 9);
  const rs = trades.flatMap((t) => (t.risk ? [t.net / t.risk] : []));
  expect(f.withRisk).toBe(rs.length);
  expect(f.expectancy.value).toBeCloseTo(jstat.mean(rs), 9);
  // The deepest fall: of all pairs of a best and a later sum.
  const running = nets.map((_, k) => sum(nets.slice(0, k + 1)));
  let deepest = 0;
  [0, ...running].forEach((top, k) => {
    for (const later of running.slice(k)) deepest = Math.max(deepest, top - later);
  });
  expect(f.drawdown.money.depth).toBeCloseTo(deepest, 6);
  expect(dayPoints(l, sift(l, ALL)).at(-1)?.sumNet).toBe(f.net);
});

// With one trade a day the interval over days is Student's own: mean ± t · s / √n (any textbook), s and t by jstat.
test('the interval of a mean is Student’s where each day has one trade', () => {
  const trades = drawn(60).filter(
    (t, k, all) => all[k - 1]?.opened.date !== t.opened.date && t.risk !== null,
  );
  const l = ledgerOf(trades, new Map(), new Map());
  const { expectancy } = figuresOf(l, sift(l, ALL));
  const rs = trades.map((t) => t.net / (t.risk as number));
  const half = (jstat.studentt.inv(0.975, rs.length - 1) * jstat.stdev(rs, true)) / Math.sqrt(rs.length);
  expect(expectancy.interval?.low).toBeCloseTo(jstat.mean(rs) - half, 6);
  expect(expectancy.interval?.high).toBeCloseTo(jstat.mean(rs) + half, 6);
});

// The usual example of cost bases (from memory): 100 at $10 and 100 at $12 in, 150 out at $15. First in, first out: 100 × 5 + 50 × 3 = 650. At the
// average of $11: 150 × 4 = 600. Once the rest is out at $15 both have made 800.
test('first in, first out and average cost', () => {
  const x = (side: 'buy' | 'sell', qty: number, price: number) => ({ side, qty, price });
  const parts = [x('buy', 100, 10), x('buy', 100, 12), x('sell', 150, 15)];
  expect(realizedOf(parts, 'fifo')).toBe(650);
  expect(realizedOf(parts, 'average')).toBe(600);
  const over = [...parts, x('sell', 50, 15)];
  expect([realizedOf(over, 'fifo'), realizedOf(over, 'average')]).toEqual([800, 800]);
});

// Sums of independent results: mean n·μ, deviation √n·σ (any textbook); of a fair coin for 1R the chance to be down after 100 is the binomial's
// P(X < 50) = 0.4602. The gambler's ruin (W. Feller, An Introduction to Probability Theory, XIV.2): with even odds the chance to lose 10R before
// 300 trades are over is 2 · P(S₃₀₀ < −10) + P(S₃₀₀ = −10), by reflection 0.5639.
test('looking ahead: spread, chance to be down and ruin against binomials', () => {
  const coin = resultsOf(0.5, 1);
  const o = outlookOf({ from: coin, trades: 100, runs: 40_000, equity: 1_000, unit: 1, ruin: 0, seed: 5 });
  expect(Math.abs((o?.down ?? 0) - 0.4602)).toBeLessThan(0.01);
  const last = o?.fan.at(-1);
  expect(last?.p50).toBe(0);
  expect(Math.abs((last?.p95 ?? 0) - 16)).toBeLessThanOrEqual(2);
  const ruined = outlookOf({ from: coin, trades: 300, runs: 40_000, equity: 10, unit: 1, ruin: 0, seed: 6 });
  let [p, below] = [0, 0];
  // P(S = −10) and P(S < −10) of 300 fair steps, by logarithms of factorials.
  const lnFact = (n: number) =>
    Array.from({ length: n }, (_, k) => Math.log(k + 1)).reduce((a, b) => a + b, 0);
  for (let ups = 0; ups <= 145; ups++) {
    const q = Math.exp(lnFact(300) - lnFact(ups) - lnFact(300 - ups) - 300 * Math.LN2);
    if (ups === 145) p = q;
    else below += q;
  }
  expect(Math.abs((ruined?.ruin ?? 0) - (2 * below + p))).toBeLessThan(0.012);
});

// n = ((1.96 + 0.8416) · σ/μ)² for a test at 5 % that finds it four times of five (any textbook of sample sizes): σ = 1, μ = 0.1 needs 785.
test('how many trades until luck and skill are apart', () => {
  const spread = [-0.9, 1.1].flatMap((x) => Array.from({ length: 5_000 }, () => [x]));
  expect(Math.abs((tradesToTell(spread) ?? 0) - 785)).toBeLessThan(2);
  expect(tradesToTell([[1], [-1]])).toBeNull();
});

// Source: the FIX 4.4 data dictionary shipped by the package jspurefix.
test('execution reports hold what FIX 4.4 wants of them, with values that it knows; read again they are the same', () => {
  const xml = readFileSync('node_modules/jspurefix/data/FIX44.xml', 'utf8');
  const [, message = ''] = /<message name=['"]ExecutionReport['"][^>]*>([\s\S]*?)<\/message>/.exec(xml) ?? [];
  const required = [...message.matchAll(/<field name=['"](\w+)['"] required=['"]Y['"]/g)].map(
    (m) => m[1] as string,
  );
  const numberOf = (name: string) =>
    new RegExp(`<field number=['"](\\d+)['"] name=['"]${name}['"]`).exec(xml)?.[1] as string;
  const execution = {
    id: '7',
    order: '3',
    side: 'sell' as const,
    role: 'target',
    qty: 40,
    price: 51_250,
    liquidity: 'added' as const,
    route: 'MID',
    better: 0,
  };
  const t = tradeRecord({ net: 1 });
  const trade = {
    ...t,
    ref: 'a2.1',
    executions: [{ ...execution, date: '2027-03-09', at: 34_265_123, costs: t.costs }],
  };
  const text = fixReports([trade], (date, at) => ({ date, at: at + 5 * 3_600_000 }));
  const fields = text
    .trimEnd()
    .split('\u0001')
    .filter(Boolean)
    .map((f) => f.split('=') as [string, string]);
  expect(required.length).toBeGreaterThan(5);
  for (const name of [...required, 'TransactTime', 'LastQty', 'LastPx', 'Symbol', 'LastLiquidityInd'])
    expect(fields.map(([tag]) => tag)).toContain(numberOf(name));
  for (const [tag, value] of fields) {
    const [, body] =
      new RegExp(
        `<field number=['"]${tag}['"] name=['"]\\w+['"] type=['"]\\w+['"]\\s*(?:/>|>([\\s\\S]*?)</field>)`,
      ).exec(xml) ?? [];
    const allowed = [...(body ?? '').matchAll(/enum=['"]([^'"]+)['"]/g)].map((m) => m[1]);
    if (allowed.length > 0) expect(allowed).toContain(value);
  }
  const { rows, bad } = rowsOfFix(text);
  expect(bad).toEqual([]);
  // MsgSeqNum (34) rises with the time of what is told, over days and trades, whatever order they are given in.
  const day = (ref: string, date: string, at: number) => ({
    ...trade,
    ref,
    opened: { date, at },
    closed: { date, at },
    executions: [{ ...execution, date, at, costs: t.costs }],
  });
  const days = [day('b', '2027-03-11', 1_000), day('c', '2027-03-10', 2_000), day('a', '2027-03-11', 500)];
  const times = rowsOfFix(fixReports(days, (date, at) => ({ date, at }))).rows.slice(1);
  expect(times.map((r) => r[3])).toEqual([
    '2027-03-10 00:00:02.000',
    '2027-03-11 00:00:00.500',
    '2027-03-11 00:00:01.000',
  ]);
  expect(rows[1]).toEqual([
    'KF-2027-03-09-34265123-VULPN-S-40-51250-1-1',
    'a2.1-3',
    'Main',
    '2027-03-09 14:31:05.123',
    'VULPN',
    '2',
    '40',
    '5.125',
    '0',
    '0',
    'MID',
    'added',
    '7',
  ]);
  expect(rowsOfFix(text.replace('32=40', '32=90')).bad[0]?.reason).toMatch(/CheckSum/);
  // Several, with and without lines between them, and one that was taken back (ExecType H names it by ExecRefID).
  expect(rowsOfFix(`${text}\r\n${text.trim()}`).rows).toEqual(rows);
  // As people print it, with bars for separators; the message that cannot be taken is named by its place.
  const printed = text.replaceAll('\u0001', '|');
  expect(rowsOfFix(printed)).toEqual({ rows, bad: [] });
  expect(rowsOfFix(`${text}${text.replace('31=5.125', '31=6.125')}`)).toMatchObject({
    rows,
    bad: [{ number: 2 }],
  });
  // Lengths and sums are of bytes, in UTF-8.
  const named = fixReports([{ ...trade, account: 'Café €' }], (date, at) => ({ date, at }));
  const said = (text: string, tag: string) => text.split(`\u0001${tag}=`)[1]?.split('\u0001')[0];
  const bytes = [...new TextEncoder().encode(named.trimEnd())];
  const trailer = '10=000\u0001'.length;
  const head = named.indexOf('35=8');
  expect(Number(said(named, '9'))).toBe(bytes.length - trailer - head);
  expect(Number(said(named, '10'))).toBe(bytes.slice(0, -trailer).reduce((a, b) => a + b, 0) % 256);
  expect(rowsOfFix(named).rows[1]?.[2]).toBe('Café €');
  expect(rowsOfFix('8=FIX.4.2\u00019=5\u000110=000\u0001').bad[0]?.reason).toMatch(/no FIX 4.4/);
});
