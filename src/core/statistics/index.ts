export {
  addTo,
  type DaySum,
  dayInterval,
  daysToTell,
  type Interval,
  intervalOf,
  meanOf,
} from './clusters.ts';
export { proportionInterval } from './proportion.ts';
export { studentBelow, studentQuantile } from './student.ts';
