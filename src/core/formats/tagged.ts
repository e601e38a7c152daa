// Values with typed arrays, dates that are none, and numbers beyond JSON as JSON, and back: for archives.

const ARRAYS = {
  Int8Array,
  Uint8Array,
  Uint8ClampedArray,
  Int16Array,
  Uint16Array,
  Int32Array,
  Uint32Array,
  Float32Array,
  Float64Array,
} as const;
type ArrayName = keyof typeof ARRAYS;
type AnyArray = InstanceType<(typeof ARRAYS)[ArrayName]>;

/** The key that marks what is not what it looks like; a plain object that has it is marked as well. */
const MARK = '$';

const CODES = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
/** Bytes as base64 (RFC 4648, section 4). */
function base64(bytes: Uint8Array): string {
  const out: string[] = [];
  for (let k = 0; k < bytes.length; k += 3) {
    const [a, b, c] = [bytes[k] as number, bytes[k + 1], bytes[k + 2]];
    const n = (a << 16) | ((b ?? 0) << 8) | (c ?? 0);
    out.push(
      (CODES[n >> 18] as string) +
        (CODES[(n >> 12) & 63] as string) +
        (b === undefined ? '=' : (CODES[(n >> 6) & 63] as string)) +
        (c === undefined ? '=' : (CODES[n & 63] as string)),
    );
  }
  return out.join('');
}
const VALUES = new Map([...CODES].map((c, k) => [c, k]));
function fromBase64(text: string): Uint8Array<ArrayBuffer> {
  const plain = text.replace(/=+$/, '');
  if (text.length % 4 !== 0 || text.length - plain.length > 2)
    throw new Error('a block of numbers is cut off');
  const out = new Uint8Array(Math.floor((plain.length * 3) / 4));
  let [n, bits, at] = [0, 0, 0];
  for (const c of plain) {
    const v = VALUES.get(c);
    if (v === undefined) throw new Error('a block of numbers holds what is no number');
    n = (n << 6) | v;
    bits += 6;
    if (bits >= 8) {
      bits -= 8;
      out[at++] = (n >> bits) & 255;
      n &= (1 << bits) - 1;
    }
  }
  return out;
}

/** A value as JSON can hold it. @throws Error for what cannot be kept (functions, symbols). */
export function tagged(value: unknown): unknown {
  if (typeof value === 'number' && (!Number.isFinite(value) || Object.is(value, -0)))
    return { [MARK]: Object.is(value, -0) ? '-0' : String(value) };
  if (value === undefined) return { [MARK]: 'undefined' };
  if (typeof value === 'bigint') return { [MARK]: 'bigint', of: String(value) };
  if (typeof value === 'function' || typeof value === 'symbol')
    throw new Error(`a ${typeof value} cannot be kept`);
  if (typeof value !== 'object' || value === null) return value;
  // A gap in a list is no null.
  if (Array.isArray(value)) return Array.from(value, tagged);
  if (ArrayBuffer.isView(value) && !(value instanceof DataView)) {
    const { buffer, byteOffset, byteLength } = value as AnyArray;
    return {
      [MARK]: value.constructor.name,
      of: base64(new Uint8Array(buffer as ArrayBuffer, byteOffset, byteLength)),
    };
  }
  if (value instanceof ArrayBuffer) return { [MARK]: 'ArrayBuffer', of: base64(new Uint8Array(value)) };
  if (value instanceof Map) return { [MARK]: 'Map', of: [...value].map(tagged) };
  if (value instanceof Set) return { [MARK]: 'Set', of: [...value].map(tagged) };
  const plain = Object.fromEntries(Object.entries(value).map(([k, v]) => [k, tagged(v)]));
  return MARK in plain ? { [MARK]: 'object', of: plain } : plain;
}

/** The value again. Keys that would change what an object is (`__proto__`) are refused. @throws Error where it is not what `tagged` writes. */
export function untagged(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) return value.map(untagged);
  const entries = Object.entries(value);
  if (entries.some(([k]) => k === '__proto__')) throw new Error('a key “__proto__” is not taken');
  if (!Object.hasOwn(value, MARK)) return Object.fromEntries(entries.map(([k, v]) => [k, untagged(v)]));
  const { [MARK]: what, of } = value as { [MARK]: unknown; of?: unknown };
  switch (what) {
    case 'NaN':
    case 'Infinity':
    case '-Infinity':
    case '-0':
      return Number(what);
    case 'undefined':
      return undefined;
    case 'bigint':
      if (typeof of !== 'string' || !/^-?\d{1,100}$/.test(of)) break;
      return BigInt(of);
    case 'ArrayBuffer':
      if (typeof of !== 'string') break;
      return fromBase64(of).buffer;
    case 'Map':
      if (!Array.isArray(of)) break;
      return new Map(of.map((x) => untagged(x) as [unknown, unknown]));
    case 'Set':
      if (!Array.isArray(of)) break;
      return new Set(of.map(untagged));
    case 'object':
      if (typeof of !== 'object' || of === null || Object.hasOwn(of, '__proto__')) break;
      return Object.fromEntries(Object.entries(of).map(([k, v]) => [k, untagged(v)]));
    default:
      if (typeof what === 'string' && Object.hasOwn(ARRAYS, what) && typeof of === 'string') {
        const bytes = fromBase64(of);
        const Kind = ARRAYS[what as ArrayName];
        if (bytes.byteLength % Kind.BYTES_PER_ELEMENT === 0) return new Kind(bytes.buffer);
      }
  }
  throw new Error('it holds a value that this app does not write');
}
