// Other ways to say a thing, each as two patterns: what others write, and what it is here.
import { RIGHT, ROOT } from '../forms/instruments.ts';
import { ANY, LIFE, OF } from '../forms/shared.ts';
import { maybe, one, type Part, type Reading, words } from '../grammar.ts';
import { MONEY, RS, SHARES } from '../leaves/measures.ts';
import { oneOf, SYMBOL } from '../leaves/names.ts';
import { PART } from '../leaves/parts.ts';
import { CANDLE, TIME } from '../leaves/times.ts';
import { printParts } from '../print.ts';
import type { Finding } from '../problems.ts';
import type { Slot } from '../slots.ts';

/** What capitals in a pattern stand for; the rest are words. */
const VALUES: Readonly<Record<string, Part>> = {
  ACTION: one('action', 'action'),
  CONDITION: one('condition', 'condition'),
  OFFSET: one('by', 'offset'),
  BASE: one('base', 'base'),
  PRICE: one('price', 'price'),
  REFERENCE: one('reference', 'reference'),
  PRICING: one('pricing', 'pricing'),
  '[PRICING]': maybe('pricing', 'pricing'),
  PROFIT: one('profit', 'profit'),
  SIZE: one('size', 'entry size'),
  PART: one('part', PART),
  'CLOSE-SIZE': one('size', 'close size'),
  BUYS: one('verb', oneOf('buy or short', 'verb', 'buy', 'short')),
  CLOSES: one('verb', oneOf('sell, cover or close', 'verb', 'sell', 'cover', 'close')),
  GAIN: one('what', oneOf('gain or loss', 'word', 'gain', 'loss')),
  WHAT: one('on', oneOf('news or halt', 'word', 'news', 'halt')),
  SHARES: one('shares', SHARES),
  MONEY: one('money', MONEY),
  R: one('r', RS),
  TIME: one('time', TIME),
  CANDLE: one('minutes', CANDLE),
  SYMBOL: one('symbol', SYMBOL),
  INSTRUMENT: one('instrument', 'instrument'),
  ROOT,
  EXPIRY: one('expiry', 'expiry'),
  STRIKE: one('strike', 'strike'),
  RIGHT: one('right', RIGHT),
  OF,
  ANY,
  LIFE,
};

/** The parts of a pattern such as `ACTION when CONDITION`. */
const pattern = (text: string): readonly Part[] => text.split(' ').map((word) => VALUES[word] ?? words(word));

/** Mistakes that say no more than what may be meant. */
type Plain = { [F in Finding as keyof Omit<F, 'fixes' | 'at'> extends 'code' ? F['code'] : never]: 1 };

/** In some slots something is said otherwise; with an answer it is a mistake, whose fixes are patterns too. */
export function said(
  slots: Slot | readonly Slot[],
  theirs: string,
  ours: string,
  more: Pick<Reading, 'insists' | 'retired'> & { wrong?: keyof Plain; fixes?: readonly string[] } = {},
): Reading {
  const { wrong, fixes = [], ...rest } = more;
  const meant = fixes.map(pattern);
  return {
    slots: typeof slots === 'string' ? [slots] : slots,
    parts: pattern(theirs),
    ours: pattern(ours),
    unsaid: true,
    ...rest,
    ...(wrong ? { wrong: (x: never) => ({ code: wrong, fixes: meant.map((m) => printParts(m, x)) }) } : {}),
  };
}
