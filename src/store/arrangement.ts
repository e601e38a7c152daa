// How the Desk's panels are arranged: a tree of splits and sets of tabs, and what each chart shows.

/** What a panel may be. Of charts there may be four, of all others one. */
export const PANELS = [
  'chart',
  'depth',
  'ladder',
  'cards',
  'story',
  'orders',
  'shortlist',
  'ticket',
] as const;
export type PanelKind = (typeof PANELS)[number];
export const MOST_CHARTS = 4;

export interface PanelTab {
  /** Its kind; of a chart with its number: `chart-2`. */
  id: string;
  title: string;
  data: { kind: PanelKind };
}
export interface TabsetNode {
  type: 'tabset';
  id: string;
  size?: number | string;
  minWidth?: string;
  minHeight?: string;
  maxWidth?: string;
  selectedId?: string;
  tabs: PanelTab[];
}
export interface SplitNode {
  type: 'split';
  id: string;
  size?: number | string;
  orientation: 'horizontal' | 'vertical';
  children: LayoutNode[];
}
export type LayoutNode = TabsetNode | SplitNode;
export interface Layout {
  version: 1;
  root: LayoutNode;
  maximizedTabsetId?: string | undefined;
}

/** Minutes of a candle that is a day. */
export const DAY_CANDLE = 1_440;

/** What a chart shows: of which symbol ('': the focus), in candles of how many minutes, how many of them, with which studies. */
export interface ChartLook {
  panel: string;
  symbol: string;
  minutes: number;
  candles: number;
  studies: string[];
}

export interface Arrangement {
  id: string;
  name: string;
  /** The trade across the top, the rack along the bottom. */
  trade: boolean;
  rack: boolean;
  layout: Layout;
  /** Panels in a window of their own. */
  second: Layout | null;
  charts: ChartLook[];
}

/** What a chart shows that has not been told otherwise. */
export const PLAIN_CHART: Omit<ChartLook, 'panel'> = {
  symbol: '',
  minutes: 1,
  candles: 96,
  studies: ['vwap', 'ema 9', 'premarket', 'volume'],
};

export const PANEL_NAMES: Readonly<Record<PanelKind, string>> = {
  chart: 'Chart',
  depth: 'Depth',
  ladder: 'Ladder',
  cards: 'Trades',
  story: 'Trade so far',
  orders: 'Orders',
  shortlist: 'Shortlist',
  ticket: 'Ticket',
};

const kindOf = (id: string): PanelKind => (id.startsWith('chart') ? 'chart' : (id as PanelKind));
/** A panel by its id. */
export const panelTab = (id: string): PanelTab => ({
  id,
  title: id.startsWith('chart-') && id !== 'chart-1' ? `Chart ${id.slice(6)}` : PANEL_NAMES[kindOf(id)],
  data: { kind: kindOf(id) },
});

/** Every panel of a layout, by id. */
export function panelsOf(layout: Layout | null): string[] {
  const of = (n: LayoutNode): string[] =>
    n.type === 'tabset' ? n.tabs.map((t) => t.id) : n.children.flatMap(of);
  return layout === null ? [] : of(layout.root);
}

/** A layout with more panels, in its first set of tabs; those that it has already stay where they are. */
export function docked(layout: Layout, ids: readonly string[]): Layout {
  const there = panelsOf(layout);
  const tabs = ids.filter((id) => !there.includes(id)).map(panelTab);
  const into = (n: LayoutNode): LayoutNode =>
    n.type === 'tabset'
      ? { ...n, tabs: [...n.tabs, ...tabs] }
      : { ...n, children: n.children.map((c, k) => (k === 0 ? into(c) : c)) };
  return { ...layout, root: into(layout.root) };
}

const DEEPEST = 8;
const size = (x: unknown): boolean =>
  x === undefined || (typeof x === 'number' && x >= 0 && x <= 100) || /^\d{1,4}(px|%)$/.test(String(x));
const word = (x: unknown): boolean => typeof x === 'string' && /^[\w.:-]{1,60}$/.test(x);
const ID = new RegExp(`^(chart-[1-${MOST_CHARTS}]|${PANELS.filter((p) => p !== 'chart').join('|')})$`);

/** Whether something, from a file or from before, is a layout with known panels, each at most once. */
export function isLayout(x: unknown): x is Layout {
  const { version, root } = (x ?? {}) as Partial<Layout>;
  const seen = new Set<string>();
  const tab = (t: PanelTab): boolean => {
    if (!ID.test(String(t?.id)) || t.data?.kind !== kindOf(t.id) || seen.has(t.id)) return false;
    seen.add(t.id);
    return true;
  };
  const node = (n: LayoutNode | null | undefined, depth: number): boolean => {
    if (typeof n !== 'object' || n === null || depth > DEEPEST || !word(n.id) || !size(n.size)) return false;
    if (n.type === 'tabset') return Array.isArray(n.tabs) && n.tabs.every(tab);
    return (
      n.type === 'split' &&
      (n.orientation === 'horizontal' || n.orientation === 'vertical') &&
      Array.isArray(n.children) &&
      n.children.length > 0 &&
      n.children.every((c) => node(c, depth + 1))
    );
  };
  return version === 1 && node(root, 0);
}

/** The first chart number that is free, or null where there are as many as may be. */
export function freeChart(taken: readonly string[]): string | null {
  for (let n = 1; n <= MOST_CHARTS; n++) if (!taken.includes(`chart-${n}`)) return `chart-${n}`;
  return null;
}

/** What a chart of an arrangement shows. */
export const lookOf = (a: Arrangement, panel: string): ChartLook =>
  a.charts.find((c) => c.panel === panel) ?? { panel, ...PLAIN_CHART };

/** An arrangement whose chart shows something else. */
export const withLook = (a: Arrangement, look: ChartLook): Arrangement => ({
  ...a,
  charts: [...a.charts.filter((c) => c.panel !== look.panel), look],
});

let made = 0;
const set = (share: number | string, panels: string[], more: Partial<TabsetNode> = {}): TabsetNode => ({
  type: 'tabset',
  id: `set-${++made}`,
  size: share,
  tabs: panels.map(panelTab),
  selectedId: panels[0] as string,
  ...more,
});
const split = (
  orientation: SplitNode['orientation'],
  children: LayoutNode[],
  share?: number | string,
): SplitNode => ({
  type: 'split',
  id: `split-${++made}`,
  orientation,
  children,
  ...(share === undefined ? {} : { size: share }),
});
const layout = (root: LayoutNode): Layout => ({ version: 1, root });
const chart = (n: number, more: Partial<ChartLook>): ChartLook => ({
  panel: `chart-${n}`,
  ...PLAIN_CHART,
  ...more,
});

const narrow = { minWidth: '228px' };
/** The arrangements that come with the app. */
export const SHIPPED: readonly Arrangement[] = [
  {
    id: 'one',
    name: 'One screen',
    trade: true,
    rack: true,
    layout: layout(
      split('horizontal', [
        set(63, ['chart-1', 'orders', 'story']),
        set(18.5, ['depth', 'ladder'], narrow),
        split(
          'vertical',
          [set(27, ['cards'], narrow), set(25, ['shortlist'], narrow), set(48, ['ticket'], narrow)],
          18.5,
        ),
      ]),
    ),
    second: null,
    charts: [chart(1, {})],
  },
  {
    id: 'wide',
    name: 'Wide',
    trade: true,
    rack: true,
    layout: layout(
      split('horizontal', [
        split('vertical', [set(66, ['chart-1']), set(34, ['orders', 'story'])], 44),
        split('vertical', [set(50, ['chart-2']), set(50, ['chart-3'])], 22),
        set(17, ['ladder', 'depth'], narrow),
        split('vertical', [set(30, ['cards'], narrow), set(36, ['shortlist']), set(34, ['ticket'])], 17),
      ]),
    ),
    second: null,
    charts: [
      chart(1, { candles: 120 }),
      chart(2, { minutes: 5, candles: 78 }),
      chart(3, { minutes: DAY_CANDLE, candles: 60, studies: ['sma 20', 'sma 50', 'prior', 'volume'] }),
    ],
  },
  {
    id: 'very-wide',
    name: 'Very wide',
    trade: true,
    rack: true,
    layout: layout(
      split('horizontal', [
        split('vertical', [set(60, ['chart-1']), set(40, ['orders'])], 36),
        split('vertical', [set(50, ['chart-2']), set(50, ['chart-3'])], 22),
        set(12, ['ladder'], narrow),
        set(12, ['depth'], narrow),
        split('vertical', [set(30, ['story', 'cards']), set(32, ['shortlist']), set(38, ['ticket'])], 18),
      ]),
    ),
    second: null,
    charts: [
      chart(1, { candles: 140 }),
      chart(2, { minutes: 5, candles: 78 }),
      chart(3, { minutes: DAY_CANDLE, candles: 60, studies: ['sma 20', 'sma 50', 'prior', 'volume'] }),
    ],
  },
  {
    id: 'prepare',
    name: 'Prepare',
    trade: false,
    rack: true,
    layout: layout(
      split('horizontal', [
        split('vertical', [set(58, ['shortlist']), set(42, ['ticket'])], 26),
        split('vertical', [set(56, ['chart-1']), set(44, ['chart-2'])], 55),
        set(19, ['depth', 'cards', 'orders'], narrow),
      ]),
    ),
    second: null,
    charts: [
      chart(1, {
        candles: 120,
        studies: ['vwap', 'ema 9', 'premarket', 'prior', 'own levels', 'usual volume'],
      }),
      chart(2, { minutes: DAY_CANDLE, candles: 90, studies: ['sma 20', 'prior', 'volume'] }),
    ],
  },
  {
    id: 'four',
    name: 'Four charts',
    trade: true,
    rack: true,
    layout: layout(
      split('horizontal', [
        split('vertical', [set(50, ['chart-1']), set(50, ['chart-3'])], 42),
        split('vertical', [set(50, ['chart-2']), set(50, ['chart-4'])], 40),
        set(18, ['cards', 'ladder', 'ticket', 'orders', 'shortlist'], narrow),
      ]),
    ),
    second: null,
    charts: [
      chart(1, { candles: 72 }),
      chart(2, { minutes: 5, candles: 72 }),
      chart(3, { minutes: 15, candles: 60 }),
      chart(4, { minutes: DAY_CANDLE, candles: 60, studies: ['sma 20', 'prior', 'volume'] }),
    ],
  },
  {
    id: 'calm',
    name: 'Keys and one chart',
    trade: true,
    rack: true,
    layout: layout(set(100, ['chart-1'])),
    second: null,
    charts: [chart(1, { candles: 160 })],
  },
];
