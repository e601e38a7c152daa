export {
  type Account,
  type AccountRules,
  type AccountView,
  accountView,
  DEFAULT_ACCOUNT,
  MAIN,
  openAccount,
  type PositionView,
} from './account.ts';
export { commissionFor, DEFAULT_FEES, type FeeTable } from './fees.ts';
export { emptyLedger, type Ledger, post, settleBy } from './ledger.ts';
