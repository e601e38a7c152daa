// What is traded: a stock, an option, a vertical.
import { type Chapter, form, maybe, one, words } from '../grammar.ts';
import { DAYS, DELTA, STRIKE, STRIKES_OUT, WIDTH } from '../leaves/measures.ts';
import { oneOf, SYMBOL } from '../leaves/names.ts';
import { DATE } from '../leaves/times.ts';

export const RIGHT = oneOf('call or put', 'word', 'call', 'put');
export const ROOT = maybe('root', SYMBOL);

export const INSTRUMENTS = {
  stock: form(['instrument'], [one('symbol', SYMBOL)], {
    example: 'VULPN',
    says: 'A stock by its symbol, in capitals; one that is also a word of the language stands in quotes.',
    tried: 'buy 100 of % at ask + 2c',
  }),
  option: form(
    ['instrument'],
    [
      ROOT,
      one('expiry', 'expiry'),
      one('strike', 'strike'),
      maybe('other', 'second strike'),
      one('right', RIGHT),
    ],
    {
      example: '45 days 30 delta call',
      says: 'An option: when it expires, its strike, call or put; without a symbol on the focus. With a second strike it is a vertical: the first is traded as the sentence says, the second the other way, and its price is a net one that says credit or debit. What is relative is chosen when the order is sent, and the contract is named; when closing it means what is held.',
      aka: { calls: 'call', puts: 'put' },
    },
  ),
  'expires on': form(['expiry'], [one('date', DATE)], {
    example: '2027-04-16',
    says: 'The listed expiry of that date.',
    tried: 'close all of VULPN % 47.5 call at bid',
  }),
  'expires in': form(['expiry'], [one('days', DAYS)], {
    example: '45 days',
    says: 'The listed expiry nearest to so many days from now.',
  }),
  'strike at': form(['strike'], [one('strike', STRIKE)], {
    example: '47.5',
    says: 'That strike. One more than a quarter away from the price is asked about.',
    tried: 'close all of VULPN 2027-04-16 % call at bid',
  }),
  'strike by delta': form(['strike'], [one('delta', DELTA)], {
    example: '30 delta',
    says: 'The listed strike whose delta is nearest, in hundredths.',
  }),
  'strike at the money': form(['strike'], [words('at the money')], {
    example: 'at the money',
    says: 'The listed strike nearest to the price.',
    aka: { atm: 'at the money', nearest: 'at the money' },
  }),
  'strike out': form(['strike'], [one('out', STRIKES_OUT)], {
    example: '2 out',
    says: 'So many strikes out of the money, counted from the price.',
  }),
  over: form(['second strike'], [words('/'), one('strike', STRIKE)], {
    example: '/55',
    says: 'The other strike of a vertical.',
    tried: 'close all of VULPN 2027-04-16 50% call at mid credit',
  }),
  wide: form(['second strike'], [one('width', WIDTH)], {
    example: '5 wide',
    says: 'The other strike so many dollars further out.',
  }),
} as const;

/** How options and verticals are traded, on the reference page. */
export const WITH_OPTIONS: Chapter = {
  text: 'An option is a root (the focus where none is written), an expiry as a date or in days, a strike as a price, by its delta or by its place, and call or put; with a second strike, or so many dollars wide, it is a vertical. To open, days and deltas become the nearest contract that is listed, which the say-back names; to close they mean what is held. Prices are of one share, a contract is a hundred. A vertical goes as one order: what it pays is a debit, what it brings a credit, and the word that its legs cannot earn is refused. Options trade from 09:30 to 16:00. Flatten closes options and verticals too, short ones first.',
  scripts: [
    {
      says: 'A call of about six weeks, with a stop at half its price and a target at half more',
      text: 'buy 1 of 45 days 30 delta call at mid\n  stop 50%\n  target 50%',
    },
    {
      says: 'A vertical of ten days sold for a credit; the order that buys it back at half goes at once',
      text: 'short 2 verticals of 10 days 30 delta 1 wide put at mid credit\n  once filled: close all at half the credit gtc',
    },
    {
      says: 'The call is closed when a five-minute candle of the stock closes below vwap',
      text: 'when 5m close < vwap: close all of 45 days 30 delta call at bid',
    },
  ],
};
