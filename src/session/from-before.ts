// A session that an earlier version saved, as this one keeps it.
import type { Broker, Holding, Order, Trade } from '../core/orders/index.ts';
import type { State } from './state.ts';

/** What earlier versions did not know yet is filled in; what they said otherwise is said as it is now. */
export function fromBefore(state: State): State {
  const holdings = Object.entries(state.broker.holdings).map(([key, h]) => [key, holding(h)] as const);
  const same = holdings.every(([key, h]) => h === state.broker.holdings[key]);
  const broker: Broker = same ? state.broker : { ...state.broker, holdings: Object.fromEntries(holdings) };
  const desk = state.desk.freePlaces
    ? state.desk
    : {
        ...state.desk,
        freePlaces: [],
        staged: state.desk.staged.map((x) => ({ ...x, place: x.place ?? null })),
      };
  return { ...state, broker, desk, told: state.told ?? {} };
}

function holding(h: Holding): Holding {
  const orders = h.orders.map(order);
  const trades = h.trades.map((t) => trade(t, h.multiplier));
  const same = orders.every((o, k) => o === h.orders[k]) && trades.every((t, k) => t === h.trades[k]);
  return same ? h : { ...h, orders, trades };
}

/** The collar of a stop that had triggered stood as its limit; what it is has none. */
function order(o: Order): Order {
  // Two that were joined were of one account.
  const paired = o.pair && !o.pair.account ? { ...o, pair: { ...o.pair, account: o.account } } : o;
  if (o.phase.k !== 'working' || o.phase.at !== undefined) return paired;
  return { ...paired, limit: o.type === 'Stop' ? null : o.limit, phase: { ...o.phase, at: null } };
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
