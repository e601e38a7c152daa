export { type Board, boardTrade, createBoard, priceBack, SPARKS, statusOf } from './board.ts';
export { contextOf, type MarketContext } from './context.ts';
export { type DrawnLevel, drawnPriceAt, type PricePoint, priceOnLine } from './drawn-level.ts';
export { BORROWS, type Facts, factsOf, ivRank } from './facts.ts';
export { fieldText, isMove } from './field-text.ts';
export {
  columnOf,
  FIELDS,
  type Field,
  type FieldUnit,
  type Fill,
  fieldOf,
  fieldValue,
  type MarketView,
} from './fields.ts';
export {
  atrLine,
  atrOf,
  type DailyBar,
  emaLine,
  rsiLine,
  smaLine,
  trueRange,
  vwapBands,
  vwapLine,
} from './indicators.ts';
export {
  type Borrow,
  type Listing,
  NEWS_KINDS,
  type NewsItem,
  type Print,
  type PrintCondition,
  type PrintVenue,
  type Quote,
  SECTORS,
  type TradingStatus,
} from './listing.ts';
export { roundPrice } from './round-price.ts';
export { sightOf } from './sight.ts';
export { type Candles, priorOf, type SymbolView } from './symbol-view.ts';
export {
  type Bar,
  barsOf,
  createTape,
  DAY_MINUTES,
  lastFinishedBar,
  lastPremarketBar,
  minuteOf,
  openingRange,
  record,
  type Tape,
  vwapOf,
} from './tape.ts';
export { usualShareBy } from './usual-volume.ts';
