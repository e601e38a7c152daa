import { instrumentNamed, printTree, type TreeOf } from '../language/index.ts';
import { holdingOf, isStaying, liveOrder, type Order, openOf, orderOf, protects } from '../orders/index.ts';
import { type OrderId, signOf } from '../units/index.ts';
import { unstage } from './entries.ts';
import { viewOf } from './instruments.ts';
import { type Reading, type RunContext, refuse } from './moment.ts';
import { entriesAndCloses, nameOf, orderByNumber } from './orders-of.ts';
import { isEntry, unwait } from './waits.ts';

/** Takes back the newest entry or close of the focus, working or staged; finding none succeeds and says so. */
export function readCancelLast(s: TreeOf<'cancel last'>, c: RunContext, out: Reading): void {
  const v = viewOf(s.instrument, c);
  out.symbol = v.symbol;
  out.sayBack = printTree({ ...s, instrument: instrumentNamed(v.symbol) });
  const order = entriesAndCloses(v.symbol, c).pop();
  const staged = c.staged.filter((x) => x.symbol === v.symbol).pop();
  if (staged && (!order || order.id < staged.order)) {
    out.deeds.push({ kind: 'unstage', ids: [staged.id] });
    out.about = `staged: ${printTree(staged.statement).split('\n')[0]}`;
    return;
  }
  if (order) cancelOrders([order], c, out);
  else out.about = `no entry or close of ${v.symbol} is working or staged`;
}

/** Takes back an order by its number. Of a group it asks whether all of it is meant or this one. */
export function readCancelOrder(s: TreeOf<'cancel order'>, c: RunContext, out: Reading): void {
  const o = orderByNumber(s.number, c);
  out.symbol = o.symbol;
  const others = groupOf(o, c);
  if (!s.alone && !s.group && others.length > 0)
    refuse(
      {
        code: 'which of group',
        what: nameOf(o),
        others: others.map(nameOf),
        symbol: o.symbol,
        bare: [bareBy([o]), bareBy([o, ...others])],
      },
      [
        { ...s, alone: true },
        { ...s, group: true },
      ],
    );
  cancelOrders(s.group ? [o, ...others] : [o], c, out);
}

/** Puts a stop or a target back that was taken away. A stop that the price has passed would go at once, and asks. */
export function readPutBack(s: TreeOf<'put back'>, c: RunContext, out: Reading): void {
  const o =
    orderOf(c.broker, s.number) ?? refuse({ code: 'too late', orderId: s.number as OrderId, status: null });
  const v = viewOf(o.symbol, c);
  out.symbol = o.symbol;
  out.about = nameOf(o);
  const seen = o.on === 'last' ? v.last : v.quote[o.on];
  if (o.stop !== null && seen !== null && signOf(o.side) * (seen - o.stop) >= 0)
    out.asks.push({ kind: 'passed', orderId: o.id, symbol: o.symbol, stop: o.stop, seen });
  out.deeds.push({ kind: 'intent', intent: { kind: 'put back', orderId: o.id } });
}

/** What belongs together with an order: the exits of the same shares, or the one that it is joined with. */
function groupOf(o: Order, c: RunContext): Order[] {
  const { orders } = holdingOf(c.broker, c.account, o.symbol);
  const joined = o.pair ? [liveOrder(c.broker, o.pair.id)] : [];
  const exits = o.role === 'stop' || o.role === 'target' ? orders.filter((x) => x.scopeId === o.scopeId) : [];
  return [...joined, ...exits].filter(
    (x): x is Order =>
      x !== undefined && x.id !== o.id && isStaying(x) && (x.role !== 'entry' || x.id === o.pair?.id),
  );
}

/** Takes back entries, exits or targets of a symbol. */
export function readCancelSome(s: TreeOf<'cancel some'>, c: RunContext, out: Reading): void {
  const v = viewOf(s.instrument, c);
  out.symbol = v.symbol;
  const isMeant = (o: Order) =>
    s.which === 'entries'
      ? o.role === 'entry'
      : s.which === 'targets'
        ? o.role === 'target'
        : o.role === 'stop' || (o.role === 'target' && s.which === 'exits');
  cancelOrders(
    holdingOf(c.broker, c.account, v.symbol).orders.filter((o) => isMeant(o) && isStaying(o)),
    c,
    out,
  );
  const dropped =
    s.which === 'entries'
      ? {
          staged: unstage(v.symbol, c, out, (x) => x.statement.kind !== 'close'),
          waiting: unwait(v.symbol, c, out, isEntry),
        }
      : { staged: 0, waiting: 0 };
  found(out, dropped, `no ${s.which} of ${v.symbol} are working`);
  out.sayBack = printTree({ ...s, instrument: instrumentNamed(v.symbol) });
}

/** Takes back entries, closes and targets of a symbol or of all; stops stay unless exits are meant as well. */
export function readCancelAll(
  s: TreeOf<'cancel symbol'> | TreeOf<'cancel everything'>,
  c: RunContext,
  out: Reading,
): void {
  const symbol = s.kind === 'cancel symbol' ? viewOf(s.instrument, c).symbol : null;
  out.symbol = symbol;
  const chosen = Object.values(c.broker.holdings).flatMap((h) =>
    h.account === c.account && (symbol === null || h.symbol === symbol)
      ? h.orders.filter((o) => isStaying(o) && (s.exits || !protects(o)))
      : [],
  );
  const scope = s.exits ? {} : { keepStops: true };
  const what =
    symbol === null
      ? ({ kind: 'everything', account: c.account, ...scope } as const)
      : ({ kind: 'symbol', account: c.account, symbol, ...scope } as const);
  if (chosen.length > 0) out.deeds.push({ kind: 'intent', intent: { kind: 'cancel', what } });
  out.about = count(chosen);
  found(
    out,
    { staged: unstage(symbol, c, out), waiting: unwait(symbol, c, out) },
    symbol === null ? 'nothing is working' : `nothing of ${symbol} is working`,
  );
  out.sayBack = printTree(
    s.kind === 'cancel symbol' && symbol !== null ? { ...s, instrument: instrumentNamed(symbol) } : s,
  );
}

function cancelOrders(orders: readonly Order[], c: RunContext, out: Reading): void {
  if (orders.length > 0)
    out.deeds.push({
      kind: 'intent',
      intent: { kind: 'cancel', what: { kind: 'orders', ids: orders.map((o) => o.id) } },
    });
  out.about = orders.length === 1 ? nameOf(orders[0] as Order) : count(orders);
  const [only] = orders;
  const other = orders.length === 1 && only?.pair ? liveOrder(c.broker, only.pair.id) : undefined;
  if (other && isStaying(other))
    out.warnings.push(
      `Order ${other.id}, joined with it, stays. To take both back: cancel order ${other.id}, too.`,
    );
}

const count = (orders: readonly Order[]): string =>
  orders.length === 0 ? '' : `${orders.length} ${orders.length === 1 ? 'order' : 'orders'}`;

const bareBy = (orders: readonly Order[]): number =>
  orders.filter(protects).reduce((a, o) => a + openOf(o), 0);

function found(out: Reading, dropped: { staged: number; waiting: number }, nothing: string): void {
  const parts = [
    ...(out.about === '' ? [] : [out.about]),
    ...(dropped.staged > 0 ? [`${dropped.staged} staged`] : []),
    ...(dropped.waiting > 0 ? [`${dropped.waiting} waiting`] : []),
  ];
  out.about = parts.length > 0 ? parts.join(', ') : nothing;
}
