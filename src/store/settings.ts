import type { InferType } from 'yup';
import { LANGUAGE_VERSION } from '../core/language/index.ts';
import { FIELDS } from '../core/market/index.ts';
import { PLAIN_PLANS } from '../core/reading/index.ts';
import { PRESETS } from '../core/scan/index.ts';
import { type Arrangement, SHIPPED } from './arrangement.ts';
import type { settingsSchema } from './settings-schema.ts';

export type Settings = Omit<InferType<typeof settingsSchema>, 'arrangements'> & {
  arrangements: Arrangement[];
};
export type SavedScript = Settings['scripts'][number];
export type SavedScan = Settings['scans'][number];
export type ListRow = Settings['lists'][number]['rows'][number];

export type KeySet = Settings['keySets'][number];
export type Drawing = Settings['drawings'][number]['list'][number];
export type KeptRack = Settings['racks'][number];

const BRACKET = 'stop usual\n  target 1R for half\n  target 2R for half\n  breakeven after 1.3R';

/** The first scripts: id, name, text, group, key of the left hand, key of the number pad. */
const FIRST: readonly [string, string, string, string, string, string][] = [
  ['buy-1r', 'Buy 1R', `buy risk 1R at usual through extended\n  ${BRACKET}`, 'in', 'KeyQ', 'Numpad7'],
  [
    'buy-half-r',
    'Buy half an R',
    `buy risk 0.5R at usual through extended\n  ${BRACKET}`,
    'in',
    'KeyW',
    'Numpad8',
  ],
  ['short-1r', 'Short 1R', `short risk 1R at usual through extended\n  ${BRACKET}`, 'in', 'KeyE', 'Numpad9'],
  ['close-half', 'Close half', 'close half at bid', 'out', 'KeyA', 'Numpad4'],
  ['stop-breakeven', 'Stop to breakeven', 'move stop to breakeven', 'protect', 'KeyD', 'Numpad6'],
  ['cancel-symbol', 'Cancel symbol', 'cancel symbol', 'cancel', 'KeyX', 'NumpadDecimal'],
  ['flatten', 'Flatten', 'flatten', 'out', 'KeyF', 'Numpad0'],
  ['send-staged', 'Send what is staged here', 'send staged', 'in', 'KeyS', 'NumpadAdd'],
  ['send-all-staged', 'Send all that is staged', 'send staged everything', 'in', 'Alt+KeyS', 'Alt+NumpadAdd'],
  ['alert-last', 'Alert 10c above', 'alert at last + 10c', 'see', 'KeyV', 'Numpad1'],
  ['alert-cursor', 'Alert at the pointer', 'alert at cursor', 'see', 'KeyC', 'Numpad2'],
  ['toggle-extended', 'Extended hours', 'toggle extended', 'see', 'KeyT', 'Numpad3'],
  ['clear-drawings', 'Clear the chart', 'clear drawings', 'see', 'Alt+KeyC', 'Alt+Numpad2'],
];
const ON_RACK = [
  'buy-1r',
  'buy-half-r',
  'short-1r',
  'close-half',
  'stop-breakeven',
  'cancel-symbol',
  'flatten',
];

export const DEFAULT_SETTINGS: Settings = {
  theme: 'night',
  keysOn: true,
  confirm: { keys: 'risk', buttons: 'risk', ticket: 'risk', drags: 'always', pair: 'risk' },
  scripts: FIRST.map(([id, name, text, group]) => ({
    id,
    name,
    text,
    language: LANGUAGE_VERSION,
    tags: [group],
  })),
  keySets: [
    { id: 'left', name: 'Left hand', keys: FIRST.map(([script, , , , chord]) => ({ chord, script })) },
    { id: 'pad', name: 'Number pad', keys: FIRST.map(([script, , , , , chord]) => ({ chord, script })) },
  ],
  keySet: 'left',
  racks: [{ id: 'day', name: 'Day', rows: [ON_RACK.map((script) => ({ script, wide: false }))] }],
  rack: 'day',
  pairs: [],
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
  arrangements: [...SHIPPED],
  arrangement: 'one',
  drawings: [],
  guide: { on: true, step: 0 },
  secondZone: '',
  ordersHidden: ['limit', 'average', 'route', 'account'],
  chainColumns: ['bid', 'ask', 'iv', 'delta', 'theta'],
  printsFrom: 0,
  ticketForm: false,
  ticketKeeps: ['side', 'size', 'price', 'life', 'exits'],
  ticketFollows: false,
  ticketSteps: { cents: 0, shares: 10 },
  recent: [],
};

/**
 * What was kept, checked: a part that is missing or does not fit the schema is its default; the others
 * are kept. Of a list, what fits is kept.
 */
export async function readSettings(kept: unknown): Promise<Settings> {
  if (typeof kept !== 'object' || kept === null) return DEFAULT_SETTINGS;
  const { settingsSchema } = await import('./settings-schema.ts');
  const out: Record<string, unknown> = { ...DEFAULT_SETTINGS };
  for (const [key, part] of Object.entries({
    // Whoever was here before knows the way.
    ...('scripts' in kept || 'scan' in kept ? { guide: { on: false, step: 0 } } : {}),
    ...fromBefore(kept),
    ...kept,
    ...versioned(kept),
    ...boundBefore(kept),
    ...askedBefore(kept),
  })) {
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

/** Scripts of the time before the language had versions are of its first; those of before tags have none. */
function versioned({ scripts }: { scripts?: unknown }): { scripts?: unknown } {
  if (!Array.isArray(scripts)) return {};
  return {
    scripts: scripts.map((s) => {
      if (typeof s !== 'object' || s === null) return s;
      const { chord: _chord, onRack: _onRack, ...script } = s;
      return { ...script, language: s.language ?? 1, tags: s.tags ?? [] };
    }),
  };
}

/** Confirmations used to be on or off for keys, for buttons with the ticket, and for drags. */
function askedBefore({ confirm }: { confirm?: unknown }): Partial<Settings> {
  const before = confirm as { keys?: unknown; buttons?: unknown; drags?: unknown } | undefined;
  if (typeof before?.keys !== 'boolean') return {};
  const then = (on: unknown, as: 'always' | 'risk') => (on === false ? 'never' : as);
  const buttons = then(before.buttons, 'risk');
  return {
    confirm: {
      keys: then(before.keys, 'risk'),
      buttons,
      ticket: buttons,
      drags: then(before.drags, 'always'),
      pair: 'risk',
    },
  };
}

/** Scripts used to hold their key and whether they are on the rack: they become a set of keys and a rack. */
function boundBefore({ scripts, keySets }: { scripts?: unknown; keySets?: unknown }): Partial<Settings> {
  if (!Array.isArray(scripts) || keySets !== undefined) return {};
  const kept = scripts.filter((s) => typeof s?.id === 'string');
  const keys = kept.flatMap((s) => (s.chord ? [{ chord: String(s.chord), script: s.id }] : []));
  const buttons = kept.filter((s) => s.onRack).map((s) => ({ script: s.id, wide: false }));
  const [left, ...others] = DEFAULT_SETTINGS.keySets as [KeySet, ...KeySet[]];
  const [day] = DEFAULT_SETTINGS.racks as [KeptRack];
  return {
    keySets: [
      { ...left, keys },
      ...others.map((s) => ({ ...s, keys: s.keys.filter((k) => kept.some((x) => x.id === k.script)) })),
    ],
    racks: [{ ...day, rows: [buttons] }],
  };
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
