export { SEEN, type Seen, type Tick, touched, type Way } from './tick.ts';
export { type Reach, type Trail, trailLevel, trailOn } from './trail.ts';
export {
  after,
  type Candle,
  dueAt,
  type Happening,
  symbolsOf,
  type Trigger,
  tell,
  trigger,
  type When,
} from './when.ts';
