import type { OptionsApproval } from '../account/index.ts';
import type { Money, OrderId, Price, Side } from '../units/index.ts';
import type { OrdStatus, Role } from './order-terms.ts';

/** Short contracts that would stand bare if what is behind them went. */
export interface Bared {
  /** Their name. */
  symbol: string;
  contracts: number;
  strike: Price;
  right: 'call' | 'put';
}

/** Why an intent was refused: the rule, the value seen, and what would pass. Prices and money in 1/10,000 dollar. */
export type Refusal =
  | { code: 'quantity'; qty: number }
  /** It would take the stop from shares, and no yes has named so many. */
  | { code: 'bares'; bares: readonly { symbol: string; shares: number }[] }
  /** What is to be put back is not a stop or target that was taken away from what is still held. */
  | { code: 'nothing to put back'; orderId: OrderId }
  | { code: 'works backwards'; side: Side; from: Price; to: Price }
  | { code: 'off tick'; price: number; down: Price; up: Price }
  /** What is to be closed stands behind short contracts that may not stand alone. */
  | { code: 'stands behind'; symbol: string; bared: readonly Bared[]; needs: number; have: number }
  /** A vertical comes apart at once; what its exits may still fill at the exchange has to be left of it. */
  | { code: 'exits hold'; symbol: string; position: number; held: number }
  | { code: 'most shares'; qty: number; most: number; room: number }
  /** `at`: what it is reckoned to pay at most, where it has no limit. */
  | { code: 'buying power'; needs: number; have: number; shares: number; at: Price | null }
  | {
      code: 'collar';
      limit: number;
      side: Side;
      from: number;
      percent: number;
      most: Price;
      mostPercent: number;
    }
  | { code: 'limit side'; side: Side; stop: Price; limit: Price }
  | { code: 'stop side'; side: Side; symbol: string; stop: Price; last: Price }
  | { code: 'entry against'; symbol: string; side: Side; held: number; orderId: OrderId | null }
  | { code: 'no borrow'; symbol: string }
  | { code: 'restricted'; symbol: string; bid: Price; least: Price }
  | { code: 'market hours'; session: string; side: Side }
  | { code: 'nothing to close'; symbol: string; position: number; held: number }
  | { code: 'too late'; orderId: OrderId; status: OrdStatus | null }
  | { code: 'nothing left'; orderId: OrderId; qty: number; filled: number }
  | { code: 'plan size'; orderId: OrderId }
  /** Two of opposite sides in one symbol, neither of them a stop. */
  | { code: 'pair against'; symbol: string }
  | { code: 'locked'; loss: Money; most: Money }
  | { code: 'open risk'; symbol: string; would: Money; most: Money; perShare: number | null; shares: number }
  | { code: 'most money'; symbol: string; would: Money; most: Money; shares: number }
  | { code: 'too many orders'; most: number }
  | { code: 'duplicate'; symbol: string; ago: number }
  | { code: 'blocked'; symbol: string; side: 'both' | 'long' | 'short' }
  | { code: 'no shorts'; account: string }
  | { code: 'option terms'; symbol: string; what: 'stop' | 'extended' | 'auction' | 'midpoint' }
  | {
      code: 'options approval';
      symbol: string;
      account: string;
      has: OptionsApproval;
      needs: 'long' | 'spreads' | 'uncovered calls';
    }
  | {
      code: 'needs locate';
      symbol: string;
      located: number;
      wants: number;
      perShare: number;
      available: number;
    }
  | { code: 'locate size'; symbol: string; wants: number; available: number }
  | { code: 'no locate needed'; symbol: string; borrow: 'easy' | 'none' }
  | { code: 'time over'; until: number; now: number };

/** Why an order ended, shrank or moved, for the wording. What the exchange says comes in its words. */
export type Why =
  | 'you'
  | 'flatten'
  | 'position closed'
  | 'entry rest'
  | 'no shares'
  | 'stop triggered'
  | 'average'
  | 'pair'
  | 'works'
  | 'breakeven'
  | 'trail'
  | 'session over'
  | 'day over'
  | 'time over'
  | 'not flat'
  | 'never arrived'
  | 'contract over'
  | { exchange: string }
  | { guard: Refusal }
  /** The order whose fill closed the position: which target, where it was one. */
  | { closedBy: Role; nth: number | null };
