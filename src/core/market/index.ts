export { type Board, boardTrade, createBoard, priceBack, SPARKS, statusOf } from './board.ts';
export { emaLine, vwapLine } from './indicators.ts';
export type { Borrow, Instrument, NewsItem, Print, PrintCondition, PrintVenue, Quote, TradingStatus } from './instrument.ts';
export { type Bar, barsOf, createTape, DAY_MINUTES, lastFinishedBar, minuteOf, record, type Tape, vwapOf } from './tape.ts';
export { usualShareBy, usualVolumeBy } from './usual-volume.ts';
