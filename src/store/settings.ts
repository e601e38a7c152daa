import { type DBSchema, openDB } from 'idb';
import { array, boolean, type InferType, number, object, string } from 'yup';

const script = object({
  id: string().required(),
  name: string().required().max(40),
  text: string().required().max(2_000),
  /** A key by its place on the keyboard (KeyboardEvent.code), with modifiers first; '' for none. */
  chord: string().defined().default(''),
  onRack: boolean().required(),
});

/** What the trader has chosen for the interface. Checked whenever it is read: a file may be old or foreign. */
const settingsSchema = object({
  theme: string().oneOf(['night', 'dawn']).required(),
  keysOn: boolean().required(),
  confirm: object({ keys: boolean().required(), buttons: boolean().required(), drags: boolean().required() }).required(),
  scripts: array(script.required()).required().max(200),
  scan: object({ rule: string().required().max(1_000), rankBy: string().required() }).required(),
  shortlist: array(string().required()).required().max(200),
  focus: string().defined().default(''),
  chartMinutes: number().oneOf([1, 5]).required(),
});

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
    return await settingsSchema.validate(kept, { strict: true });
  } catch {
    return DEFAULT_SETTINGS;
  }
}

export async function saveSettings(settings: Settings): Promise<void> {
  await (await open()).put('settings', settings, 'settings');
}
