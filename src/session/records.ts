// The trader's trades as they are kept for review, told whenever they have changed.
import { isOption, rootOf } from '../core/instruments/index.ts';
import type { Broker, Fill, Trade } from '../core/orders/index.ts';
import { refOf, reviewTrade, type TradeRecord, type When } from '../core/review/index.ts';
import { PRACTICE_DAYS } from '../core/sim/index.ts';
import { clockOf, dayOf, shelf } from '../core/units/index.ts';
import type { DayRef } from './day-ref.ts';
import type { Engine } from './engine.ts';
import type { AttemptInfo, LogEntry, PressedBy } from './log.ts';

/** Which day it is, whoever takes it: the same for every attempt at it. */
export const dayKey = (day: DayRef): string => JSON.stringify(Object.values(day));

/** What kind of day it was, for who chooses among days. */
function scenarioOf(day: DayRef, n: number): string {
  if (day.kind === 'own') return 'own data';
  return n > 0 ? 'a later day' : (PRACTICE_DAYS.find((d) => d.id === day.id)?.title ?? day.id);
}

/** The exit plan that a sentence names; its own exits where it has some. */
function planIn(sentence: string): string | null {
  const named = /\bwith plan "((?:[^"\\]|\\.)*)"/.exec(sentence)?.[1];
  if (named !== undefined) return named;
  return /^ +(?:stop|target|trail|breakeven|out)\b/m.test(sentence) ? 'exits of its own' : null;
}

/** Tells which trades have changed since it was last asked; the first time, all there are. */
export interface RecordTeller {
  /** Takes note of what opened trades: of the whole log so far, then of what is added to it. */
  hear(entries: readonly LogEntry[]): void;
  changes(e: Engine, attempt: AttemptInfo): TradeRecord[];
}

/** A teller for one attempt. */
export function recordTeller(): RecordTeller {
  const by = new Map<number, PressedBy>();
  const fills = new Map<number, Fill[]>();
  let told: Broker | null = null;
  return {
    hear(entries) {
      for (const { input, events } of entries)
        if (input?.kind === 'run' && input.by)
          for (const e of events) if (!by.has(e.tradeId)) by.set(e.tradeId, input.by);
    },
    changes(e, attempt) {
      const b = e.state.broker;
      const before = told;
      told = b;
      for (const f of shelf.changed(before?.past.fills ?? null, b.past.fills)) {
        const list = fills.get(f.tradeId);
        if (list) list.push(f);
        else fills.set(f.tradeId, [f]);
      }
      const changed: Trade[] = shelf.changed(before?.past.trades ?? null, b.past.trades);
      for (const [key, h] of Object.entries(b.holdings)) {
        const old = before?.holdings[key]?.trades;
        changed.push(...h.trades.filter((t) => !old?.includes(t)));
      }
      return changed.flatMap((t) => recordOf(e, attempt, t, fills.get(t.id) ?? [], by.get(t.id)) ?? []);
    },
  };
}

function recordOf(
  { market, state }: Engine,
  attempt: AttemptInfo,
  trade: Trade,
  fills: readonly Fill[],
  by: PressedBy | undefined,
): TradeRecord | null {
  const t = reviewTrade(trade, fills);
  if (!t) return null;
  const when = (at: number): When => ({ date: market.dates[dayOf(at)] ?? '', at: clockOf(at) });
  const root = rootOf(t.symbol);
  const float = market.has(root) ? market.instrument(root).float : 0;
  return {
    ref: refOf(attempt.id, t.id),
    source: {
      kind: 'attempt',
      attempt: attempt.id,
      trade: t.id,
      at: { opened: t.openedAt, closed: t.closedAt },
    },
    scenario: scenarioOf(attempt.day, dayOf(t.openedAt)),
    day: dayKey(attempt.day),
    account: state.broker.accounts[trade.account]?.rules.name ?? trade.account,
    symbol: t.symbol,
    direction: t.direction,
    shares: t.shares,
    averageEntry: t.averageEntry,
    averageExit: t.averageExit,
    opened: when(t.openedAt),
    closed: t.closedAt === null ? null : when(t.closedAt),
    held: t.closedAt === null ? null : t.closedAt - t.openedAt,
    gross: t.gross,
    costs: t.costs,
    net: t.net,
    risk: trade.risk,
    // A lot without an order is what an earlier version kept.
    ...(trade.lots[0] ? {} : { rule: 'entries' as const }),
    // Of options only what was seen while it was looked at.
    mfe: trade.best === null && isOption(t.symbol) ? null : t.mfe,
    mae: trade.worst === null && isOption(t.symbol) ? null : t.mae,
    sentence: t.sentence,
    plan: planIn(t.sentence),
    script: by?.script ?? null,
    scan: by?.scan ?? null,
    ...(by?.grade ? { grade: by.grade } : {}),
    float: float > 0 ? float : null,
    executions: fills.map((f) => ({
      id: String(f.id),
      order: String(f.orderId),
      ...when(f.at),
      side: f.side,
      role: f.role,
      qty: f.qty,
      price: f.price,
      liquidity: f.liquidity,
      route: f.venue,
      better: f.better,
      costs: f.costs,
    })),
  };
}
