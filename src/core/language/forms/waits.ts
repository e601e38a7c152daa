// Orders that wait for something, and orders that belong together.
import { type Chapter, flag, form, many, maybe, one, words } from '../grammar.ts';
import { ORDER_NUMBER } from '../leaves/measures.ts';
import { oneOf } from '../leaves/names.ts';

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
      task: 'Wait for',
      waits: 'when if once',
    },
  ),
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
      task: 'Wait for',
    },
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
    task: 'Enter',
  }),
} as const;

/** How blocks are written, on the reference page. */
export const WITH_BLOCKS: Chapter = {
  text: 'What stands after the colon and every line indented under it belongs to the condition and waits with it; lines that are not indented go now. When the condition comes true the lines go one after another, each priced as of that moment, and all of it is told. An order keeps the exits that stand under it. After a line that is refused no entry goes any more; cancels, moved stops and closes still do. A comma joins exits to their order and nothing else.',
  scripts: [
    {
      says: 'Flat before the close',
      text: 'when time >= 15:50:\n  cancel entries\n  flatten',
    },
    {
      says: 'At a gain of 1R half is sold, and the stop of the rest goes to breakeven',
      text: 'when gain >= 1R:\n  sell half at bid\n  move stop to breakeven',
    },
    {
      says: 'An entry with its exits, and a note, until half past ten',
      text: 'when last crosses above premarket high until 10:30:\n  buy risk 1R at ask + 3c\n    stop usual\n    target 2R\n  note "in above the pre-market high"',
    },
    {
      says: 'An order to sell a part higher goes as soon as the entry fills',
      text: 'buy 300 at ask + 2c\n  stop 20c\n  once filled: sell 100 at last + 30c',
    },
  ],
};
