import { CENT } from '../units/index.ts';

/** What a lender asks for shares that are hard to borrow, and how many there are. */
export interface LocateOffer {
  /** Fee a share in 1/10,000 dollar. */
  perShare: number;
  available: number;
}

/** Float at which a locate costs its middle rate. */
const MIDDLE_FLOAT = 20e6;
const MIDDLE_RATE = 0.004;
const RATES = { least: 0.001, most: 0.03 };
/** Part of the float that a lender has on offer. */
const ON_OFFER = 0.002;

/**
 * The offer for a stock: a part of its price, dearer the smaller the float, at least a tenth of a cent a
 * share; a five-hundredth of the float is there. The shape is common practice, the figures from memory.
 */
export function locateOffer(price: number, float: number): LocateOffer {
  const rate = MIDDLE_RATE * Math.sqrt(MIDDLE_FLOAT / Math.max(1, float));
  const perShare = price * Math.min(RATES.most, Math.max(RATES.least, rate));
  return {
    perShare: Math.max(CENT / 10, Math.round(perShare / (CENT / 10)) * (CENT / 10)),
    available: Math.floor((float * ON_OFFER) / 100) * 100,
  };
}
