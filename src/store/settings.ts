import type { InferType } from 'yup';
import { LANGUAGE_VERSION } from '../core/language/index.ts';
import { FIELDS } from '../core/market/index.ts';
import { PLAIN_PLANS } from '../core/reading/index.ts';
import { PRESETS } from '../core/scan/index.ts';
import type { settingsSchema } from './settings-schema.ts';

export type Settings = InferType<typeof settingsSchema>;
export type SavedScript = Settings['scripts'][number];
export type SavedScan = Settings['scans'][number];
export type ListRow = Settings['lists'][number]['rows'][number];

const BRACKET = 'stop usual\n  target 1R for half\n  target 2R for half\n  breakeven after 1.3R';

export const DEFAULT_SETTINGS: Settings = {
  theme: 'night',
  keysOn: true,
  confirm: { keys: true, buttons: true, drags: true },
  scripts: [
    {
      id: 'buy-1r',
      name: 'Buy 1R',
      text: `buy risk 1R at usual through extended\n  ${BRACKET}`,
      chord: 'KeyQ',
      onRack: true,
      language: LANGUAGE_VERSION,
    },
    {
      id: 'buy-half-r',
      name: 'Buy half an R',
      text: `buy risk 0.5R at usual through extended\n  ${BRACKET}`,
      chord: 'KeyW',
      onRack: true,
      language: LANGUAGE_VERSION,
    },
    {
      id: 'short-1r',
      name: 'Short 1R',
      text: `short risk 1R at usual through extended\n  ${BRACKET}`,
      chord: 'KeyE',
      onRack: true,
      language: LANGUAGE_VERSION,
    },
    {
      id: 'close-half',
      name: 'Close half',
      text: 'close half at bid',
      chord: 'KeyA',
      onRack: true,
      language: LANGUAGE_VERSION,
    },
    {
      id: 'stop-breakeven',
      name: 'Stop to breakeven',
      text: 'move stop to breakeven',
      chord: 'KeyD',
      onRack: true,
      language: LANGUAGE_VERSION,
    },
    {
      id: 'cancel-symbol',
      name: 'Cancel symbol',
      text: 'cancel symbol',
      chord: 'KeyX',
      onRack: true,
      language: LANGUAGE_VERSION,
    },
    {
      id: 'flatten',
      name: 'Flatten',
      text: 'flatten',
      chord: 'KeyF',
      onRack: true,
      language: LANGUAGE_VERSION,
    },
    {
      id: 'send-staged',
      name: 'Send what is staged here',
      text: 'send staged',
      chord: 'KeyS',
      onRack: false,
      language: LANGUAGE_VERSION,
    },
    {
      id: 'send-all-staged',
      name: 'Send all that is staged',
      text: 'send staged everything',
      chord: 'Alt+KeyS',
      onRack: false,
      language: LANGUAGE_VERSION,
    },
    {
      id: 'alert-last',
      name: 'Alert 10c above',
      text: 'alert at last + 10c',
      chord: 'KeyV',
      onRack: false,
      language: LANGUAGE_VERSION,
    },
    {
      id: 'alert-cursor',
      name: 'Alert at the pointer',
      text: 'alert at cursor',
      chord: 'KeyC',
      onRack: false,
      language: LANGUAGE_VERSION,
    },
  ],
  plans: PLAIN_PLANS.plans.map((p) => ({ ...p })),
  planLong: PLAIN_PLANS.long,
  planShort: PLAIN_PLANS.short,
  usual: {
    ...PLAIN_PLANS.usual,
    bands: PLAIN_PLANS.usual.bands.map((b) => ({ ...b, below: Number.isFinite(b.below) ? b.below : 0 })),
  },
  scans: PRESETS.map((p) => ({
    ...p,
    ranking: [...p.ranking],
    columns: [...p.columns],
    widths: [],
    sort: null,
  })),
  shown: 'scan:gappers',
  lists: [],
  shortlists: [],
  hidden: [],
  drafts: [],
  listColumns: ['price', 'change', 'relative volume', 'from premarket high'],
  alerts: { volume: 0.5, muted: false, notify: false },
  focus: '',
  chartExtended: true,
  chartMinutes: 1,
};

/**
 * What was kept, checked: a part that is missing or does not fit the schema is its default; the others
 * are kept. Of a list, what fits is kept.
 */
export async function readSettings(kept: unknown): Promise<Settings> {
  if (typeof kept !== 'object' || kept === null) return DEFAULT_SETTINGS;
  const { settingsSchema } = await import('./settings-schema.ts');
  const out: Record<string, unknown> = { ...DEFAULT_SETTINGS };
  for (const [key, part] of Object.entries({ ...fromBefore(kept), ...kept, ...versioned(kept) })) {
    if (!(key in DEFAULT_SETTINGS)) continue;
    const checked = (x: unknown): Promise<unknown> =>
      settingsSchema.validateAt(key, { [key]: x }, { strict: true }).catch(() => undefined);
    const whole = await checked(part);
    if (whole !== undefined) out[key] = whole;
    else if (Array.isArray(part)) {
      const each = await Promise.all(part.map((x) => checked([x])));
      const fit = part.filter((_, k) => each[k] !== undefined);
      if (fit.length > 0) out[key] = fit;
    }
  }
  return out as Settings;
}

/** Scripts of the time before the language had versions are of its first. */
function versioned({ scripts }: { scripts?: unknown }): { scripts?: unknown } {
  if (!Array.isArray(scripts)) return {};
  return { scripts: scripts.map((s) => ({ ...s, language: s?.language ?? 1 })) };
}

/** What settings of the time of one scan and one shortlist become: a scan and a watchlist beside the ones that come with the app. */
function fromBefore(kept: object): Partial<Record<keyof Settings, unknown>> {
  const { scan, shortlist } = kept as { scan?: { rule?: unknown; rankBy?: unknown }; shortlist?: unknown };
  const out: Partial<Record<keyof Settings, unknown>> = {};
  if (typeof scan?.rule === 'string') {
    const field = RANKABLE.has(String(scan.rankBy)) ? String(scan.rankBy) : 'gap';
    const mine = {
      ...(DEFAULT_SETTINGS.scans[0] as SavedScan),
      id: 'mine',
      name: 'My scan',
      rule: scan.rule,
      ranking: [{ field, weight: 1 }],
    };
    out.scans = [mine, ...DEFAULT_SETTINGS.scans];
    out.shown = 'scan:mine';
  }
  if (Array.isArray(shortlist) && shortlist.length > 0)
    out.lists = [
      {
        id: 'before',
        name: 'Shortlist of before',
        rows: shortlist.map((symbol) => ({ symbol, grade: '', note: '' })),
      },
    ];
  return out;
}
const RANKABLE = new Set(FIELDS.map((f) => f.name));
