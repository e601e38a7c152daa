// Orders that wait for something, and orders that belong together.
import { flag, form, many, maybe, one, words } from './grammar.ts';
import {
  CHOICE,
  CHOICE_FIELD,
  FIELD_VALUE,
  FLAG_FIELD,
  MEASURED_FIELD,
  MONEY,
  ORDER_NUMBER,
  oneOf,
  SYMBOL,
  TIME,
} from './leaves.ts';
import { REFERENCE } from './reference-leaf.ts';

const OP = oneOf('a comparison: >, >=, < or <=', 'word', '>', '>=', '<', '<=');
const OF = maybe('symbol', SYMBOL, 'of');

export const WAITS = {
  when: form(
    ['statement'],
    [
      words('when'),
      flag('newly'),
      one('condition', 'condition'),
      maybe('until', 'wait end'),
      words(':'),
      many('actions', 'action', 'block'),
    ],
    {
      example: 'when 3m close > premarket high until 11:00: buy risk $60 at market with plan "two steps"',
      says: 'Waits for a condition, for the day unless an end is given, and then does what stands behind the colon, or on the lines under it, one after another, each priced as of that moment. After a line that is refused no entry goes any more; cancels, moved stops and closes still do. With “newly” it fires only after the whole of it has been false once.',
      aka: { once: 'when', if: 'when' },
    },
  ),
  'until cancelled': form(['wait end'], [words('until cancelled')], {
    example: 'until cancelled',
    says: 'Waits through the nights until it is taken back.',
  }),
  'waiting order': form(
    ['statement'],
    [
      one('what', oneOf('pause, resume or cancel', 'verb', 'pause', 'resume', 'cancel')),
      words('condition'),
      one('number', ORDER_NUMBER),
    ],
    {
      example: 'pause condition 3',
      says: 'Pauses a waiting order: it goes on seeing and does not fire. Resumes it, or takes it back.',
    },
  ),
} as const;

export const CONDITIONS = {
  'any condition': form(['condition'], [many('of', 'condition part', 'or')], {
    example: 'last >= 5.60 or change > 12%',
    says: 'One of them holds.',
    collapses: true,
  }),
  'all conditions': form(['condition part'], [many('of', 'condition clause', 'and')], {
    example: 'last >= 5.60 and volume > 2M',
    says: 'All of them hold; “and” binds tighter than “or”.',
    collapses: true,
  }),
  'not condition': form(['condition clause'], [words('not'), one('of', 'condition clause')], {
    example: 'not restricted',
    says: 'It does not hold.',
  }),
  'price is': form(['condition clause'], [one('left', REFERENCE), OF, one('op', OP), one('right', 'price')], {
    example: 'last of ORBNT >= 48.50',
    says: 'Compares a price with another, at each trade and quote. One of a candle (3m close) is looked at when that candle has finished, and only if it traded.',
  }),
  'price crosses': form(
    ['condition clause'],
    [
      one('left', REFERENCE),
      OF,
      words('crosses'),
      one('way', oneOf('above or below', 'word', 'above', 'below')),
      one('right', 'price'),
    ],
    {
      example: 'last crosses above vwap',
      says: 'At or beyond a price after having been on its other side.',
    },
  ),
  'price between': form(
    ['condition clause'],
    [one('left', REFERENCE), OF, words('between'), one('low', 'price'), words('and'), one('high', 'price')],
    { example: 'last between 5.20 and 5.40', says: 'From the one price to the other, both included.' },
  ),
  'field of': form(
    ['condition clause'],
    [one('field', MEASURED_FIELD), words('of'), one('symbol', SYMBOL), one('op', OP), one('to', FIELD_VALUE)],
    { example: 'change of ORBNT > 12%', says: 'Compares a field of another symbol.' },
  ),
  'field between of': form(
    ['condition clause'],
    [
      one('field', MEASURED_FIELD),
      words('of'),
      one('symbol', SYMBOL),
      words('between'),
      one('low', FIELD_VALUE),
      words('and'),
      one('high', FIELD_VALUE),
    ],
    {
      example: 'price of ORBNT between 2 and 20',
      says: 'A field of another symbol lies between two values.',
    },
  ),
  'choice of': form(
    ['condition clause'],
    [
      one('field', CHOICE_FIELD),
      words('of'),
      one('symbol', SYMBOL),
      words('is'),
      flag('not'),
      one('choice', CHOICE),
    ],
    { example: 'borrow of ORBNT is not none', says: 'One of the choices of a field of another symbol.' },
  ),
  'flag of': form(['condition clause'], [one('field', FLAG_FIELD), words('of'), one('symbol', SYMBOL)], {
    example: 'restricted of ORBNT',
    says: 'A field of another symbol that is yes or no.',
  }),
  'gain is': form(
    ['condition clause'],
    [one('what', oneOf('gain or loss', 'word', 'gain', 'loss')), words('>='), one('profit', 'profit')],
    {
      example: 'gain >= 2R',
      says: 'What the open trade of the order’s symbol has made, or lost, before costs.',
    },
  ),
  'a share': form(['profit', 'gain'], [one('by', 'distance'), words('a share')], {
    example: '30c a share',
    says: 'For each share.',
  }),
  'in all': form(['profit', 'gain'], [one('money', MONEY), words('in all')], {
    example: '$40 in all',
    says: 'For the whole position; of an exit’s gain, for all shares that it is for.',
  }),
  'time is': form(
    ['condition clause'],
    [words('time'), one('op', oneOf('>= or <', 'word', '>=', '<')), one('time', TIME)],
    { example: 'time >= 09:45', says: 'From a time of day on, or before it.' },
  ),
} as const;

export const CHAINS = {
  'once filled': form(['chained'], [words('once filled :'), many('orders', 'order', 'block')], {
    example: 'once filled: close all at ask + 20c',
    says: 'Stands under its order and belongs to it alone: goes as that order fills, each time for what has filled.',
    aka: { 'when filled': 'once filled' },
  }),
  'once filled when': form(
    ['chained'],
    [
      words('once filled when'),
      one('condition', 'condition'),
      maybe('until', 'wait end'),
      words(':'),
      many('orders', 'order', 'block'),
    ],
    {
      example: 'once filled when last >= 48.50 until cancelled: close all at bid - 5c',
      says: 'Stands under its order: from that order’s first fill on it waits for the condition, and ends with the trade. Of an option a bare price is the underlying’s.',
    },
  ),
  'one of': form(['statement'], [words('one of'), many('of', 'order', 'lines')], {
    example: 'one of\n  buy 200 above 5.60\n  short 200 below 5.20',
    says: 'Two orders, indented under it: a fill of one takes as much from the other. Of a buy and a short of one symbol at least one is a stop, and the first to fill or to trigger ends the other.',
    aka: { oco: 'one of' },
  }),
} as const;
