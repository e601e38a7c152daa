// Sentences about the desk itself: alerts, levels, notes, the ticket's size, what is in focus.
import { printTree, type TreeOf } from '../language/index.ts';
import type { DrawnLevel } from '../market/index.ts';
import { formatPrice, MINUTE, PRICE_SCALE, roundToTick, unreachable } from '../units/index.ts';
import { viewOf } from './instruments.ts';
import { accountOf, literal, type Reading, type RunContext, refuse, type TicketSize } from './moment.ts';
import { measuresOf, namedOf, priceIn } from './prices.ts';

type AlertTree =
  | TreeOf<'alert'>
  | TreeOf<'alert when'>
  | TreeOf<'alert on'>
  | TreeOf<'alert any when'>
  | TreeOf<'alert any on'>;

/** An alert with its price and side as of now. */
export function readAlert(s: AlertTree, c: RunContext, out: Reading): void {
  if (s.kind === 'alert any when' || s.kind === 'alert any on') {
    const on = s.kind === 'alert any when' ? ({ kind: 'rule', rule: s.condition } as const) : { kind: s.on };
    out.deeds.push({ kind: 'alert', asked: { symbol: null, on }, text: printTree(s) });
    return;
  }
  const v = viewOf(s.symbol, c);
  out.symbol = v.symbol;
  if (s.kind === 'alert') {
    const price = roundToTick(priceIn(s.price, measuresOf(v, c)));
    const last = v.last ?? refuse({ code: 'unknown price', text: 'last', symbol: v.symbol });
    const nearby = {
      ...s,
      price: {
        kind: 'sum',
        base: { kind: 'last' },
        shifts: [{ kind: 'plus', by: { kind: 'cents', units: 1_000 } }],
      },
    } as const;
    if (price === last) refuse({ code: 'at last', symbol: v.symbol, price }, nearby);
    out.sayBack = printTree({ ...s, symbol: v.symbol, price: literal(price) });
    out.named.push(...namedOf(s.price, price));
    out.deeds.push({
      kind: 'alert',
      asked: { symbol: v.symbol, on: { kind: 'price', price, way: price > last ? 'up' : 'down' } },
      text: out.sayBack,
    });
    return;
  }
  out.sayBack = printTree({ ...s, symbol: v.symbol });
  const on = s.kind === 'alert when' ? ({ kind: 'rule', rule: s.condition } as const) : { kind: s.on };
  out.deeds.push({ kind: 'alert', asked: { symbol: v.symbol, on }, text: out.sayBack });
  if (s.kind === 'alert when' && c.passes(v.symbol, s.condition))
    out.warnings.push(`This is true of ${v.symbol} already: the alert comes when it turns true again.`);
}

/** Names a price of a symbol, one that stays or one that moves with the time, or forgets it. */
export function readLevel(
  s: TreeOf<'level'> | TreeOf<'sloping level'> | TreeOf<'drop level'>,
  c: RunContext,
  out: Reading,
): void {
  const v = viewOf(s.symbol, c);
  out.symbol = v.symbol;
  out.about = `of ${v.symbol}`;
  const put = (price: DrawnLevel | null) =>
    out.deeds.push({ kind: 'level', symbol: v.symbol, name: s.name, price });
  if (s.kind === 'drop level') {
    if (v.level(s.name) === null) out.about = `there is no level “${s.name}” of ${v.symbol}`;
    else {
      put(null);
      out.warnings.push(...missedBy(s.name, v.symbol, c));
    }
    return;
  }
  const price = roundToTick(priceIn(s.price, measuresOf(v, c)));
  out.named.push(...namedOf(s.price, price));
  if (s.kind === 'level') {
    put(price);
    out.sayBack = printTree({ ...s, price: literal(price) });
    return;
  }
  const second = roundToTick(priceIn(s.price2, measuresOf(v, c)));
  out.named.push(...namedOf(s.price2, second));
  if (s.time === s.time2)
    refuse({ code: 'one moment', time: s.time }, { ...s, time2: (s.time2 + 1) % 1_440 });
  const at = (minutes: number) => c.dayStart + minutes * MINUTE;
  put({ from: { at: at(s.time), price }, to: { at: at(s.time2), price: second } });
  out.sayBack = printTree({ ...s, price: literal(price), price2: literal(second) });
}

/** Takes everything drawn off the chart of the focus, its levels too. */
export function readClear(c: RunContext, out: Reading): void {
  const { symbol } = viewOf(null, c);
  out.symbol = symbol;
  out.about = `of ${symbol}`;
  for (const name of c.levels(symbol)) {
    out.deeds.push({ kind: 'level', symbol, name, price: null });
    out.warnings.push(...missedBy(name, symbol, c));
  }
  out.deeds.push({ kind: 'desk', act: { kind: 'clear drawings', symbol } });
}

/** Orders that wait for a level that is about to go. */
const missedBy = (name: string, symbol: string, c: RunContext): string[] =>
  c.waiting
    .filter((w) => w.symbol === symbol && printTree(w.sentence.condition).includes(`level "${name}"`))
    .map((w) => `Condition ${w.id} waits for “${name}” and cannot come true without it.`);

/** Sets what `ticket` stands for. */
export function readSize(s: TreeOf<'size'>, c: RunContext, out: Reading): void {
  const size = sizeAfter(s.to, c);
  out.deeds.push({ kind: 'ticket', size });
  out.sayBack = size === null ? 'size 0' : `size ${printTree(size)}`;
  if (size?.kind === 'risk') out.about = `1R is ${formatPrice(accountOf(c).rules.riskUnit)} dollars`;
}

function sizeAfter(to: TreeOf<'size'>['to'], c: RunContext): TicketSize | null {
  switch (to.kind) {
    case 'money':
    case 'risk':
    case 'risk money':
      return to;
    case 'some shares':
      return to.shares === 0 ? null : { kind: 'shares', shares: to.shares };
    case 'size step': {
      const by = to.way === 'up' ? to.shares : -to.shares;
      const now = c.ticket ?? { kind: 'shares', shares: 0 };
      if (now.kind === 'money' || now.kind === 'risk money') {
        const money = Math.max(0, now.money + by * PRICE_SCALE);
        return money === 0 ? null : { ...now, money };
      }
      if (now.kind === 'risk') return refuse({ code: 'risk ticket', wanted: 'step' });
      const shares = Math.min(1_000_000, Math.max(0, now.shares + by));
      return shares === 0 ? null : { kind: 'shares', shares };
    }
    default:
      return unreachable(to);
  }
}
