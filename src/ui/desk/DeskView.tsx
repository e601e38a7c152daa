'use client';

import dynamic from 'next/dynamic';
import { useEffect, useRef } from 'react';
import { type Layout, panelTab, SHIPPED } from '@/store/arrangement';
import { rearrange, shownOf } from '../arrangement';
import { useHands } from '../hands/hands';
import { LivePairs } from '../pair/LivePairs';
import { Rack } from '../panels/Rack';
import { TradeBand } from '../panels/TradeBand';
import { useSettings } from '../settings';
import { deskSpace, modelOf, Space, type SpaceModel } from './Space';

/** With what it needs, fetched only when somebody arranges. */
const ArrangeBar = dynamic(() => import('./ArrangeBar').then((m) => m.ArrangeBar), { ssr: false });

const asModel = (layout: Layout): SpaceModel =>
  modelOf(layout) ?? (modelOf((SHIPPED[0] as (typeof SHIPPED)[number]).layout) as SpaceModel);

/** The Desk: the trade across the top, panels as the trader has arranged them, the rack along the bottom. */
export function DeskView() {
  const shown = useSettings(shownOf);
  const arranging = useHands((s) => s.arranging);
  /** The layout as the panels have it: another one was put in its place from outside. */
  const told = useRef<Layout>(shown.layout);
  useEffect(() => {
    if (told.current === shown.layout) return;
    told.current = shown.layout;
    deskSpace.current?.setModel(asModel(shown.layout));
  }, [shown.layout]);
  useEffect(() => () => useHands.setState({ arranging: false }), []);
  return (
    // On a low screen, or a large zoom, it is scrolled rather than squeezed.
    <main className="flex h-full min-h-[560px] min-w-0 flex-col gap-1.5 p-1.5">
      <h1 className="sr-only">Desk</h1>
      {arranging && (
        <ArrangeBar
          add={(panel) => deskSpace.current?.addTab(panelTab(panel))}
          done={() => useHands.setState({ arranging: false })}
        />
      )}
      {shown.trade && <TradeBand />}
      <div className="min-h-0 min-w-0 grow">
        <Space
          key={shown.id}
          handle={deskSpace}
          model={asModel(shown.layout)}
          arranging={arranging}
          changed={(model) => {
            told.current = model as Layout;
            rearrange((a) => ({ ...a, layout: model as Layout }));
          }}
        />
      </div>
      <div className="grid min-w-0 shrink-0 gap-1.5">
        <LivePairs />
        {shown.rack && <Rack />}
      </div>
    </main>
  );
}
