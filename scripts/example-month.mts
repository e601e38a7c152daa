// Makes docs/example-month.csv: executions of a month and a half of an invented trader with two habits (out early, and trades over noon), for trying
// the import and Review. Run by `node --import tsx scripts/example-month.mts`.
import { writeFileSync } from 'node:fs';
import { totalOf } from '../src/core/account/index.ts';
import { everything, openTrade } from '../src/core/orders/index.ts';
import { createRandom, uniform } from '../src/core/sim/index.ts';
import { at, formatTime, MINUTE, PRICE_SCALE } from '../src/core/units/index.ts';
import { advance, apply, createEngine } from '../src/session/engine.ts';
import { runInput } from '../src/session/scripts.ts';
import { simMarket } from '../src/session/sim-market.ts';

const ref = { kind: 'practice', id: 'fresh-headlines', seed: 10_777, size: 400 } as const;
const r = createRandom(5, 'example month');
const rows = [
  [
    'Date',
    'Time',
    'Account',
    'Symbol',
    'Side',
    'Quantity',
    'Price',
    'Commission',
    'Fees',
    'Liquidity',
    'Route',
    'Order',
    'Execution',
    'Risk',
  ],
];
let execution = 1;
for (let n = 0; n < 32; n++) {
  const market = simMarket({ ref, own: null, only: Array.from({ length: 60 }, (_, k) => k) }, null, {
    dayNumber: n,
    carry: null,
  });
  const e = createEngine(market);
  const { dayStart } = market;
  const until = (ms: number) => void advance(e, dayStart + ms);
  const busiest = () =>
    market.instruments
      .map((x) => ({ symbol: x.symbol, last: market.last(x.symbol) ?? 0, x }))
      .filter(({ last, x }) => x.kind === 'stock' && last > 20_000)
      .sort((a, b) => b.last / b.x.priorClose - a.last / a.x.priorClose)
      .slice(0, 3);
  const thin = () => {
    const some = market.instruments.filter(
      (x) => x.kind === 'stock' && x.averageVolume < 400_000 && (market.last(x.symbol) ?? 0) > 20_000,
    );
    return some[Math.floor(uniform(r) * some.length)];
  };
  const half = market.hours.close < at(16);
  const entries = half
    ? [at(9, 36), at(10, 20)]
    : [at(9, 34), at(9, 58), at(10, 40), at(12, 10), at(12, 50), at(14, 30)];
  for (const when of entries) {
    if (uniform(r) < 0.3) continue;
    until(when + Math.floor(uniform(r) * 6 * MINUTE));
    const noon = when >= at(12) && when < at(14);
    // Over noon something thin and dear to trade, out of boredom.
    const chosen = noon ? thin() : busiest()[Math.floor(uniform(r) * 3)];
    if (!chosen) continue;
    const side = uniform(r) < 0.8 ? 'buy' : 'short';
    const text = `${side} risk 1R at ${side === 'buy' ? 'ask + 3c' : 'bid - 3c'}\n  stop 3%\n  target 2R`;
    const { result } = apply(e, runInput(text, chosen.symbol));
    if (result.problem) continue;
    // Minute by minute: out by hand at a small gain more often than not, over noon at a loss as well.
    for (let m = 1; m < 60; m++) {
      until(when + 6 * MINUTE + m * MINUTE);
      const open = Object.values(e.state.broker.holdings)
        .map((h) => openTrade(h))
        .find((t) => t?.symbol === chosen.symbol);
      if (!open) break;
      const last = market.last(chosen.symbol) ?? 0;
      const gain = (open.sign * (last - open.entryNotional / open.entered) * open.entered) / (open.risk ?? 1);
      const early = uniform(r);
      if ((gain > 0.5 && early < 0.4) || (noon && gain < -0.3 && early < 0.3) || m === 59) {
        apply(e, runInput('flatten', chosen.symbol));
        until(when + 7 * MINUTE + m * MINUTE);
        break;
      }
    }
  }
  until(market.hours.close + MINUTE);
  const { trades, fills } = everything(e.state.broker);
  for (const f of fills) {
    const t = trades.find((x) => x.id === f.tradeId);
    rows.push([
      market.date,
      formatTime(f.at - dayStart, 'millis'),
      'Main',
      f.symbol,
      f.side === 'buy' ? 'B' : 'S',
      String(f.qty),
      String(f.price / PRICE_SCALE),
      (f.costs.commission / PRICE_SCALE).toFixed(2),
      ((totalOf(f.costs) - f.costs.commission) / PRICE_SCALE).toFixed(4),
      f.liquidity === 'added' ? 'A' : 'R',
      f.venue,
      `${n + 1}-${f.orderId}`,
      String(execution++),
      t?.risk ? (t.risk / PRICE_SCALE).toFixed(2) : '',
    ]);
  }
}
writeFileSync('docs/example-month.csv', `${rows.map((x) => x.join(',')).join('\n')}\n`);
console.log(`${rows.length - 1} executions`);
