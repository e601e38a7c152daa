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
  const main = to.price ?? o.stop ?? o.limit;
  const limit = o.limit === null ? '' : px(o.stop === null ? main : o.limit);
  const pricing =
    o.route === 'mid'
      ? 'at mid hidden'
      : o.stop !== null
        ? `${o.side === 'buy' ? 'above' : 'below'} ${px(main)}${limit ? ` limit ${limit}` : ''}`
        : limit
          ? `at ${limit}`
          : 'at market';
  const life = WORDS[o.timeInForce] ?? '';
  return [
    verb,
    String(to.qty ?? o.qty),
    to.of ? `of ${to.of}` : '',
    pricing,
    life,
    o.postOnly ? 'post only' : '',
    o.extended ? 'extended' : '',
    to.account ? `account "${to.account}"` : '',
  ]
    .filter((x) => x !== '')
    .join(' ');
}
