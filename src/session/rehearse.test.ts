import { MAIN, totalOf } from '../core/account/index.ts';
import { parseRule } from '../core/language/index.ts';
import { everything } from '../core/orders/index.ts';
import { PLAIN_PLANS } from '../core/reading/index.ts';
import type { Hand, RehearsalTerms } from '../core/rehearsal/index.ts';
import { reviewTrade } from '../core/review/index.ts';
import { PRESETS, rank } from '../core/scan/index.ts';
import { at, DAY, MINUTE } from '../core/units/index.ts';
import { type DaySource, symbolsListed } from './day-ref.ts';
import { advance, apply, createEngine } from './engine.ts';
import type { LogEntry } from './log.ts';
import { everMembers, isMember, MEMBERS_KEPT, type Members, membersOf } from './members.ts';
import { type HandDay, type RehearsalDesk, rehearseDay, rehearseHand } from './rehearse.ts';
import { runInput } from './scripts.ts';
import { simMarket } from './sim-market.ts';
import { marketView, stocksOf } from './view.ts';

const SIZE = 260;
const source = (id: string, seed: number): DaySource => ({
  ref: { kind: 'practice', id, seed, size: SIZE },
  own: null,
});
const desk: RehearsalDesk = { accounts: [], account: MAIN, plans: PLAIN_PLANS };
desk.accounts = Object.values(createEngine(simMarket(source('thin', 1))).state.broker.accounts).map(
  ({ id, rules, fees }) => ({ id, rules, fees }),
);
const hand: Hand = {
  name: 'breakout',
  presses: [
    {
      when: '1m close > vwap and last > 3m high',
      script:
        'buy risk 1R at usual through\n  stop usual\n  target 1R for half\n  target 2R for half\n  breakeven after 1.3R',
      most: 4,
    },
    { when: 'gain >= 60c a share or gain >= 0.6R', script: 'close half at bid', most: 9 },
  ],
};
const terms: RehearsalTerms = {
  hands: [hand],
  symbols: { kind: 'one', symbol: '' },
  from: 9 * 60 + 31,
  to: 10 * 60,
  out: 10 * 60 + 20,
  reaction: 400,
  line: 30,
};

/**
 * The same keys at the same times in a session over the whole market. Slippage, by its definition: against the
 * middle of the quote at the key, or when a stop triggered; a target that rested has none.
 */
function session(of: DaySource, day: HandDay): unknown[] {
  const e = createEngine(simMarket(of), desk.accounts);
  apply(e, { kind: 'line', change: { kind: 'latency', latency: { from: terms.line, to: terms.line } } });
  const middles = new Map<number | null, number>();
  const middle = (symbol: string) => {
    const { bid, ask } = e.market.quote(symbol);
    return ((bid ?? 0) + (ask ?? 0)) / 2;
  };
  const runTo = (until: number) => {
    const triggers = (entries: readonly LogEntry[]) =>
      entries.flatMap((x) => x.events).filter((v) => v.kind === 'triggered');
    while (e.market.now() < until) {
      const entries = advance(e, until, (x) => triggers(x).length > 0);
      for (const v of triggers(entries)) middles.set(v.orderId, middle(v.symbol));
    }
  };
  for (const { at: then, symbol, key } of day.pressed) {
    runTo(then);
    const [first, seen] = [e.state.broker.next.order, middle(symbol)];
    apply(e, runInput(key === null ? 'flatten' : (hand.presses[key]?.script ?? ''), symbol));
    for (let id = first; id < e.state.broker.next.order; id++) middles.set(id, seen);
  }
  runTo(at(16, 0));
  const { trades, fills } = everything(e.state.broker);
  return trades.flatMap((t) => {
    const seen = reviewTrade(t, fills);
    if (!seen) return [];
    const slipped = seen.fills
      .filter((f) => f.role !== 'target')
      .reduce(
        (a, f) => a + (f.side === 'buy' ? 1 : -1) * (f.price - (middles.get(f.orderId) ?? 0)) * f.qty,
        0,
      );
    return [
      [t.symbol, t.entered, seen.openedAt, seen.closedAt, seen.gross, totalOf(t.costs), Math.round(slipped)],
    ];
  });
}

const movers = (of: DaySource, many: number): number[] => {
  const market = simMarket(of);
  while (market.next(at(9, 35)) !== null);
  const best = rank(marketView(market), ruleOf(0), PRESETS[0]?.ranking ?? [], stocksOf(market), many).order;
  return [...best].sort((a, b) => a - b);
};
const ruleOf = (k: number) => {
  const parsed = parseRule(PRESETS[k]?.rule ?? '');
  if (!parsed.ok) throw new Error('a preset reads');
  return parsed.rule;
};

test.each([
  ['fresh-headlines', 10_001],
  ['low-float', 10_002],
  ['wild-index', 10_003],
])('a day of %s is, to the last share, what the same presses are in a session', (id, seed) => {
  const of = source(id, seed);
  const who = movers(of, 4);
  const day = rehearseHand({ source: of, n: 0 }, { who, may: () => true }, hand, terms, desk);
  expect(day.problems).toEqual([]);
  expect(day.pressed.length).toBeGreaterThan(1);
  expect(
    day.trades.map((t) => [
      t.symbol,
      t.shares,
      t.enteredAt,
      t.leftAt,
      t.gross,
      t.costs,
      Math.round(t.slippage),
    ]),
  ).toEqual(session(of, day));
  expect(day.trades.length).toBeGreaterThan(0);
  expect(rehearseHand({ source: of, n: 0 }, { who, may: () => true }, hand, terms, desk)).toEqual(day);
});

// The plain way: the whole market run on, looked at each minute.
test.each([
  ['fresh-headlines', 'gap > 3% and price between 1 and 60'],
  ['low-float', 'float < 60M and (speed 5m > 0.3% or gap < -2%) and not sector is energy'],
  ['thin', 'relative volume > 1.1 and premarket volume > 1k'],
])('members of a scan on a day of %s, those that cannot be in it left out', (id, text) => {
  const of = source(id, 10_004);
  const parsed = parseRule(text);
  if (!parsed.ok) throw new Error(text);
  const scan = { rule: parsed.rule, ranking: [{ field: 'change', weight: 1 }] };
  const [from, to] = [9 * 60 + 25, 9 * 60 + 50];
  const members = membersOf(of, 0, scan, from, to);
  const market = simMarket(of);
  const ever = new Set<number>();
  for (let minute = from; minute <= to; minute++) {
    while (market.next(minute * MINUTE) !== null);
    const best = [...rank(marketView(market), scan.rule, scan.ranking, stocksOf(market), MEMBERS_KEPT).order];
    for (const i of best.slice(0, 3)) ever.add(i);
    const seen = best.map((i, k) => isMember(members, k + 1, i, minute * MINUTE + 59_999));
    expect(seen).toEqual(best.map(() => true));
    if (best[3] !== undefined) expect(isMember(members, 3, best[3], minute * MINUTE)).toBe(false);
  }
  expect(ever.size).toBeGreaterThan(0);
  expect(everMembers(members, 3, from, to)).toEqual([...ever].sort((a, b) => a - b));
});

test('a key is pressed at most so often, only in its hours, only while its symbol is in the scan, and never on what nobody holds', () => {
  const of = source('fresh-headlines', 10_001);
  const who = movers(of, 5);
  const [first] = who;
  const listed = symbolsListed(of);
  const one: Hand = {
    name: '',
    presses: [
      { when: 'last > vwap', script: 'buy 100 at market\n  stop 30c', most: 30 },
      { when: 'last < vwap', script: 'close all at market', most: 5 },
    ],
  };
  const may = (place: number, now: number) => place !== first && now % DAY >= at(9, 40);
  const { pressed, trades } = rehearseHand(
    { source: of, n: 0 },
    { who, may },
    one,
    { ...terms, to: 9 * 60 + 50 },
    desk,
  );
  const ins = pressed.filter((p) => p.key === 0);
  expect(ins.length).toBeGreaterThan(4);
  expect(ins.every((p) => p.symbol !== listed[first as number])).toBe(true);
  for (const p of ins) expect(p.at >= at(9, 40) && p.at <= at(9, 50)).toBe(true);
  expect(pressed.filter((p) => p.problem !== null)).toEqual([]);
  // Each trade was ended by the other key, by its stop, or at the end.
  expect(trades.every((t) => !t.open && t.leftAt > t.enteredAt && t.pressedAt <= t.enteredAt - 30)).toBe(
    true,
  );
  // In and out at market costs half the spread twice, and the spread is a cent at least.
  const total = (f: (t: HandDay['trades'][number]) => number) => trades.reduce((a, t) => a + f(t), 0);
  expect(total((t) => t.slippage)).toBeGreaterThan(0.8 * total((t) => t.shares * 100));
  // R is what its first stop would lose.
  expect(trades.every((t) => t.risk === t.shares * 3_000 && t.costs > 0)).toBe(true);
  for (const t of trades) expect(t.r).toBeCloseTo((t.gross - t.costs) / t.risk, 9);
  const few = { ...one, presses: one.presses.map((p) => ({ ...p, most: 2 })) };
  const fewer = rehearseHand({ source: of, n: 0 }, { who, may }, few, { ...terms, to: 9 * 60 + 50 }, desk);
  expect(fewer.pressed.filter((p) => p.key === 0)).toEqual(ins.slice(0, 2));
});

test('a condition that cannot be waited for is said, and the day goes on without it', () => {
  const of = source('thin', 10_005);
  const { problems, trades } = rehearseHand(
    { source: of, n: 0 },
    { who: [20], may: () => true },
    { name: '', presses: [{ when: 'last > "my line"', script: 'buy 10 at market', most: 1 }] },
    terms,
    desk,
  );
  expect(problems).toHaveLength(1);
  expect(problems[0]).toMatch(/my line/);
  expect(trades).toEqual([]);
});

test('members that cover the hours are not worked out again; a text may speak of other symbols; a half day ends early', () => {
  const symbols = { kind: 'scan' as const, name: '', rule: 'gap > 2%', ranking: [], first: 3 };
  const job = (t: Partial<RehearsalTerms>, members: Members | null, id = 'fresh-headlines') =>
    rehearseDay({ source: source(id, 10_001), n: 0, terms: { ...terms, ...t }, desk, members });
  const ranked = { ...symbols, ranking: [{ field: 'gap', weight: 1 }] };
  const first = job({ symbols: ranked }, null);
  expect(first.members).toMatchObject({ from: terms.from, to: terms.to });
  expect(first.hands[0]?.trades.length).toBeGreaterThan(0);
  expect(job({ symbols: ranked }, first.members)).toEqual({ ...first, members: null });
  expect(job({ symbols: ranked, to: terms.to + 5 }, first.members).members?.to).toBe(terms.to + 5);
  const one = { symbols: { kind: 'one' as const, symbol: 'VULPN' } };
  const speaks: Hand = {
    name: '',
    presses: [{ when: 'last of ORBNT > 0.01 and last > vwap', script: 'buy 100 at market', most: 1 }],
  };
  const half = job({ ...one, hands: [speaks], out: 15 * 60 + 55 }, null, 'half-day').hands[0] as HandDay;
  expect(half.problems).toEqual([]);
  expect(half.trades.map((t) => t.leftAt >= at(12, 59) && t.leftAt < at(13, 0))).toEqual([true]);
  const [gone] = job({ symbols: { kind: 'one', symbol: 'NOPE' } }, null).hands;
  expect(gone).toMatchObject({ trades: [], problems: ['“NOPE” is not listed on this day.'] });
});
