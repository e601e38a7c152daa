/**
 * From order id to row, flat so that a structured clone copies it. Open addressing with linear
 * probing; a removed place is closed by moving later entries of its run back, so no marks are left.
 *
 *   keys: id + 1 at its place, 0 where the place is free;  rows: the row beside it
 */
export interface IdTable {
  keys: Float64Array;
  rows: Int32Array;
  size: number;
}

export const createIdTable = (places = 128): IdTable => ({ keys: new Float64Array(places), rows: new Int32Array(places), size: 0 });

/** Where an id would like to stand. The multiplier spreads runs of ids (Knuth, The Art of Computer Programming 3, 6.4). */
const home = (id: number, mask: number): number => (Math.imul(id | 0, 0x9e3779b1) >>> 7) & mask;

/** Row of an id, or −1. */
export function rowOf(t: IdTable, id: number): number {
  const mask = t.keys.length - 1;
  for (let k = home(id, mask); ; k = (k + 1) & mask) {
    const key = t.keys[k] as number;
    if (key === id + 1) return t.rows[k] as number;
    if (key === 0) return -1;
  }
}

/** Adds an id that is not in the table. */
export function putRow(t: IdTable, id: number, row: number): void {
  if (t.size * 2 >= t.keys.length) grow(t);
  const mask = t.keys.length - 1;
  let k = home(id, mask);
  while (t.keys[k] !== 0) k = (k + 1) & mask;
  t.keys[k] = id + 1;
  t.rows[k] = row;
  t.size++;
}

/** Takes an id out, if it is there. */
export function dropRow(t: IdTable, id: number): void {
  const mask = t.keys.length - 1;
  let k = home(id, mask);
  for (; t.keys[k] !== id + 1; k = (k + 1) & mask) if (t.keys[k] === 0) return;
  t.size--;
  for (let next = (k + 1) & mask; t.keys[next] !== 0; next = (next + 1) & mask) {
    const want = home((t.keys[next] as number) - 1, mask);
    // Only an entry whose home does not lie between the hole and itself may move into the hole.
    if (((next - want) & mask) < ((next - k) & mask)) continue;
    t.keys[k] = t.keys[next] as number;
    t.rows[k] = t.rows[next] as number;
    k = next;
  }
  t.keys[k] = 0;
}

function grow(t: IdTable): void {
  const { keys, rows } = t;
  t.keys = new Float64Array(keys.length * 2);
  t.rows = new Int32Array(keys.length * 2);
  t.size = 0;
  for (let k = 0; k < keys.length; k++) if (keys[k] !== 0) putRow(t, (keys[k] as number) - 1, rows[k] as number);
}
