export { type Carry, INDEX_SYMBOL, PRACTICE_DAYS, type PracticeDay, practiceDay, UNIVERSE } from './days.ts';
export type { AuctionView, OutReason, TraderReport } from './floor-types.ts';
export { dailyHistory, HISTORY_DAYS } from './history.ts';
export {
  aheadOf,
  auctionOf,
  carryOf,
  createMarket,
  depthOf,
  haltOf,
  hasSymbol,
  keepFloor,
  type Market,
  numberOf,
  printOf,
  pullOrder,
  quoteOf,
  reviveMarket,
  runAlone,
  type SavedMarket,
  saveMarket,
  sendOrder,
  shrinkOrder,
  stepMarket,
  tapeOf,
} from './market.ts';
export { type OwnBars, type OwnDay, ownDailyBars, ownDates, ownScenario } from './own.ts';
export type { Phase, Scenario, SymbolPlan } from './plan.ts';
export { type BarRow, leastVolume, minutesOf, type PlannedPrint, printsOf } from './replay.ts';
