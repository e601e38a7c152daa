// What a record is tested by: small questions of one value, put together to the shape of a whole one.

/** Whether a value is as it has to be. */
export type Fits = (x: unknown) => boolean;

/** By field, what its value has to be. */
export type Shape = Readonly<Record<string, Fits>>;

/** Whether something is a record with fields. */
export const isObject = (x: unknown): x is Record<string, unknown> =>
  typeof x === 'object' && x !== null && !Array.isArray(x);

export const number: Fits = (x) => typeof x === 'number' && Number.isFinite(x);
export const text: Fits = (x) => typeof x === 'string';
export const flag: Fits = (x) => typeof x === 'boolean';
export const or =
  (fits: Fits): Fits =>
  (x) =>
    x === null || fits(x);
/** A field that may be left out. */
export const maybe =
  (fits: Fits): Fits =>
  (x) =>
    x === undefined || fits(x);
export const oneOf =
  (...words: string[]): Fits =>
  (x) =>
    words.includes(x as string);
export const listOf =
  (fits: Fits): Fits =>
  (x) =>
    Array.isArray(x) && x.every(fits);
/** A record whose every value fits, under whatever keys. */
export const each =
  (fits: Fits): Fits =>
  (x) =>
    isObject(x) && Object.values(x).every(fits);
export const shaped =
  (shape: Shape): Fits =>
  (x) =>
    misfit(shape, x) === null;

/** The first field of a value that does not fit its shape; the empty text where the value is no record at all, null where all fits. */
export function misfit(shape: Shape, x: unknown): string | null {
  if (!isObject(x)) return '';
  return Object.keys(shape).find((field) => !shape[field]?.(x[field])) ?? null;
}
