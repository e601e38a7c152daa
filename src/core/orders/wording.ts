// Every sentence about events and refusals of the broker. The figures are in the events; only the words are here.

import { formatMoney, formatPrice, formatTime, type Side, unreachable } from '../units/index.ts';
import { guardText } from './guard-words.ts';
import { type Order, statusOf } from './order.ts';
import type { OrderEvent } from './order-event.ts';
import type { Refusal, Why } from './refusal.ts';

const ROLES = { entry: 'Entry', close: 'Close', target: 'Target', stop: 'Stop' } as const;

/** The sentence of an event, for the log, the journal and the trade. */
export function eventText(e: OrderEvent): string {
  const role = e.role === null ? '' : e.role === 'target' ? `Target ${e.nth}` : ROLES[e.role];
  const bare = (n: number) => (n > 0 ? `: ${n} ${e.symbol} are now without a stop` : '');
  switch (e.kind) {
    case 'working':
      return `${role}: ${e.side} ${e.open} ${e.symbol} ${whereOf(e)}`;
    case 'asleep':
      return `${role} of ${e.open} ${e.symbol} waits for ${WAITS_FOR[e.until]}`;
    case 'fill':
      return `${role}: ${e.side === 'buy' ? 'bought' : 'sold'} ${e.qty} ${e.symbol} at ${formatPrice(e.price)}${betterText(e)}${e.open > 0 ? `, ${e.open} left` : ''}`;
    case 'triggered':
      return `${role} triggered: ${e.symbol} ${e.on === 'last' ? 'traded at' : `is ${e.on}`} ${formatPrice(e.seen)}, stop ${formatPrice(e.stop)}`;
    case 'moved':
      return `${role} of ${e.open} ${e.symbol} ${moved(e.why)}: ${formatPrice(e.from)} → ${formatPrice(e.to)}`;
    case 'retyped':
      return `${role} of ${e.open} ${e.symbol} is called back and goes anew: ${whereOf(e)}`;
    case 'resized':
      return `${role} of ${e.symbol} now for ${e.to}, was ${e.from}`;
    case 'canceled':
      return `${role} of ${e.open} ${e.symbol} canceled${because(e)}${bare(e.bare)}`;
    case 'expired':
      return `${role} of ${e.open} ${e.symbol} expired${because(e)}${bare(e.bare)}`;
    case 'rejected':
      return `${role} of ${e.open} ${e.symbol} rejected${because(e)}${bare(e.bare)}`;
    case 'thrown out':
      return `${role} of ${e.open} ${e.symbol} was thrown out by the exchange (${e.why}); it is sent again`;
    case 'request refused':
      return `${role} of ${e.symbol}: the exchange refused to ${e.request === 'cancel' ? 'cancel' : 'change'} it (${e.why})`;
    case 'trade over': {
      const net = e.gross - e.costs;
      return `${e.symbol} is flat: out at ${formatPrice(Math.round(e.averageExit))} on average, ${formatMoney(net, true)} after costs${e.risk ? `, ${(net / e.risk).toFixed(2)}R` : ''}`;
    }
    case 'settled': {
      const shares = Math.abs(e.shares);
      const way = e.shares > 0 ? 'bought' : 'sold';
      return e.worth === 0 && shares === 0
        ? `${e.symbol} has expired without worth; ${e.root} closed at ${formatPrice(e.spot)}`
        : `${e.symbol} has expired worth ${formatPrice(e.worth)}${shares === 0 ? '' : `; ${shares} ${e.root} ${way} for it at the close, ${formatPrice(e.spot)}`}`;
    }
    case 'split':
      return `${e.contracts} ${e.symbol} came apart: its legs are held each on its own now`;
    case 'not out':
      return `${e.shares} ${e.symbol} should be out by now and are still held: ${STILL_HELD[e.until]}. To get out: flatten`;
    case 'left over':
      return `${e.shares} ${e.symbol} are still held: nobody took the rest of the flatten, and nothing closes them now. Flatten again`;
    case 'fills asked for':
      return `The exchange counts ${e.shares} ${e.symbol} as filled that it has not told of. It was asked for them; until then those shares are spoken for`;
    case 'no such fills':
      return `The exchange has no fills for the ${e.shares} ${e.symbol} that it counted: what it told counts`;
    case 'restless':
      return `The exchange and the broker went round in circles${over(e.symbol)}. What was left is decided again with the next price`;
    case 'turned':
      return `The exchange filled ${e.shares} ${e.symbol} more than was held: they stand the other way now, without a stop. Flatten takes them out`;
    case 'locked':
      return `The day has lost ${formatMoney(e.loss)}, and the limit is ${formatMoney(e.most)}: no new risk until the next day. Closing works`;
    case 'located':
      return `${e.shares} ${e.symbol} are set aside to be sold short today, for ${formatMoney(e.fee)}`;
    case 'line':
      return e.up
        ? 'The line to the exchange stands again'
        : 'The line to the exchange is cut: nothing can be sent, and stops wait here';
    default:
      return unreachable(e);
  }
}

const over = (symbol: string): string => (symbol === '' ? '' : ` over ${symbol}`);
const STILL_HELD = {
  quote: 'nobody takes them. They go as soon as there is a price',
  session: 'the exchange refuses the order. It is tried again with the next session',
} as const;
const WAITS_FOR = {
  next: 'the next session',
  regular: 'the regular session at 09:30',
  flat: 'the position to be flat',
} as const;

/** Where an order works, and in which auction. */
function whereOf(e: Extract<OrderEvent, { kind: 'working' | 'retyped' }>): string {
  const auction =
    { AtTheOpening: ', in the opening auction', AtTheClose: ', in the closing auction' }[
      e.timeInForce as string
    ] ?? '';
  const limit = e.limit === null ? '' : `limit ${formatPrice(e.limit)}`;
  if (e.stop !== null) return `stop ${formatPrice(e.stop)}${limit === '' ? '' : ` ${limit}`}${auction}`;
  if (e.type !== 'Market' && limit !== '') return limit + auction;
  return (e.route === 'mid' ? 'at the midpoint' : 'at market') + auction;
}

const betterText = (e: Extract<OrderEvent, { kind: 'fill' }>): string =>
  e.better > 0 ? `, ${formatPrice(e.better)} better than ${e.venue === 'MID' ? 'the quote' : 'asked'}` : '';

function moved(why: Why): string {
  switch (why) {
    case 'average':
      return 'follows the average entry';
    case 'breakeven':
      return 'moved to breakeven';
    case 'trail':
      return 'trails';
    case 'works':
      return 'works its price';
    default:
      return 'moved by you';
  }
}

/** Which fill closed the position. */
const closedText = ({ closedBy, nth }: Extract<Why, { closedBy: unknown }>): string =>
  closedBy === 'target'
    ? `target ${nth} filled, and the position is closed`
    : closedBy === 'stop'
      ? 'the stop filled, and the position is closed'
      : 'the position was closed';

function because({ why, role }: { why: Why; role: OrderEvent['role'] }): string {
  if (typeof why === 'object')
    return `: ${'closedBy' in why ? closedText(why) : 'exchange' in why ? why.exchange : refusalText(why.guard)}`;
  switch (why) {
    case 'you':
      return ' by you';
    case 'flatten':
      return ': flatten takes everything out';
    case 'position closed':
      return ': the position is closed';
    case 'entry rest':
      return ': the trade is flat; the rest of its entry ends';
    case 'no shares':
      return ': no shares are left for it';
    case 'stop triggered':
      return role === 'target' ? ': its stop was triggered' : ': a stop was triggered';
    case 'session over':
      return ': good for the regular session, which has ended';
    case 'day over':
      return ': a day order; the day has ended';
    case 'time over':
      return ': its time is over';
    case 'pair':
      return ': the order joined with it has filled';
    case 'contract over':
      return ': the option has expired';
    case 'not flat':
      return ': the position did not become flat';
    case 'never arrived':
      return ': the line was cut before it reached the exchange; send it again';
    case 'average':
    case 'breakeven':
    case 'trail':
    case 'works':
      return '';
    default:
      return unreachable(why);
  }
}

/** How an order that has ended came to it: `Canceled: the position is closed`, `Filled at 5.21`. */
export function endText(o: Order): string {
  if (o.phase.k !== 'ended') return statusOf(o);
  const at = o.filled > 0 ? ` at ${formatPrice(Math.round(o.notional / o.filled))}` : '';
  const part = o.filled > 0 && o.filled < o.qty ? `, ${o.filled} filled${at}` : at;
  return `${o.phase.status}${o.phase.why === null ? '' : because({ why: o.phase.why, role: o.role })}${part}`;
}

const through = (side: Side) => (side === 'buy' ? 'ask' : 'bid');

const backwardsText = (r: Extract<Refusal, { code: 'works backwards' }>): string =>
  `A ${r.side} works its price ${r.side === 'buy' ? 'up' : 'down'}: from ${formatPrice(r.from)} to ${formatPrice(r.to)} it would go away from the market. Turn them round.`;

/** Why something was refused: the rule, the value seen, and what would pass. */
export function refusalText(r: Refusal): string {
  switch (r.code) {
    case 'quantity':
      return `A size is a whole number of shares from 1 on; this is ${r.qty}.`;
    case 'bares':
      return `${r.bares.map((x) => `${x.shares} ${x.symbol}`).join(' and ')} would stand without a stop. That needs a yes: press it by hand and answer.`;
    case 'nothing to put back':
      return `Order ${r.orderId} is not a stop or a target that you took away from shares that are still held. To protect them: attach stop usual.`;
    case 'works backwards':
      return backwardsText(r);
    case 'pair against':
      return `Both could fill, and one of them would work against the other. Of a buy and a short of ${r.symbol} at least one waits as a stop: buy 100 above …, short 100 below ….`;
    case 'off tick':
      return `${formatPrice(r.price)} is not a whole number of ticks; ${formatPrice(r.down)} and ${formatPrice(r.up)} are.`;
    case 'collar':
      return `Price collar: ${formatPrice(r.limit)} is ${r.percent.toFixed(1)} % through the ${through(r.side)} ${formatPrice(r.from)}; at most ${r.mostPercent} % passes, that is ${formatPrice(r.most)}.`;
    case 'limit side':
      return `The limit ${formatPrice(r.limit)} of a ${r.side} stop must be at ${formatPrice(r.stop)} or ${r.side === 'buy' ? 'above' : 'below'}.`;
    case 'stop side':
      return `A ${r.side} stop at ${formatPrice(r.stop)} would go at once: ${r.symbol} last traded at ${formatPrice(r.last)}. Put it ${r.side === 'buy' ? 'above' : 'below'} that, or use flatten.`;
    case 'entry against':
      return r.orderId === null
        ? `You are ${r.held > 0 ? 'long' : 'short'} ${Math.abs(r.held)} ${r.symbol}; this would work against it. To get out: ${r.held > 0 ? 'sell all at bid' : 'cover all at ask'}.`
        : `Order ${r.orderId} still waits to ${r.side === 'buy' ? 'sell' : 'buy'} ${r.symbol}. Cancel it first: cancel order ${r.orderId}.`;
    case 'no borrow':
      return `No shares of ${r.symbol} can be borrowed today, so it cannot be sold short. The scan field borrow shows which can.`;
    case 'restricted':
      return `Short-sale restriction: ${r.symbol} fell 10 % or more, so shorts go only above the best bid ${formatPrice(r.bid)}. This would pass: at ${formatPrice(r.least)}.`;
    case 'market hours':
      return `Market orders work in the regular session (09:30–16:00); it is ${r.session} now. A marketable limit would do: at ${through(r.side)} ${r.side === 'buy' ? '+' : '-'} 3c extended.`;
    case 'nothing to close':
      return r.position === 0
        ? `No position in ${r.symbol} to close.`
        : `All ${r.position} ${r.symbol} are already in closing orders. Cancel one of them first: cancel last.`;
    case 'too late':
      return r.status === null
        ? `There is no order ${r.orderId}.`
        : `Too late: order ${r.orderId} is ${r.status === 'Filled' ? 'filled' : r.status.toLowerCase()} already.`;
    case 'nothing left':
      return `Order ${r.orderId}: ${r.filled} have filled, so a size of ${r.qty} leaves nothing; at least ${r.filled + 1} passes, or cancel it: cancel order ${r.orderId}.`;
    case 'plan size':
      return `Order ${r.orderId} is an exit: its size follows the shares that it protects.`;
    case 'time over':
      return `${formatTime(r.until, 'minutes')} is over; it is ${formatTime(r.now, 'minutes')}. Give a later time.`;
    default:
      return guardText(r);
  }
}
