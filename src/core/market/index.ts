export { emaLine, vwapLine } from './indicators.ts';
export type { Instrument, NewsItem, Print, Quote } from './instrument.ts';
export { type Bar, DAY_MINUTES, type Tape, barsOf, createTape, lastFinishedBar, minuteOf, record, vwapOf } from './tape.ts';
