// npm run mutate: changes the source by hand's width, one place at a time, and looks whether a test notices.
// `npm run mutate -- 60 5` tries 60 places chosen from seed 5 on; `npm run mutate -- 60 5 src/core/review` those of one room or file. Works on a copy; survivors
// are listed.
import { spawnSync } from 'node:child_process';
import {
  cpSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import ts from 'typescript';

const count = Number(process.argv[2] ?? 100);
const seed = Number(process.argv[3] ?? 1);
const room = process.argv[4] ?? '';
const ROOMS = [
  'src/core/orders',
  'src/core/triggers',
  'src/core/account',
  'src/core/language',
  'src/core/language/leaves',
  'src/core/reading',
  'src/core/plans',
  'src/core/review',
  'src/core/formats',
  'src/core/statistics',
  'src/session',
  'src/store',
].filter((r) => r.startsWith(room) || room.startsWith(r));
/** Of the session only the engine and what it is made of; views and the day's parts have their own tests. */
const LEFT_OUT = ['index.ts', 'wording.ts', 'view.ts', 'day-ref.ts', 'ports.ts', 'log.ts', 'state.ts'];
const LANGUAGE = ['src/core/language', 'src/core/reading', 'src/session/must-not-mean.test.ts'];
/** Tests nearest to what is changed come first; the first that fails ends the mutant. */
const TESTS = {
  'src/core/orders': [
    'src/core/orders',
    'src/core/review',
    'src/core/reading/read.test.ts',
    'src/session/acknowledged.test.ts',
    'src/session/engine.test.ts',
  ],
  'src/core/triggers': ['src/core/triggers', 'src/core/orders', 'src/core/alerts'],
  'src/core/account': ['tests/reference/accounts.test.ts', 'src/core/orders', 'src/core/review'],
  'src/core/language': LANGUAGE,
  'src/core/language/leaves': LANGUAGE,
  'src/core/reading': [
    'src/core/reading',
    'src/session/must-not-mean.test.ts',
    'src/session/meant.test.ts',
    'src/session/options.test.ts',
    'src/core/plans',
    'src/session/peek.test.ts',
    'src/session/waits.test.ts',
  ],
  'src/core/plans': ['src/core/plans'],
  'src/core/review': [
    'src/core/review',
    'src/worker/review/review.test.ts',
    'src/worker/executions/joined-records.test.ts',
    'tests/reference/review.test.ts',
  ],
  'src/core/formats': [
    'src/core/formats',
    'src/worker/review/review.test.ts',
    'tests/reference/review.test.ts',
    'src/store/archive.test.ts',
  ],
  'src/core/statistics': ['src/core/review', 'src/core/rehearsal', 'tests/reference'],
  'src/store': ['src/store', 'src/worker/review/review.test.ts'],
  'src/session': ['src/session', 'src/worker/session/host.test.ts'],
  'src/session/left-alone.ts': ['src/session/left-alone.test.ts'],
};

const files = ROOMS.flatMap((place) =>
  readdirSync(place)
    .filter((f) => f.endsWith('.ts') && !f.endsWith('.test.ts') && !LEFT_OUT.includes(f))
    .map((f) => join(place, f)),
).filter((f) => f.startsWith(room));

const SWAPS = new Map([
  [ts.SyntaxKind.LessThanToken, '<='],
  [ts.SyntaxKind.LessThanEqualsToken, '<'],
  [ts.SyntaxKind.GreaterThanToken, '>='],
  [ts.SyntaxKind.GreaterThanEqualsToken, '>'],
  [ts.SyntaxKind.PlusToken, '-'],
  [ts.SyntaxKind.MinusToken, '+'],
  [ts.SyntaxKind.AsteriskToken, '/'],
  [ts.SyntaxKind.SlashToken, '*'],
  [ts.SyntaxKind.AmpersandAmpersandToken, '||'],
  [ts.SyntaxKind.BarBarToken, '&&'],
  [ts.SyntaxKind.EqualsEqualsEqualsToken, '!=='],
  [ts.SyntaxKind.ExclamationEqualsEqualsToken, '==='],
]);

/** The files as they were at the start: work on them may go on meanwhile. */
const texts = new Map();
/** Every place of a file that can be changed, with what comes there instead. */
function placesIn(file) {
  const text = readFileSync(file, 'utf8');
  texts.set(file, text);
  const tree = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const out = [];
  const put = (node, to) =>
    out.push({ file, from: node.getStart(tree), end: node.getEnd(), was: node.getText(tree), to });
  // biome-ignore lint/complexity/noExcessiveCognitiveComplexity: one branch a kind of change
  const visit = (node) => {
    if (
      ts.isTypeNode(node) ||
      ts.isImportDeclaration(node) ||
      ts.isInterfaceDeclaration(node) ||
      ts.isTypeAliasDeclaration(node)
    )
      return;
    if (ts.isBinaryExpression(node)) {
      const to = SWAPS.get(node.operatorToken.kind);
      const joins = node.operatorToken.kind === ts.SyntaxKind.PlusToken && /['"`]/.test(node.getText(tree));
      if (to && !joins) put(node.operatorToken, to);
    } else if (ts.isNumericLiteral(node))
      put(node, node.text === '0' ? '1' : node.text === '1' ? '2' : `(${node.getText(tree)} * 1.5)`);
    else if (node.kind === ts.SyntaxKind.TrueKeyword) put(node, 'false');
    else if (node.kind === ts.SyntaxKind.FalseKeyword) put(node, 'true');
    else if (ts.isIfStatement(node)) put(node.expression, 'false');
    else if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
      put(node, node.operand.getText(tree));
    else if (
      ts.isExpressionStatement(node) &&
      ts.isCallExpression(node.expression) &&
      node.expression.expression.getText(tree) !== 'unreachable'
    )
      put(node, ';');
    ts.forEachChild(node, visit);
  };
  visit(tree);
  return out;
}

let state = seed * 2654435761;
const draw = (n) => {
  state = (Math.imul(state ^ (state >>> 15), 2246822519) + 374761393) | 0;
  return (state >>> 0) % n;
};
const places = files.flatMap(placesIn);
const chosen = [];
while (chosen.length < Math.min(count, places.length)) chosen.push(...places.splice(draw(places.length), 1));

const copy = mkdtempSync(join(tmpdir(), 'keen-fox-mutants-'));
for (const part of ['src', 'tests', 'scripts', 'docs', 'package.json', 'tsconfig.json', 'jest.config.mjs'])
  cpSync(part, join(copy, part), {
    recursive: true,
    filter: (f) => !statSync(f).isDirectory() || !f.endsWith('screenshots'),
  });
symlinkSync(resolve('node_modules'), join(copy, 'node_modules'));
mkdirSync(join(copy, 'test-results'), { recursive: true });

const survivors = [];
let tried = 0;
/** Whether a test passes in the copy. */
function passes(test) {
  const { status, signal } = spawnSync(
    'node',
    [
      '--experimental-vm-modules',
      '--no-warnings',
      'node_modules/jest/bin/jest.js',
      '--bail',
      '--forceExit',
      '--passWithNoTests',
      test,
    ],
    { cwd: copy, stdio: 'ignore', timeout: 120_000, env: { ...process.env, FEW_RUNS: '1' } },
  );
  return status === 0 && signal === null;
}

try {
  for (const test of new Set(TESTS[room] ?? ROOMS.flatMap((r) => TESTS[r])))
    if (!passes(test)) throw new Error(`${test} fails as it is: nothing can be learned from it`);
  for (const m of chosen) {
    const text = texts.get(m.file);
    const mutated = text.slice(0, m.from) + m.to + text.slice(m.end);
    if (
      ts.transpileModule(mutated, {
        reportDiagnostics: true,
        compilerOptions: { target: ts.ScriptTarget.ES2022 },
      }).diagnostics?.length
    )
      continue;
    writeFileSync(join(copy, m.file), mutated);
    const place = ROOMS.find((r) => m.file.startsWith(r));
    let killed = false;
    for (const test of TESTS[m.file] ?? TESTS[place]) {
      killed = !passes(test);
      if (killed) break;
    }
    writeFileSync(join(copy, m.file), text);
    tried++;
    const line = text.slice(0, m.from).split('\n').length;
    if (!killed) {
      survivors.push(`${m.file}:${line}  ${m.was.slice(0, 70).replaceAll('\n', ' ')} → ${m.to}`);
      console.log(`survived  ${survivors.at(-1)}`);
    }
    if (tried % 10 === 0) console.log(`${tried} tried, ${tried - survivors.length} noticed`);
  }
} finally {
  rmSync(copy, { recursive: true, force: true });
}
console.log(
  `${tried} mutants, ${tried - survivors.length} killed (${((100 * (tried - survivors.length)) / Math.max(1, tried)).toFixed(0)} of 100)`,
);
process.exit(tried - survivors.length >= 0.85 * tried ? 0 : 1);
