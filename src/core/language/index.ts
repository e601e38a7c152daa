export {
  additionsTo,
  begin,
  type Choice,
  choicesAt,
  type Known,
  TASKS,
  typedAt,
} from './builder.ts';
export { candidateTrade } from './candidate-trade.ts';
export { choicesFor } from './complete.ts';
export { ONE } from './decimal.ts';
export { FORMS, GROUPS } from './forms.ts';
export { type OptionText, optionText, readOptionText, type StrikeText } from './instrument-leaf.ts';
export { UNIT_EXAMPLE } from './leaves.ts';
export { allForms, type Entry, MANUAL, manualText, PLACES } from './manual.ts';
export { nearestWord as nearestName } from './nearest.ts';
export { oneLine } from './one-line.ts';
export type { Mark } from './parse.ts';
export { printTree } from './print.ts';
export { explain, type Fix, type Problem, type Span } from './problems.ts';
export { type Purpose, purposeOf } from './purpose.ts';
export { READY } from './ready.ts';
export { type Path, type Row, rowsOf, type Word } from './rows.ts';
export {
  type Parsed,
  parseExits,
  parseRule,
  parseScript,
  printScript,
} from './script.ts';
export type * from './tree.ts';
export { LANGUAGE_VERSION } from './version.ts';
