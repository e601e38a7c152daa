export type {
  AlertAsked,
  Deed,
  DeskAct,
  Named,
  OrderFacts,
  Reading,
  RunContext,
  RunProblem,
  Staged,
  TicketSize,
} from './moment.ts';
export { ACTIVE_PLAN, PLANS } from './plans.ts';
export { readStatement } from './read.ts';
export type { Reason } from './reasons.ts';
export { type Band, USUAL } from './usual.ts';
