// How a position is left.
import { flag, form, maybe, one, words } from '../grammar.ts';
import { RANGE_MINUTES } from '../leaves/measures.ts';
import { oneOf } from '../leaves/names.ts';
import { CANDLE, TIME } from '../leaves/times.ts';
import { FOR, SEEN } from './shared.ts';

export const EXITS = {
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
      aka: { 'stop out': 'stop', 'stop loss': 'stop', sl: 'stop' },
      waits: 'stop',
      tried: 'buy 100 at ask + 2c\n  %',
      others: ['stop 30c for half', 'stop 30c for quarter'],
    },
  ),
  'target exit': form(['exit'], [words('target'), one('place', 'place'), FOR], {
    example: 'target 2R for half',
    says: 'Sells at a gain; without a part, all that is left.',
    aka: { tgt: 'target', 'take profit': 'target', tp: 'target', profit: 'target' },
    waits: 'target',
    others: [
      'target 1R',
      'target 1R for quarter',
      'target 30c',
      'target 30c for half',
      'target 30c for quarter',
    ],
  }),
  trail: form(['exit'], [words('trail'), one('reach', 'reach'), maybe('after', 'gain', 'after')], {
    example: 'trail 0.5 atr after 2R',
    says: 'Moves the stop along behind the best price, only ever tighter, from a gain on.',
    aka: { 'trail stop': 'trail', 'trail by': 'trail', 'trailing stop': 'trail' },
    waits: 'after',
    others: ['trail 20c'],
  }),
  breakeven: form(
    ['exit'],
    [words('breakeven after'), one('after', 'gain'), flag('plusCosts', 'plus costs')],
    {
      example: 'breakeven after 1.2R plus costs',
      says: 'Moves the stop to the average entry once a gain is touched, or beyond it by the costs.',
      aka: { 'breakeven at': 'breakeven after', be: 'breakeven', 'break even': 'breakeven' },
      others: ['breakeven after 30c'],
    },
  ),
  'out by': form(['exit'], [words('out by'), one('time', TIME)], {
    example: 'out by 15:50',
    aka: {
      'exit at': 'out by',
      'exit by': 'out by',
      'close by': 'out by',
      'close at': 'out by',
      'flat by': 'out by',
    },
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
