import { isOption, multiplierOfSymbol } from '../instruments/index.ts';
import {
  type CloseSize,
  type EntrySize,
  ONE,
  printTree,
  type Statement,
  type TreeIn,
  type TreeOf,
} from '../language/index.ts';
import { accountNow, sharesWithin } from '../orders/index.ts';
import { formatMoney, type Part, type Price, type Side, unreachable } from '../units/index.ts';
import { accountOf, type RunContext, refuse, type TicketSize } from './moment.ts';

/** The size itself, or what the ticket says for it. */
function ticketed<S extends { kind: string }>(
  size: S,
  c: RunContext,
): Exclude<S, { kind: 'ticket' }> | TicketSize {
  if (size.kind !== 'ticket') return size as Exclude<S, { kind: 'ticket' }>;
  return c.ticket ?? refuse({ code: 'no ticket' });
}

/** Shares of a part of what is held: rounded down, at least one. */
export const shareOf = (p: Part, held: number): number =>
  p.kind === 'all' ? held : Math.max(1, Math.floor((held * p.num) / p.den));

interface Sizing {
  symbol: string;
  side: Side;
  at: Price;
  /** It has no limit, so that it may pay more than what is expected. */
  unlimited: boolean;
  /** What the stops cost a share; null without a stop. */
  perShare: number | null;
  held: number;
  c: RunContext;
  /** The sentence with another size, for what could go instead. */
  withSize: (size: TreeOf<'shares'>) => Statement;
  lastOf: (symbol: string) => Price | null;
}

/** Whole shares of an entry, rounded down. */
export function sharesFor(size: EntrySize | TreeIn<'add size'>, z: Sizing): number {
  const s = ticketed(size, z.c);
  const each = multiplierOfSymbol(z.symbol);
  const enough = (shares: number, what: () => string): number =>
    shares >= 1
      ? Math.min(shares, MOST)
      : refuse({ code: 'size zero', what: what(), at: z.at }, z.withSize({ kind: 'shares', shares: 1 }));
  switch (s.kind) {
    case 'shares':
      return s.shares;
    case 'contracts':
      return contractsOf(s, z.symbol);
    case 'money':
      return enough(Math.floor(s.money / (z.at * each)), () => printTree(s));
    case 'power': {
      const { buyingPower } = accountNow(z.c.broker, z.c.account, z.lastOf);
      const part = buyingPower * (s.percent / (100 * ONE));
      const order = { symbol: z.symbol, side: z.side, limit: z.unlimited ? null : z.at, stop: null };
      return enough(
        sharesWithin(accountOf(z.c), order, part, z.at, MOST),
        () => `${printTree(s)} (${formatMoney(buyingPower)})`,
      );
    }
    case 'risk':
    case 'risk money': {
      const risk = s.kind === 'risk' ? (s.r / ONE) * accountOf(z.c).rules.riskUnit : s.money;
      if (z.perShare === null || z.perShare <= 0)
        return refuse({ code: 'no measure', unit: 'risk', symbol: z.symbol });
      return enough(
        Math.floor(risk / (z.perShare * each) + 1e-9),
        () =>
          `A risk of ${formatMoney(risk)} with stops ${formatMoney((z.perShare ?? 0) * each)} ${each === 1 ? 'a share' : 'a contract'} away`,
      );
    }
    case 'part':
      return shareOf(s.part, z.held);
    default:
      return unreachable(s);
  }
}
/** Far beyond every guard on size, and small enough that no sum leaves its bounds. */
const MOST = 1_000_000;

/** Contracts are of options; of a stock the word is a slip. */
const contractsOf = ({ contracts }: { contracts: number }, symbol: string): number =>
  isOption(symbol) ? contracts : refuse({ code: 'contracts of stock', symbol, contracts });

/** Shares that a close asks for. */
export function closingShares(
  size: CloseSize,
  held: number,
  at: Price,
  c: RunContext,
  symbol: string,
): number {
  const s = ticketed(size, c);
  switch (s.kind) {
    case 'shares':
      return s.shares;
    case 'contracts':
      return contractsOf(s, symbol);
    case 'part':
      return shareOf(s.part, held);
    case 'money':
      return (
        Math.floor(s.money / (at * multiplierOfSymbol(symbol))) ||
        refuse({ code: 'size zero', what: printTree(s), at })
      );
    case 'risk':
    case 'risk money':
      return refuse({ code: 'risk ticket', wanted: 'close' });
    default:
      return unreachable(s);
  }
}
