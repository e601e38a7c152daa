// npm run prove: very many histories of trader and exchange, with the rules of exits checked after every step.
// `npm run prove -- 20000 17` plays 20,000 from seed 17 on. A history that breaks a rule is printed with its seed.
import fc from 'fast-check';
import { history, play } from '../tests/model/histories.ts';

const count = Number(process.argv[2] ?? 100_000);
const first = Number(process.argv[3] ?? 1);
const EACH = 500;
let played = 0;
let broken = 0;
const started = performance.now();
for (let seed = first; played < count; seed++) {
  const runs = Math.min(EACH, count - played);
  const result = fc.check(
    fc.property(history, (h) => void play(h)),
    { seed, numRuns: runs },
  );
  played += runs;
  if (result.failed) {
    broken++;
    const error = result.errorInstance instanceof Error ? result.errorInstance.message : String(result.errorInstance);
    console.log(`seed ${seed}: ${error}\n${JSON.stringify(result.counterexample?.[0])}`);
    if (broken >= 5) break;
  }
}
console.log(`${played} histories in ${((performance.now() - started) / 1000).toFixed(0)} s, ${broken} seeds with a broken rule`);
process.exit(broken > 0 ? 1 : 0);
