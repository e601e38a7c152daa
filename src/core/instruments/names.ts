import { PRICE_SCALE, type Price, price, type Ticks } from '../units/index.ts';
import { idOf, type OptionContract, type Stock, stock } from './instrument.ts';

/** Two contracts of one expiry and right, one bought and one sold in one step; the dearer one first, so that a net price is never below zero. */
export interface Vertical {
  kind: 'vertical';
  root: string;
  /** `yyyy-mm-dd`. */
  expiry: string;
  right: 'call' | 'put';
  /** The strike that is dearer: the lower one of calls, the higher one of puts. */
  dear: Price;
  cheap: Price;
}
export type Traded = Stock | OptionContract | Vertical;

const strikeText = (p: Price): string => String(p / PRICE_SCALE);

/**
 * The name by which an instrument is ordered and held, as sentences write it: `VULPN`, `VULPN 2027-03-19 4.5 call`,
 * `VULPN 2027-04-16 5/4.5 put`.
 */
export function nameOf(i: Traded): string {
  switch (i.kind) {
    case 'stock':
      return i.symbol;
    case 'option':
      return `${i.root} ${i.expiry} ${strikeText(i.strike)} ${i.right}`;
    case 'vertical':
      return `${i.root} ${i.expiry} ${strikeText(i.dear)}/${strikeText(i.cheap)} ${i.right}`;
  }
}

const NAME = /^([A-Z]{1,6}) (\d{4}-\d\d-\d\d) (\d+(?:\.\d{1,3})?)(?:\/(\d+(?:\.\d{1,3})?))? (call|put)$/;
const known = new Map<string, Traded>();

/** The instrument of a name. What is no option or vertical is a stock's symbol. */
export function instrumentOf(name: string): Traded {
  if (!name.includes(' ')) return stock(name);
  const there = known.get(name);
  if (there) return there;
  const m = NAME.exec(name);
  if (!m) return stock(name);
  const [, root, expiry, one, two, right] = m as unknown as [
    string,
    string,
    string,
    string,
    string | undefined,
    'call' | 'put',
  ];
  const strike = (text: string): Price => price(Math.round(Number(text) * PRICE_SCALE));
  const base = { root, expiry, right };
  const i: Traded =
    two === undefined
      ? { kind: 'option', ...base, strike: strike(one) }
      : { kind: 'vertical', ...base, dear: strike(one), cheap: strike(two) };
  known.set(name, i);
  return i;
}

/** The symbol that decides what an instrument is worth: its own, or its underlying's. */
export function rootOf(name: string): string {
  const end = name.indexOf(' ');
  return end < 0 ? name : name.slice(0, end);
}

/** Whether a name is that of an option or a vertical. */
export const isOption = (name: string): boolean => name.includes(' ');

/** Shares that one of what a name names stands for: 100 for listed options (OCC). */
export const multiplierOfSymbol = (name: string): number => (isOption(name) ? 100 : 1);

/** Contracts in one of what a name names; 0 for a stock. */
export function contractsIn(name: string): number {
  const i = instrumentOf(name);
  return i.kind === 'stock' ? 0 : i.kind === 'option' ? 1 : 2;
}

/** The contracts of an option or a vertical, each bought (1) or sold (−1) when it is bought. */
export function legsOf(name: string): { sign: 1 | -1; contract: OptionContract }[] {
  const i = instrumentOf(name);
  if (i.kind === 'stock') return [];
  if (i.kind === 'option') return [{ sign: 1, contract: i }];
  const { root, expiry, right } = i;
  const leg = (strike: Price): OptionContract => ({ kind: 'option', root, expiry, right, strike });
  return [
    { sign: 1, contract: leg(i.dear) },
    { sign: -1, contract: leg(i.cheap) },
  ];
}

/** What a name names by the symbols of the OCC: 21 characters of an option, its legs with their signs of a vertical; a stock's own symbol. */
export function occOf(name: string): string {
  const i = instrumentOf(name);
  if (i.kind === 'stock') return i.symbol;
  if (i.kind === 'option') return idOf(i);
  const legs = legsOf(name).map((l) => ({ ratio: l.sign, of: l.contract }));
  // A cell of a table that begins with a plus would be a formula.
  return idOf({ kind: 'combination', legs }).replace(/^\+/, '');
}

/** In which steps what a name names is priced, by the class of its options. Net prices of verticals go in cents (common practice). */
export function ticksOf(name: string, penny: boolean): Ticks {
  const i = instrumentOf(name);
  return i.kind === 'stock'
    ? 'stock'
    : i.kind === 'vertical'
      ? 'cent'
      : penny
        ? 'penny class'
        : 'nickel class';
}

/**
 * The most that one share's worth of what a name names can still lose, held long (`sign` 1) or short (−1) at a price; infinite for what is sold and
 * not covered.
 */
export function mostToLose(name: string, sign: 1 | -1, at: number): number {
  if (sign === 1) return at;
  const i = instrumentOf(name);
  if (i.kind === 'vertical') return Math.max(0, Math.abs(i.dear - i.cheap) - at);
  if (i.kind === 'option' && i.right === 'put') return Math.max(0, i.strike - at);
  return Number.POSITIVE_INFINITY;
}
