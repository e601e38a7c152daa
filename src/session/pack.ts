// A value and its typed arrays in one piece of memory: a line of JSON, then the arrays as they are.

const TYPES = {
  Int32Array,
  Float64Array,
  Uint8Array,
  Uint16Array,
} as const;
type TypedArray = InstanceType<(typeof TYPES)[keyof typeof TYPES]>;

interface Heading {
  value: unknown;
  arrays: { type: keyof typeof TYPES; length: number; from: number }[];
}

const isTyped = (v: unknown): v is TypedArray => ArrayBuffer.isView(v) && v.constructor.name in TYPES;
const aligned = (n: number): number => Math.ceil(n / 8) * 8;

/**
 * Packs plain data (no Infinity, no undefined, no cycles) with its typed arrays, bit for bit.
 * @throws Error for a kind of array that is not known.
 */
export function pack(value: unknown): Uint8Array {
  const found: TypedArray[] = [];
  const arrays: Heading['arrays'] = [];
  let end = 0;
  const json = JSON.stringify(value, (_key, v: unknown) => {
    if (!ArrayBuffer.isView(v)) return v;
    if (!isTyped(v)) throw new Error(`cannot pack ${v.constructor.name}`);
    arrays.push({ type: v.constructor.name as keyof typeof TYPES, length: v.length, from: end });
    end = aligned(end + v.byteLength);
    return { '#': found.push(v) - 1 };
  });
  const heading = new TextEncoder().encode(`{"value":${json},"arrays":${JSON.stringify(arrays)}}`);
  const start = aligned(4 + heading.length);
  const out = new Uint8Array(start + end);
  new DataView(out.buffer).setUint32(0, heading.length, true);
  out.set(heading, 4);
  found.forEach((a, k) => {
    out.set(new Uint8Array(a.buffer, a.byteOffset, a.byteLength), start + (arrays[k]?.from ?? 0));
  });
  return out;
}

/** Brings back what was packed. The bytes have to start at an address that eight divides, as those of a new buffer do. */
export function unpack(bytes: Uint8Array): unknown {
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true);
  const heading = JSON.parse(new TextDecoder().decode(bytes.subarray(4, 4 + length))) as Heading;
  const start = bytes.byteOffset + aligned(4 + length);
  const arrayOf = (k: number): TypedArray | undefined => {
    const a = heading.arrays[k];
    return a && new TYPES[a.type](bytes.buffer as ArrayBuffer, start + a.from, a.length);
  };
  const fill = (v: unknown): unknown => {
    if (typeof v !== 'object' || v === null) return v;
    if (Array.isArray(v)) return v.map(fill);
    const entries = Object.entries(v);
    if (entries.length === 1 && entries[0]?.[0] === '#') return arrayOf(entries[0][1] as number);
    return Object.fromEntries(entries.map(([key, x]) => [key, fill(x)]));
  };
  return fill(heading.value);
}
