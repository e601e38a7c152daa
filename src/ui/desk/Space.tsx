'use client';

import { X } from 'lucide-react';
import { type ReactNode, type RefObject, useCallback } from 'react';
import {
  normalizeWorkspaceModel,
  Separator,
  type TabNode,
  type TabRenderProps,
  TabsetMaximizeButton,
  type TabsetNode,
  Workspace,
  type WorkspaceChangedMeta,
  type WorkspaceImperativeHandle,
  type WorkspaceModel,
} from 'react-resizable-panels';
import { type Layout, type PanelTab, panelTab } from '@/store/arrangement';
import { Panel } from './Panels';

type Data = PanelTab['data'];
export type SpaceHandle = WorkspaceImperativeHandle<Data>;
export type SpaceModel = WorkspaceModel<Data>;

/** A kept layout as the panels' package reads it; names are those of today. */
export const modelOf = (layout: Layout): SpaceModel | null =>
  normalizeWorkspaceModel<Data>(layout, { mapTab: (t) => panelTab(t.id) as TabNode<Data> });

const show = (tab: TabNode<Data>): ReactNode => <Panel tab={tab as PanelTab} />;
const separator = (way: 'horizontal' | 'vertical') => (
  <Separator
    className={`bg-transparent outline-offset-[-1px] hover:bg-line data-[separator=active]:bg-quiet ${way === 'horizontal' ? 'w-1.5' : 'h-1.5'}`}
  />
);
const tabOf = (tab: TabNode<Data>, props: TabRenderProps) => (
  <div {...props} title={tab.title}>
    {tab.title}
  </div>
);

const NAMES = {
  tabset: 'kf-set',
  header: 'kf-head',
  tabList: 'kf-tabs',
  tab: 'kf-tab',
  toolbar: 'kf-bar',
  dropIndicator: 'kf-drop',
  dragPreview: 'kf-drag',
  tabContent: 'kf-content',
};

/** The panels of the Desk, while it is on screen. */
export const deskSpace: RefObject<SpaceHandle | null> = { current: null };

interface Props {
  model: SpaceModel;
  arranging: boolean;
  changed(model: SpaceModel, meta: WorkspaceChangedMeta): void;
  handle: RefObject<SpaceHandle | null>;
}

/** Panels beside each other, in sets of tabs. While nothing is being arranged they lie still, and a panel alone has no tab. */
export function Space({ model, arranging, changed, handle }: Props) {
  const toolbar = useCallback(
    ({ tabs, selectedId }: TabsetNode<Data>) => {
      const shown = tabs.find((t) => t.id === selectedId);
      return (
        <>
          <TabsetMaximizeButton
            className="px-1.5 text-[12px] text-quiet hover:text-text"
            title="Large, and back"
            aria-label={`${shown?.title ?? 'Panel'}: large, and back`}
          >
            {({ isMaximized }) => (isMaximized ? '▢' : '◰')}
          </TabsetMaximizeButton>
          {arranging && shown && (
            <button
              type="button"
              className="px-1.5 text-quiet hover:text-text"
              aria-label={`Close ${shown.title}`}
              title="Close the panel that is shown (Delete, with the focus on its tab)"
              onClick={() => handle.current?.closeTab(shown.id)}
            >
              <X size={12} aria-hidden />
            </button>
          )}
        </>
      );
    },
    [arranging, handle],
  );
  return (
    <Workspace<Data>
      className="kf-space h-full"
      data-arranging={arranging ? '' : undefined}
      defaultModel={model}
      disabled={!arranging}
      dragGroup="desk"
      hiddenTabBehavior="unmount"
      lazyTabContent
      renderTabContent={show}
      renderTab={tabOf}
      renderTabsetToolbar={toolbar}
      renderSeparator={separator}
      tabsetMinWidth="180px"
      tabsetMinHeight="64px"
      classNames={NAMES}
      onModelChanged={changed}
      workspaceRef={handle}
    />
  );
}
