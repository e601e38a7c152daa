// Buying and selling.
import { flag, form, maybe, one, words } from '../grammar.ts';
import { oneOf } from '../leaves/names.ts';
import { ANY, CHAIN, EXITS, LIFE, PLAN, STAGED } from './shared.ts';

export const ORDERS = {
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
      CHAIN,
    ],
    {
      example: 'buy risk 1R at ask + 3c extended\n  stop 30c\n  target 1R for half',
      says: 'Opens a position or adds to one, with the exits that belong to it.',
      aka: {
        'limit buy': 'buy',
        'buy limit': 'buy',
        'bracket buy': 'buy',
        'limit short': 'short',
        long: 'buy',
        'sell short': 'short',
        'sell to open': 'short',
        'buy to open': 'buy',
      },
      task: 'Enter',
      turns: 'buy short',
      waits: 'stage',
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
      CHAIN,
    ],
    {
      example: 'add all at bid',
      says: 'Adds to the open position in its own direction; a part is of what is held, so “add all” adds as much again. The new shares come under the exits of the position.',
      aka: {
        'double my position': 'add all',
        'double position': 'add all',
        double: 'add all',
        'scale in': 'add half',
      },
      task: 'Enter',
      turns: 'add',
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
      CHAIN,
    ],
    {
      example: 'close half at ask',
      says: 'Closes, and never more than is held: sell what is long, cover what is short, close either. Without a price it goes at usual through. “alone” takes one leg of a vertical that is held, which comes apart by it.',
      aka: {
        'scale out': 'close',
        'take off': 'close',
        'limit sell': 'sell',
        'sell limit': 'sell',
        'buy to cover': 'cover',
        'buy to close': 'cover',
        'sell to close': 'sell',
        exit: 'close',
      },
      task: 'Exit',
      turns: 'sell cover close',
    },
  ),
  reverse: form(['statement', 'action'], [words('reverse'), ANY, PLAN, EXITS], {
    example: 'reverse',
    says: 'Turns the position: flattens it and opens as many shares the other way, under the active plan unless another is given.',
    aka: { 'flip to short': 'reverse', 'flip to long': 'reverse', flip: 'reverse' },
    task: 'Enter',
    turns: 'reverse',
  }),
} as const;
