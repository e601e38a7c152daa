export {
  type Account,
  type AccountRules,
  type AccountSetup,
  type AccountView,
  accountView,
  approvalOf,
  CASH,
  CASH_ACCOUNT,
  DEFAULT_ACCOUNT,
  FIRST_ACCOUNTS,
  type Locate,
  MAIN,
  multipleOf,
  type OptionsApproval,
  openAccount,
  type PositionView,
} from './account.ts';
export {
  type Costs,
  costsFor,
  DEFAULT_FEES,
  type FeeTable,
  minus,
  NO_COSTS,
  plus,
  type Traded,
  tableOn,
  totalOf,
} from './fees.ts';
export { type Guards, PLAIN_GUARDS, tightened } from './guards.ts';
export { emptyLedger, type Ledger, post, settleBy, settledCash } from './ledger.ts';
export { type LocateOffer, locateOffer } from './locates.ts';
export { INITIAL_PART, maintenanceOf, powerOf, shortMaintenance } from './margin.ts';
