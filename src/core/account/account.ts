import { type Money, money, moneyFromDollars } from '../units/index.ts';

/** The rules of the trader's account; amounts in 1/10,000 dollar. */
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

/** Equity and what may still be bought, in 1/10,000 dollar. */
export interface AccountView {
  equity: Money;
  buyingPower: Money;
  realized: Money;
  unrealized: Money;
  commission: Money;
}

/**
 * Equity = cash + market value of positions; buying power = equity × multiple − market value held
 * − what working entries would need (common practice; initial margin under Regulation T is 50 %,
 * 12 CFR 220, more within the day by the firm's multiple). Protective exits need none.
 */
export function accountView(
  rules: AccountRules,
  positions: readonly { shares: number; value: number; realized: number; unrealized: number; commission: number }[],
  workingEntries: number,
): AccountView {
  const sum = (f: (p: (typeof positions)[number]) => number) => positions.reduce((a, p) => a + f(p), 0);
  const realized = sum((p) => p.realized);
  const unrealized = sum((p) => p.unrealized);
  const commission = sum((p) => p.commission);
  const equity = rules.startCash + realized + unrealized - commission;
  const held = sum((p) => Math.abs(p.value));
  return {
    equity: money(Math.round(equity)),
    buyingPower: money(Math.max(0, Math.round(equity * rules.multiple - held - workingEntries))),
    realized: money(Math.round(realized)),
    unrealized: money(Math.round(unrealized)),
    commission: money(commission),
  };
}
