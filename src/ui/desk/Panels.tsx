'use client';

import dynamic from 'next/dynamic';
import type { PanelTab } from '@/store/arrangement';
import { DepthPanel } from '../panels/DepthPanel';
import { Sentence } from '../panels/Sentence';
import { Shortlist } from '../panels/Shortlist';
import { TradeCards } from '../panels/TradeCards';

const onItsWay = (what: string) => () => (
  <section className="panel h-full p-3 text-quiet" aria-label={what}>
    {what}: on its way.
  </section>
);
const ChartPanel = dynamic(() => import('../chart/ChartPanel').then((m) => m.ChartPanel), {
  ssr: false,
  loading: onItsWay('Chart'),
});
const Ladder = dynamic(() => import('../ladder/Ladder').then((m) => m.Ladder), {
  ssr: false,
  loading: onItsWay('Ladder'),
});
const OrdersTable = dynamic(() => import('../orders/OrdersTable').then((m) => m.OrdersTable), {
  ssr: false,
  loading: onItsWay('Orders'),
});
const Story = dynamic(() => import('../story/Story').then((m) => m.Story), {
  ssr: false,
  loading: onItsWay('Trade so far'),
});

/** What a panel shows. */
export function Panel({ tab }: { tab: PanelTab }) {
  switch (tab.data.kind) {
    case 'chart':
      return <ChartPanel panel={tab.id} />;
    case 'depth':
      return <DepthPanel />;
    case 'ladder':
      return <Ladder />;
    case 'cards':
      return <TradeCards />;
    case 'story':
      return <Story />;
    case 'orders':
      return <OrdersTable />;
    case 'shortlist':
      return <Shortlist />;
    case 'ticket':
      return <Sentence />;
  }
}
