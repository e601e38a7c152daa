export { SEEN, type Seen, type Tick, touched, type Way } from './tick.ts';
export { type Reach, type Trail, trailLevel, trailOn } from './trail.ts';
export {
  after,
  candlesOf,
  dueAt,
  type Happening,
  type Look,
  symbolsOf,
  type Trigger,
  type Truth,
  tell,
  trigger,
  type When,
} from './when.ts';
