import { type DBSchema, openDB } from 'idb';
import type { InferType } from 'yup';
import type { settingsSchema } from './settings-schema.ts';

export type Settings = InferType<typeof settingsSchema>;
export type SavedScript = Settings['scripts'][number];

const BRACKET = 'stop 30c\n  target 1R for half\n  target 2R for half\n  breakeven after 1.3R';

export const DEFAULT_SETTINGS: Settings = {
  theme: 'night',
  keysOn: true,
  confirm: { keys: true, buttons: true, drags: true },
  scripts: [
    { id: 'buy-1r', name: 'Buy 1R', text: `buy risk 1R at ask + 3c extended\n  ${BRACKET}`, chord: 'KeyQ', onRack: true },
    { id: 'buy-half-r', name: 'Buy half an R', text: `buy risk 0.5R at ask + 3c extended\n  ${BRACKET}`, chord: 'KeyW', onRack: true },
    { id: 'short-1r', name: 'Short 1R', text: `short risk 1R at bid - 3c extended\n  ${BRACKET}`, chord: 'KeyE', onRack: true },
    { id: 'close-half', name: 'Close half', text: 'close half at bid', chord: 'KeyA', onRack: true },
    { id: 'stop-breakeven', name: 'Stop to breakeven', text: 'move stop to breakeven', chord: 'KeyD', onRack: true },
    { id: 'cancel-symbol', name: 'Cancel symbol', text: 'cancel symbol', chord: 'KeyX', onRack: true },
    { id: 'flatten', name: 'Flatten', text: 'flatten', chord: 'KeyF', onRack: true },
  ],
  scan: { rule: 'gap > 8% and price between 2 and 20 and premarket volume > 100k', rankBy: 'gap' },
  shortlist: [],
  focus: '',
  chartMinutes: 1,
};

interface Schema extends DBSchema {
  settings: { key: 'settings'; value: unknown };
}

const open = () => openDB<Schema>('keen-fox-settings', 1, { upgrade: (db) => void db.createObjectStore('settings') });

/** The kept settings, or the defaults where there are none or they do not fit the schema. */
export async function loadSettings(): Promise<Settings> {
  const kept = await (await open()).get('settings', 'settings');
  if (kept === undefined) return DEFAULT_SETTINGS;
  try {
    const { settingsSchema } = await import('./settings-schema.ts');
    return await settingsSchema.validate(kept, { strict: true });
  } catch {
    return DEFAULT_SETTINGS;
  }
}

export async function saveSettings(settings: Settings): Promise<void> {
  await (await open()).put('settings', settings, 'settings');
}
