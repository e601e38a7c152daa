// Sentences about the desk itself.
import { form, maybe, one, words } from '../grammar.ts';
import { SHARES } from '../leaves/measures.ts';
import { ACCOUNT_NAME, LEVEL_NAME, NOTE, oneOf, SYMBOL } from '../leaves/names.ts';
import { TIME } from '../leaves/times.ts';
import { OF, UP_DOWN } from './shared.ts';

export const ACCOUNTS = {
  'use account': form(['statement'], [words('use account'), one('name', ACCOUNT_NAME)], {
    example: 'use account "Practice cash"',
    says: 'Lets sentences act in another account from now on.',
    aka: { 'switch account': 'use account' },
    task: 'See and set',
  }),
  locate: form(['statement'], [words('locate'), one('shares', SHARES), OF], {
    example: 'locate 500 of VULPN',
    says: 'Asks a lender to set shares aside for the day, for a fee, so that a stock that is hard to borrow can be sold short.',
    aka: { borrow: 'locate' },
    task: 'See and set',
  }),
} as const;

export const DESK = {
  size: form(['statement'], [words('size'), one('to', 'ticket size')], {
    example: 'size up 100',
    says: 'Sets the size that “ticket” stands for; 0 clears it.',
    task: 'Size',
  }),
  'size step': form(['ticket size'], [one('way', UP_DOWN), one('shares', SHARES)], {
    example: 'up 100',
    says: 'More or fewer, in what the size is measured in: shares or dollars.',
  }),
  alert: form(['statement', 'action'], [words('alert'), OF, words('at'), one('price', 'price')], {
    example: 'alert at last + 10c',
    says: 'Tells you once, at the first trade at a price. The price is taken as it is when the alert is set.',
    aka: { 'alert me': 'alert', notify: 'alert', alarm: 'alert' },
    task: 'Tell me',
  }),
  'alert when': form(
    ['statement', 'action'],
    [words('alert'), OF, words('when'), one('condition', 'condition'), maybe('until', 'wait end')],
    {
      example: 'alert of QUOLS when change > 12%',
      aka: { 'alert above': 'alert when last >', 'alert below': 'alert when last <' },
      says: 'Tells you once, when a condition turns true of a symbol. One of fields alone is an alert that stays until it fires; one with prices, a gain, a time or an end is among the conditions, for the day unless an end is given.',
      task: 'Tell me',
    },
  ),
  tell: form(['action'], [words('alert'), OF], {
    example: 'alert',
    says: 'Behind a condition: tells you that what it waited for has come.',
    task: 'Tell me',
  }),
  'alert on': form(
    ['statement', 'action'],
    [words('alert'), OF, words('on'), one('on', oneOf('news or halt', 'word', 'news', 'halt'))],
    {
      example: 'alert of VULPN on halt',
      says: 'Tells you of news or halts of a symbol.',
      task: 'Tell me',
    },
  ),
  'alert any when': form(['statement'], [words('alert any when'), one('condition', 'condition')], {
    example: 'alert any when gap > 8% and float < 20M',
    says: 'Tells you of every symbol that comes to pass a condition that scans can look at.',
    task: 'Tell me',
  }),
  'alert any on': form(
    ['statement'],
    [words('alert any on'), one('on', oneOf('news or halt', 'word', 'news', 'halt'))],
    {
      example: 'alert any on halt',
      says: 'Tells you of news or halts of any symbol.',
      task: 'Tell me',
    },
  ),
  extended: form(
    ['statement'],
    [one('what', oneOf('show, hide or toggle', 'verb', 'show', 'hide', 'toggle')), words('extended')],
    {
      example: 'toggle extended',
      says: 'Shows or hides the hours before and after the regular session on charts.',
      task: 'See and set',
    },
  ),
  'focus next': form(
    ['statement'],
    [words('focus'), one('which', oneOf('next or previous', 'word', 'next', 'previous'))],
    {
      example: 'focus next',
      says: 'Puts the next or the previous symbol of the list on screen into focus.',
      task: 'See and set',
    },
  ),
  focus: form(['statement'], [words('focus'), one('symbol', SYMBOL)], {
    example: 'focus ORBNT',
    aka: { show: 'focus' },
    says: 'Puts a symbol into focus everywhere. Lines after it speak of that symbol.',
    task: 'See and set',
  }),
  note: form(['statement', 'action'], [words('note'), one('text', NOTE)], {
    example: 'note "too early"',
    says: 'Writes a note into the journal, beside the focus’s trade.',
    task: 'Tell me',
  }),
  level: form(
    ['statement'],
    [words('level'), one('name', LEVEL_NAME), OF, words('at'), one('price', 'price')],
    {
      example: 'level "lid" at day high',
      says: 'Names a price of a symbol, for orders, alerts and the chart. It stays where it is set.',
      task: 'Tell me',
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
      task: 'Tell me',
    },
  ),
  'drop level': form(['statement'], [words('discard level'), one('name', LEVEL_NAME), OF], {
    example: 'discard level "lid"',
    says: 'Forgets a level of a symbol.',
    task: 'Tell me',
  }),
  'open chain': form(['statement'], [words('open chain')], {
    example: 'open chain',
    says: 'Shows the options of the focus.',
    task: 'See and set',
  }),
  'clear drawings': form(['statement'], [words('clear drawings')], {
    example: 'clear drawings',
    says: 'Takes everything that was drawn off the chart of the focus, its named levels too; the chart can undo it.',
    task: 'Tell me',
  }),
} as const;
