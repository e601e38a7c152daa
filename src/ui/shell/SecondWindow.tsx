'use client';

import { useEffect, useRef } from 'react';
import { usePopoutWindows } from 'react-resizable-panels';
import {
  type Arrangement,
  docked,
  freeChart,
  type Layout,
  PANELS,
  type PanelTab,
  panelsOf,
  panelTab,
} from '@/store/arrangement';
import { rearrange, shownOf } from '../arrangement';
import { notice, screens, useSession } from '../client';
import { deskSpace, modelOf, Space } from '../desk/Space';
import { px } from '../format';
import { useHands } from '../hands/hands';
import { listen } from '../hands/useKeys';
import { useSettings } from '../settings';
import { SayBackStrip } from './SayBackStrip';

const SIZE = { width: 1_100, height: 760 };

/**
 * A second window: panels of this very page in another one, so that there is one session and one writer. It stays
 * while the views of the first are changed. Its panels are kept with the arrangement, and closed with it; the
 * browser opens it again only on a press.
 */
export function SecondWindow() {
  const shown = useSettings(shownOf);
  const theme = useSettings((s) => s.theme);
  const arranging = useHands((s) => s.arranging);
  const stop = useRef(new Map<Window, () => void>());
  const forget = (window: Window) => {
    stop.current.get(window)?.();
    stop.current.delete(window);
    screens.delete(window);
  };
  const closed = () => useHands.setState({ second: false });
  const { popouts, open, closeAll, render } = usePopoutWindows<PanelTab['data']>({
    workspaceRef: deskSpace,
    onOpen: ({ window, container }) => {
      window.document.title = 'Keen Fox · second window';
      window.document.documentElement.dataset.theme = useSettings.getState().theme;
      container.style.height = '100vh';
      screens.add(window);
      stop.current.set(window, listen(window));
      window.addEventListener('pagehide', () => forget(window));
    },
    onClose: (model) => {
      // Its panels come back to the first window.
      const ids = panelsOf(model as Layout);
      for (const id of ids) deskSpace.current?.addTab(panelTab(id));
      rearrange((a) => ({
        ...a,
        second: null,
        ...(deskSpace.current ? {} : { layout: docked(a.layout, ids) }),
      }));
      closed();
    },
  });
  useEffect(() => {
    for (const p of popouts) p.window.document.documentElement.dataset.theme = theme;
  }, [popouts, theme]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each arrangement: another one has a second window of its own
  useEffect(() => {
    const layout = shown.second ?? firstSecond(shown);
    const model = layout && modelOf(layout);
    const place = { ...SIZE, screenX: window.screenX + 80, screenY: window.screenY + 80 };
    if (!model || !open(model, place)) {
      notice(
        model
          ? 'The browser did not open a second window. Allow this page to open windows, and press again.'
          : 'Every panel is in this window already. Close one, or add another arrangement, and press again.',
      );
      return closed();
    }
    rearrange((a) => ({ ...a, second: layout }));
    return () => {
      closeAll();
      closed();
    };
  }, [shown.id]);
  return render((props, { id }) => (
    <div key={id} className="grid h-full grid-rows-[auto_1fr_auto] gap-1.5 bg-ground">
      <SecondHead />
      <div className="min-h-0 px-1.5">
        <Space
          model={props.defaultModel}
          handle={props.workspaceRef}
          arranging={arranging}
          changed={(model, meta) => {
            props.onModelChanged(model, meta);
            if (panelsOf(model as Layout).length > 0) rearrange((a) => ({ ...a, second: model as Layout }));
          }}
        />
      </div>
      <SayBackStrip />
    </div>
  ));
}

/** What a second window shows at first: panels that the first one does not have. */
function firstSecond(a: Arrangement): Layout | null {
  const taken = panelsOf(a.layout);
  const chart = freeChart(taken);
  const free = [
    ...(chart ? [chart] : []),
    ...PANELS.filter((p) => p !== 'chart' && !taken.includes(p)),
  ].slice(0, 3);
  if (free.length === 0) return null;
  return {
    version: 1,
    root: { type: 'tabset', id: 'second', tabs: free.map(panelTab), selectedId: free[0] as string },
  };
}

/** What keys act on, in sight here too. */
function SecondHead() {
  const symbol = useSession((s) => s.focus?.symbol ?? '–');
  const last = useSession((s) => s.focus?.last ?? null);
  const account = useSession((s) => s.account?.name ?? '');
  const on = useSettings((s) => s.keysOn);
  return (
    <header className="panel flex items-baseline gap-3 border-x-0 border-t-0 px-3 py-1">
      <h1 className="sr-only">Second window</h1>
      <span className="num text-lg font-bold text-focus">{symbol}</span>
      <span className="num">{px(last)}</span>
      <span className="ml-auto text-quiet">{account}</span>
      <span className={on ? 'text-focus' : 'text-quiet line-through'}>{on ? 'Keys on' : 'Keys off'}</span>
    </header>
  );
}
