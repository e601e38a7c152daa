import type { Reach, Seen, Trail } from '../triggers/index.ts';
import type { AccountId, Money, OrderId, Part, Price, Sign, Ticks, TradeId } from '../units/index.ts';

export type Distance = { kind: 'distance'; units: number } | { kind: 'R'; r: number };

export type Place = Distance | { kind: 'at'; price: Price };

/** A gain that is waited for: a share, or of all the shares that came in together. */
export type Gain = Distance | { kind: 'in all'; money: Money };

/** What a rule of a stop waits for: a gain, or that all of a target has filled. */
export type After = Gain | { kind: 'target'; index: number };

export type StopPlace = Exclude<Place, { kind: 'R' }>;

/** Exits with every number resolved but the average entry, which is not known before the fills. */
export interface ExitPlan {
  /** Several stops stand side by side, each for its part. */
  stops: readonly { place: StopPlace; part: Part | null; on: Seen; room?: number; extended?: true }[];
  targets: readonly { place: Place; part: Part | null }[];
  breakeven: { after: After; plusCosts: boolean } | null;
  trail: { reach: Reach; after: After | null } | null;
  /** Session time at which what is left goes. */
  outBy?: number;
  /** All of them work outside the regular session; a stop may do so alone. */
  extended: boolean;
}

/** One exit of a scope: where it stands, for which part, and how far it has come. */
export interface Leg {
  kind: 'stop' | 'target';
  /** Null: it has no price yet and gets one from the breakeven rule or the trail. */
  place: Place | null;
  part: Part | null;
  on: Seen;
  /** A stop that becomes a limit: how far beyond its price that reaches, in price units; without it, it becomes a market order. */
  room?: number;
  extended: boolean;
  filled: number;
  /** The price set since, by hand or by a rule; then it no longer follows the average. */
  moved: Price | null;
  /** Where the hand has put it last, and where a rule put one that had no price: R is measured there. */
  byHand?: Price;
  began?: Price;
  /** Taken away by the trader, or refused by the exchange for good: it is not made anew. */
  dropped: boolean;
}

/** Which shares the exits of a scope protect: those of an entry, a part of what was held, or the whole position with what joins it. */
export type Over = { kind: 'entry'; orderId: OrderId } | { kind: 'part' } | { kind: 'all' };

/** Exits belong to shares. `basis` are the shares that came under it, and what they cost. */
export interface Scope {
  id: number;
  tradeId: TradeId;
  account: AccountId;
  symbol: string;
  /** In which steps its prices go; left out for a stock. */
  ticks?: Ticks;
  sign: Sign;
  over: Over;
  basis: { qty: number; notional: number };
  /** Shares closed by hand, or handed on to a scope that took them over. */
  out: number;
  legs: readonly Leg[];
  breakeven: ExitPlan['breakeven'];
  /** `due`: its moment has come, but the stop may not move there through the market yet. */
  breakevenState: 'waits' | 'due' | 'done';
  trail: { after: After | null; state: Trail; on: boolean } | null;
  /** Session time at which what is left goes; null: never. */
  outBy: number | null;
  /** What was to go then found nobody: since when, and what it waits for. It is told once, and tried again with a quote or with the next session. */
  outFailed?: { at: number; until: 'quote' | 'session' };
  /** What 1R means for a share of its targets: the mean distance to its stops, or the trade's own R where they were put on what is held. */
  riskPerShare: number | null;
}

/** Shares under a scope that are still open. */
export const openOfScope = (s: Scope): number =>
  s.basis.qty - s.out - s.legs.reduce((a, l) => a + l.filled, 0);
