export { type Difference, differenceOf, type Figures, figuresOf, type RehearsedTrade } from './figures.ts';
export { type DaySum, daysToTell, FEWEST_DAYS, type Interval, intervalOf, meanOf } from './interval.ts';
