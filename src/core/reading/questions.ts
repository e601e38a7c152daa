// What a hand is asked before a sentence goes, and when a yes that was given covers it.
import type { Bares } from '../orders/index.ts';
import { formatPrice, formatTime, type OrderId, type Price, unreachable } from '../units/index.ts';

/** A question that the press of a hand answers. What goes by itself goes only with a yes that was given when it was set. */
export type Question =
  /** The last stop of so many shares would be taken away. */
  | ({ kind: 'bares' } & Bares)
  /** A stop that is put back would go at once. */
  | { kind: 'passed'; orderId: OrderId; symbol: string; stop: Price; seen: Price }
  /** What is staged was prepared on an earlier day. */
  | { kind: 'staged before'; id: number; symbol: string; days: number; at: number };

/** The question in one sentence. */
export function questionText(q: Question): string {
  switch (q.kind) {
    case 'bares':
      return `${q.shares} ${q.symbol} would stand without a stop. Take it away all the same?`;
    case 'passed':
      return `${q.symbol} is at ${formatPrice(q.seen)}, past the stop ${formatPrice(q.stop)}: put back, it goes at once, at market. Put it back all the same?`;
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
    if (q.kind === 'passed') return y.kind === 'passed' && y.orderId === q.orderId;
    return y.kind === 'staged before' && y.id === q.id;
  });
