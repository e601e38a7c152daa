'use client';

import { create } from 'zustand';

/** What is written in the ticket; it can be loaded from an order, a script or a trade. */
export const useTicketText = create<{ text: string; set(text: string): void }>((set) => ({
  text: 'buy 100 at ask + 2c extended\n  stop 20c\n  target 2R',
  set: (text) => set({ text }),
}));
