export { lengthText } from './conditions.ts';
export type {
  AlertAsked,
  Chain,
  Deed,
  DeskAct,
  Named,
  OrderFacts,
  Reading,
  RunContext,
  RunProblem,
  Staged,
  TicketSize,
  Waiting,
} from './moment.ts';
export { ACTIVE_PLAN, PLANS } from './plans.ts';
export { readStatement } from './read.ts';
export type { Reason } from './reasons.ts';
export { shareOf } from './sizes.ts';
export { type Band, USUAL } from './usual.ts';
export { nearnessOf, overNight, pricesAwaited, seenNow, told } from './waits.ts';
