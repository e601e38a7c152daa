import fc from 'fast-check';
import { marketHistory, playMarket } from '/work/main/tests/model/market-histories.ts';

const t = performance.now();
const r = fc.check(
  fc.property(marketHistory, (h) => playMarket(h)),
  { seed: Number(process.argv[2] ?? 1), numRuns: Number(process.argv[3] ?? 40) },
);
console.log(r.failed, (r.errorInstance as Error)?.stack?.slice(0, 900), JSON.stringify(r.counterexample), ((performance.now() - t) / 1000).toFixed(1));
