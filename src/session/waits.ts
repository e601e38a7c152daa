// What waits: conditions that fire, and orders that go as another one fills.
import { tellCondition } from '../core/alerts/index.ts';
import { oneLine, printTree, type Statement } from '../core/language/index.ts';
import { lastFinishedBar } from '../core/market/index.ts';
import { holdingOf, isLive, type Order, type OrderEvent, openTrade, orderOf } from '../core/orders/index.ts';
import {
  type Chain,
  type Question,
  type RunContext,
  readStatement,
  seenNow,
  shareOf,
  told,
  type Waiting,
} from '../core/reading/index.ts';
import { candlesOf, dueAt, type Happening, symbolsOf } from '../core/triggers/index.ts';
import { type AccountId, MINUTE, type Part } from '../core/units/index.ts';
import type { Engine } from './circuit.ts';
import { withWaited } from './desk.ts';
import type { LogEntry } from './log.ts';
import { runContext } from './moment.ts';
import type { Ran } from './run-result.ts';
import { again, blank, runLine } from './scripts.ts';
import type { DeskState, Waited } from './state.ts';

/** What came of something that waited, for the log. */
export interface Came {
  of: NonNullable<LogEntry['fired']>;
  deeds: Ran['deeds'];
  problem?: string;
  events: OrderEvent[];
}

/** Under what name what a firing came to is found in a log. */
export const firingKey = (of: Pick<NonNullable<LogEntry['fired']>, 'of' | 'id'>, at: number): string =>
  `${of.of} ${of.id} ${at}`;

const change = (e: Engine, to: (d: DeskState) => DeskState): void => {
  e.state = { ...e.state, desk: to(e.state.desk) };
};

/** When a condition next has to be told the time or a candle; null: never. */
export function dueWaits(e: Engine): number | null {
  let due: number | null = null;
  for (const w of e.state.desk.waiting) {
    const at = dueAt(w.trigger, e.market.now());
    if (at !== null && (due === null || at < due)) due = at;
  }
  return due;
}

/** Whether a condition looks at a symbol's trades and quotes. */
export const waitsOn = (e: Engine, symbol: string): boolean =>
  e.state.desk.waiting.some((w) => symbolsOf(w.trigger).includes(symbol));

/** A symbol has traded or its quote has changed. */
export function tellTick(e: Engine, symbol: string): Came[] {
  const { bid, ask } = e.market.quote(symbol);
  const tick = { symbol, at: e.market.now(), last: e.market.last(symbol), bid, ask };
  return tellAll(
    e,
    () => [{ kind: 'tick', tick }],
    (w) => symbolsOf(w.trigger).includes(symbol),
  );
}

/** A time has come that {@link dueWaits} named: candles that finished then, and the clock. */
export function tellClock(e: Engine): Came[] {
  const at = e.market.now();
  const finished = (w: Waiting): Happening[] =>
    candlesOf(w.trigger).flatMap(({ symbol, minutes }) => {
      if (at % (minutes * MINUTE) !== 0 || !e.market.has(symbol)) return [];
      const bar = lastFinishedBar(e.market.tape(symbol), minutes, at);
      const traded =
        bar !== null && bar.start % (24 * 60 * MINUTE) === (at - minutes * MINUTE) % (24 * 60 * MINUTE);
      return traded ? [{ kind: 'candle', symbol, minutes, at }] : [];
    });
  return tellAll(
    e,
    (w) => [...finished(w), { kind: 'clock', at }],
    () => true,
  );
}

function tellAll(e: Engine, what: (w: Waiting) => Happening[], concerns: (w: Waiting) => boolean): Came[] {
  const came: Came[] = [];
  // What is seen of a symbol is looked up once for all that wait for it, until one fires.
  const moments = new Map<string, RunContext>();
  const momentOf = ({ symbol, account }: Waiting): RunContext => {
    const key = `${account} ${symbol}`;
    const c = moments.get(key) ?? runContext(e, symbol, null, account);
    moments.set(key, c);
    return c;
  };
  for (const { id } of e.state.desk.waiting) {
    // One that fires may take others along.
    let w = e.state.desk.waiting.find((x) => x.id === id);
    if (!w || !concerns(w)) continue;
    const c = momentOf(w);
    for (const h of what(w)) {
      const { waiting, outcome } = told(w, h, c);
      if (waiting !== w)
        change(e, (d) => ({ ...d, waiting: d.waiting.map((x) => (x.id === id ? waiting : x)) }));
      w = waiting;
      if (outcome === 'waits') continue;
      came.push(outcome === 'fired' ? fire(e, w, seenNow(w.sentence.condition, w.symbol, c)) : over(e, w));
      moments.clear();
      break;
    }
  }
  return came;
}

const without = (e: Engine, id: number): void =>
  change(e, (d) => ({ ...d, waiting: d.waiting.filter((x) => x.id !== id) }));
const ended = (e: Engine, w: Omit<Waited, 'seq' | 'at'>): void =>
  change(e, (d) => withWaited(d, { ...w, at: e.market.now() }));

function overWithTrade(e: Engine, { trade, account, symbol }: Waiting): boolean {
  if (trade === null || trade === undefined) return false;
  return openTrade(holdingOf(e.state.broker, account, symbol))?.id !== trade;
}

function over(e: Engine, w: Waiting, seen = ''): Came {
  without(e, w.id);
  const of = { id: w.id, of: 'condition', came: '', symbol: w.symbol, seen } as const;
  ended(e, { ...of, text: printTree(w.sentence), how: 'over' });
  return { of, deeds: [], events: [] };
}

/** Does what waited, priced as of this moment. It fires once, whatever comes of it. */
function fire(e: Engine, w: Waiting, seen: string): Came {
  without(e, w.id);
  return carryOut(e, w.sentence.actions, w, w.yes ?? [], {
    id: w.id,
    of: 'condition',
    text: printTree(w.sentence),
    seen,
  });
}

/**
 * Does sentences one after another, each as of that moment, and tells what came of all of them. After one that is refused no entry goes any more; what
 * closes, protects or takes back still does.
 */
function carryOut(
  e: Engine,
  all: readonly Statement[],
  { symbol, account }: { symbol: string; account: AccountId },
  yes: readonly Question[],
  about: Pick<Waited, 'id' | 'of' | 'text' | 'seen'>,
): Came {
  const events: OrderEvent[] = [];
  const kept = e.recorded?.get(firingKey(about, e.market.now()))?.shift();
  const ran = kept ? again(e, kept.deeds ?? [], events) : blank();
  const problems = kept
    ? []
    : doAll(e, all, { focus: symbol, cursor: null, account, byItself: true, yes }, events, ran);
  const problem = kept ? (kept.problem ?? null) : problems.length > 0 ? problems.join(' ') : null;
  const done = ran.result.done.join('; ');
  const came =
    kept?.fired?.came ??
    [...(problem === null ? [] : [problem]), ...(done === '' ? [] : [done])].join(' Done: ');
  const some = all.length > 1 && ran.deeds.length > 0;
  ended(e, { ...about, symbol, how: problem === null || some ? 'fired' : 'refused', came });
  const went = some ? `went in part (${about.seen})` : `could not go (${about.seen})`;
  const told = `${oneLine(about.text)} – ${problem === null ? `went (${about.seen})` : `${went}: ${problem}`}`;
  // That a condition has been set is no news; one that was true already has gone.
  if (problem === null && ran.deeds.some((d) => d.kind === 'wait'))
    return { of: cameOf(about, came, symbol), deeds: ran.deeds, events };
  e.state = { ...e.state, alerts: tellCondition(e.state.alerts, e.market.now(), symbol, told) };
  return {
    of: cameOf(about, came, symbol),
    deeds: ran.deeds,
    events,
    ...(problem === null ? {} : { problem }),
  };
}

/** @returns what was not done, each with why. */
function doAll(
  e: Engine,
  all: readonly Statement[],
  about: Parameters<typeof runLine>[2],
  events: OrderEvent[],
  ran: Ran,
): string[] {
  const problems: string[] = [];
  for (const s of all) {
    if (problems.length > 0 && opens(s)) {
      problems.push(`${firstLine(s)} was not sent after that.`);
      continue;
    }
    const no = runLine(e, s, about, events, ran)?.text;
    if (no !== undefined) problems.push(all.length === 1 ? no : `${firstLine(s)}: ${no}`);
  }
  return problems;
}

/** Whether a sentence opens a position or adds to one. */
const opens = (s: Statement): boolean =>
  s.kind === 'enter' ||
  s.kind === 'add' ||
  s.kind === 'reverse' ||
  s.kind === 'one of' ||
  (s.kind === 'staged' && s.what === 'send');
const firstLine = (s: Statement): string => `“${printTree(s).split('\n')[0]}”`;

const cameOf = (
  { id, of, seen }: Pick<Waited, 'id' | 'of' | 'seen'>,
  came: string,
  symbol: string,
): Came['of'] => ({ id, of, came, symbol, seen });

/** Orders that go as others fill: each for what has filled since. What would close a trade ends with it. */
export function runChains(e: Engine): Came[] {
  const came: Came[] = [];
  for (const w of e.state.desk.waiting) if (overWithTrade(e, w)) came.push(over(e, w, 'its trade is closed'));
  for (const chain of e.state.desk.chains) {
    const first = orderOf(e.state.broker, chain.orderId);
    if (!first) continue;
    if (first.filled > chain.done) {
      const { shares, total } = dueOf(e, chain, first.filled, first.qty);
      put(e, chain, { ...chain, done: first.filled, total, sent: chain.sent + shares });
      // What waits for a moment is set with the first fill.
      if (chain.order.kind === 'when') {
        if (chain.done === 0) came.push(goOn(e, chain, 0));
      } else if (shares > 0 || total === 0) came.push(goOn(e, chain, shares));
    }
    if (isLive(first)) continue;
    put(e, chain, null);
    if (first.filled === 0) came.push(never(e, chain, first));
  }
  return came;
}

const put = (e: Engine, { orderId, order }: Chain, to: Chain | null): void =>
  change(e, (d) => ({
    ...d,
    chains: d.chains.flatMap((x) => (x.orderId === orderId && x.order === order ? (to ? [to] : []) : [x])),
  }));

/** What hangs on an order, as text. */
const chainText = (x: Statement): string =>
  x.kind === 'when' ? `once filled ${printTree(x)}` : `once filled: ${printTree(x)}`;

/** The order that it waited for has ended without a fill. */
function never(e: Engine, { symbol, order }: Chain, first: Order): Came {
  const seen = `order ${first.id} ended without a fill`;
  const of = { id: first.id, of: 'chain', came: '', symbol, seen } as const;
  ended(e, { ...of, text: chainText(order), how: 'over' });
  return { of, deeds: [], events: [] };
}

/** Shares that are due of a chained order after a fill: a part is of all that has filled, any other size goes in proportion. */
function dueOf(
  e: Engine,
  chain: Chain,
  filled: number,
  qty: number,
): { shares: number; total: number | null } {
  if (chain.order.kind === 'when') return { shares: 0, total: null };
  const { size } = chain.order;
  if (size.kind === 'part') {
    const due = filled < qty ? shareBelow(size.part, filled) : shareOf(size.part, filled);
    return { shares: Math.max(0, due - chain.sent), total: null };
  }
  const total =
    chain.total ??
    readStatement(chain.order, runContext(e, chain.symbol, null, chain.account)).facts?.qty ??
    0;
  return { shares: Math.floor((total * filled) / Math.max(1, qty)) - chain.sent, total };
}

/** A part of what has filled so far, without the one share that a part is at least. */
const shareBelow = (part: Part, filled: number): number =>
  part.kind === 'all' ? filled : Math.floor((filled * part.num) / part.den);

function goOn(e: Engine, chain: Chain, shares: number): Came {
  const sized =
    shares > 0 ? ({ ...chain.order, size: { kind: 'shares', shares } } as Statement) : chain.order;
  return carryOut(e, [sized], chain, [], {
    id: chain.orderId,
    of: 'chain',
    text: chainText(sized),
    seen: `order ${chain.orderId} filled`,
  });
}
