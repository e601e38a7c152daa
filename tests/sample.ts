import type { Listing } from '../src/core/market/index.ts';
import { fromDollars } from '../src/core/units/index.ts';

/** A stock with round numbers: prior close 4.00, float and shares 10 and 13 million, a million shares a day. */
export const sampleStock = (over: Partial<Listing> = {}): Listing => ({
  symbol: 'VULPN',
  name: 'Vulpine Robotics',
  sector: 'Machinery',
  kind: 'stock',
  priorOpen: fromDollars(4.05),
  priorHigh: fromDollars(4.26),
  priorLow: fromDollars(3.97),
  priorClose: fromDollars(4),
  float: 10_000_000,
  sharesOutstanding: 13_000_000,
  averageVolume: 1_000_000,
  premarketShare: 0.06,
  atr: fromDollars(0.3),
  borrow: 'easy',
  tier: 2,
  options: { iv: 0.9, ivLow: 0.5, ivHigh: 1.3 },
  ...over,
});
