// Limit up–limit down of the plan: the mean trade price, the bands around it, limit states.
import type { Hours } from '../units/index.ts';
import { bandsOf, LULD } from '../venue/index.ts';
import { BUCKETS, type Sketches, STATUS } from './columns.ts';
import type { SymbolPlan } from './plan.ts';

const BUCKET = LULD.window / BUCKETS;

/** The bands follow the reference price. */
export function setBands(s: Sketches, i: number, plan: SymbolPlan, now: number, hours: Hours): void {
  const bands = bandsOf(s.reference[i] as number, plan.instrument.tier, now, hours);
  s.upper[i] = bands.upper;
  s.lower[i] = bands.lower;
}

/** Whether the quote stands at a band, and since when. @returns whether it has stood there too long. */
export function watchBands(s: Sketches, i: number, now: number): boolean {
  const upper = s.upper[i] as number;
  if (upper === 0 || s.stage[i] !== 1) return false;
  const status =
    (s.low[i] as number) >= upper
      ? STATUS.limitUp
      : (s.high[i] as number) <= (s.lower[i] as number)
        ? STATUS.limitDown
        : STATUS.trading;
  if (status !== s.status[i]) {
    s.status[i] = status;
    s.limitSince[i] = now;
    return false;
  }
  return status !== STATUS.trading && now - (s.limitSince[i] as number) >= LULD.limitState;
}

/** Takes a trade into the mean price of the last five minutes, and moves the bands with it. */
export function reckon(
  s: Sketches,
  i: number,
  plan: SymbolPlan,
  { at, price }: { at: number; price: number },
  hours: Hours,
): void {
  if (s.stage[i] !== 1) return;
  const bucket = Math.floor(at / BUCKET);
  const base = i * BUCKETS;
  const newest = s.bucket[i] as number;
  if (bucket !== newest) {
    if (newest < 0 || bucket - newest >= BUCKETS) {
      s.meanSum.fill(0, base, base + BUCKETS);
      s.meanCount.fill(0, base, base + BUCKETS);
    } else {
      updateReference(s, i, plan, at, hours);
      for (let b = newest + 1; b <= bucket; b++) {
        s.meanSum[base + (b % BUCKETS)] = 0;
        s.meanCount[base + (b % BUCKETS)] = 0;
      }
    }
    s.bucket[i] = bucket;
  }
  const k = base + (bucket % BUCKETS);
  s.meanSum[k] = (s.meanSum[k] as number) + price;
  s.meanCount[k] = (s.meanCount[k] as number) + 1;
  if ((s.reference[i] as number) === 0) {
    s.reference[i] = price;
    setBands(s, i, plan, at, hours);
  }
}

function updateReference(s: Sketches, i: number, plan: SymbolPlan, now: number, hours: Hours): void {
  let sum = 0;
  let count = 0;
  for (let b = i * BUCKETS; b < (i + 1) * BUCKETS; b++) {
    sum += s.meanSum[b] as number;
    count += s.meanCount[b] as number;
  }
  if (count === 0) return;
  const mean = sum / count;
  const reference = s.reference[i] as number;
  if (reference === 0 || Math.abs(mean / reference - 1) >= LULD.referenceMove) s.reference[i] = mean;
  setBands(s, i, plan, now, hours);
}
