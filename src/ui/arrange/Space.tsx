'use client';

import { X } from 'lucide-react';
import type { ReactNode, RefObject } from 'react';
import {
  normalizeWorkspaceModel,
  Separator,
  TabCloseButton,
  type TabNode,
  type TabRenderProps,
  TabsetMaximizeButton,
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
    <TabCloseButton className="ml-1.5 hidden align-middle text-quiet hover:text-text in-data-arranging:inline-block">
      <X size={12} aria-hidden />
    </TabCloseButton>
  </div>
);
const toolbar = () => (
  <TabsetMaximizeButton className="px-1.5 text-[12px] text-quiet hover:text-text" title="Large, and back">
    {({ isMaximized }) => (isMaximized ? '▢' : '◰')}
  </TabsetMaximizeButton>
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

interface Props {
  model: SpaceModel;
  arranging: boolean;
  changed(model: SpaceModel, meta: WorkspaceChangedMeta): void;
  handle: RefObject<SpaceHandle | null>;
}

/** Panels beside each other, in sets of tabs. While nothing is being arranged they lie still, and a panel alone has no tab. */
export function Space({ model, arranging, changed, handle }: Props) {
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
