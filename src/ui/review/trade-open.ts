'use client';

import { create } from 'zustand';

/** The trade that is looked at, by its number for good; null: none. */
export const useOpened = create<{ ref: string | null }>(() => ({ ref: null }));
export const openTrade = (ref: string | null): void => useOpened.setState({ ref });
