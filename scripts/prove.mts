// npm run prove: very many histories, with the rules of exits checked after every step. Most are of the broker on
// an exchange that is late, partial and rude; some are long lives from another generator; some are on the shipped
// market, with reloads and a replay. `npm run prove -- 20000 17` plays 20,000 from seed 17 on.
// What breaks a rule is printed with its seed.
import fc from 'fast-check';
import { history, play } from '../tests/model/histories.ts';
import { live } from '../tests/model/lives.ts';
import { marketHistory, playMarket } from '../tests/model/market-histories.ts';

const count = Number(process.argv[2] ?? 100_000);
const first = Number(process.argv[3] ?? 1);
const EACH = 500;
const LIVES = 10;
const ON_MARKET = 3;
let played = 0;
let broken = 0;
const started = performance.now();

function tell(seed: number, on: string, result: fc.RunDetails<[unknown]>): void {
  if (!result.failed) return;
  broken++;
  const error =
    result.errorInstance instanceof Error ? result.errorInstance.message : String(result.errorInstance);
  console.log(`seed ${seed}, ${on}: ${error}\n${JSON.stringify(result.counterexample?.[0])}`);
}

for (let seed = first; played < count && broken < 5; seed++) {
  const numRuns = Math.min(EACH, count - played);
  tell(
    seed,
    'rude exchange',
    fc.check(
      fc.property(history, (h) => void play(h)),
      { seed, numRuns },
    ),
  );
  tell(
    seed,
    'shipped market',
    fc.check(
      fc.property(marketHistory, (h) => playMarket(h)),
      { seed, numRuns: ON_MARKET },
    ),
  );
  for (let k = 0; k < LIVES; k++) {
    try {
      live(seed * 1_000 + k);
    } catch (e) {
      broken++;
      console.log(`seed ${seed}, life ${seed * 1_000 + k}: ${e instanceof Error ? e.message : String(e)}`);
    }
  }
  played += numRuns + ON_MARKET + LIVES;
  if (seed % 20 === 0)
    console.log(`${played} histories, ${((performance.now() - started) / 1000).toFixed(0)} s`);
}
console.log(
  `${played} histories in ${((performance.now() - started) / 1000).toFixed(0)} s, ${broken} with a broken rule`,
);
process.exit(broken > 0 ? 1 : 0);
