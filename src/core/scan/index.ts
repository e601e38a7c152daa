export { candidateTrade } from './candidate-trade.ts';
export {
  type ClauseAnswer,
  type ClauseCount,
  clauseCounts,
  clausesOf,
  fieldsOf,
  joined,
  why,
} from './clauses.ts';
export { sift } from './pass.ts';
export { PRESETS, type Scan } from './presets.ts';
export { ordered, type Ranking, rank } from './rank.ts';
export { weaker } from './weaker.ts';
