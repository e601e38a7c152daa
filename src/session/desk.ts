// What sentences do to the desk's own state: staged orders, the ticket's size, levels, notes.

import { printTree } from '../core/language/index.ts';
import { holdingOf, openTrade } from '../core/orders/index.ts';
import type { Deed } from '../core/reading/index.ts';
import type { DeskState, State, Waited } from './state.ts';

type DeskDeed = Exclude<Deed, { kind: 'intent' | 'alert' | 'desk' | 'chain' }>;

const WAITED_KEPT = 100;
/** The desk with one more waiting that has ended. */
export const withWaited = (desk: DeskState, w: Omit<Waited, 'seq'>): DeskState => ({
  ...desk,
  waited: [...desk.waited, { ...w, seq: (desk.waited[desk.waited.length - 1]?.seq ?? 0) + 1 }].slice(
    -WAITED_KEPT,
  ),
});

/** The state after a deed about the desk; `at` is the session time. */
export function deskAfter(s: State, deed: DeskDeed, at: number): State {
  return { ...s, desk: changed(s, deed, at) };
}

function changed({ desk, broker }: State, deed: DeskDeed, at: number): DeskState {
  switch (deed.kind) {
    case 'stage': {
      const { account, symbol, statement } = deed;
      const free = desk.freePlaces ?? [];
      const taken = [...desk.staged.flatMap((x) => x.place ?? []), ...free];
      // One that nobody has had yet; else the one that has been free the longest.
      const place = [1, 2, 3, 4, 5, 6, 7, 8, 9].find((p) => !taken.includes(p)) ?? free[0] ?? null;
      return {
        ...desk,
        nextStaged: desk.nextStaged + 1,
        staged: [
          ...desk.staged,
          { id: desk.nextStaged, account, symbol, statement, place, order: broker.next.order, at },
        ],
        freePlaces: free.filter((p) => p !== place),
      };
    }
    case 'unstage': {
      const staged = desk.staged.filter((x) => !deed.ids.includes(x.id));
      const freed = desk.staged.flatMap((x) => (staged.includes(x) || x.place == null ? [] : [x.place]));
      // An empty strip begins anew.
      return {
        ...desk,
        staged,
        freePlaces: staged.length === 0 ? [] : [...(desk.freePlaces ?? []), ...freed],
      };
    }
    case 'restage':
      return {
        ...desk,
        staged: desk.staged.map((x) => (x.id === deed.id ? { ...x, statement: deed.statement } : x)),
      };
    case 'wait': {
      const { kind: _kind, ...w } = deed;
      return {
        ...desk,
        nextWaiting: desk.nextWaiting + 1,
        waiting: [...desk.waiting, { id: desk.nextWaiting, ...w, at }],
      };
    }
    case 'unwait':
      return withoutWaiting(desk, deed.ids, at);
    case 'rewait':
      return {
        ...desk,
        waiting: desk.waiting.map((w) => (w.id === deed.id ? { ...w, sentence: deed.sentence } : w)),
      };
    case 'pause waiting':
      return {
        ...desk,
        waiting: desk.waiting.map((w) =>
          w.id === deed.id ? { ...w, trigger: { ...w.trigger, paused: deed.paused } } : w,
        ),
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
    case 'use account':
      return { ...desk, account: deed.account };
    case 'note': {
      const trade = openTrade(holdingOf(broker, desk.account, deed.symbol));
      return {
        ...desk,
        notes: [...desk.notes, { at, symbol: deed.symbol, tradeId: trade?.id ?? null, text: deed.text }],
      };
    }
  }
}

/** Conditions that nobody waits for any more; what they were is remembered. */
function withoutWaiting(desk: DeskState, ids: readonly number[], at: number): DeskState {
  const gone = desk.waiting.filter((w) => ids.includes(w.id));
  const left = { ...desk, waiting: desk.waiting.filter((w) => !ids.includes(w.id)) };
  return gone.reduce<DeskState>((to, { id, symbol, sentence }) => {
    const text = printTree(sentence);
    return withWaited(to, { id, of: 'condition', symbol, at, text, how: 'cancelled', seen: '', came: '' });
  }, left);
}
