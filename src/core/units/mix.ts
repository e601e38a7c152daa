/** 32 well-mixed bits of two integers: a value that needs no state (the finalizer of MurmurHash3, A. Appleby, public domain). */
export function mix(a: number, b: number): number {
  let h = Math.imul(a ^ 0x9e3779b9, 0x85ebca6b) ^ Math.imul(b + 0x7f4a7c15, 0xc2b2ae35);
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** A number of a symbol's own on a day. */
export function keyOf(seed: number, symbol: string): number {
  let key = seed | 0;
  for (let k = 0; k < symbol.length; k++) key = mix(key, symbol.charCodeAt(k)) | 0;
  return key;
}
