/**
 * From order id to row, flat so that a structured clone copies it. Open addressing with linear
 * probing; a removed place is closed by moving later entries of its run back, so no marks are left.
 *
 *   places: two numbers a place, side by side because they are used together: id + 1 (0 where the
 *           place is free) and the row
 */
export interface IdTable {
  places: Float64Array;
  size: number;
}

export const createIdTable = (places = 128): IdTable => ({ places: new Float64Array(places * 2), size: 0 });

/** Where an id would like to stand. The multiplier spreads runs of ids (Knuth, The Art of Computer Programming 3, 6.4). */
const home = (id: number, mask: number): number => (Math.imul(id | 0, 0x9e3779b1) >>> 7) & mask;
const maskOf = (t: IdTable): number => (t.places.length >> 1) - 1;

/** Row of an id, or −1. */
export function rowOf(t: IdTable, id: number): number {
  const mask = maskOf(t);
  for (let k = home(id, mask); ; k = (k + 1) & mask) {
    const key = t.places[k * 2] as number;
    if (key === id + 1) return t.places[k * 2 + 1] as number;
    if (key === 0) return -1;
  }
}

/** Adds an id that is not in the table. */
export function putRow(t: IdTable, id: number, row: number): void {
  if (t.size * 4 >= t.places.length) grow(t);
  const mask = maskOf(t);
  let k = home(id, mask);
  while (t.places[k * 2] !== 0) k = (k + 1) & mask;
  t.places[k * 2] = id + 1;
  t.places[k * 2 + 1] = row;
  t.size++;
}

/** Takes an id out, if it is there. */
export function dropRow(t: IdTable, id: number): void {
  const mask = maskOf(t);
  let k = home(id, mask);
  for (; t.places[k * 2] !== id + 1; k = (k + 1) & mask) if (t.places[k * 2] === 0) return;
  t.size--;
  for (let next = (k + 1) & mask; t.places[next * 2] !== 0; next = (next + 1) & mask) {
    const want = home((t.places[next * 2] as number) - 1, mask);
    // Only an entry whose home does not lie between the hole and itself may move into the hole.
    if (((next - want) & mask) < ((next - k) & mask)) continue;
    t.places[k * 2] = t.places[next * 2] as number;
    t.places[k * 2 + 1] = t.places[next * 2 + 1] as number;
    k = next;
  }
  t.places[k * 2] = 0;
}

function grow(t: IdTable): void {
  const { places } = t;
  t.places = new Float64Array(places.length * 2);
  t.size = 0;
  for (let k = 0; k < places.length; k += 2) if (places[k] !== 0) putRow(t, (places[k] as number) - 1, places[k + 1] as number);
}
