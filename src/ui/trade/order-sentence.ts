import { contractsIn } from '@/core/instruments';
import type { Order } from '@/core/orders';
import { px } from '../format';

const WORDS: Record<string, string> = {
  GoodTillCancel: 'gtc',
  ImmediateOrCancel: 'ioc',
  FillOrKill: 'fok',
};

/** An order as the sentence that would send it, with other numbers where they are given; `of` its symbol, `account` its account, where those are to be named. */
export function orderSentence(
  o: Order,
  to: { qty?: number; price?: number; of?: string; account?: string } = {},
): string {
  const verb = o.role === 'close' ? 'close' : o.side === 'buy' ? 'buy' : 'short';
  return [
    verb,
    String(to.qty ?? o.qty),
    to.of ? `of ${to.of}` : '',
    pricing(o, to.price ?? o.stop ?? o.limit),
    WORDS[o.timeInForce] ?? '',
    o.postOnly ? 'post only' : '',
    o.extended ? 'extended' : '',
    to.account ? `account "${to.account}"` : '',
  ]
    .filter((x) => x !== '')
    .join(' ');
}

function pricing(o: Order, main: number | null): string {
  if (o.route === 'mid') return 'at mid hidden';
  if (o.stop !== null)
    return `${o.side === 'buy' ? 'above' : 'below'} ${px(main)}${o.limit === null ? '' : ` limit ${px(o.limit)}`}`;
  if (o.limit === null) return 'at market';
  // A net price says which way the money goes.
  const net = contractsIn(o.symbol) < 2 || o.role === 'close' ? '' : o.side === 'buy' ? ' debit' : ' credit';
  return `at ${px(main)}${net}`;
}
