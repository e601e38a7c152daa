/** Units in one: every decimal of the language is a whole number of 1/10,000. */
export const ONE = 10_000;
const PLACES = 4;

/** Why digits are not a decimal: a comma where a point belongs, more than four places, or more than can be meant. */
type NotDecimal = 'comma' | 'places' | 'large';

/** Reads digits such as `2,500` or `.05` to whole 1/10,000. */
export function readDecimal(digits: string): number | NotDecimal {
  const match = /^(\d{1,3}(?:,\d{3})+|\d*)(?:\.(\d+))?$/.exec(digits);
  if (!match) return 'comma';
  const whole = (match[1] ?? '').replaceAll(',', '').replace(/^0+/, '');
  const rest = (match[2] ?? '').replace(/0+$/, '');
  if (whole.length > 11) return 'large';
  return rest.length > PLACES ? 'places' : Number(whole) * ONE + Number(rest.padEnd(PLACES, '0'));
}

/** Writes whole 1/10,000 with no more places than it takes and at least `places`; never with an exponent. */
export function writeDecimal(n: number, places = 0): string {
  const abs = Math.abs(n);
  const rest = String(abs % ONE)
    .padStart(PLACES, '0')
    .replace(/0+$/, '')
    .padEnd(places, '0');
  return `${n < 0 ? '-' : ''}${Math.floor(abs / ONE)}${rest === '' ? '' : `.${rest}`}`;
}

/** As {@link writeDecimal}, with a comma for each thousand. */
export function writeGrouped(n: number): string {
  const [whole = '', rest] = writeDecimal(n).split('.');
  return whole.replace(/\B(?=(?:\d{3})+$)/g, ',') + (rest === undefined ? '' : `.${rest}`);
}
