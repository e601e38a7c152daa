import { type AccountId, type Money, money, moneyFromDollars } from '../units/index.ts';
import { DEFAULT_FEES, type FeeTable } from './fees.ts';
import { emptyLedger, type Ledger } from './ledger.ts';

/** The rules of an account; amounts in 1/10,000 dollar. */
export interface AccountRules {
  name: string;
  kind: 'margin';
  startCash: Money;
  /** Buying power as a multiple of equity within the day: a setting, 4 is usual (from memory). */
  multiple: number;
  /** 1R: what the trader is ready to lose on one trade. */
  riskUnit: Money;
  /** Guards. */
  mostShares: number;
  /** How far through the quote a limit may reach, in percent. */
  collarPercent: number;
}

export const DEFAULT_ACCOUNT: AccountRules = {
  name: 'Practice margin',
  kind: 'margin',
  startCash: moneyFromDollars(30_000),
  multiple: 4,
  riskUnit: moneyFromDollars(60),
  mostShares: 5_000,
  collarPercent: 10,
};

/** The id of the account that a new session has. */
export const MAIN = 'main' as AccountId;

/** An account: its rules, its fees, its cash, and what its finished trades came to. */
export interface Account {
  id: AccountId;
  rules: AccountRules;
  fees: FeeTable;
  ledger: Ledger;
  closed: { gross: Money; commission: Money };
}

/** A new account, with its starting cash and nothing else. */
export const openAccount = (id: AccountId, rules: AccountRules, fees: FeeTable = DEFAULT_FEES): Account => ({
  id,
  rules,
  fees,
  ledger: emptyLedger(),
  closed: { gross: money(0), commission: money(0) },
});

/** Equity and what may still be bought, in 1/10,000 dollar. */
export interface AccountView {
  equity: Money;
  buyingPower: Money;
  realized: Money;
  unrealized: Money;
  commission: Money;
}

/** What one open position adds to an account's figures: its shares' worth (signed), gains, and commission so far. */
export interface PositionView {
  value: number;
  realized: number;
  unrealized: number;
  commission: number;
}

/**
 * Equity = cash + market value of positions; buying power = equity × multiple − market value held
 * − what working entries would need (common practice; initial margin under Regulation T is 50 %,
 * 12 CFR 220, more within the day by the firm's multiple). Protective exits need none.
 */
export function accountView(
  a: Account,
  positions: readonly PositionView[],
  workingEntries: number,
): AccountView {
  const sum = (f: (p: PositionView) => number) => positions.reduce((s, p) => s + f(p), 0);
  const equity = a.rules.startCash + a.ledger.cash + sum((p) => p.value);
  const held = sum((p) => Math.abs(p.value));
  return {
    equity: money(Math.round(equity)),
    buyingPower: money(Math.max(0, Math.round(equity * a.rules.multiple - held - workingEntries))),
    realized: money(Math.round(a.closed.gross + sum((p) => p.realized))),
    unrealized: money(Math.round(sum((p) => p.unrealized))),
    commission: money(a.closed.commission + sum((p) => p.commission)),
  };
}
