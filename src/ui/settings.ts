'use client';

import { create } from 'zustand';
import { DEFAULT_SETTINGS, loadSettings, type Settings, saveSettings } from '@/store/settings';

interface SettingsStore extends Settings {
  loaded: boolean;
  set(change: Partial<Settings>): void;
}

/** The trader's choices, kept in the browser on every change. */
export const useSettings = create<SettingsStore>((setState, get) => ({
  ...DEFAULT_SETTINGS,
  loaded: false,
  set(change) {
    setState(change);
    const { loaded: _loaded, set: _set, ...settings } = get();
    void saveSettings(settings);
  },
}));

export async function startSettings(): Promise<void> {
  useSettings.setState({ ...(await loadSettings()), loaded: true });
}
