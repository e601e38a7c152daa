// What a trade's plan would have made, left alone: the session lived through again, up to and without the first time that a hand touched it; and what
// came after it was over.

import { totalOf } from '../core/account/index.ts';
import { isOption, multiplierOfSymbol, rootOf } from '../core/instruments/index.ts';
import { barsOf } from '../core/market/index.ts';
import { everything, type Intent, profitOf, type Trade } from '../core/orders/index.ts';
import type { Deed } from '../core/reading/index.ts';
import { type Aftermath, afterExit, refOf } from '../core/review/index.ts';
import { DAY, dayOf } from '../core/units/index.ts';
import { markOf } from './circuit.ts';
import { type DaySource, symbolsListed } from './day-ref.ts';
import { advance, apply, createEngine, dayEnd, type Engine } from './engine.ts';
import type { AttemptInfo, LogEntry } from './log.ts';
import { restore, save } from './saving.ts';
import { simMarket } from './sim-market.ts';

/** Symbols that a log speaks of, by their places in the day's list: what else trades does not touch them. */
function spokenOf(source: DaySource, log: readonly LogEntry[]): number[] {
  const words = new Set<string>();
  for (const { input, events } of log) {
    for (const e of events) words.add(rootOf(e.symbol));
    if (input?.kind !== 'run') continue;
    for (const w of `${input.text} ${input.focus ?? ''}`.toUpperCase().split(/[^A-Z.]+/)) words.add(w);
  }
  return symbolsListed(source).flatMap((s, i) => (words.has(s) ? [i] : []));
}

const hasDays = (log: readonly LogEntry[]): boolean => log.some((x) => x.input?.kind === 'next day');

/** Whether an intent of the trader touches what a trade has: closes some of it, or changes or takes back an exit. */
function touches(e: Engine, intent: Intent, trade: Trade): boolean {
  const mine = (x: { account: string; symbol: string }) =>
    x.account === trade.account && x.symbol === trade.symbol;
  const ofMine = (id: number) =>
    everything(e.state.broker).orders.some(
      (o) => o.id === id && o.tradeId === trade.id && o.role !== 'entry',
    );
  switch (intent.kind) {
    case 'close':
    case 'flatten':
    case 'attach':
      return mine(intent);
    case 'entry':
      return mine(intent) && (intent.side === 'buy' ? 1 : -1) !== trade.sign;
    case 'pair':
      return intent.of.some((x) => touches(e, x, trade));
    case 'move':
    case 'put back':
    case 'retype':
    case 'resize':
      return ofMine(intent.orderId);
    case 'cancel':
      return intent.what.kind === 'orders'
        ? intent.what.ids.some(ofMine)
        : intent.what.account === trade.account &&
            (intent.what.kind === 'everything' || intent.what.symbol === trade.symbol);
    case 'locate':
      return false;
  }
}

/** The same of a deed: one that sets an exit to wait for a condition touches as well. */
function deedTouches(e: Engine, d: Deed, trade: Trade): boolean {
  if (d.kind === 'intent') return touches(e, d.intent, trade);
  return (
    d.kind === 'wait' &&
    d.account === trade.account &&
    d.symbol === trade.symbol &&
    d.sentence.actions.some((a) => a.kind !== 'enter')
  );
}

const openTrades = (e: Engine): Trade[] =>
  Object.values(e.state.broker.holdings).flatMap((h) =>
    h.trades.filter((t) => t.status === 'open' && t.openedAt !== null),
  );

const tradeOf = (e: Engine, id: number): Trade | undefined =>
  everything(e.state.broker).trades.find((t) => t.id === id);

/** What one share or contract that is still held is worth now: the last price, of an option what closing it would bring; null where that is not known. */
function worthOf(e: Engine, symbol: string): number | null {
  if (!e.market.has(rootOf(symbol))) return null;
  return isOption(symbol) ? markOf(e, symbol) : e.market.last(symbol);
}

/** What a trade comes to at this moment, after costs, what is open at what it is worth. */
function standing(e: Engine, t: Trade): { net: number; open: boolean } {
  const open = t.status === 'open';
  const { realized, unrealized } = profitOf(t, open ? worthOf(e, t.symbol) : null);
  return { net: realized + unrealized - totalOf(t.costs), open };
}

/**
 * Of every trade of an attempt that is over: what it was left for, what its plan would have made, and what came after it. `until`: session time that may
 * be known; a day that has not come to its close by then gives nothing away. `progress` gets a share from 0 to 1.
 */
export function aftermathsOf(
  source: DaySource,
  attempt: AttemptInfo,
  log: readonly LogEntry[],
  until: number,
  progress: (part: number) => void = () => {},
): Aftermath[] {
  const days = hasDays(log);
  const market = simMarket(days ? source : { ...source, only: spokenOf(source, log) });
  const e = createEngine(market, attempt.accounts);
  if (days) market.standStill();
  const inputs = log.filter((x) => x.input !== null && x.input.kind !== 'others');
  const left = new Map<number, Fork>();
  const out: Aftermath[] = [];
  const fork = (trade: Trade, entry: LogEntry): void => {
    if (left.has(trade.id)) return;
    const alone = restore(
      structuredClone(save(e)),
      simMarket(
        { ...source, ...(days ? {} : { only: spokenOf(source, log) }) },
        structuredClone(market.save()),
      ),
      [],
      null,
    );
    advance(alone, alone.market.dayStart + alone.market.hours.close);
    const t = tradeOf(alone, trade.id);
    left.set(trade.id, { at: entry.at, by: wordsOf(entry), plan: t ? standing(alone, t) : null });
  };
  const [first, last] = [market.now(), Math.max(market.now(), ...inputs.map((x) => x.at))];
  inputs.forEach((entry) => {
    progress((entry.at - first) / Math.max(1, last - first));
    const { input, deeds } = entry;
    if (input === null) return;
    if (input.kind === 'next day') out.push(...dayOver(e, attempt, left, until));
    advance(e, entry.at);
    for (const d of deeds ?? []) for (const t of openTrades(e)) if (deedTouches(e, d, t)) fork(t, entry);
    apply(e, input, deeds ?? null);
    if (input.kind === 'next day' && days) market.standStill();
  });
  out.push(...dayOver(e, attempt, left, until));
  return out;
}

interface Fork {
  at: number;
  by: string;
  plan: { net: number; open: boolean } | null;
}

const wordsOf = ({ input }: LogEntry): string =>
  input?.kind === 'run' ? (input.text.split('\n')[0] ?? '') : '';

/** The day is brought to its close; what came after the trades that ended on it. */
function dayOver(
  e: Engine,
  attempt: AttemptInfo,
  left: ReadonlyMap<number, Fork>,
  until: number,
): Aftermath[] {
  const { dayStart, hours } = e.market;
  const close = dayStart + hours.close;
  if (until < close) return [];
  advance(e, dayEnd(e));
  return everything(e.state.broker).trades.flatMap((t): Aftermath[] => {
    if (t.closedAt === null || dayOf(t.closedAt) !== dayOf(dayStart)) return [];
    const forked = left.get(t.id);
    return [
      {
        ref: refOf(attempt.id, t.id),
        net: standing(e, t).net,
        risk: t.risk,
        left: forked ?? null,
        after: afterOf(e, t, close),
      },
    ];
  });
}

function afterOf(e: Engine, t: Trade, close: number): Aftermath['after'] {
  const closedAt = t.closedAt as number;
  if (closedAt >= close || t.exited === 0 || t.symbol !== rootOf(t.symbol)) return null;
  const ended = {
    at: closedAt,
    price: t.exitNotional / t.exited,
    size: t.exited * multiplierOfSymbol(t.symbol),
    sign: t.sign,
  };
  return afterExit(ended, barsOf(e.market.tape(t.symbol), 1), close % DAY);
}
