import { CHAINS, CONDITIONS, WAITS } from './condition-forms.ts';
import { type Declared, flag, form, many, maybe, one, type Part, type Slot, words } from './grammar.ts';
import { INSTRUMENT } from './instrument-leaf.ts';
import {
  ACCOUNT_NAME,
  ATRS,
  CANDLE,
  CENTS,
  CHOICE,
  CHOICE_FIELD,
  CONTRACTS,
  DATE,
  DOLLARS,
  FIELD_VALUE,
  FLAG_FIELD,
  LEVEL_NAME,
  MEASURED_FIELD,
  MONEY,
  NOTE,
  ORDER_NUMBER,
  oneOf,
  PART,
  PART_OF_PLAN,
  PERCENT,
  PLAN_NAME,
  PRICE,
  RANGE_MINUTES,
  RS,
  SECONDS,
  SHARE_OF_POWER,
  SHARES,
  SHARES_OR_NONE,
  SYMBOL,
  TARGET_NUMBER,
  TICKS,
  TIME,
} from './leaves.ts';
import { REFERENCE } from './reference-leaf.ts';

const OF = maybe('symbol', SYMBOL, 'of');
/** Of a stock, an option or a vertical. */
const ANY = maybe('symbol', INSTRUMENT, 'of');
const STAGED = flag('staged', 'stage');
const LIFE = many('life', 'life', 'once each');
const EXITS = many('exits', 'exit', 'lines');
const THEN = many('chain', 'chained', 'lines');
const PLAN = maybe('plan', PLAN_NAME, 'with plan');
const FOR = maybe('part', PART_OF_PLAN, 'for');
const SIDE_UP = oneOf('above or below', 'word', 'above', 'below');
const UP_DOWN = oneOf('up or down', 'word', 'up', 'down');
const SEEN = oneOf('what triggers it: bid, ask or last', 'word', 'bid', 'ask', 'last');

const ORDERS = {
  enter: form(
    ['statement', 'action', 'order'],
    [
      STAGED,
      one('verb', oneOf('buy or short', 'verb', 'buy', 'short')),
      one('size', 'entry size'),
      ANY,
      one('pricing', 'pricing'),
      LIFE,
      PLAN,
      EXITS,
      THEN,
    ],
    {
      example: 'buy risk 1R at ask + 3c extended\n  stop 30c\n  target 1R for half',
      says: 'Opens a position or adds to one, with the exits that belong to it.',
      aka: { long: 'buy', 'sell short': 'short', 'sell to open': 'short', 'buy to open': 'buy' },
    },
  ),
  add: form(
    ['statement', 'action', 'order'],
    [
      STAGED,
      words('add'),
      one('size', 'add size'),
      ANY,
      maybe('pricing', 'pricing'),
      LIFE,
      PLAN,
      EXITS,
      THEN,
    ],
    {
      example: 'add all at bid',
      says: 'Adds to the open position in its own direction; a part is of what is held, so “add all” adds as much again. The new shares come under the exits of the position.',
      aka: { double: 'add all', 'scale in': 'add half' },
    },
  ),
  close: form(
    ['statement', 'action', 'order'],
    [
      STAGED,
      one('verb', oneOf('sell, cover or close', 'verb', 'sell', 'cover', 'close')),
      one('size', 'close size'),
      ANY,
      flag('alone', 'alone'),
      maybe('pricing', 'pricing'),
      LIFE,
      THEN,
    ],
    {
      example: 'close half at ask',
      says: 'Closes, and never more than is held: sell what is long, cover what is short, close either. Without a price it goes at usual through. “alone” takes one leg of a vertical that is held, which comes apart by it.',
      aka: { 'buy to cover': 'cover', 'buy to close': 'cover', 'sell to close': 'sell', exit: 'close' },
    },
  ),
  reverse: form(['statement', 'action'], [words('reverse'), ANY, PLAN, EXITS], {
    example: 'reverse',
    says: 'Turns the position: flattens it and opens as many shares the other way, under the active plan unless another is given.',
    aka: { flip: 'reverse' },
  }),
  'move stop': form(['statement', 'action'], [words('move stop'), ANY, one('how', 'stop move')], {
    example: 'move stop to breakeven',
    says: 'Moves the stops of the position that wait. They stay where the market does not trigger them at once.',
    aka: { 'raise stop': 'move stop up', 'lower stop': 'move stop down' },
  }),
  'move order': form(
    ['statement', 'action'],
    [words('move'), one('order', 'which order'), one('how', 'order move')],
    {
      example: 'move last order up 1c',
      says: 'Moves an order to a price, by a distance, or to another size; a stop takes its limit along. The last order is the newest entry or close of the focus, working or staged.',
      aka: { modify: 'move', change: 'move', replace: 'move' },
    },
  ),
  'move all': form(
    ['statement', 'action'],
    [
      words('move'),
      one('which', oneOf('entries or targets', 'word', 'entries', 'targets')),
      ANY,
      one('way', UP_DOWN),
      one('by', 'distance'),
    ],
    { example: 'move targets up 5c', says: 'Moves all entries, or all targets, of the focus by a distance.' },
  ),
  'replace last': form(
    ['statement'],
    [words('replace last'), ANY, words('with'), one('order', 'replacement')],
    {
      example: 'replace last with buy 300 at bid',
      says: 'Gives the last order another price and size: the size is the total with what has filled. Its exits stay; side and symbol cannot change.',
    },
  ),
  'replace order': form(
    ['statement'],
    [words('replace order'), one('number', ORDER_NUMBER), words('with'), one('order', 'replacement')],
    {
      example: 'replace order 14 with buy 300 at ask + 1c',
      says: 'The same for the order with that number.',
    },
  ),
  replacement: form(
    ['replacement'],
    [
      one(
        'verb',
        oneOf(
          'buy, short, sell, cover, close or add',
          'verb',
          'buy',
          'short',
          'sell',
          'cover',
          'close',
          'add',
        ),
      ),
      one('size', 'add size'),
      one('pricing', 'pricing'),
      LIFE,
    ],
    {
      example: 'buy 300 at bid',
      says: 'The size in all, the price, and the life. Another kind, life or route is called back from the exchange first and goes anew; its exits stay.',
    },
  ),
  'cancel last': form(['statement', 'action'], [words('cancel last'), ANY], {
    example: 'cancel last',
    says: 'Takes back the newest entry or close of the focus, never an exit.',
    aka: { 'cancel last order': 'cancel last' },
  }),
  'cancel order': form(
    ['statement', 'action'],
    [
      words('cancel order'),
      one('number', ORDER_NUMBER),
      flag('alone', 'alone'),
      flag('group', 'and its group'),
    ],
    {
      example: 'cancel order 14',
      says: 'Takes back the order with that number. Where others belong to it (the exits of the same shares, the one it is joined with) it asks: “alone”, or “and its group”. The last stop of shares goes only after a yes.',
    },
  ),
  'put back': form(['statement'], [words('put back order'), one('number', ORDER_NUMBER)], {
    example: 'put back order 14',
    says: 'Puts a stop or a target back that you took away, where it stood, as long as its shares are held. A stop that the price has passed asks first: it would go at once.',
  }),
  'cancel some': form(
    ['statement', 'action'],
    [
      words('cancel'),
      one('which', oneOf('entries, exits, stops or targets', 'word', 'entries', 'exits', 'stops', 'targets')),
      ANY,
    ],
    {
      example: 'cancel entries',
      says: 'Takes back the entries of the focus (staged ones too), its exits, its stops, or its targets; asks where shares would stand without a stop.',
      aka: { 'cancel buys': 'cancel entries', 'cancel orders': 'cancel entries' },
    },
  ),
  'cancel symbol': form(['statement', 'action'], [words('cancel symbol'), ANY, flag('exits', 'and exits')], {
    example: 'cancel symbol',
    says: 'Takes back entries, closes and targets of the focus. Stops stay unless “and exits” says otherwise.',
  }),
  'cancel everything': form(
    ['statement', 'action'],
    [words('cancel everything'), flag('exits', 'and exits')],
    {
      example: 'cancel everything',
      says: 'Takes back entries, closes and targets of every symbol. Stops stay unless “and exits” says otherwise.',
      aka: { 'cancel all': 'cancel everything' },
    },
  ),
  flatten: form(['statement', 'action'], [words('flatten'), ANY], {
    example: 'flatten',
    says: 'Out of the symbol: entries, closes and staged orders end, exits give way, all shares go, at market or outside regular hours by a collared limit.',
    aka: { 'close position': 'flatten', panic: 'flatten', liquidate: 'flatten' },
  }),
  'flatten everything': form(
    ['statement', 'action'],
    [words('flatten everything'), flag('everywhere', 'in all accounts')],
    {
      example: 'flatten everything',
      says: 'Flattens every symbol, in the account in use or in all of them.',
      aka: { 'flatten all': 'flatten everything' },
    },
  ),
  attach: form(['statement', 'action'], [words('attach'), ANY, maybe('part', PART_OF_PLAN, 'to'), EXITS], {
    example: 'attach to half\n  stop 20c\n  target 1R',
    says: 'Puts exits on shares that are held: the unprotected ones first, then instead of what is there. Where no stop is named, the one that is there stays. Distances run from the average.',
    aka: { protect: 'attach' },
  }),
  'attach plan': form(
    ['statement', 'action'],
    [words('attach'), OF, words('plan'), one('plan', PLAN_NAME), maybe('part', PART_OF_PLAN, 'to')],
    {
      example: 'attach plan "two steps" to half',
      says: 'Puts a plan by its name on shares that are held.',
    },
  ),
  staged: form(
    ['statement', 'action'],
    [
      one('what', oneOf('send or discard', 'verb', 'send', 'discard')),
      words('staged'),
      maybe('whose', 'whose'),
    ],
    {
      example: 'send staged',
      says: 'Sends, or drops, what is staged for the focus.',
    },
  ),
  'of symbol': form(['whose'], [words('of'), one('symbol', SYMBOL)], {
    example: 'of ORBNT',
    says: 'Of that symbol.',
  }),
  'staged order': form(['whose'], [words('order'), one('number', ORDER_NUMBER)], {
    example: 'order 3',
    says: 'The staged order with that number.',
  }),
  everything: form(['whose'], [words('everything')], { example: 'everything', says: 'Of every symbol.' }),
} as const;

const ACCOUNTS = {
  'use account': form(['statement'], [words('use account'), one('name', ACCOUNT_NAME)], {
    example: 'use account "Practice cash"',
    says: 'Lets sentences act in another account from now on.',
    aka: { 'switch account': 'use account' },
  }),
  locate: form(['statement'], [words('locate'), one('shares', SHARES), OF], {
    example: 'locate 500 of VULPN',
    says: 'Asks a lender to set shares aside for the day, for a fee, so that a stock that is hard to borrow can be sold short.',
    aka: { borrow: 'locate' },
  }),
} as const;

const DESK = {
  size: form(['statement'], [words('size'), one('to', 'ticket size')], {
    example: 'size up 100',
    says: 'Sets the size that “ticket” stands for; 0 clears it.',
  }),
  'size step': form(['ticket size'], [one('way', UP_DOWN), one('shares', SHARES)], {
    example: 'up 100',
    says: 'More or fewer, in what the size is measured in: shares or dollars.',
  }),
  alert: form(['statement', 'action'], [words('alert'), OF, words('at'), one('price', 'price')], {
    example: 'alert at last + 10c',
    says: 'Tells you once, at the first trade at a price. The price is taken as it is when the alert is set.',
    aka: { notify: 'alert', alarm: 'alert' },
  }),
  'alert when': form(['statement', 'action'], [words('alert'), OF, words('when'), one('rule', 'rule')], {
    example: 'alert of QUOLS when change > 12%',
    says: 'Tells you once, when a rule turns true of a symbol.',
  }),
  tell: form(['statement', 'action'], [words('alert'), OF], {
    example: 'alert',
    says: 'Behind a condition: tells you that what it waited for has come.',
  }),
  'alert on': form(
    ['statement', 'action'],
    [words('alert'), OF, words('on'), one('on', oneOf('news or halt', 'word', 'news', 'halt'))],
    {
      example: 'alert of VULPN on halt',
      says: 'Tells you of news or halts of a symbol.',
    },
  ),
  'alert any when': form(['statement'], [words('alert any when'), one('rule', 'rule')], {
    example: 'alert any when gap > 8% and float < 20M',
    says: 'Tells you of every symbol that comes to pass a rule.',
  }),
  'alert any on': form(
    ['statement'],
    [words('alert any on'), one('on', oneOf('news or halt', 'word', 'news', 'halt'))],
    {
      example: 'alert any on halt',
      says: 'Tells you of news or halts of any symbol.',
    },
  ),
  extended: form(
    ['statement'],
    [one('what', oneOf('show, hide or toggle', 'verb', 'show', 'hide', 'toggle')), words('extended')],
    {
      example: 'toggle extended',
      says: 'Shows or hides the hours before and after the regular session on charts.',
    },
  ),
  'focus next': form(
    ['statement'],
    [words('focus'), one('which', oneOf('next or previous', 'word', 'next', 'previous'))],
    {
      example: 'focus next',
      says: 'Puts the next or the previous symbol of the list on screen into focus.',
    },
  ),
  focus: form(['statement'], [words('focus'), one('symbol', SYMBOL)], {
    example: 'focus ORBNT',
    says: 'Puts a symbol into focus everywhere. Lines after it speak of that symbol.',
  }),
  note: form(['statement', 'action'], [words('note'), one('text', NOTE)], {
    example: 'note "too early"',
    says: 'Writes a note into the journal, beside the focus’s trade.',
  }),
  level: form(
    ['statement'],
    [words('level'), one('name', LEVEL_NAME), OF, words('at'), one('price', 'price')],
    {
      example: 'level "lid" at day high',
      says: 'Names a price of a symbol, for orders, alerts and the chart. It stays where it is set.',
    },
  ),
  'sloping level': form(
    ['statement'],
    [
      words('level'),
      one('name', LEVEL_NAME),
      OF,
      words('from'),
      one('price', 'price'),
      words('at'),
      one('time', TIME),
      words('to'),
      one('price2', 'price'),
      words('at'),
      one('time2', TIME),
    ],
    {
      example: 'level "slope" from 9.40 at 09:35 to 9.70 at 10:05',
      says: 'Names a price that moves with the time: the trend line through two points of today.',
    },
  ),
  'drop level': form(['statement'], [words('discard level'), one('name', LEVEL_NAME), OF], {
    example: 'discard level "lid"',
    says: 'Forgets a level of a symbol.',
  }),
  'open chain': form(['statement'], [words('open chain')], {
    example: 'open chain',
    says: 'Shows the options of the focus.',
  }),
  'clear drawings': form(['statement'], [words('clear drawings')], {
    example: 'clear drawings',
    says: 'Takes everything that was drawn off the chart of the focus, its named levels too; the chart can undo it.',
  }),
} as const;

const SIZES = {
  shares: form(['entry size', 'add size', 'close size'], [one('shares', SHARES)], {
    example: '400',
    says: 'So many shares.',
  }),
  contracts: form(
    ['entry size', 'add size', 'close size'],
    [
      one('contracts', CONTRACTS),
      one('unit', oneOf('contracts or verticals', 'word', 'contracts', 'contract', 'verticals', 'vertical')),
    ],
    {
      example: '2 contracts',
      says: 'So many options of 100 shares each, or so many verticals. The size of an option without the word means the same.',
    },
  ),
  money: form(['entry size', 'add size', 'close size', 'ticket size'], [one('money', MONEY)], {
    example: '$2,500',
    says: 'Whole shares for an amount of money, rounded down.',
  }),
  risk: form(['entry size', 'add size', 'ticket size'], [words('risk'), one('r', RS)], {
    example: 'risk 1R',
    says: 'So many shares that the stop costs so many of the account’s risk units.',
  }),
  'risk money': form(['entry size', 'add size', 'ticket size'], [words('risk'), one('money', MONEY)], {
    example: 'risk $60',
    says: 'So many shares that the stop costs an amount of money.',
  }),
  power: form(['entry size', 'add size'], [one('percent', SHARE_OF_POWER), words('of power')], {
    example: '20% of power',
    says: 'Whole shares for a part of the buying power.',
  }),
  ticket: form(['entry size', 'add size', 'close size'], [words('ticket')], {
    example: 'ticket',
    says: 'What the size of the ticket says.',
  }),
  part: form(['close size', 'add size'], [one('part', PART)], {
    example: 'half',
    says: 'A part of what is held; what closing orders hold already is left to them.',
    aka: { everything: 'all', full: 'all', 'the rest': 'rest' },
  }),
  'some shares': form(['ticket size'], [one('shares', SHARES_OR_NONE)], {
    example: '400',
    says: 'So many shares; 0 clears the size.',
  }),
} as const;

const PRICING = {
  market: form(['pricing'], [words('at market')], {
    example: 'at market',
    says: 'Takes what is there, up to the collar; regular session only.',
    aka: { market: 'at market', mkt: 'at market' },
  }),
  limit: form(['pricing'], [words('at'), one('price', 'price'), flag('credit'), flag('debit')], {
    example: 'at ask + 3c',
    says: 'That price or better. The net price of a vertical says whether it is received (credit) or paid (debit).',
    aka: { limit: 'at', '@': 'at' },
  }),
  through: form(['pricing'], [words('at'), one('by', 'offset'), words('through')], {
    example: 'at 3c through',
    says: 'A limit so far past the quote that it takes: ask + 3c for a buy, bid - 3c for a sale.',
  }),
  stop: form(
    ['pricing'],
    [one('way', SIDE_UP), one('trigger', 'price'), maybe('on', SEEN, 'on'), maybe('room', 'room', 'limit')],
    {
      example: 'above day high + 4c limit 6c beyond',
      says: 'Waits until a price is reached, then goes at market, or as a limit.',
      aka: { over: 'above', under: 'below', 'on break of': 'above' },
    },
  ),
  'room price': form(['room'], [one('price', 'price')], {
    example: '9.20',
    says: 'The limit of the stop as a price.',
  }),
  'room beyond': form(['room', 'exit room'], [one('by', 'distance'), words('beyond')], {
    example: '6c beyond',
    says: 'The limit of the stop so far beyond it.',
  }),
  trailing: form(['pricing'], [words('trailing'), one('by', 'distance'), maybe('after', 'gain', 'after')], {
    example: 'trailing 0.5 atr',
    says: 'Closes by a stop that follows the best price at a distance and only tightens.',
    aka: { 'trailing stop': 'trailing' },
  }),
  mid: form(['pricing'], [words('at mid hidden')], {
    example: 'at mid hidden',
    says: 'Rests unseen at the midpoint; regular session, for the day, ioc or fok.',
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
      aka: { walk: 'working to', chase: 'working to' },
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
      aka: { moo: 'at the open', moc: 'at the close' },
    },
  ),
} as const;

const LIVES = {
  day: form(['life'], [words('day')], { example: 'day', says: 'For the day, as without a word.' }),
  gtc: form(['life'], [words('gtc')], {
    example: 'gtc',
    says: 'Works until it is canceled; survives the night.',
    aka: { 'good till canceled': 'gtc' },
  }),
  ioc: form(['life'], [words('ioc')], {
    example: 'ioc',
    says: 'Takes what there is at once; the rest ends.',
  }),
  fok: form(['life'], [words('fok')], { example: 'fok', says: 'All at once, or nothing.' }),
  'until time': form(['life', 'wait end'], [words('until'), one('time', TIME)], {
    example: 'until 11:00',
    says: 'Ends at that time of day.',
    aka: { till: 'until' },
  }),
  'until date': form(['life', 'wait end'], [words('until'), one('date', DATE), maybe('time', TIME)], {
    example: 'until 2026-04-17',
    says: 'Survives the nights up to that date, and ends with it or at the time given.',
  }),
  'at next open': form(['life'], [words('at next open')], {
    example: 'at next open',
    says: 'Outside the regular session: sleeps until it opens, and is not asked about.',
  }),
  'post only': form(['life'], [words('post only')], {
    example: 'post only',
    says: 'Refused rather than taking what rests at the exchange.',
  }),
  account: form(['life'], [words('account'), one('name', ACCOUNT_NAME)], {
    example: 'account "Practice cash"',
    says: 'In that account, whichever is in use.',
  }),
  'extended hours': form(['life'], [words('extended')], {
    example: 'extended',
    says: 'Works outside 09:30–16:00 as well, and so do its exits.',
  }),
} as const;

const PRICES = {
  sum: form(['price'], [one('base', 'base'), many('shifts', 'shift', 'sequence')], {
    example: 'premarket high + 10c',
    says: 'A price, moved by distances.',
    collapses: true,
  }),
  plus: form(['shift'], [words('+'), one('by', 'offset')], {
    example: '+ 3c',
    says: 'So far above.',
    aka: { plus: '+' },
  }),
  minus: form(['shift'], [words('-'), one('by', 'offset')], {
    example: '- 3c',
    says: 'So far below.',
    aka: { minus: '-' },
  }),
  number: form(['base'], [one('price', PRICE)], { example: '7.40', says: 'A price in dollars.' }),
  reference: form(['base'], [one('reference', REFERENCE)], {
    example: 'vwap',
    says: 'A price by its name; turned into a number when the order is sent or fires.',
  }),
  foreign: form(
    ['base'],
    [words('('), one('reference', REFERENCE), words('of'), one('symbol', SYMBOL), words(')')],
    {
      example: '(ask of ORBNT)',
      says: 'A price of another symbol, in brackets.',
    },
  ),
  lower: form(
    ['base'],
    [words('lower of ('), one('a', 'price'), words(') and ('), one('b', 'price'), words(')')],
    {
      example: 'lower of (vwap) and (day low + 5c)',
      says: 'The lower of two prices.',
      aka: { min: 'lower of' },
    },
  ),
  higher: form(
    ['base'],
    [words('higher of ('), one('a', 'price'), words(') and ('), one('b', 'price'), words(')')],
    {
      example: 'higher of (vwap) and (ema 9 on 2m)',
      says: 'The higher of two prices.',
      aka: { max: 'higher of' },
    },
  ),
} as const;

const OFFSETS = {
  cents: form(['offset', 'distance', 'gain'], [one('units', CENTS)], { example: '5c', says: 'Cents.' }),
  dollars: form(['offset', 'distance', 'gain'], [one('units', DOLLARS)], {
    example: '$0.05',
    says: 'Dollars.',
  }),
  ticks: form(['offset', 'distance', 'gain'], [one('ticks', TICKS)], {
    example: '3 ticks',
    says: 'Ticks: a cent from one dollar on, a hundredth of a cent below.',
  }),
  percent: form(['offset', 'distance', 'gain', 'profit'], [one('percent', PERCENT)], {
    example: '1.5%',
    says: 'Percent of the price that it is measured from.',
  }),
  atr: form(['offset', 'distance', 'gain'], [one('atrs', ATRS), maybe('on', CANDLE, 'on')], {
    example: '0.5 atr',
    says: 'Average true ranges: of 14 days, or of 14 candles with “on 5m”.',
  }),
  R: form(['offset', 'distance', 'gain', 'profit'], [one('r', RS)], {
    example: '1R',
    says: 'This trade’s own first risk a share: the distance to its stop, of several the mean by shares.',
  }),
  usual: form(['offset', 'distance'], [words('usual')], {
    example: 'usual',
    says: 'From the table of usual distances, by the price of the stock.',
  }),
  'after target': form(['gain'], [words('target'), one('number', TARGET_NUMBER)], {
    example: 'target 1',
    says: 'Once that target has filled.',
  }),
} as const;

const EXIT_FORMS = {
  'stop exit': form(
    ['exit'],
    [
      words('stop'),
      one('place', 'place'),
      FOR,
      maybe('room', 'exit room', 'limit'),
      maybe('on', SEEN, 'on'),
      flag('extended'),
    ],
    {
      example: 'stop 30c',
      says: 'Takes the shares out when the market goes against them. With “limit 6c beyond” it gives way only so far.',
      aka: { 'stop loss': 'stop', sl: 'stop' },
    },
  ),
  'target exit': form(['exit'], [words('target'), one('place', 'place'), FOR], {
    example: 'target 2R for half',
    says: 'Sells at a gain; without a part, all that is left.',
    aka: { 'take profit': 'target', tp: 'target', profit: 'target' },
  }),
  trail: form(['exit'], [words('trail'), one('reach', 'reach'), maybe('after', 'gain', 'after')], {
    example: 'trail 0.5 atr after 2R',
    says: 'Moves the stop along behind the best price, only ever tighter, from a gain on.',
    aka: { 'trailing stop': 'trail' },
  }),
  breakeven: form(
    ['exit'],
    [words('breakeven after'), one('after', 'gain'), flag('plusCosts', 'plus costs')],
    {
      example: 'breakeven after 1.2R plus costs',
      says: 'Moves the stop to the average entry once a gain is touched, or beyond it by the costs.',
      aka: { be: 'breakeven', 'break even': 'breakeven' },
    },
  ),
  'out by': form(['exit'], [words('out by'), one('time', TIME)], {
    example: 'out by 15:50',
    says: 'Takes out what is left at a time of day.',
  }),
  away: form(['place', 'reach'], [one('by', 'distance'), flag('sure', 'away')], {
    example: '30c',
    says: 'So far away, in the sensible direction for long and short. Dollars that make a quarter of the price or more might be meant as a price: $9.70 is asked about, “$9.70 away” and “at $9.70” are not.',
  }),
  at: form(['place'], [words('at'), one('price', 'price')], {
    example: 'at day low - 2c',
    says: 'At a price.',
  }),
  beyond: form(['place'], [words('beyond'), one('range', 'range'), words('by'), one('by', 'distance')], {
    example: 'beyond 1m candle by 2c',
    says: 'Beyond the far side of a range: its low for the stop of a long, its high for that of a short.',
  }),
  'beyond candles': form(
    ['reach'],
    [words('beyond'), one('range', 'candles'), words('by'), one('by', 'distance')],
    {
      example: 'beyond 1m candle by 2c',
      says: 'Beyond the far side of each finished candle.',
    },
  ),
  'candle range': form(['range', 'candles'], [one('minutes', CANDLE), words('candle')], {
    example: '1m candle',
    says: 'The last finished candle.',
  }),
  'day range': form(['range'], [one('of', oneOf('day or premarket', 'word', 'day', 'premarket'))], {
    example: 'day',
    says: 'The range of the day, or of the hours before the open.',
  }),
  'opening range': form(['range'], [words('opening range'), one('minutes', RANGE_MINUTES)], {
    example: 'opening range 5m',
    says: 'The range of the first minutes after the open.',
  }),
} as const;

const MOVES = {
  'stop to': form(['stop move'], [words('to'), one('price', 'price')], {
    example: 'to breakeven',
    says: 'To a price.',
  }),
  'stop by': form(['stop move'], [words('by'), one('by', 'distance')], {
    example: 'by 5c',
    says: 'Closer to the market by so much.',
  }),
  'stop way': form(['stop move'], [one('way', UP_DOWN), one('by', 'distance')], {
    example: 'up 5c',
    says: 'Up or down by so much.',
  }),
  'stop beyond': form(
    ['stop move'],
    [words('beyond'), one('range', 'range'), words('by'), one('by', 'distance')],
    {
      example: 'beyond 1m candle by 1c',
      says: 'Beyond the far side of a range.',
    },
  ),
  'last order': form(['which order'], [words('last order'), ANY], {
    example: 'last order',
    says: 'The newest entry or close of the focus.',
  }),
  'numbered order': form(['which order'], [words('order'), one('number', ORDER_NUMBER)], {
    example: 'order 14',
    says: 'The order with that number.',
  }),
  'order to': form(['order move'], [words('to'), one('price', 'price')], {
    example: 'to 7.21',
    says: 'To a price.',
  }),
  'order way': form(['order move'], [one('way', UP_DOWN), one('by', 'distance')], {
    example: 'up 1c',
    says: 'Up or down by so much.',
  }),
  'order size': form(
    ['order move'],
    [words('size'), one('way', oneOf('up, down or to', 'word', 'up', 'down', 'to')), one('shares', SHARES)],
    {
      example: 'size up 100',
      says: 'More shares, fewer, or so many in all.',
    },
  ),
} as const;

const RULES = {
  any: form(['rule'], [many('of', 'conjunct', 'or')], {
    example: 'gap > 8% or change > 12%',
    says: 'One of them holds.',
    collapses: true,
  }),
  all: form(['conjunct'], [many('of', 'clause', 'and')], {
    example: 'gap > 8% and float < 20M',
    says: 'All of them hold; “and” binds tighter than “or”.',
    collapses: true,
  }),
  not: form(['clause'], [words('not'), one('of', 'clause')], {
    example: 'not restricted',
    says: 'It does not hold.',
  }),
  compare: form(
    ['clause', 'condition clause'],
    [
      one('field', MEASURED_FIELD),
      one('op', oneOf('a comparison: >, >=, < or <=', 'word', '>', '>=', '<', '<=')),
      one('to', FIELD_VALUE),
    ],
    {
      example: 'gap > 8%',
      says: 'Compares a field with a value; one that is not known passes no comparison.',
      aka: { rvol: 'relative volume', 'rel vol': 'relative volume' },
    },
  ),
  between: form(
    ['clause', 'condition clause'],
    [
      one('field', MEASURED_FIELD),
      words('between'),
      one('low', FIELD_VALUE),
      words('and'),
      one('high', FIELD_VALUE),
    ],
    {
      example: 'price between 2 and 20',
      says: 'From the one to the other, both included.',
    },
  ),
  is: form(
    ['clause', 'condition clause'],
    [one('field', CHOICE_FIELD), words('is'), flag('not'), one('choice', CHOICE)],
    {
      example: 'borrow is not none',
      says: 'Is, or is not, one of the choices of a field.',
    },
  ),
  flag: form(['clause', 'condition clause'], [one('field', FLAG_FIELD)], {
    example: 'options listed',
    says: 'A field that is yes or no.',
  }),
} as const;

/** Every form of the language, by its kind. From this alone come parser, printer, marks, completion, rows and the reference page. */
export const FORMS = {
  ...ORDERS,
  ...ACCOUNTS,
  ...DESK,
  ...SIZES,
  ...PRICING,
  ...LIVES,
  ...PRICES,
  ...OFFSETS,
  ...EXIT_FORMS,
  ...MOVES,
  ...RULES,
  ...WAITS,
  ...CONDITIONS,
  ...CHAINS,
} as const satisfies Readonly<Record<string, Declared<readonly Slot[], readonly Part[]>>>;

/** The forms in groups, as the reference page shows them. */
export const GROUPS: readonly { name: string; kinds: readonly string[] }[] = [
  { name: 'Orders', kinds: ['enter', 'add', 'close', 'reverse'] },
  { name: 'Sizes', kinds: Object.keys(SIZES) },
  { name: 'How an order is priced', kinds: Object.keys(PRICING) },
  { name: 'How long it lives', kinds: Object.keys(LIVES) },
  { name: 'Prices', kinds: Object.keys(PRICES) },
  { name: 'Distances', kinds: Object.keys(OFFSETS) },
  { name: 'Exits', kinds: Object.keys(EXIT_FORMS) },
  { name: 'Orders that wait', kinds: [...Object.keys(WAITS), ...Object.keys(CONDITIONS)] },
  { name: 'Orders that belong together', kinds: Object.keys(CHAINS) },
  { name: 'Managing what works', kinds: [...Object.keys(ORDERS).slice(4), ...Object.keys(MOVES)] },
  { name: 'Accounts', kinds: Object.keys(ACCOUNTS) },
  { name: 'The desk', kinds: Object.keys(DESK) },
  { name: 'Rules', kinds: Object.keys(RULES) },
];
