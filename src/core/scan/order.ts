const BITS = 11;
const BUCKETS = 1 << BITS;
const counts = new Uint32Array(BUCKETS);

/**
 * Places of the first `n` numbers from the smallest to the largest, equal ones in their order;
 * none may be NaN. A radix sort over the bits of the doubles (Knuth, The Art of Computer
 * Programming 3, 5.2.5): several times as fast as sorting places by a comparison.
 */
export function ascending(values: Float64Array, n: number): Uint32Array {
  const words = new Uint32Array(values.buffer, values.byteOffset, n * 2);
  // As unsigned numbers in the order of the doubles: all bits turned for negative ones, the sign for others. Low word first.
  const keys = new Uint32Array(n * 2);
  let from = new Uint32Array(n);
  let to = new Uint32Array(n);
  for (let k = 0; k < n; k++) {
    const high = words[k * 2 + 1] as number;
    const flip = high >>> 31 ? 0xffffffff : 0;
    // Minus zero is zero.
    const zero = high === 0x80000000 && words[k * 2] === 0;
    from[k] = k;
    keys[k * 2] = zero ? 0 : (words[k * 2] as number) ^ flip;
    keys[k * 2 + 1] = zero ? 0x80000000 : high ^ (flip | 0x80000000);
  }
  for (let word = 0; word < 2; word++) {
    for (let shift = 0; shift < 32; shift += BITS) {
      counts.fill(0);
      for (let k = 0; k < n; k++) {
        const b = ((keys[k * 2 + word] as number) >>> shift) & (BUCKETS - 1);
        counts[b] = (counts[b] as number) + 1;
      }
      // All in one bucket: nothing to do.
      if (n > 0 && counts[((keys[word] as number) >>> shift) & (BUCKETS - 1)] === n) continue;
      let sum = 0;
      for (let b = 0; b < BUCKETS; b++) {
        const c = counts[b] as number;
        counts[b] = sum;
        sum += c;
      }
      for (let k = 0; k < n; k++) {
        const row = from[k] as number;
        const b = ((keys[row * 2 + word] as number) >>> shift) & (BUCKETS - 1);
        to[counts[b] as number] = row;
        counts[b] = (counts[b] as number) + 1;
      }
      [from, to] = [to, from];
    }
  }
  return from;
}
