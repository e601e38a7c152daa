// Other ways to say what the forms say: read, and printed as the forms have it.
import type { Reading } from '../grammar.ts';
import type { Slot } from '../slots.ts';
import { said } from './said.ts';

const ACTION: readonly Slot[] = ['action', 'statement'];
const ORDER: readonly Slot[] = ['order', 'action', 'statement'];
const WAYS = [
  ['above', '+'],
  ['over', '+'],
  ['below', '-'],
  ['under', '-'],
] as const;
const SIDES = ['above', 'below'] as const;

export const SPELLINGS: readonly Reading[] = [
  // --- the order first, then what it waits for; a time of day instead of a condition
  said('statement', 'ACTION when CONDITION', 'when CONDITION : ACTION'),
  said('statement', 'ACTION if CONDITION', 'when CONDITION : ACTION'),
  said('statement', 'ACTION at TIME', 'when time >= TIME : ACTION'),
  said('statement', 'at TIME ACTION', 'when time >= TIME : ACTION'),
  said('clause', 'TIME', 'time >= TIME'),
  // --- prices
  ...WAYS.flatMap(([word, sign]) => [
    said('price', `OFFSET ${word} BASE`, `BASE ${sign} OFFSET`),
    said('place', `OFFSET ${word} BASE`, `at BASE ${sign} OFFSET`),
    said('place', `${word} PRICE`, 'at PRICE'),
  ]),
  said('pricing', 'hidden at mid', 'at mid hidden'),
  said('stop move', 'at PRICE', 'to PRICE'),
  // --- sizes and kinds before the verb
  said(ORDER, 'risk MONEY BUYS PRICING LIFE', 'BUYS risk MONEY PRICING LIFE'),
  said(ORDER, 'risk R BUYS PRICING LIFE', 'BUYS risk R PRICING LIFE'),
  said(ORDER, 'market BUYS SIZE', 'BUYS SIZE at market'),
  said(ORDER, 'market CLOSES CLOSE-SIZE', 'CLOSES CLOSE-SIZE at market'),
  said(ORDER, 'mkt BUYS SIZE', 'BUYS SIZE at market'),
  said(ORDER, 'mkt CLOSES CLOSE-SIZE', 'CLOSES CLOSE-SIZE at market'),
  // --- what is traded behind its size
  said(ORDER, 'BUYS SIZE INSTRUMENT PRICING LIFE', 'BUYS SIZE of INSTRUMENT PRICING LIFE'),
  said(ORDER, 'CLOSES CLOSE-SIZE INSTRUMENT PRICING LIFE', 'CLOSES CLOSE-SIZE of INSTRUMENT PRICING LIFE'),
  said(ORDER, 'take CLOSE-SIZE off [PRICING]', 'close CLOSE-SIZE [PRICING]'),
  // --- the last price by its field
  ...SIDES.map((way) => said('clause', `price OF crosses ${way} PRICE`, `last OF crosses ${way} PRICE`)),
  ...['>', '>=', '<', '<='].map((op) => said('clause', `price OF ${op} PRICE`, `last OF ${op} PRICE`)),
  said('clause', 'price OF above PRICE', 'last OF > PRICE'),
  said('clause', 'price OF below PRICE', 'last OF < PRICE'),
  // --- how conditions are said as well
  said('clause', 'REFERENCE OF above PRICE', 'REFERENCE OF > PRICE'),
  said('clause', 'REFERENCE OF below PRICE', 'REFERENCE OF < PRICE'),
  said('clause', 'GAIN > PROFIT', 'GAIN >= PROFIT'),
  said('clause', 'time > TIME', 'time >= TIME'),
  said('clause', 'CANDLE candle closes above PRICE', 'CANDLE close > PRICE'),
  said('clause', 'CANDLE candle closes below PRICE', 'CANDLE close < PRICE'),
  said('wait end', 'until canceled', 'until cancelled'),
  // --- alerts, cancels
  ...['hits', 'reaches', 'touches'].map((word) =>
    said(ACTION, `alert when SYMBOL ${word} PRICE`, 'alert of SYMBOL at PRICE'),
  ),
  said('statement', 'alert me at PRICE', 'alert at PRICE'),
  said('statement', 'alert at PRICE of SYMBOL', 'alert of SYMBOL at PRICE', { retired: 1 }),
  said('statement', 'alert when CONDITION of SYMBOL', 'alert of SYMBOL when CONDITION', { retired: 1 }),
  said('statement', 'alert on WHAT of SYMBOL', 'alert of SYMBOL on WHAT', { retired: 1 }),
  said(ACTION, 'cancel stop ANY', 'cancel stops ANY'),
  // --- options in another order
  said('instrument', 'ROOT EXPIRY RIGHT STRIKE', 'ROOT EXPIRY STRIKE RIGHT'),
  said('instrument', 'ROOT STRIKE EXPIRY RIGHT', 'ROOT EXPIRY STRIKE RIGHT'),
  said('instrument', 'ROOT STRIKE RIGHT EXPIRY', 'ROOT EXPIRY STRIKE RIGHT'),
  said('instrument', 'ROOT RIGHT EXPIRY STRIKE', 'ROOT EXPIRY STRIKE RIGHT'),
  said('instrument', 'ROOT RIGHT STRIKE EXPIRY', 'ROOT EXPIRY STRIKE RIGHT'),
  // --- what may be two things, and what is said elsewhere
  ...['REFERENCE', 'price'].map((left) => {
    const ours = left === 'price' ? 'last' : left;
    const fixes = SIDES.map((way) => `${ours} OF crosses ${way} PRICE`);
    return said('clause', `${left} OF crosses PRICE`, fixes[0] as string, { wrong: 'which way', fixes });
  }),
  said('statement', 'CLOSES CLOSE-SIZE at R', 'CLOSES CLOSE-SIZE', {
    wrong: 'gain price',
    fixes: ['when gain >= R : CLOSES CLOSE-SIZE'],
  }),
  said('pricing', 'at open', 'at the open', {
    insists: true,
    wrong: 'which open',
    fixes: ['at the open', 'at day open'],
  }),
  said('pricing', 'at open PRICE', 'at the open limit PRICE', { retired: 1 }),
  said('pricing', 'at close', 'at the close', {
    insists: true,
    wrong: 'which close',
    fixes: ['at the close', 'at prior close'],
  }),
  said('pricing', 'at close PRICE', 'at the close limit PRICE', { retired: 1 }),
  // The price of the open: once both an auction and a price.
  said(['price', 'base'], 'open', 'day open', { retired: 1 }),
  said('pricing', 'at ticket', 'at market', { wrong: 'ticket price' }),
  ...['lit', 'mid', 'sweep'].map((where) => said('life', `route ${where}`, 'day', { wrong: 'route' })),
];
