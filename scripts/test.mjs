// npm test: everything that must hold, from the packages to the stories in a real browser.
import { mkdirSync, readFileSync } from 'node:fs';
import { build, installForTests, installPackages, run } from './machine.mjs';

const bin = (name) => `node_modules/.bin/${name}`;
mkdirSync('test-results', { recursive: true });
installPackages();
installForTests();
run('types', bin('next'), ['typegen']);
run('types', bin('tsc'), ['--noEmit']);
run('lint and format', bin('biome'), ['ci', '.']);
run('borders between rooms', bin('depcruise'), ['src']);
run('unit and reference tests', 'node', [
  '--experimental-vm-modules',
  '--no-warnings',
  'node_modules/jest/bin/jest.js',
  '--json',
  '--outputFile=test-results/jest.json',
  '--reporters=default',
  // Nothing else runs meanwhile.
  '--maxWorkers=100%',
]);
build({ always: true });
run('stories in the browser', bin('playwright'), ['test']);

const jest = JSON.parse(readFileSync('test-results/jest.json', 'utf8'));
const browser = JSON.parse(readFileSync('test-results/playwright.json', 'utf8')).stats;
console.log(
  `\n${jest.numPassedTests + browser.expected} passed, ${jest.numFailedTests + browser.unexpected} failed`,
);
