export { type Carry, carryOf, follow, type Prior, priorOf, sharpen } from './carry.ts';
export type { Happening } from './columns.ts';
export { listedSymbols, practiceDay, practiceSymbols } from './days.ts';
export type { AuctionView, OutReason } from './floor-types.ts';
export { dailyHistory, HISTORY_DAYS } from './history.ts';
export {
  arrive,
  change as changeLine,
  createLine,
  type Latency,
  type Line,
  type LineChange,
  nextDue,
  passes,
  report,
} from './line.ts';
export {
  catchUp,
  createMarket,
  endDay,
  frameOf,
  keepFloor,
  leaveOut,
  printOf,
  reviveMarket,
  runAlone,
  type SavedMarket,
  saveMarket,
  standStill,
  stepMarket,
} from './market.ts';
export { carryOut, type Works, workingOrders } from './market-orders.ts';
export type { Market } from './market-state.ts';
export { hasSymbol, numberOf } from './market-symbols.ts';
export { aheadOf, auctionOf, depthOf, haltOf, quoteOf, tapeOf } from './market-views.ts';
export { type OwnBars, type OwnDay, ownDailyBars, ownDates, ownScenario } from './own.ts';
export {
  carryOutInPit,
  closePit,
  type Floorside,
  nextLook,
  openPit,
  type Pit,
  pitAhead,
  pitchNow,
  pitDepth,
  pitOrders,
  pitQuote,
  worthNow,
} from './pit.ts';
export { pitTicks, unlisted } from './pit-listing.ts';
export { look } from './pit-looks.ts';
export type { Phase, Scenario, SymbolPlan } from './plan.ts';
export { PRACTICE_DAYS } from './practice-days.ts';
export { below, createRandom, normal, uniform } from './random.ts';
export { counted, executionsOf, forget, listed, type Register, register } from './register.ts';
export { type BarRow, leastVolume, minutesOf, type PlannedPrint, printsOf } from './replay.ts';
export type { DayFrame } from './sketch-frame.ts';
