import {
  type AccountRules,
  type AccountSetup,
  DEFAULT_ACCOUNT,
  DEFAULT_FEES,
  type FeeTable,
  type Guards,
  MAIN,
  PLAIN_GUARDS,
} from '@/core/account';

/** Guards that let everything in that the rules of orders do. */
export const NO_GUARDS: Guards = {
  ...PLAIN_GUARDS,
  dailyLoss: null,
  mostShares: 1_000_000,
  ordersPerSecond: 1_000_000,
};

/** Half a cent a share, at least a dollar, and no other fees: sums that can be done in one's head. */
export const COMMISSION_ONLY: FeeTable = {
  ...DEFAULT_FEES,
  venueRemove: 0,
  venueAdd: 0,
  secPerMillion: 0,
  tafMicros: 0,
};

/** One margin account with these rules and guards instead of the plain ones. */
export const oneAccount = (
  rules: Partial<AccountRules> = {},
  guards: Partial<Guards> = {},
  fees: readonly FeeTable[] = [DEFAULT_FEES],
): AccountSetup[] => [
  {
    id: MAIN,
    rules: { ...DEFAULT_ACCOUNT, ...rules, guards: { ...(rules.guards ?? PLAIN_GUARDS), ...guards } },
    fees,
  },
];
