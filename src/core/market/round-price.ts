import { PRICE_SCALE } from '../units/index.ts';

/** The next whole (`step` 1) or half dollar (`step` 0.5) beyond a price; the price itself is not one of them. */
export function roundPrice(price: number, step: 1 | 0.5, way: 'above' | 'below'): number | null {
  const unit = step * PRICE_SCALE;
  const at = way === 'above' ? (Math.floor(price / unit) + 1) * unit : (Math.ceil(price / unit) - 1) * unit;
  return at > 0 ? at : null;
}
