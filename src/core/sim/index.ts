export {
  type Market, type TraderReport, aheadOf, createMarket, depthOf, hasSymbol, pullOrder, quoteOf, sendOrder, shrinkOrder, stepMarket, tapeOf,
} from './market.ts';
export { type Scenario, type SymbolPlan, demoDay } from './scenario.ts';
