// npm test: everything that must hold, from the packages to the stories in a real browser.
import { mkdirSync, readFileSync } from 'node:fs';
import { build, installForTests, installPackages, run } from './machine.mjs';

mkdirSync('test-results', { recursive: true });
installPackages();
installForTests();
const part = (title, name, ...args) => run(title, 'npm', ['run', '-s', name, '--', ...args]);
part('types', 'types');
part('lint, format and borders between rooms', 'lint');
part(
  'unit and reference tests',
  'unit',
  '--json',
  '--outputFile=test-results/jest.json',
  '--reporters=default',
  // Nothing else runs meanwhile.
  '--maxWorkers=100%',
);
build({ always: true });
part('stories in the browser', 'stories');

const jest = JSON.parse(readFileSync('test-results/jest.json', 'utf8'));
const browser = JSON.parse(readFileSync('test-results/playwright.json', 'utf8')).stats;
console.log(
  `\n${jest.numPassedTests + browser.expected} passed, ${jest.numFailedTests + browser.unexpected} failed`,
);
