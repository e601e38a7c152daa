// What can be true or not: of scans and alerts, of what waits, of rehearsals. One grammar; what a place cannot know it refuses.
import { flag, form, many, maybe, one, words } from '../grammar.ts';
import { CHOICE, CHOICE_FIELD, FIELD_VALUE, FLAG_FIELD, MEASURED_FIELD } from '../leaves/fields.ts';
import { MONEY } from '../leaves/measures.ts';
import { oneOf } from '../leaves/names.ts';
import { DATE, TIME } from '../leaves/times.ts';
import { OF } from './shared.ts';

const OP = oneOf('a comparison: >, >=, < or <=', 'word', '>', '>=', '<', '<=');

export const CONDITIONS = {
  any: form(['condition'], [many('of', 'conjunct', 'or')], {
    example: 'last >= 5.60 or change > 12%',
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
  compare: form(['clause'], [one('field', MEASURED_FIELD), OF, one('op', OP), one('to', FIELD_VALUE)], {
    example: 'gap > 8%',
    says: 'Compares a field with a value; one that is not known passes no comparison.',
    aka: { rvol: 'relative volume', 'rel vol': 'relative volume' },
  }),
  between: form(
    ['clause'],
    [
      one('field', MEASURED_FIELD),
      OF,
      words('between'),
      one('low', FIELD_VALUE),
      words('and'),
      one('high', FIELD_VALUE),
    ],
    { example: 'price between 2 and 20', says: 'From the one to the other, both included.' },
  ),
  is: form(['clause'], [one('field', CHOICE_FIELD), OF, words('is'), flag('not'), one('choice', CHOICE)], {
    example: 'borrow is not none',
    says: 'Is, or is not, one of the choices of a field.',
  }),
  flag: form(['clause'], [one('field', FLAG_FIELD), OF], {
    example: 'options listed',
    says: 'A field that is yes or no.',
  }),
  'price is': form(['clause'], [one('left', 'reference'), OF, one('op', OP), one('right', 'price')], {
    example: 'last of ORBNT >= 48.50',
    aka: {
      'drops below': 'below',
      'falls below': 'below',
      'goes below': 'below',
      'trades below': 'below',
      'rises above': 'above',
      'goes above': 'above',
      'trades above': 'above',
    },
    says: 'Compares a price with another, at each trade and quote. One of a candle (3m close) is looked at when that candle has finished, and only if it traded. Scans look at every symbol, and know no candles of it.',
  }),
  'price crosses': form(
    ['clause'],
    [
      one('left', 'reference'),
      OF,
      words('crosses'),
      one('way', oneOf('above or below', 'word', 'above', 'below')),
      one('right', 'price'),
    ],
    {
      example: 'last crosses above vwap',
      aka: { 'breaks above': 'crosses above', 'breaks below': 'crosses below' },
      says: 'At or beyond a price after having been on its other side. In a scan: “last” is at or beyond it now, and the last but one finished minute closed on its other side.',
    },
  ),
  'price between': form(
    ['clause'],
    [one('left', 'reference'), OF, words('between'), one('low', 'price'), words('and'), one('high', 'price')],
    { example: 'last between 5.20 and 5.40', says: 'From the one price to the other, both included.' },
  ),
  'gain is': form(
    ['clause'],
    [one('what', oneOf('gain or loss', 'word', 'gain', 'loss')), words('>='), one('profit', 'profit')],
    {
      example: 'gain >= 2R',
      aka: { up: 'gain >=', down: 'loss >=' },
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
    ['clause'],
    [words('time'), one('op', oneOf('>= or <', 'word', '>=', '<')), one('time', TIME)],
    {
      example: 'time >= 09:45',
      says: 'From a time of day on, or before it.',
    },
  ),
  'until time': form(['life', 'wait end'], [words('until'), one('time', TIME)], {
    example: 'until 11:00',
    says: 'Ends at that time of day.',
    aka: { till: 'until', gtd: 'until' },
    waits: 'until',
  }),
  'until date': form(['life', 'wait end'], [words('until'), one('date', DATE), maybe('time', TIME)], {
    example: 'until 2026-04-17',
    says: 'Survives the nights up to that date, and ends with it or at the time given.',
  }),
  'until cancelled': form(['wait end'], [words('until cancelled')], {
    example: 'until cancelled',
    says: 'Waits through the nights until it is taken back.',
  }),
} as const;
