'use client';

import dynamic from 'next/dynamic';
import { LivePairs } from '../pair/LivePairs';
import { DepthPanel } from './DepthPanel';
import { Rack } from './Rack';
import { Sentence } from './Sentence';
import { Shortlist } from './Shortlist';
import { TradeBand } from './TradeBand';
import { TradeCards } from './TradeCards';

const ChartPanel = dynamic(() => import('../chart/ChartPanel').then((m) => m.ChartPanel), {
  ssr: false,
  loading: () => (
    <section className="panel p-3 text-quiet" aria-label="Chart">
      The chart is loading.
    </section>
  ),
});

/** The Desk: the trade, the chart, the market, the sentence and the rack on one screen. */
export function DeskView() {
  return (
    <main className="grid h-full grid-cols-[1fr_228px_236px] grid-rows-[auto_1fr_auto] gap-1.5 p-1.5">
      <h1 className="sr-only">Desk</h1>
      <div className="col-span-3">
        <TradeBand />
      </div>
      <ChartPanel />
      <DepthPanel />
      <div className="grid min-h-0 grid-rows-[auto_1fr_auto] gap-1.5">
        <TradeCards />
        <Shortlist />
        <Sentence />
      </div>
      <div className="col-span-3 grid gap-1.5">
        <LivePairs />
        <Rack />
      </div>
    </main>
  );
}
