// A session that an earlier version saved, as this one keeps it.
import type { Broker, Holding, Order, Phase, Trade } from '../core/orders/index.ts';
import { everything, orderOfWire, wireOf } from '../core/orders/index.ts';
import type { Register } from '../core/sim/index.ts';
import type { AccountId, WireId } from '../core/units/index.ts';
import type { VenueCommand, VenueReport } from '../core/venue/index.ts';
import type { KeptMarket } from './day-ref.ts';
import type { LogEntry, SavedSession } from './log.ts';
import type { State } from './state.ts';
import { treesFromBefore } from './trees-before.ts';

/** What earlier versions did not know yet is filled in; what they said otherwise is said as it is now. */
export function fromBefore(saved: SavedSession): SavedSession {
  return { ...saved, state: stateOf(saved.state), market: marketOf(saved) };
}

/** The lines of a log that an earlier version wrote, as this one obeys them. */
export const logFromBefore = (log: readonly LogEntry[]): LogEntry[] =>
  log.map((entry) => (entry.deeds ? { ...entry, deeds: treesFromBefore(entry.deeds) } : entry));

function stateOf(state: State): State {
  const holdings = Object.entries(state.broker.holdings).map(([key, h]) => [key, holding(h)] as const);
  const same = holdings.every(([key, h]) => h === state.broker.holdings[key]);
  const broker: Broker = same ? state.broker : { ...state.broker, holdings: Object.fromEntries(holdings) };
  const now = {
    ...state.desk,
    staged: treesFromBefore(state.desk.staged),
    waiting: treesFromBefore(state.desk.waiting),
    chains: treesFromBefore(state.desk.chains),
  };
  const desk = now.freePlaces
    ? now
    : { ...now, freePlaces: [], staged: now.staged.map((x) => ({ ...x, place: x.place ?? null })) };
  return {
    ...state,
    alerts: treesFromBefore(state.alerts),
    broker,
    desk,
    told: state.told ?? {},
    reach: state.reach ?? {},
  };
}

function holding(h: Holding): Holding {
  const orders = h.orders.map(order);
  const trades = h.trades.map((t) => trade(t, h.multiplier));
  const same = orders.every((o, k) => o === h.orders[k]) && trades.every((t, k) => t === h.trades[k]);
  return same ? h : { ...h, orders, trades };
}

/** An order at work, as it was kept: whether it was on its way out was said beside what it had at the exchange. */
type OldPhase = Extract<Phase, { k: 'working' }> & {
  leaving?: Extract<Phase, { k: 'leaving' }>['to'] | null;
};

/** The collar of a stop that had triggered stood as its limit; what it is has none. */
function order(o: Order): Order {
  // Two that were joined were of one account.
  const paired = o.pair && !o.pair.account ? { ...o, pair: { ...o.pair, account: o.account } } : o;
  if (o.phase.k !== 'working') return paired;
  const { wire, leaving, went, at } = o.phase as OldPhase;
  const limit = at === undefined && o.type === 'Stop' ? null : o.limit;
  const phase: Phase =
    leaving && wire
      ? { k: 'leaving', wire, to: leaving, went, at: at ?? null }
      : { k: 'working', wire, went, at: at ?? null };
  return leaving === undefined && at !== undefined ? paired : { ...paired, limit, phase };
}

/** R as it was kept stays: of its entries nothing more is known. */
const trade = (t: Trade, multiplier: number): Trade =>
  t.lots
    ? t
    : {
        ...t,
        lots:
          t.entered === 0
            ? {}
            : {
                0: {
                  qty: t.entered,
                  notional: t.entryNotional,
                  risk: t.risk === null ? null : t.risk / multiplier,
                  measured: t.entered,
                  settled: true,
                },
              },
      };

/** Reports did not say whose they were, nor how much had filled in all: both follow from the orders. */
function marketOf({ state, market }: SavedSession): unknown {
  const kept = market as KeptMarket;
  if (kept.register || !kept.line) return market;
  const orders = everything(state.broker).orders;
  const accounts = new Map<number, AccountId>(orders.map((o) => [o.id, o.account]));
  const register: Register = {};
  for (const o of orders) {
    const wire = wireOf(o);
    if (wire)
      register[wire.id] = {
        account: o.account,
        symbol: o.symbol,
        day: kept.dayNumber,
        cumQty: wire.filled,
        executions: [],
      };
  }
  const named = <T extends VenueCommand | VenueReport>(x: T): T =>
    'id' in x ? { ...x, account: accounts.get(orderOfWire(x.id)) } : x;
  const counted = (r: VenueReport): VenueReport => {
    if (r.kind === 'list')
      return {
        ...r,
        orders: r.orders.map((o) => ({
          ...o,
          account: accounts.get(orderOfWire(o.id)) ?? o.account,
          cumQty: register[o.id]?.cumQty ?? 0,
        })),
      };
    const entry = 'id' in r ? register[r.id as WireId] : undefined;
    if (r.kind === 'fill' && entry) entry.cumQty += r.qty;
    return { ...named(r), cumQty: entry?.cumQty ?? 0 } as VenueReport;
  };
  // What arrived first, then what is under way, then what waits for the line.
  const here = kept.line.here.map(counted);
  const back = kept.line.back.map((b) => ({ ...b, report: counted(b.report) }));
  const line = {
    ...kept.line,
    here,
    back,
    kept: kept.line.kept.map(counted),
    out: kept.line.out.map((x) => ({ ...x, command: named(x.command) })),
  };
  return { ...kept, line, register };
}
