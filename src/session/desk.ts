// What sentences do to the desk's own state: staged orders, the ticket's size, levels, notes.

import { MAIN } from '../core/account/index.ts';
import { holdingOf, openTrade } from '../core/orders/index.ts';
import type { Deed } from '../core/reading/index.ts';
import type { DeskState, State } from './state.ts';

type DeskDeed = Exclude<Deed, { kind: 'intent' | 'alert' | 'desk' }>;

/** The state after a deed about the desk; `at` is the session time. */
export function deskAfter(s: State, deed: DeskDeed, at: number): State {
  return { ...s, desk: changed(s, deed, at) };
}

function changed({ desk, broker }: State, deed: DeskDeed, at: number): DeskState {
  switch (deed.kind) {
    case 'stage': {
      const { symbol, statement } = deed;
      return {
        ...desk,
        nextStaged: desk.nextStaged + 1,
        staged: [...desk.staged, { id: desk.nextStaged, symbol, statement, order: broker.next.order }],
      };
    }
    case 'unstage':
      return { ...desk, staged: desk.staged.filter((x) => !deed.ids.includes(x.id)) };
    case 'restage':
      return {
        ...desk,
        staged: desk.staged.map((x) => (x.id === deed.id ? { ...x, statement: deed.statement } : x)),
      };
    case 'ticket':
      return { ...desk, ticket: deed.size };
    case 'level': {
      const { [deed.name]: _old, ...others } = desk.levels[deed.symbol] ?? {};
      return {
        ...desk,
        levels: {
          ...desk.levels,
          [deed.symbol]: deed.price === null ? others : { ...others, [deed.name]: deed.price },
        },
      };
    }
    case 'note': {
      const trade = openTrade(holdingOf(broker, MAIN, deed.symbol));
      return {
        ...desk,
        notes: [...desk.notes, { at, symbol: deed.symbol, tradeId: trade?.id ?? null, text: deed.text }],
      };
    }
  }
}
