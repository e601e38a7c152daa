export { emaLine, vwapLine } from './indicators.ts';
export type { Instrument, NewsItem, Print, Quote } from './instrument.ts';
export { type Bar, barsOf, createTape, DAY_MINUTES, lastFinishedBar, minuteOf, record, type Tape, vwapOf } from './tape.ts';
