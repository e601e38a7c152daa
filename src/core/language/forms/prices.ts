// Prices and distances.
import { form, many, maybe, one, words } from '../grammar.ts';
import { ATRS, CENTS, DOLLARS, PERCENT, PRICE, RS, TARGET_NUMBER, TICKS } from '../leaves/measures.ts';
import { SYMBOL } from '../leaves/names.ts';
import { CANDLE } from '../leaves/times.ts';

export const PRICES = {
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
  foreign: form(
    ['base'],
    [words('('), one('reference', 'reference'), words('of'), one('symbol', SYMBOL), words(')')],
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

export const OFFSETS = {
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
    tried: 'buy 100 at bid\n  stop 30c\n  target %',
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
