export { parseScript } from './parse.ts';
export { printPrice, printRule, printScript, printStatement } from './print.ts';
export { type SyntaxProblem, explain } from './problems.ts';
export { type RuleField, parseRule } from './rule.ts';
export type { SymbolView } from './prices.ts';
export { type OrderFacts, type Reading, type RunContext, type RunProblem, readStatement } from './run.ts';
export { tokenize } from './tokens.ts';
export type * from './tree.ts';
