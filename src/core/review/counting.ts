// What counts: a day's first attempt. What was done with the day known already is hindsight, and is never mixed in.
import { dayOf } from '../units/index.ts';
import type { TradeRecord } from './record.ts';

/** What has to be known of an attempt: which day it was at, where it went back from, how far it came in session time. */
export interface Attempted {
  id: number;
  day: string;
  from: { attempt: number; at: number } | null;
  /** It only watches another one again. */
  watches: boolean;
  reached: number;
  /** It was opened from what is known of its day, up to this session of it: from a rehearsed trade, or from one that was imported. */
  known?: number;
}

/** `copy`: lived through again on the way back to a moment; it counts where it happened first. */
export type Counted = 'counts' | 'hindsight' | 'copy';

/**
 * Says of each trade whether it counts. A trade is hindsight where an earlier attempt at the same day had come past the moment at which it was
 * opened, or had traded on that session already, or where the session was opened from what is known of it; imported trades count.
 */
export function countedOf(
  records: readonly TradeRecord[],
  attempts: readonly Attempted[],
): Map<string, Counted> {
  const by = new Map(attempts.map((a) => [a.id, a]));
  const earlier = new Map<string, Attempted[]>();
  for (const a of [...attempts].sort((x, y) => x.id - y.id))
    earlier.set(a.day, [...(earlier.get(a.day) ?? []), a]);
  const isCopy = (r: TradeRecord): boolean => {
    if (r.source.kind !== 'attempt') return false;
    const a = by.get(r.source.attempt);
    if (a?.watches) return true;
    const from = a?.from;
    const { closed } = r.source.at;
    return from != null && closed !== null && closed <= from.at;
  };
  /** The first attempt that traded on a session of a day, apart from what it lived through again. */
  const first = new Map<string, number>();
  const sessionOf = (day: string, opened: number) => `${day} ${dayOf(opened)}`;
  for (const r of records) {
    const a = r.source.kind === 'attempt' ? by.get(r.source.attempt) : undefined;
    if (r.source.kind !== 'attempt' || !a || isCopy(r)) continue;
    const key = sessionOf(a.day, r.source.at.opened);
    first.set(key, Math.min(first.get(key) ?? a.id, a.id));
  }
  return new Map(
    records.map((r): [string, Counted] => {
      const a = r.source.kind === 'attempt' ? by.get(r.source.attempt) : undefined;
      if (r.source.kind !== 'attempt' || !a) return [r.ref, 'counts'];
      if (isCopy(r)) return [r.ref, 'copy'];
      const { opened } = r.source.at;
      const known = (earlier.get(a.day) ?? []).some((x) => x.id < a.id && x.reached > opened);
      const told = (earlier.get(a.day) ?? []).some((x) => x.id <= a.id && (x.known ?? -1) >= dayOf(opened));
      const retake = (first.get(sessionOf(a.day, opened)) ?? a.id) < a.id;
      return [r.ref, known || told || retake ? 'hindsight' : 'counts'];
    }),
  );
}
