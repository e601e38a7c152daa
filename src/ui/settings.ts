'use client';

import { create } from 'zustand';
import { DEFAULT_SETTINGS, readSettings, type Settings } from '@/store/settings';

interface SettingsStore extends Settings {
  loaded: boolean;
  set(change: Partial<Settings>): void;
}

let keep: ((settings: Settings) => Promise<boolean>) | null = null;
let unkept = 0;
/**
 * What was chosen and is not yet known to be kept: before the kept settings are there, and while a write is
 * under way. It lies with the page too, at once, so that leaving or reloading it in that moment loses nothing.
 */
let unsure: Partial<Settings> = {};
const UNSURE = 'choices under way';

/** The trader's choices; each is kept at once by the worker that holds the one-writer lock. */
export const useSettings = create<SettingsStore>((setState, get) => ({
  ...DEFAULT_SETTINGS,
  loaded: false,
  set(change) {
    setState(change);
    unsure = { ...unsure, ...change };
    try {
      sessionStorage.setItem(UNSURE, JSON.stringify({ ...leftBefore(), ...unsure }));
    } catch {
      // No room there: the write below stands alone.
    }
    if (get().loaded) void save();
  },
}));

async function save(): Promise<void> {
  const { loaded: _loaded, set: _set, ...settings } = useSettings.getState();
  unkept++;
  document.documentElement.dataset.choices = 'being kept';
  const kept = await keep?.(settings);
  if (--unkept > 0 || !kept) return;
  unsure = {};
  sessionStorage.removeItem(UNSURE);
  document.documentElement.dataset.choices = 'kept';
}

function leftBefore(): object {
  try {
    return JSON.parse(sessionStorage.getItem(UNSURE) ?? '{}');
  } catch {
    return {};
  }
}

/**
 * Takes in what was kept, with what was chosen since on top. `write` keeps what is chosen from now on, and
 * says whether it could.
 */
export async function startSettings(
  read: () => Promise<unknown>,
  write: (settings: Settings) => Promise<boolean>,
): Promise<void> {
  keep = write;
  const left = leftBefore();
  const kept = await readSettings({ ...((await read()) as object | null), ...left });
  useSettings.setState({ ...kept, ...unsure, loaded: true });
  if (Object.keys({ ...left, ...unsure }).length > 0) await save();
}
