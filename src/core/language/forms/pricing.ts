// How an order is priced, and how long it lives.
import { flag, form, maybe, one, words } from '../grammar.ts';
import { ACCOUNT_NAME, oneOf } from '../leaves/names.ts';
import { MINUTES, SECONDS } from '../leaves/times.ts';
import { SEEN } from './shared.ts';

/** What is said of both ways. */
const EITHER_WAY = ['above', 'below'];

export const PRICING = {
  market: form(['pricing'], [words('at market')], {
    example: 'at market',
    says: 'Takes what is there, up to the collar; regular session only.',
    aka: { market: 'at market', mkt: 'at market', 'at mkt': 'at market' },
    takes: 'market',
  }),
  limit: form(['pricing'], [words('at'), one('price', 'price'), flag('credit'), flag('debit')], {
    example: 'at ask + 3c',
    says: 'That price or better. The net price of a vertical says whether it is received (credit) or paid (debit).',
    aka: {
      'at limit': 'at',
      'limit at': 'at',
      limit: 'at',
      lmt: 'at',
      '@': 'at',
      'on the bid': 'at bid',
      'on bid': 'at bid',
      'on the ask': 'at ask',
      'on ask': 'at ask',
    },
    turns: 'credit debit',
    waits: 'limit',
  }),
  through: form(['pricing'], [words('at'), one('by', 'offset'), words('through')], {
    example: 'at 3c through',
    says: 'A limit so far past the quote that it takes: ask + 3c for a buy, bid - 3c for a sale.',
    takes: 'through',
  }),
  'stop order': form(
    ['pricing'],
    [
      one('way', oneOf('above or below', 'word', 'above', 'below')),
      one('trigger', 'price'),
      maybe('on', SEEN, 'on'),
      maybe('room', 'room', 'limit'),
    ],
    {
      example: 'above day high + 4c limit 6c beyond',
      says: 'Waits until a price is reached, then goes at market, or as a limit.',
      aka: {
        'when it breaks': EITHER_WAY,
        'if it breaks': EITHER_WAY,
        'on a break of': EITHER_WAY,
        'on break above': 'above',
        'on break below': 'below',
        over: 'above',
        under: 'below',
        'on break of': EITHER_WAY,
      },
      turns: 'above below',
      waits: 'above below',
    },
  ),
  'room price': form(['room'], [one('price', 'price')], {
    example: '9.20',
    says: 'The limit of the stop as a price.',
    aka: { 'stop limit': 'limit' },
  }),
  'room beyond': form(['room', 'exit room'], [one('by', 'distance'), words('beyond')], {
    example: '6c beyond',
    says: 'The limit of the stop so far beyond it.',
  }),
  trailing: form(['pricing'], [words('trailing'), one('by', 'distance'), maybe('after', 'gain', 'after')], {
    example: 'trailing 0.5 atr',
    says: 'Closes by a stop that follows the best price at a distance and only tightens.',
    aka: { 'trailing stop': 'trailing' },
    waits: 'trailing',
    tried: 'close all %',
  }),
  'hidden mid': form(['pricing'], [words('at mid hidden')], {
    example: 'at mid hidden',
    says: 'Rests unseen at the midpoint; regular session, for the day, ioc or fok.',
    waits: 'hidden',
  }),
  sweep: form(['pricing'], [words('sweep mid at'), one('price', 'price')], {
    example: 'sweep mid at ask + 2c',
    says: 'Takes the midpoint first and the lit book up to a price after it.',
  }),
  working: form(
    ['pricing'],
    [
      words('at'),
      one('from', 'price'),
      words('working to'),
      one('to', 'price'),
      words('within'),
      one('seconds', SECONDS),
    ],
    {
      example: 'at bid working to ask + 2c within 20s',
      says: 'A limit that starts at one price and steps evenly toward another, never beyond it; both are numbers when it is sent.',
      aka: { chase: 'working to' },
    },
  ),
  auction: form(
    ['pricing'],
    [
      words('at the'),
      one('which', oneOf('open or close', 'word', 'open', 'close')),
      maybe('price', 'price', 'limit'),
    ],
    {
      example: 'at the open limit 4.20',
      says: 'Joins the opening or closing auction and ends with it; taken until 09:28, and until ten minutes before the close.',
      aka: { moo: 'at the open', moc: 'at the close', 'on open': 'at the open', 'on close': 'at the close' },
      waits: 'open',
    },
  ),
} as const;

export const LIVES = {
  day: form(['life'], [words('day')], {
    example: 'day',
    says: 'For the day, as without a word.',
    aka: { 'good for day': 'day', 'good for the day': 'day' },
  }),
  gtc: form(['life'], [words('gtc')], {
    example: 'gtc',
    says: 'Works until it is canceled; survives the night.',
    aka: { 'good till canceled': 'gtc', 'good till cancelled': 'gtc' },
  }),
  ioc: form(['life'], [words('ioc')], {
    example: 'ioc',
    says: 'Takes what there is at once; the rest ends.',
    takes: 'ioc',
  }),
  fok: form(['life'], [words('fok')], { example: 'fok', says: 'All at once, or nothing.', takes: 'fok' }),
  'for seconds': form(['life'], [words('for'), one('seconds', SECONDS)], {
    example: 'for 20s',
    says: 'Ends so many seconds after it is sent.',
    aka: { within: 'for' },
  }),
  'for minutes': form(['life'], [words('for'), one('minutes', MINUTES)], {
    example: 'for 10 minutes',
    says: 'Ends so many minutes after it is sent.',
  }),
  'at next open': form(['life'], [words('at next open')], {
    example: 'at next open',
    says: 'Outside the regular session: sleeps until it opens, and is not asked about.',
  }),
  'post only': form(['life'], [words('post only')], {
    example: 'post only',
    says: 'Refused rather than taking what rests at the exchange.',
    tried: 'buy 100 at bid - 1c %\n  stop 30c',
  }),
  account: form(['life'], [words('account'), one('name', ACCOUNT_NAME)], {
    example: 'account "Practice cash"',
    says: 'In that account, whichever is in use.',
  }),
  'extended hours': form(['life'], [words('extended')], {
    example: 'extended',
    aka: { 'outside hours': 'extended', 'after hours': 'extended' },
    says: 'Works outside 09:30–16:00 as well, and so do its exits.',
  }),
} as const;
