import { type Price, price } from '../units/index.ts';

/**
 * What can be held and ordered. Everything of an account belongs to an instrument: a stock, an
 * option contract, or a combination whose legs are booked in one step.
 */
export type Instrument = Stock | OptionContract | Combination;

export interface Stock {
  kind: 'stock';
  symbol: string;
}
export interface OptionContract {
  kind: 'option';
  root: string;
  /** `yyyy-mm-dd`. */
  expiry: string;
  right: 'call' | 'put';
  strike: Price;
}
/** Ratios are signed: plus is traded as the order's side says, minus the other way. */
export interface Combination {
  kind: 'combination';
  legs: readonly { ratio: number; of: Stock | OptionContract }[];
}

/** A stock, by its symbol. */
export const stock = (symbol: string): Stock => ({ kind: 'stock', symbol });

/** The name by which an account knows an instrument: a stock's symbol, the 21 characters of an option (OCC symbology), or its legs. */
export function idOf(i: Instrument): string {
  switch (i.kind) {
    case 'stock':
      return i.symbol;
    case 'option': {
      const date = i.expiry.slice(2).replaceAll('-', '');
      return `${i.root.padEnd(6)}${date}${i.right === 'call' ? 'C' : 'P'}${String(i.strike / 10).padStart(8, '0')}`;
    }
    case 'combination':
      return i.legs.map((l) => `${l.ratio > 0 ? '+' : ''}${l.ratio} ${idOf(l.of)}`).join(' ');
  }
}

/**
 * The option contract that 21 characters name (OCC symbology: root padded to six, yymmdd, C or P, strike × 1000 in eight
 * digits), or null for anything else.
 */
export function contractOf(id: string): OptionContract | null {
  const m = /^([A-Z]{1,6}) *(\d\d)(\d\d)(\d\d)([CP])(\d{8})$/.exec(id);
  if (!m || id.length !== 21) return null;
  const expiry = `20${m[2]}-${m[3]}-${m[4]}`;
  const strike = Number(m[6]) * 10;
  return strike > 0
    ? {
        kind: 'option',
        root: m[1] as string,
        expiry,
        right: m[5] === 'C' ? 'call' : 'put',
        strike: price(strike),
      }
    : null;
}
