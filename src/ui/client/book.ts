import type { BookSlice } from '@/worker/session/slices';

const EVENTS_KEPT = 400;

/** What was known of the trader's orders and trades, with what has changed put in place; each list by rising id. */
export function mergeBook(now: BookSlice | null | undefined, change: BookSlice): BookSlice {
  if (!now || change.whole) return change;
  return {
    whole: now.whole,
    trades: upsert(now.trades, change.trades),
    orders: upsert(now.orders, change.orders),
    scopes: upsert(now.scopes, change.scopes),
    reviews: upsert(now.reviews, change.reviews),
    events: change.events.length === 0 ? now.events : [...now.events, ...change.events].slice(-EVENTS_KEPT),
  };
}

function upsert<T extends { id: number }>(list: T[], changed: readonly T[]): T[] {
  if (changed.length === 0) return list;
  const byId = new Map(changed.map((x) => [x.id, x]));
  const out = list.map((x) => {
    const next = byId.get(x.id);
    byId.delete(x.id);
    return next ?? x;
  });
  return byId.size === 0 ? out : [...out, ...byId.values()].sort((a, b) => a.id - b.id);
}
