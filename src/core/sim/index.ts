export {
  aheadOf,
  createMarket,
  depthOf,
  hasSymbol,
  type Market,
  pullOrder,
  quoteOf,
  sendOrder,
  shrinkOrder,
  stepMarket,
  type TraderReport,
  tapeOf,
} from './market.ts';
export { demoDay, type Scenario, type SymbolPlan } from './scenario.ts';
