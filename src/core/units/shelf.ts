/**
 * A persistent table of records by their ids, for what is kept for good: putting one in copies only
 * the bucket that it stands in, so a step costs the same after ten thousand records as after ten.
 * Older versions of the table stay as they were.
 */
export interface Shelf<T> {
  readonly buckets: readonly (readonly (T | undefined)[] | undefined)[];
  readonly count: number;
}

const BUCKET = 64;

/** A shelf with nothing on it. */
export const emptyShelf = <T>(): Shelf<T> => ({ buckets: [], count: 0 });

/** Puts a record in under its id (a whole number from 0), in place of one that was there. */
export function put<T extends { id: number }>(s: Shelf<T>, item: T): Shelf<T> {
  const at = Math.floor(item.id / BUCKET);
  const bucket = s.buckets[at]?.slice() ?? [];
  const fresh = bucket[item.id % BUCKET] === undefined;
  bucket[item.id % BUCKET] = item;
  const buckets = s.buckets.slice();
  buckets[at] = bucket;
  return { buckets, count: s.count + (fresh ? 1 : 0) };
}

/** A record by its id, or undefined. */
export const taken = <T>(s: Shelf<T>, id: number): T | undefined =>
  s.buckets[Math.floor(id / BUCKET)]?.[id % BUCKET];

/** All records, by rising id. */
export function all<T>(s: Shelf<T>): T[] {
  const out: T[] = [];
  for (const bucket of s.buckets) for (const item of bucket ?? []) if (item !== undefined) out.push(item);
  return out;
}

/** Records of `now` that `before` did not have or had otherwise; what is the same bucket is not looked into. */
export function changed<T>(before: Shelf<T> | null, now: Shelf<T>): T[] {
  const out: T[] = [];
  now.buckets.forEach((bucket, i) => {
    const old = before?.buckets[i];
    if (bucket === old) return;
    bucket?.forEach((item, k) => {
      if (item !== undefined && item !== old?.[k]) out.push(item);
    });
  });
  return out;
}
