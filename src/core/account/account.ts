import { type AccountId, type Money, money, moneyFromDollars } from '../units/index.ts';
import { DEFAULT_FEES, type FeeTable } from './fees.ts';
import { type Guards, PLAIN_GUARDS } from './guards.ts';
import { emptyLedger, type Ledger, settledCash } from './ledger.ts';
import { INITIAL_PART, maintenanceOf, powerOf } from './margin.ts';

/** Nothing; long calls and puts and puts secured by cash; those and verticals. Calls sold without cover are for nobody here. */
export type OptionsApproval = 'none' | 'long' | 'spreads';

/** What options an account may trade: a margin account everything there is unless it is said otherwise, a cash account no verticals. */
export const approvalOf = ({ options, kind }: Pick<AccountRules, 'options' | 'kind'>): OptionsApproval =>
  options === undefined
    ? kind === 'margin'
      ? 'spreads'
      : 'long'
    : kind === 'cash' && options === 'spreads'
      ? 'long'
      : options;

/** The rules of an account; amounts in 1/10,000 dollar. */
export interface AccountRules {
  name: string;
  /** A cash account buys with settled cash only, and sells nothing short. */
  kind: 'margin' | 'cash';
  startCash: Money;
  /** Buying power within the day as a multiple of equity: a setting, 4 is usual (FINRA Rule 4210; from memory). */
  multiple: number;
  /** Equity below which only the overnight multiple holds: a setting, $25,000 is usual (from memory; under revision). */
  multipleFrom: Money;
  /** 1R: what the trader is ready to lose on one trade. */
  riskUnit: Money;
  /** Percent of what a first target makes from which on an order is flagged for its costs: a setting. */
  costShare: number;
  /** What options the account may trade; left out in accounts of before: what its kind usually may. */
  options?: OptionsApproval;
  guards: Guards;
}

export const DEFAULT_ACCOUNT: AccountRules = {
  name: 'Practice margin',
  kind: 'margin',
  startCash: moneyFromDollars(30_000),
  multiple: 4,
  multipleFrom: moneyFromDollars(25_000),
  riskUnit: moneyFromDollars(60),
  costShare: 25,
  guards: PLAIN_GUARDS,
};

/** The cash account that comes with the app. */
export const CASH_ACCOUNT: AccountRules = {
  ...DEFAULT_ACCOUNT,
  name: 'Practice cash',
  kind: 'cash',
  startCash: moneyFromDollars(20_000),
  multiple: 1,
  riskUnit: moneyFromDollars(40),
};

/** The ids of the accounts that a new session has. */
export const MAIN = 'main' as AccountId;
export const CASH = 'cash' as AccountId;

/** Shares that a lender has set aside for the day. */
export interface Locate {
  symbol: string;
  shares: number;
  /** What it cost, until a trade sells them short; then it belongs to that. */
  fee?: Money;
}

/** An account: its rules, its fees, its cash, and what its finished trades came to. */
export interface Account {
  id: AccountId;
  rules: AccountRules;
  /** What loosens a guard, and holds from the next day on; null when nothing waits. */
  next: AccountRules | null;
  fees: readonly FeeTable[];
  ledger: Ledger;
  closed: { gross: Money; costs: Money };
  locates: readonly Locate[];
  /** The trading day that is on, and the equity with which it began. */
  day: { day: number; equity: Money };
  /** The daily loss has locked new risk, for the rest of this trading day. */
  locked: { day: number; at: number; loss: Money } | null;
  /** The orders that opened risk within the last second. */
  recent: readonly { at: number; what: string }[];
}

/** What an account is set up from. */
export interface AccountSetup {
  id: AccountId;
  rules: AccountRules;
  fees: readonly FeeTable[];
}

/** The accounts of a new trader. */
export const FIRST_ACCOUNTS: readonly AccountSetup[] = [
  { id: MAIN, rules: DEFAULT_ACCOUNT, fees: [DEFAULT_FEES] },
  { id: CASH, rules: CASH_ACCOUNT, fees: [DEFAULT_FEES] },
];

/** A new account, with its starting cash and nothing else. */
export const openAccount = ({ id, rules, fees }: AccountSetup): Account => ({
  id,
  rules,
  next: null,
  fees,
  ledger: emptyLedger(),
  closed: { gross: money(0), costs: money(0) },
  locates: [],
  day: { day: 0, equity: rules.startCash },
  locked: null,
  recent: [],
});

/** Where an account stands; money in 1/10,000 dollar. */
export interface AccountView {
  equity: Money;
  /** What may still be bought within the day, or with settled cash. */
  buyingPower: Money;
  /** Buying power with which the day began, and what of it positions and working entries use. */
  power: { opening: Money; positions: Money; entries: Money };
  realized: Money;
  unrealized: Money;
  costs: Money;
  /** Result of the day, after costs, open positions at their last price. */
  today: Money;
  cash: { settled: Money; unsettled: Money };
  /** Equity that has to be there to hold what is held, and what is left above it: below zero is a margin call. */
  maintenance: Money;
  excess: Money;
  /** What has to be sold before the close to be held overnight under Regulation T; 0 when nothing. */
  overnight: Money;
  locked: Account['locked'];
}

/** What one open position adds to an account's figures: shares (signed), their price now, gains, and costs so far. */
export interface PositionView {
  shares: number;
  mark: number;
  multiplier: number;
  /** Of options: the most that one share's worth can still lose from its mark. */
  loss?: number;
  realized: number;
  unrealized: number;
  costs: number;
}

/** The multiple that holds today: the overnight one where the day began below the least equity. */
export const multipleOf = (a: Account): number =>
  a.rules.kind === 'cash' ? 1 : a.day.equity < a.rules.multipleFrom ? 1 / INITIAL_PART : a.rules.multiple;

/**
 * Equity = cash + market value of positions. Buying power of a margin account = equity × multiple − what
 * positions and working entries use of it; of a cash account its settled cash less what working entries
 * need. Protective exits need none. Options are lent nothing on: they use what they can still lose, in
 * terms of buying power its multiple; a short put of a cash account sets its whole strike aside.
 */
export function accountView(
  a: Account,
  positions: readonly PositionView[],
  workingEntries: number,
): AccountView {
  const sum = (f: (p: PositionView) => number) => positions.reduce((s, p) => s + f(p), 0);
  const equity = a.rules.startCash + a.ledger.cash + sum((p) => p.shares * p.mark * p.multiplier);
  const multiple = multipleOf(a);
  const atStake = (p: PositionView): number => Math.abs(p.shares) * p.multiplier * (p.loss ?? 0);
  const used = (at: number) =>
    sum((p) => (p.loss === undefined ? powerOf(p.shares * p.multiplier, p.mark, at) : at * atStake(p)));
  const settled = settledCash(a.ledger, a.rules.startCash);
  const cash = a.rules.kind === 'cash';
  const positionsUse = cash ? 0 : used(multiple);
  const set = cash
    ? sum((p) => (p.shares < 0 ? atStake(p) + Math.abs(p.shares) * p.multiplier * p.mark : 0))
    : 0;
  const left = cash ? settled - set - workingEntries : equity * multiple - positionsUse - workingEntries;
  const maintenance = cash
    ? 0
    : sum((p) => (p.loss === undefined ? maintenanceOf(p.shares * p.multiplier, p.mark) : atStake(p)));
  const gross = a.closed.gross + sum((p) => p.realized);
  const costs = a.closed.costs + sum((p) => p.costs);
  return {
    equity: money(Math.round(equity)),
    buyingPower: money(Math.max(0, Math.round(left))),
    power: {
      opening: money(Math.round(cash ? settled : a.day.equity * multiple)),
      positions: money(Math.round(positionsUse)),
      entries: money(Math.round(workingEntries)),
    },
    realized: money(Math.round(gross)),
    unrealized: money(Math.round(sum((p) => p.unrealized))),
    costs: money(costs),
    today: money(Math.round(equity - a.day.equity)),
    cash: {
      settled: money(Math.round(settled)),
      unsettled: money(Math.round(a.rules.startCash + a.ledger.cash - settled)),
    },
    maintenance: money(Math.round(maintenance)),
    excess: money(Math.round(equity - maintenance)),
    overnight: money(cash ? 0 : Math.max(0, Math.round(used(1 / INITIAL_PART) - equity / INITIAL_PART))),
    locked: a.locked,
  };
}
