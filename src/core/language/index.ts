export {
  additionsTo,
  begin,
  type Choice,
  choicesAt,
  type Known,
  TASKS,
  typedAt,
} from './builder.ts';
export { clausesIn } from './clauses.ts';
export { choicesFor } from './complete.ts';
export { ONE } from './decimal.ts';
export type { Chapter, Purpose } from './grammar.ts';
export { instrumentName, instrumentNamed } from './instrument.ts';
export { UNIT_EXAMPLE } from './leaves/fields.ts';
export { MANUAL, manualText, PLACES } from './manual.ts';
export type { Mark, Span } from './marks.ts';
export { candleOf, columnFor, LEVELS, NAMED_PRICES, priceNamed } from './named-prices.ts';
export { nearestWord as nearestName } from './nearest.ts';
export { oneLine } from './one-line.ts';
export { readAs } from './piece.ts';
export { printTree } from './print.ts';
export { explain, type Fix, type Problem } from './problems.ts';
export { purposeOf } from './purpose.ts';
export { type Path, type Row, rowsOf, type Word } from './rows.ts';
export { beginsSentence } from './rules.ts';
export {
  type Parsed,
  parseExits,
  parseRule,
  parseScript,
  printScript,
  withSentence,
} from './script.ts';
export type * from './tree.ts';
export { LANGUAGE_VERSION } from './version.ts';
