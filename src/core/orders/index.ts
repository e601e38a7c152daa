export { admit } from './admit.ts';
export { heldByCloses } from './admit-checks.ts';
export {
  asleepShares,
  type Bares,
  baredShares,
  coveredShares,
  giving,
  isCovered,
  keepingStop,
  stopGiven,
} from './bare.ts';
export { stepBroker } from './broker.ts';
export { collar } from './changes.ts';
export { baredBy } from './cover.ts';
export {
  accountNow,
  type Broker,
  type BrokerContext,
  type BrokerInput,
  createBroker,
  type Effects,
  everything,
  type Holding,
  holdingOf,
  liveOrder,
  liveOrders,
  needOf,
  openTrade,
  optionsHeld,
  orderOf,
  profitOf,
  sharesWithin,
  watches,
  watchesQuotes,
} from './desk.ts';
export * from './exit-plan.ts';
export { allot, gainUnits, legPrice, newestScope, stopPriceOf, wantedExits } from './exits.ts';
export { openRisk } from './guards.ts';
export * from './intent.ts';
export * from './order.ts';
export * from './order-event.ts';
export * from './order-terms.ts';
export { atTheStop, gainOf, netNow, type Out, outcomeOf } from './outcome.ts';
export * from './refusal.ts';
export { lossAtStops, lossOfStops, riskPerShare } from './risk.ts';
export { dueOrders } from './sessions.ts';
export { meanRisk } from './shares.ts';
export * from './trade.ts';
export { orderOfWire } from './wire-ids.ts';
export { endText, eventText, refusalText } from './wording.ts';
