export { type AccountRules, type AccountView, accountView, DEFAULT_ACCOUNT } from './account.ts';
export { commissionFor, DEFAULT_FEES, type FeeTable } from './fees.ts';
