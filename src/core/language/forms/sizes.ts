// How much is bought, sold or closed.
import { form, one, words } from '../grammar.ts';
import { CONTRACTS, MONEY, RS, SHARE_OF_POWER, SHARES, SHARES_OR_NONE } from '../leaves/measures.ts';
import { oneOf } from '../leaves/names.ts';
import { PART } from '../leaves/parts.ts';

export const SIZES = {
  shares: form(['entry size', 'add size', 'close size'], [one('shares', SHARES)], {
    example: '400',
    says: 'So many shares.',
  }),
  contracts: form(
    ['entry size', 'add size', 'close size'],
    [
      one('contracts', CONTRACTS),
      one('unit', oneOf('contracts or verticals', 'word', 'contracts', 'contract', 'verticals', 'vertical')),
    ],
    {
      example: '2 contracts',
      says: 'So many options of 100 shares each, or so many verticals. The size of an option without the word means the same.',
      aka: { spread: 'vertical', spreads: 'verticals' },
    },
  ),
  money: form(['entry size', 'add size', 'close size', 'ticket size'], [one('money', MONEY)], {
    example: '$2,500',
    says: 'Whole shares for an amount of money, rounded down.',
  }),
  risk: form(['entry size', 'add size', 'ticket size'], [words('risk'), one('r', RS)], {
    example: 'risk 1R',
    says: 'So many shares that the stop costs so many of the account’s risk units.',
  }),
  'risk money': form(['entry size', 'add size', 'ticket size'], [words('risk'), one('money', MONEY)], {
    example: 'risk $60',
    says: 'So many shares that the stop costs an amount of money.',
  }),
  power: form(['entry size', 'add size'], [one('percent', SHARE_OF_POWER), words('of power')], {
    example: '20% of power',
    aka: { 'buying power': 'power' },
    says: 'Whole shares for a part of the buying power.',
  }),
  ticket: form(['entry size', 'add size', 'close size'], [words('ticket')], {
    example: 'ticket',
    aka: { 'full size': 'ticket' },
    says: 'What the size of the ticket says.',
  }),
  part: form(['close size', 'add size'], [one('part', PART)], {
    example: 'half',
    says: 'A part of what is held; what closing orders hold already is left to them.',
    aka: { everything: 'all', full: 'all', 'the rest': 'rest' },
  }),
  'some shares': form(['ticket size'], [one('shares', SHARES_OR_NONE)], {
    example: '400',
    says: 'So many shares; 0 clears the size.',
  }),
} as const;
