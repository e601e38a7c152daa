export { type AccountRules, type AccountView, DEFAULT_ACCOUNT, accountView } from './account.ts';
export { DEFAULT_FEES, type FeeTable, commissionFor } from './fees.ts';
