'use client';

import { create } from 'zustand';
import { DEFAULT_SETTINGS, readSettings, type Settings } from '@/store/settings';

interface SettingsStore extends Settings {
  loaded: boolean;
  set(change: Partial<Settings>): void;
}

let keep: ((settings: Settings) => Promise<unknown>) | null = null;
let unkept = 0;
/** What was chosen before the kept settings were there: it is put on top of them. */
let early: Partial<Settings> = {};

/** The trader's choices; each is kept at once by the worker that holds the one-writer lock. */
export const useSettings = create<SettingsStore>((setState, get) => ({
  ...DEFAULT_SETTINGS,
  loaded: false,
  set(change) {
    setState(change);
    if (!get().loaded) early = { ...early, ...change };
    else save();
  },
}));

function save(): void {
  const { loaded: _loaded, set: _set, ...settings } = useSettings.getState();
  unkept++;
  document.documentElement.dataset.choices = 'being kept';
  void keep?.(settings).then(() => {
    if (--unkept === 0) document.documentElement.dataset.choices = 'kept';
  });
}

/** Takes in what was kept, with what was chosen meanwhile on top. `write` keeps what is chosen from now on. */
export async function startSettings(
  read: () => Promise<unknown>,
  write: (settings: Settings) => Promise<unknown>,
): Promise<void> {
  keep = write;
  useSettings.setState({ ...(await readSettings(await read())), ...early, loaded: true });
  if (Object.keys(early).length > 0) save();
  early = {};
}
