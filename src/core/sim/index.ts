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
  aheadOf,
  auctionOf,
  carryOut,
  catchUp,
  createMarket,
  depthOf,
  endDay,
  frameOf,
  haltOf,
  hasSymbol,
  keepFloor,
  leaveOut,
  type Market,
  numberOf,
  printOf,
  quoteOf,
  reviveMarket,
  runAlone,
  type SavedMarket,
  saveMarket,
  standStill,
  stepMarket,
  tapeOf,
  type Works,
  workingOrders,
} from './market.ts';
export { type OwnBars, type OwnDay, ownDailyBars, ownDates, ownScenario } from './own.ts';
export {
  carryOutInPit,
  closePit,
  type Floorside,
  look,
  nextLook,
  openPit,
  type Pit,
  pitAhead,
  pitchNow,
  pitDepth,
  pitOrders,
  pitQuote,
  pitTicks,
  unlisted,
  worthNow,
} from './pit.ts';
export type { Phase, Scenario, SymbolPlan } from './plan.ts';
export { PRACTICE_DAYS } from './practice-days.ts';
export { below, createRandom, normal, uniform } from './random.ts';
export { counted, executionsOf, forget, listed, type Register, register } from './register.ts';
export { type BarRow, leastVolume, minutesOf, type PlannedPrint, printsOf } from './replay.ts';
export type { DayFrame } from './sketch.ts';
