'use client';

import { create } from 'zustand';
import { formatPrice, type Price } from '@/core/units';

/** What is written in the ticket; it can be loaded from an order, a script or a trade. */
export const useTicketText = create<{ text: string; set(text: string): void }>((set) => ({
  text: 'buy 100 at ask + 2c extended\n  stop 20c\n  target 2R',
  set: (text) => set({ text }),
}));

/** Loads an order of a symbol into the ticket; that of another symbol than the focus keeps its symbol. */
export async function loadOrder(text: string, symbol: string, focus: string | undefined): Promise<void> {
  const { ofSymbol } = await import('./ticket-form');
  useTicketText.getState().set(symbol === focus ? text : ofSymbol(text, symbol));
}

/** Puts a price into the ticket: the limit of what is written there, or of a plain ticket where that has no place for one. */
export async function priceIntoTicket(price: Price): Promise<void> {
  // With the language it reads, fetched when it is needed.
  const { fieldsOf, PLAIN_TICKET, sentenceOf } = await import('./ticket-form');
  const { text, set } = useTicketText.getState();
  const f = fieldsOf(text) ?? PLAIN_TICKET;
  set(sentenceOf({ ...f, price: { by: 'limit', value: formatPrice(price) } }));
}

/** Moves the limit of what is written in the ticket a step: a cent, or a tick of an option. */
export async function stepTicket(way: 1 | -1): Promise<void> {
  const { stepLimit } = await import('./step-price');
  const { text, set } = useTicketText.getState();
  const next = stepLimit(text, way);
  if (next !== null) set(next);
}
