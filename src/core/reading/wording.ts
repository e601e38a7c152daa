// Every sentence of the reader about why something cannot go now.
import { refusalText } from '../orders/index.ts';
import { formatPrice, formatTime, MINUTE, unreachable } from '../units/index.ts';
import { optionReasonText } from './option-words.ts';
import type { Reason } from './reasons.ts';

/** Why a sentence cannot go now: the rule, the value seen, and what would pass. */
export function reasonText(r: Reason): string {
  switch (r.code) {
    case 'no focus':
      return 'No symbol is in focus. Choose one in the scan, or write “of SYMBOL”.';
    case 'no contract':
    case 'which contract':
    case 'far strike':
    case 'leg alone':
    case 'contracts of stock':
    case 'net price':
      return optionReasonText(r);
    case 'unknown symbol':
      return `“${r.symbol}” does not trade today.`;
    case 'unknown price':
      return `“${r.text}” has no value for ${r.symbol} now. Use a price that exists, such as last or a number.`;
    case 'no pointer':
      return `Point at a price on the chart of ${r.symbol} first: “cursor” is where the pointer stands.`;
    case 'no level':
      return `There is no level “${r.name}” of ${r.symbol}${r.nearest ? `; there is “${r.nearest}”` : ''}. Set it first: level "${r.name}" at last.`;
    case 'no plan':
      return `There is no plan “${r.name}”. ${r.nearest ? `Did you mean “${r.nearest}”?` : `There are: ${r.have.map((n) => `“${n}”`).join(', ')}.`}`;
    case 'plan hours':
      return `The plan “${r.name}” is for entries from ${formatTime(r.from, 'minutes')} to ${formatTime(r.to, 'minutes')}; it is ${formatTime(r.now, 'minutes')}. Take another plan, or change its hours in Plans.`;
    case 'no account':
      return `There is no account “${r.name}”. There are: ${r.have.map((n) => `“${n}”`).join(', ')}.`;
    case 'other account':
      return `Order ${r.orderId} belongs to “${r.name}”, which is not in use. Change to it first: use account "${r.name}".`;
    case 'no ticket':
      return 'The ticket has no size. Set one: size 100, size $2,500 or size risk 1R.';
    case 'risk ticket':
      return r.wanted === 'step'
        ? 'The ticket is a risk, not shares: say the whole of it, as in size risk 2R.'
        : 'The ticket is a risk, not shares: write close 100, close half or close all.';
    case 'no measure':
      return noMeasureText(r);
    case 'no position':
      return `No position in ${r.symbol} to ${r.verb}.`;
    case 'wrong way':
      return `You are ${r.held} ${r.symbol}: ${r.right} closes it, ${r.verb} would not.`;
    case 'size zero':
      return `${r.what} buys less than one share at ${formatPrice(r.at)}. Raise it.`;
    case 'no such order':
      return `${r.which}${r.symbol ? ` in ${r.symbol}` : ''}.`;
    case 'no stop':
      return r.triggered
        ? `The stop in ${r.symbol} has triggered and is at work: flatten takes the rest out.`
        : `There is no stop in ${r.symbol} to move.`;
    case 'which of group':
      return groupText(r);
    case 'unpriced order':
      return `Order ${r.orderId} goes at market; it has no price to move.`;
    case 'wrong side of last':
      return wrongSideText(r);
    case 'wrong way of stop':
      return `A ${r.side} stop waits ${r.wanted} the market: write “${r.wanted} ${r.text}”.`;
    case 'exit side':
      return exitSideText(r);
    case 'at once':
      return `A target at ${formatPrice(r.price)} would fill at once: the quote is ${formatPrice(r.quote)}. Close at once instead, or give a price beyond the quote.`;
    case 'no room':
      return `A distance of ${formatPrice(Math.round(r.away))} from ${formatPrice(r.from)} leaves no price to close at. Use a smaller one.`;
    case 'at or away':
      return `$${formatPrice(r.units)} away from ${formatPrice(r.from)}, or at the price ${formatPrice(r.units)}? Write which one is meant.`;
    case 'a share or in all':
      return `A gain of $${formatPrice(r.units)} on each share of ${formatPrice(r.from)}, or on all of them together? Write “a share” or “in all”.`;
    case 'below zero':
      return `“${r.text}” comes to ${r.value <= -1 ? '−' : ''}${formatPrice(Math.abs(Math.round(r.value)))}; a price is above zero. Use a smaller distance.`;
    case 'after the day':
      return `${formatTime(r.time, 'minutes')} is after the day’s end at ${formatTime(r.end, 'minutes')}: nothing could go then. Give an earlier time.`;
    case 'auction time':
      return `Orders for the ${r.which === 'open' ? 'opening' : 'closing'} auction are taken until ${formatTime(r.last, 'minutes')}; it is ${formatTime(r.now, 'minutes')}. To trade now: at 3c through.`;
    case 'midpoint':
      return midpointText(r);
    case 'at last':
      return `${r.symbol} stands at ${formatPrice(r.price)} now. Set the alert above or below it: alert at last + 10c.`;
    case 'one moment':
      return `A slope needs two times; both are ${formatTime(r.time * MINUTE, 'minutes')}. Give a later second one.`;
    case 'other side':
      return `Order ${r.orderId} is to ${r.side}; a replacement keeps side and symbol.`;
    case 'nothing staged':
      return `Nothing is staged${r.symbol ? ` for ${r.symbol}` : ''}.`;
    case 'date over':
      return `${r.date} is over. Give a later date.`;
    case 'not in a pair':
      return `“one of” joins two orders that are sent at once; ${r.what} cannot be one of them.`;
    case 'true already':
      return `This is true already (${r.seen}). Do it now, or wait until it has been false once (“newly”), or change it.`;
    case 'open already':
      return 'The regular session is open: “at next open” has nothing to wait for. Leave it out, or give “at the open” for the next auction.';
    case 'waiting over':
      return `The waiting would end at ${formatTime(r.until, 'minutes')}; it is ${formatTime(r.now, 'minutes')}. Give a later end, or none: it waits for the day.`;
    case 'dead when it fires':
      return `The order would end at ${formatTime(r.life, 'minutes')}, before its condition can be true at ${formatTime(r.from, 'minutes')}. Give it a longer life, or none.`;
    case 'dead when it wakes':
      return `It would end at ${formatTime(r.life, 'minutes')}, before it wakes at ${formatTime(r.wakes, 'minutes')}. Give it a longer life, or let it work outside the regular session.`;
    case 'no such condition':
      return `No condition ${r.number} waits. ${r.have.length === 0 ? 'Nothing waits.' : `Waiting: ${r.have.join(', ')}.`}`;
    default:
      return refusalText(r);
  }
}

type Of<C extends Reason['code']> = Extract<Reason, { code: C }>;

function noMeasureText(r: Of<'no measure'>): string {
  switch (r.unit) {
    case 'R':
      return `R has no length here: ${r.symbol} has no position with a stop. Give the distance in cents or percent.`;
    case 'risk':
      return 'A risk is turned into shares by the stop, and there is none here. Add one: stop 30c.';
    case 'atr':
      return `The average true range of ${r.symbol} is not known yet. Give the distance in cents or percent.`;
    default:
      return unreachable(r.unit);
  }
}

function groupText({ what, others, symbol, bare: [alone, all] }: Of<'which of group'>): string {
  const left = (shares: number) => `${shares} ${symbol} without a stop`;
  const joined = `${what} belongs together with ${others.join('; ')}. Only this one, or all of them?`;
  if (all === 0) return joined;
  return alone === all
    ? `${joined} Either leaves ${left(all)}.`
    : `${joined} ${alone === 0 ? '' : `This one leaves ${left(alone)}. `}All of them leave ${left(all)}.`;
}

function midpointText(r: Of<'midpoint'>): string {
  if (r.why === 'session')
    return `Midpoint orders work in the regular session; it is ${r.what} now. A limit at the midpoint would do: at mid extended.`;
  return r.why === 'halt'
    ? `${r.symbol} is in a ${r.what}; there is no midpoint until it reopens. Join the reopening with a limit order.`
    : `${r.symbol} is quoted on one side only, so it has no midpoint.`;
}

function wrongSideText(r: Of<'wrong side of last'>): string {
  const [way, other] = r.side === 'buy' ? ['above', 'below'] : ['below', 'above'];
  const stop = formatPrice(r.stop);
  const named = r.text === stop ? stop : `${r.text} (${stop})`;
  const where = r.stop === r.last ? 'at' : other;
  return `A ${r.side} stop waits ${way} the market; ${named} is ${where} the last price ${formatPrice(r.last)}. A limit there rests: at ${stop}.`;
}

function exitSideText(r: Of<'exit side'>): string {
  const [price, from, side] = [formatPrice(r.price), formatPrice(r.from), r.above ? 'above' : 'below'];
  return r.what === 'stop'
    ? `The stop ${price} must be ${side} ${from}, or it would go at once.`
    : `The target ${price} must be ${side} the entry at ${from}, or it would go at once at a loss. For an exit there, write a stop.`;
}
