import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import {
  type Arrangement,
  docked,
  freeChart,
  isLayout,
  type LayoutNode,
  PANELS,
  panelsOf,
  panelTab,
  SHIPPED,
} from './arrangement.ts';
import { arrangementFile, readArrangementFile } from './arrangement-file.ts';
import { readSettings } from './settings.ts';

const ids = [...PANELS.filter((p) => p !== 'chart'), 'chart-1', 'chart-2', 'chart-3', 'chart-4'];

/** A tree over some panels, each once, cut up anyhow. */
const tree = (panels: string[], cuts: number[], depth = 0): LayoutNode => {
  const id = `n-${depth}-${panels[0]}`;
  const [cut = 0, ...rest] = cuts;
  if (panels.length < 2 || depth > 5 || cut % panels.length === 0)
    return { type: 'tabset', id, tabs: panels.map(panelTab), selectedId: panels[0] as string };
  const at = cut % panels.length;
  return {
    type: 'split',
    id: `s-${id}`,
    orientation: cut % 2 ? 'horizontal' : 'vertical',
    children: [tree(panels.slice(0, at), rest, depth + 1), tree(panels.slice(at), rest, depth + 1)],
  };
};
const arrangement = fc
  .record({
    panels: fc.shuffledSubarray(ids, { minLength: 1 }),
    cuts: fc.array(fc.nat(30), { minLength: 6, maxLength: 6 }),
    name: fc.string({ minLength: 1, maxLength: 40, unit: 'grapheme' }).filter((s) => s.length <= 40),
    trade: fc.boolean(),
  })
  .map(
    ({ panels, cuts, name, trade }): Arrangement => ({
      id: 'own-1',
      name,
      trade,
      rack: !trade,
      layout: { version: 1, root: tree(panels, cuts) },
      second: null,
      charts: [{ panel: 'chart-1', symbol: '', minutes: 5, candles: 80, studies: ['vwap', 'ema 21'] }],
    }),
  );

test('an arrangement comes back from its file, and from what was kept, as it was', async () => {
  await fc.assert(
    fc.asyncProperty(arrangement, async (a) => {
      expect(readArrangementFile(arrangementFile(a))).toEqual({ ok: true, arrangement: a });
      expect((await readSettings({ arrangements: [a] })).arrangements).toEqual([a]);
    }),
    { numRuns: 60 },
  );
});

test('one misfit among what was kept takes nothing else along; a file of anything else is refused in words', async () => {
  const [good] = SHIPPED as [Arrangement];
  const misfits: unknown[] = [
    { ...good, layout: { version: 1, root: null } },
    {
      ...good,
      layout: { version: 1, root: { type: 'tabset', id: 'a', tabs: [panelTab('depth'), panelTab('depth')] } },
    },
    {
      ...good,
      layout: { version: 1, root: { type: 'tabset', id: 'a', tabs: [{ id: 'script', data: {} }] } },
    },
    { ...good, layout: { version: 2, root: good.layout.root } },
    { ...good, charts: [{ panel: 'chart-9', symbol: '', minutes: 5, candles: 80, studies: [] }] },
    { ...good, charts: [{ panel: 'chart-1', symbol: '', minutes: 0, candles: 80, studies: [] }] },
  ];
  for (const bad of misfits) {
    expect((await readSettings({ arrangements: [bad, good] })).arrangements).toEqual([good]);
    const got = readArrangementFile(
      JSON.stringify({ format: 'keen-fox-arrangement', version: 1, arrangement: bad }),
    );
    expect(got.ok).toBe(false);
  }
  for (const [text, why] of [
    ['{', 'no JSON'],
    ['{"format":"keen-fox-scripts"}', 'not a file of an arrangement'],
    ['{"format":"keen-fox-arrangement","version":7}', 'version 7'],
    ['null', 'not a file of an arrangement'],
    [`"${'x'.repeat(200_000)}"`, 'too long'],
  ] as const) {
    const got = readArrangementFile(text);
    expect(got.ok ? '' : got.why).toContain(why);
  }
});

test('the example of the documentation can be taken', () => {
  const [, example] = /```json\n([\s\S]*?)```/.exec(readFileSync('docs/arrangement-file.md', 'utf8')) ?? [];
  expect(readArrangementFile(example ?? '')).toMatchObject({ ok: true, arrangement: { name: 'Mine' } });
});

test('whatever a file holds, it is answered', () => {
  fc.assert(
    fc.property(fc.jsonValue(), (root) => {
      expect(isLayout({ version: 1, root })).toBe(false);
    }),
    { numRuns: 300 },
  );
});

test('what comes with the app: at least four, each a layout with every panel at most once and a chart for each look', () => {
  expect(SHIPPED.length).toBeGreaterThanOrEqual(4);
  for (const a of SHIPPED) {
    expect(isLayout(a.layout)).toBe(true);
    const panels = panelsOf(a.layout);
    for (const c of a.charts) expect(panels).toContain(c.panel);
  }
});

test('panels that come back from a second window are there once, beside all that was there', () => {
  fc.assert(
    fc.property(arrangement, fc.subarray(ids), ({ layout }, more) => {
      const now = docked(layout, more);
      expect(isLayout(now)).toBe(true);
      expect([...panelsOf(now)].sort()).toEqual([...new Set([...panelsOf(layout), ...more])].sort());
    }),
  );
});

test('the next chart is the first number that is free, and there are four at most', () => {
  expect(freeChart([])).toBe('chart-1');
  expect(freeChart(['chart-1', 'chart-3', 'depth'])).toBe('chart-2');
  expect(freeChart(['chart-1', 'chart-2', 'chart-3', 'chart-4'])).toBeNull();
});
