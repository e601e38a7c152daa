// What a hand is asked before a sentence goes, and when a yes that was given covers it.
import type { Bares } from '../orders/index.ts';
import {
  formatPrice,
  formatTime,
  type OrderId,
  type Price,
  type SessionKind,
  type Side,
  signOf,
  unreachable,
} from '../units/index.ts';

/** A question that the press of a hand answers. What goes by itself goes only with a yes that was given when it was set. */
export type Question =
  /** The last stop of so many shares would be taken away. */
  | ({ kind: 'bares' } & Bares)
  /** A stop that is put back would go at once. */
  | { kind: 'passed'; orderId: OrderId; symbol: string; stop: Price; seen: Price }
  /** A close whose written price is far through the quote: it fills there at once, and a stop may be meant, as `instead` says. */
  | { kind: 'far through'; symbol: string; side: Side; limit: Price; at: Price; instead: readonly string[] }
  /** An entry without “extended” outside the regular session: it would sleep; `instead` say what else may be meant. */
  | { kind: 'sleeps'; symbol: string; session: SessionKind; instead: readonly string[] }
  /** A stop that goes farther away: what the trade would then lose there is more than its own R, or than a unit. */
  | {
      kind: 'farther';
      orderId: OrderId;
      symbol: string;
      side: Side;
      from: Price;
      to: Price;
      risk: readonly [before: string, after: string];
    }
  /** What is staged was prepared on an earlier day. */
  | { kind: 'staged before'; id: number; symbol: string; days: number; at: number };

/** The question in one sentence. */
export function questionText(q: Question): string {
  switch (q.kind) {
    case 'bares':
      return `${q.shares} ${q.symbol} would stand without a stop. Take it away all the same?`;
    case 'passed':
      return `${q.symbol} is at ${formatPrice(q.seen)}, past the stop ${formatPrice(q.stop)}: put back, it goes at once, at market. Put it back all the same?`;
    case 'far through':
      return `${formatPrice(q.limit)} is past the ${q.side === 'buy' ? 'ask' : 'bid'}: this fills at once, at ${formatPrice(q.at)} or ${q.side === 'buy' ? 'above' : 'below'}. Send it all the same?`;
    case 'sleeps':
      return `${q.session === 'closed' ? 'Everything is closed' : `It is ${q.session}`}: without “extended” this sleeps until 09:30. Send it to sleep?`;
    case 'farther':
      return `The stop of ${q.symbol} would go farther away, ${formatPrice(q.from)} → ${formatPrice(q.to)}: risk ${q.risk[0]} → ${q.risk[1]}. Move it all the same?`;
    case 'staged before':
      return `This was staged ${q.days === 1 ? 'the session before' : `${q.days} sessions ago`}, at ${formatTime(q.at, 'minutes')}. Send it all the same?`;
    default:
      return unreachable(q);
  }
}

/** Whether a yes covers a question: the same one, and of shares no more than it named. */
export const isAnswered = (q: Question, yes: readonly Question[]): boolean =>
  yes.some((y) => {
    if (q.kind === 'bares') return y.kind === 'bares' && y.symbol === q.symbol && y.shares >= q.shares;
    if (q.kind === 'far through')
      return y.kind === 'far through' && y.symbol === q.symbol && y.side === q.side;
    if (q.kind === 'sleeps') return y.kind === 'sleeps' && y.symbol === q.symbol;
    if (q.kind === 'farther')
      return y.kind === 'farther' && y.orderId === q.orderId && signOf(q.side) * (q.to - y.to) <= 0;
    if (q.kind === 'passed') return y.kind === 'passed' && y.orderId === q.orderId;
    return y.kind === 'staged before' && y.id === q.id;
  });
