// Sentences about orders that work and shares that are held.
import { flag, form, maybe, one, words } from '../grammar.ts';
import { ORDER_NUMBER, SHARES } from '../leaves/measures.ts';
import { oneOf, PLAN_NAME, SYMBOL } from '../leaves/names.ts';
import { PART_OF_PLAN } from '../leaves/parts.ts';
import { ANY, EXITS, LIFE, UP_DOWN } from './shared.ts';

export const MANAGING = {
  'move stop': form(['statement', 'action'], [words('move stop'), ANY, one('how', 'stop move')], {
    example: 'move stop to breakeven',
    says: 'Moves the stops of the position that wait. They stay where the market does not trigger them at once.',
    aka: {
      'raise stop to': 'move stop to',
      'lower stop to': 'move stop to',
      'raise stop by': 'move stop up',
      'lower stop by': 'move stop down',
      'set stop': 'move stop',
      'stop to': 'move stop to',
      'tighten stop to': 'move stop to',
      'tighten stop by': 'move stop by',
      'tighten stop': 'move stop by',
      'stop loss to': 'move stop to',
      'raise stop': 'move stop up',
      'lower stop': 'move stop down',
      'stop up': 'move stop up',
      'stop down': 'move stop down',
      breakeven: 'move stop to breakeven',
      'break even': 'move stop to breakeven',
    },
    task: 'Move a stop or an order',
  }),
  'move order': form(
    ['statement', 'action'],
    [words('move'), one('order', 'which order'), one('how', 'order move')],
    {
      example: 'move last order up 1c',
      says: 'Moves an order to a price, by a distance, or to another size; a stop takes its limit along. The last order is the newest entry or close of the focus, working or staged.',
      aka: { modify: 'move', change: 'move', replace: 'move' },
      task: 'Move a stop or an order',
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
    {
      example: 'move targets up 5c',
      says: 'Moves all entries, or all targets, of the focus by a distance.',
      aka: { 'move target': 'move targets' },
      task: 'Move a stop or an order',
    },
  ),
  'move all to': form(
    ['statement', 'action'],
    [
      words('move'),
      one('which', oneOf('entries or targets', 'word', 'entries', 'targets')),
      ANY,
      words('to'),
      one('price', 'price'),
    ],
    {
      example: 'move targets to day high - 2c',
      says: 'Moves all entries, or all targets, of the focus to a price.',
      task: 'Move a stop or an order',
    },
  ),
  'replace last': form(
    ['statement'],
    [words('replace last'), ANY, words('with'), one('order', 'replacement')],
    {
      example: 'replace last with buy 300 at bid',
      says: 'Gives the last order another price and size: the size is the total with what has filled. Its exits stay; side and symbol cannot change.',
      task: 'Move a stop or an order',
      purpose: 'in',
    },
  ),
  'replace order': form(
    ['statement'],
    [words('replace order'), one('number', ORDER_NUMBER), words('with'), one('order', 'replacement')],
    {
      example: 'replace order 14 with buy 300 at ask + 1c',
      says: 'The same for the order with that number.',
      task: 'Move a stop or an order',
      purpose: 'in',
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
    task: 'Cancel',
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
      task: 'Cancel',
    },
  ),
  'put back': form(['statement'], [words('put back order'), one('number', ORDER_NUMBER)], {
    example: 'put back order 14',
    says: 'Puts a stop or a target back that you took away, where it stood, as long as its shares are held. A stop that the price has passed asks first: it would go at once.',
    task: 'Cancel',
    purpose: 'protect',
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
      aka: {
        'cancel buy orders': 'cancel entries',
        'cancel my orders': 'cancel entries',
        'cancel buys': 'cancel entries',
        'cancel orders': 'cancel entries',
        'cancel entry': 'cancel entries',
        'cancel exit': 'cancel exits',
        'cancel target': 'cancel targets',
        'cancel all entries': 'cancel entries',
        'cancel all exits': 'cancel exits',
        'cancel all stops': 'cancel stops',
        'cancel all targets': 'cancel targets',
      },
      task: 'Cancel',
    },
  ),
  'cancel symbol': form(['statement', 'action'], [words('cancel symbol'), ANY, flag('exits', 'and exits')], {
    example: 'cancel symbol',
    says: 'Takes back entries, closes and targets of the focus. Stops stay unless “and exits” says otherwise.',
    aka: { 'cancel all': 'cancel symbol' },
    task: 'Cancel',
  }),
  'cancel everything': form(
    ['statement', 'action'],
    [words('cancel everything'), flag('exits', 'and exits')],
    {
      example: 'cancel everything',
      says: 'Takes back entries, closes and targets of every symbol. Stops stay unless “and exits” says otherwise.',
      aka: { 'cancel all orders': 'cancel everything', 'cancel all': 'cancel everything' },
      task: 'Cancel',
    },
  ),
  flatten: form(['statement', 'action'], [words('flatten'), ANY], {
    example: 'flatten',
    says: 'Out of the symbol: entries, closes and staged orders end, exits give way, all shares go, at market or outside regular hours by a collared limit.',
    aka: {
      'get me out': 'flatten',
      'get out': 'flatten',
      'get flat': 'flatten',
      'go flat': 'flatten',
      'close position': 'flatten',
      panic: 'flatten',
      liquidate: 'flatten',
      'flatten all': 'flatten',
      exit: 'flatten',
      out: 'flatten',
    },
    task: 'Exit',
    takes: 'flatten',
  }),
  'flatten everything': form(
    ['statement', 'action'],
    [words('flatten everything'), flag('everywhere', 'in all accounts')],
    {
      example: 'flatten everything',
      says: 'Flattens every symbol, in the account in use or in all of them.',
      aka: { 'flatten all': 'flatten everything' },
      task: 'Exit',
    },
  ),
  attach: form(['statement', 'action'], [words('attach'), ANY, maybe('part', PART_OF_PLAN, 'to'), EXITS], {
    example: 'attach to half\n  stop 20c\n  target 1R',
    says: 'Puts exits on shares that are held: the unprotected ones first, then instead of what is there. Where no stop is named, the one that is there stays. Distances run from the average.',
    aka: { bracket: 'attach', protect: 'attach' },
    task: 'Protect',
  }),
  'attach plan': form(
    ['statement', 'action'],
    [words('attach'), ANY, words('plan'), one('plan', PLAN_NAME), maybe('part', PART_OF_PLAN, 'to')],
    {
      example: 'attach plan "two steps" to half',
      says: 'Puts a plan by its name on shares that are held.',
      task: 'Protect',
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
      task: 'Wait for',
      purpose: 'in',
      takes: 'send',
      waits: 'staged',
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
    turns: 'up down',
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
