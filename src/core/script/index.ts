export { parseScript } from './parse.ts';
export type { SymbolView } from './prices.ts';
export { printPrice, printRule, printScript, printStatement } from './print.ts';
export { explain, type SyntaxProblem } from './problems.ts';
export { parseRule, type RuleField } from './rule.ts';
export { type OrderFacts, type Reading, type RunContext, type RunProblem, readStatement } from './run.ts';
export { tokenize } from './tokens.ts';
export type * from './tree.ts';
