export type { OrderFacts, Reading, RunContext, RunProblem } from './moment.ts';
export { parseScript } from './parse.ts';
export type { SymbolView } from './prices.ts';
export { printPrice, printRule, printScript, printStatement } from './print.ts';
export { explain, type SyntaxProblem } from './problems.ts';
export { parseRule, type RuleField } from './rule.ts';
export { readStatement } from './run.ts';
export type * from './tree.ts';
