export { afterExit } from './after-exit.ts';
export { type Aftermath, type LeavingEarly, type LeftEarly, leavingEarly, type Untold } from './aftermath.ts';
export { type Attempted, type Counted, countedOf } from './counting.ts';
export { DIMENSION_LIST, type DimensionId, weekdayOf } from './dimensions.ts';
export { type Minute, withExcursions } from './excursion.ts';
export { type ExecutionRow, type ExecutionsBy, executionRows } from './executions.ts';
export { type Estimate, type Fall, type Figures, figuresOf } from './figures.ts';
export { type Group, groupsOf, inUnit, type Results, type Unit, unitOf } from './groups.ts';
export { type Joined, type JoinedFrom, joinTrades, realizedOf } from './joining.ts';
export { type KeptOne, unknownOnes } from './known.ts';
export { climb, type LadderRules, PLAIN_LADDER, type Rung } from './ladder.ts';
export { type Finding, findingsOf } from './leaks.ts';
export { ALL, type Filter, type Ledger, ledgerOf, sift } from './ledger.ts';
export {
  type DrawnFrom,
  type Outlook,
  type OutlookTerms,
  outlookOf,
  type Quantiles,
  resultsOf,
  tradesToTell,
} from './outlook.ts';
export { type PageTrade, type Planned, pageOf, type ReviewPage } from './page.ts';
export { planAlone } from './plan-alone.ts';
export { riskOf, withExits, wrongExit } from './planned.ts';
export {
  type Execution,
  type Exits,
  inTime,
  isOfOldRule,
  noExits,
  noRemark,
  type Remark,
  refOf,
  type Source,
  type TradeRecord,
  type When,
} from './record.ts';
export { concerned, type Rejoined, rejoin, takenApart } from './rejoin.ts';
export {
  type DayPoint,
  dayPoints,
  type Excursion,
  excursions,
  hoursByWeekday,
  type Span,
  spanOf,
  spansOf,
} from './series.ts';
export { reviewTrade, type TradeReview } from './trade.ts';
