import type { Refusal } from '../orders/index.ts';
import type { OrderId, Price, Side } from '../units/index.ts';

/** Why a sentence cannot go now: the rule, the value seen, what would pass; of the reader, or of the guards at the door. The words are in wording.ts. */
export type Reason =
  | Refusal
  | { code: 'no focus' }
  | { code: 'unknown symbol'; symbol: string }
  /** An option or a vertical that is not listed. */
  | { code: 'no contract'; because: string }
  /** Days and deltas of a close mean what is held, and that is not exactly one. */
  | {
      code: 'which contract';
      root: string;
      right: 'call' | 'put';
      vertical: boolean;
      held: readonly string[];
      /** What is held of that kind and is not what was written. */
      others: readonly string[];
    }
  /** A contract that is held in a vertical only, or that stands behind a short one: what would be left of it alone. */
  | { code: 'leg alone'; leg: string; vertical: string | null; left: string }
  | { code: 'far strike'; root: string; strike: Price; spot: Price }
  | { code: 'contracts of stock'; symbol: string; contracts: number }
  /** A net price says which way the money goes; and only one of the two can be. */
  | { code: 'net price'; symbol: string; net: 'credit' | 'debit'; said: boolean }
  | { code: 'unknown price'; text: string; symbol: string }
  | { code: 'no pointer'; symbol: string }
  | { code: 'no level'; name: string; symbol: string; nearest: string | null }
  | { code: 'no plan'; name: string; nearest: string | null; have: readonly string[] }
  | { code: 'plan hours'; name: string; from: number; to: number; now: number }
  | { code: 'no account'; name: string; nearest: string | null; have: readonly string[] }
  | { code: 'other account'; orderId: OrderId; name: string }
  | { code: 'no ticket' }
  /** The ticket says a risk, which has no shares to step by and none to close. */
  | { code: 'risk ticket'; wanted: 'step' | 'close' }
  | { code: 'no measure'; unit: 'R' | 'atr' | 'risk'; symbol: string }
  | { code: 'no position'; symbol: string; verb: string }
  | { code: 'wrong way'; symbol: string; held: 'long' | 'short'; verb: string; right: string }
  | { code: 'size zero'; what: string; at: Price }
  | { code: 'no such order'; which: string; symbol: string | null }
  | { code: 'no stop'; symbol: string; triggered: boolean }
  /** Others belong to an order that is to be taken back, or shares would stand bare. */
  | {
      code: 'which of group';
      what: string;
      others: readonly string[];
      symbol: string;
      /** Shares without a stop after this one, and after all of them. */
      bare: readonly [alone: number, all: number];
    }
  | { code: 'unpriced order'; orderId: OrderId }
  | { code: 'wrong side of last'; side: Side; stop: Price; last: Price; text: string }
  | { code: 'wrong way of stop'; side: Side; wanted: string; text: string }
  | { code: 'exit side'; what: 'stop' | 'target'; price: Price; from: Price; above: boolean }
  | { code: 'at once'; price: Price; quote: Price }
  | { code: 'no room'; away: number; from: Price }
  /** Dollars of an exit that might be a price, or of a gain that might be of all shares. */
  | { code: 'at or away' | 'a share or in all'; units: number; from: Price }
  | { code: 'below zero'; text: string; value: number }
  | { code: 'after the day'; time: number; end: number }
  | { code: 'auction time'; which: 'open' | 'close'; last: number; now: number }
  | { code: 'midpoint'; why: 'session' | 'halt' | 'one side'; what: string; symbol: string }
  | { code: 'at last'; symbol: string; price: Price }
  | { code: 'one moment'; time: number }
  | { code: 'other side'; orderId: OrderId; side: Side }
  | { code: 'nothing staged'; symbol: string | null }
  | { code: 'date over'; date: string }
  | { code: 'not in a pair'; what: 'a trailing close' | 'a staged order' }
  | { code: 'true already'; seen: string }
  /** The session that is to be waited for is on. */
  | { code: 'open already' }
  | { code: 'waiting over'; until: number; now: number }
  | { code: 'dead when it fires'; life: number; from: number }
  | { code: 'dead when it wakes'; life: number; wakes: number }
  | { code: 'no such condition'; number: number; have: readonly number[] };
