// npm run wash [-- days companies seed]: what a straddle bought at the makers' fair price at every close, hedged with shares and sold at the next one,
// earns on the invented market, as a part of its price. By what was known when it was bought: nobody should be paid for that by more than a spread.

import type { Listing } from '../src/core/market/index.ts';
import { chainMoment, expiriesOn, fairGreeks, newsDates } from '../src/core/options/index.ts';
import {
  type Carry,
  carryOf,
  createMarket,
  practiceDay,
  standStill,
  stepMarket,
} from '../src/core/sim/index.ts';
import {
  DAY,
  daysBetween,
  hoursOn,
  nextTradingDay,
  PRICE_SCALE,
  type Price,
} from '../src/core/units/index.ts';

const [DAYS, COMPANIES, SEED] = [16, 8_000, 901].map((usual, k) => Number(process.argv[2 + k] ?? usual)) as [
  number,
  number,
  number,
];
const LEAST = 3 * PRICE_SCALE;

interface Straddle {
  fair: number;
  delta: number;
  spot: Price;
  expiry: string;
  group: string;
}
const RIGHTS = ['call', 'put'] as const;

/** What is known of a company at a close. */
function known(x: Listing, date: string, close: number): string {
  const o = x.options as NonNullable<Listing['options']>;
  if (newsDates(x.symbol, nextTradingDay(date), 0).length > 0) return 'reports tomorrow';
  if (newsDates(x.symbol, date, 0).length > 0) return 'reported today';
  if (Math.abs(close / x.priorClose - 1) > (3 * o.iv) / Math.sqrt(252)) return 'moved far today';
  if ((o.heat ?? 0) > 0.2) return 'moved far yesterday';
  const rank = (o.iv - o.ivLow) / (o.ivHigh - o.ivLow);
  return `nothing, rank ${rank < 1 / 3 ? 'low' : rank < 2 / 3 ? 'middle' : 'high'}`;
}

const groups = new Map<string, number[]>();
let carry: Carry | null = null;
let held = new Map<number, Straddle[]>();
for (let day = 0; day < DAYS; day++) {
  const scenario = practiceDay('quiet-day', SEED, day, carry, COMPANIES);
  const { date } = scenario;
  const m = createMarket(scenario, day);
  standStill(m);
  while (stepMarket(m, m.dayStart + DAY) >= 0);
  carry = carryOf(m);
  const { closes } = carry;
  const next = new Map<number, Straddle[]>();
  scenario.symbols.forEach(({ instrument: x }, i) => {
    const close = closes[i] as Price;
    if (!x.options || close < LEAST) return;
    const now = chainMoment({
      listing: x,
      date,
      ms: hoursOn(date).close - 1,
      bid: close - 1,
      ask: close + 1,
    });
    const priced = (expiry: string, strike: Price) =>
      RIGHTS.map((right) => fairGreeks({ kind: 'option', root: x.symbol, expiry, right, strike }, now));
    for (const s of held.get(i) ?? []) {
      const worth = priced(s.expiry, s.spot).reduce((a, g) => a + g.price, 0);
      const list = groups.get(s.group) ?? [];
      list.push((worth - s.fair - s.delta * (close - s.spot)) / s.fair);
      groups.set(s.group, list);
    }
    const expiries = expiriesOn(date, true);
    const far = (d: string) => Math.abs(daysBetween(date, d) - 35);
    const chosen = {
      week: expiries.find((d) => daysBetween(date, d) >= 4) as string,
      month: expiries.reduce((a, b) => (far(b) < far(a) ? b : a)),
    };
    next.set(
      i,
      Object.entries(chosen).map(([name, expiry]) => {
        const legs = priced(expiry, close);
        return {
          fair: legs.reduce((a, g) => a + g.price, 0),
          delta: legs.reduce((a, g) => a + g.delta, 0),
          spot: close,
          expiry,
          group: `${known(x, date, close)}, a ${name} to go`,
        };
      }),
    );
  });
  held = next;
}

console.log(
  `${DAYS} sessions of ${COMPANIES} companies, seed ${SEED}; a straddle's gain from close to close, in % of its price`,
);
for (const [group, gains] of [...groups].sort()) {
  const mean = gains.reduce((a, b) => a + b, 0) / gains.length;
  const error = Math.sqrt(gains.reduce((a, b) => a + (b - mean) ** 2, 0) / gains.length / gains.length);
  console.log(
    `${group.padEnd(44)} ${String(gains.length).padStart(7)}  ${(100 * mean).toFixed(2).padStart(6)} ± ${(100 * error).toFixed(2)}`,
  );
}
