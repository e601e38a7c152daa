import { CENT, formatMoney, formatPrice } from '../units/index.ts';
import type { Refusal } from './refusal.ts';

/** What the guards of an account refuse. */
export type GuardRefusal = Extract<
  Refusal,
  {
    code:
      | 'most shares'
      | 'most money'
      | 'open risk'
      | 'locked'
      | 'too many orders'
      | 'duplicate'
      | 'blocked'
      | 'no shorts'
      | 'option terms'
      | 'options approval'
      | 'needs locate'
      | 'locate size'
      | 'no locate needed'
      | 'stands behind'
      | 'exits hold'
      | 'buying power';
  }
>;

const passes = (shares: number): string =>
  shares > 0 ? `at most ${shares} shares pass` : 'nothing more passes now';

const APPROVED = {
  none: 'no options',
  long: 'calls and puts that are bought, and puts secured by cash',
  spreads: 'verticals',
};
const TERMS = {
  stop: 'A stop without a limit becomes a market order into a wide spread. Give it a limit, or let the underlying decide: when last of VULPN <= 4.50: close all of … .',
  extended:
    'Options trade from 09:30 to 16:00 only; leave out “extended”, and the order waits for the session.',
  auction: 'Options have no opening or closing auction here. Give a price, or market in the session.',
  midpoint: 'Options have no hidden midpoint. At the middle of the quote: at mid.',
};

/** Why a guard refuses: the rule, the value seen, and what would pass. */
export function guardText(r: GuardRefusal): string {
  switch (r.code) {
    case 'most shares':
      return `Guard on size: ${r.qty} shares in all; at most ${r.most} may be, so ${passes(r.room)}.`;
    case 'most money':
      return `Guard on size: ${r.symbol} would be worth ${formatMoney(r.would)}; the most is ${formatMoney(r.most)}, so ${passes(r.shares)}.`;
    case 'open risk':
      return r.perShare === null
        ? `Guard on open risk (${formatMoney(r.most)}): this has no stop, so what it may lose is not known. Add one: stop 30c.`
        : `Guard on open risk: all stops together would lose ${formatMoney(r.would)}; the most is ${formatMoney(r.most)}, so ${passes(r.shares)}.`;
    case 'locked':
      return `The day has lost ${formatMoney(r.loss)} and its limit is ${formatMoney(r.most)}: no new risk until the next day. Closing works: close all, flatten.`;
    case 'too many orders':
      return `Guard on speed: ${r.most} orders within a second is the most. Wait a second.`;
    case 'duplicate':
      return `The same order in ${r.symbol} was sent ${(r.ago / 1000).toFixed(1)} s ago. Send it again after a second, or change its size.`;
    case 'blocked':
      return `${r.symbol} is blocked${r.side === 'both' ? '' : ` for ${r.side === 'long' ? 'buying' : 'selling short'}`} in Setup. Closing works.`;
    case 'no shorts':
      return `“${r.account}” is a cash account: it sells nothing short. Use a margin account: use account "Practice margin".`;
    case 'option terms':
      return TERMS[r.what];
    case 'options approval':
      return r.needs === 'uncovered calls'
        ? `A call that is sold without cover can lose without end, so no account here may. Sell a vertical instead: short 1 vertical of … 5 wide call.`
        : `“${r.account}” may trade ${APPROVED[r.has]}; this needs ${APPROVED[r.needs]}. Setup has the approval of each account.`;
    case 'needs locate':
      return `${r.symbol} is hard to borrow: ${r.wants} shares have to be located first${r.located > 0 ? ` (${r.located} are)` : ''}, at ${Number((r.perShare / CENT).toFixed(2))}c a share, ${formatMoney(r.perShare * r.wants)} for the day; a lender has ${r.available}.`;
    case 'locate size':
      return `A lender has ${r.available} ${r.symbol} left today; ${r.wants} are asked for.`;
    case 'no locate needed':
      return r.borrow === 'easy'
        ? `${r.symbol} is easy to borrow: it needs no locate.`
        : `No shares of ${r.symbol} can be borrowed today.`;
    case 'exits hold':
      return `Exits of ${r.symbol} may still fill ${r.held} of the ${r.position} that are held. Take them back first: cancel symbol and exits.`;
    case 'stands behind': {
      const bared = r.bared.map((x) => `${x.contracts} short ${x.symbol}`).join(' and ');
      return Number.isFinite(r.needs)
        ? `${r.symbol} stands behind ${bared}: alone that needs ${formatMoney(r.needs)}, you have ${formatMoney(r.have)}. Buy back what is short first.`
        : `${r.symbol} stands behind ${bared}, and calls may not stand alone. Buy back what is short first.`;
    }
    case 'buying power':
      return `Buying power: this needs ${formatMoney(r.needs)}${r.at === null ? '' : ` (at ${formatPrice(r.at)}, the most that it may pay)`}, you have ${formatMoney(r.have)}; ${passes(r.shares)}.`;
  }
}
