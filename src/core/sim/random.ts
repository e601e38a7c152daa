/**
 * xoroshiro128+ (D. Blackman and S. Vigna, prng.di.unimi.it), the low 32 bits of each sum.
 * The state is four 32-bit words, so it is saved with the rest of the day. Everything that draws
 * here uses only + − × ÷ and square root, which IEEE 754 rounds alike on every machine.
 */
export type Random = Int32Array;

/** A generator for a seed and a stream name: streams of one day never share draws. */
export function createRandom(seed: number, stream: string): Random {
  let h = (seed | 0) ^ 0x9e3779b9;
  const state = new Int32Array(4);
  for (let word = 0; word < 4; word++) {
    for (let i = 0; i < stream.length; i++) h = Math.imul(h ^ stream.charCodeAt(i), 0x01000193);
    h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
    h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
    h ^= h >>> 16;
    state[word] = h | 1;
  }
  return state;
}

/**
 * Next 32 random bits as a signed integer. State words: s0 low, s0 high, s1 low, s1 high; `o` is
 * where they start, so that many streams share one array.
 */
export function nextInt(r: Random, o = 0): number {
  const s0l = r[o] as number;
  const s0h = r[o + 1] as number;
  let s1l = r[o + 2] as number;
  let s1h = r[o + 3] as number;
  const out = (s0l + s1l) | 0;
  s1l ^= s0l;
  s1h ^= s0h;
  r[o] = ((s0l << 24) | (s0h >>> 8)) ^ s1l ^ (s1l << 16);
  r[o + 1] = ((s0h << 24) | (s0l >>> 8)) ^ s1h ^ ((s1h << 16) | (s1l >>> 16));
  r[o + 2] = (s1h << 5) | (s1l >>> 27);
  r[o + 3] = (s1l << 5) | (s1h >>> 27);
  return out;
}

/** Uniform in (0, 1). */
export const uniform = (r: Random, o = 0): number => ((nextInt(r, o) >>> 0) + 0.5) / 4294967296;

/** Uniform integer in [0, n). */
export const below = (r: Random, n: number, o = 0): number => Math.floor(uniform(r, o) * n);

/** Natural logarithm from basic arithmetic only (halving and the atanh series), x > 0. */
export function ln(x: number): number {
  let m = x;
  let k = 0;
  while (m < 0.75) {
    m *= 2;
    k--;
  }
  while (m > 1.5) {
    m *= 0.5;
    k++;
  }
  const y = (m - 1) / (m + 1);
  const z = y * y;
  const series =
    1 + z * (1 / 3 + z * (1 / 5 + z * (1 / 7 + z * (1 / 9 + z * (1 / 11 + z * (1 / 13 + z / 15))))));
  return k * 0.6931471805599453 + 2 * y * series;
}

/** Exponential with mean 1. */
export const exponential = (r: Random, o = 0): number => -ln(uniform(r, o));

/** Standard normal by the polar method (G. Marsaglia and T. A. Bray, 1964). */
export function normal(r: Random, o = 0): number {
  for (;;) {
    const u = 2 * uniform(r, o) - 1;
    const v = 2 * uniform(r, o) - 1;
    const s = u * u + v * v;
    if (s < 1 && s > 0) return u * Math.sqrt((-2 * ln(s)) / s);
  }
}

/** e^−x for x ≥ 0 from basic arithmetic only: the fourth-order series of a sixteenth, squared four times; 0 from 40 on. */
export function decay(x: number): number {
  if (x >= 40) return 0;
  const y = x / 16;
  let e = 1 / (1 + y * (1 + y * (1 / 2 + y * (1 / 6 + y / 24))));
  e *= e;
  e *= e;
  e *= e;
  return e * e;
}

/** e^x from basic arithmetic only, x at most 20. */
export const exp = (x: number): number => (x < 0 ? decay(-x) : 1 / decay(Math.min(x, 20)));
