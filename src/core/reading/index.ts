export { lengthText } from './conditions.ts';
export { bothWays, type Trading } from './costs.ts';
export { resolvePlan } from './exits.ts';
export { contractNow } from './instruments.ts';
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
export { exitsOf } from './plan-exits.ts';
export { PLAIN_PLANS, type Plan, type PlanBook } from './plans.ts';
export { isAnswered, type Question, questionText } from './questions.ts';
export { readStatement } from './read.ts';
export type { Reason } from './reasons.ts';
export { shareOf } from './sizes.ts';
export { type Band, PLAIN_USUAL, type Usual, usualAt } from './usual.ts';
export { nearnessOf, overNight, pricesAwaited, seenNow, told } from './waits.ts';
