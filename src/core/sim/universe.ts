import { type Borrow, type Listing, SECTORS } from '../market/index.ts';
import { impliedFacts } from '../options/index.ts';
import { fromDollars, roundToTick } from '../units/index.ts';
import { below, createRandom, normal, type Random, uniform } from './random.ts';

/**
 * The invented market: companies that exist on every practice day. Codes have five letters and end
 * in a consonant, so that none is an ordinary share of a real exchange.
 */
export interface Company {
  symbol: string;
  name: string;
  sector: string;
  /** Usual price in dollars, before the day's own drift. */
  dollars: number;
  floatM: number;
  averageVolume: number;
  /** Usual daily range as a fraction of price. */
  range: number;
  sharesPerFloat: number;
  premarketShare: number;
  borrow: Borrow;
  tier: 1 | 2;
  options: { ivLow: number; ivHigh: number } | null;
}

const CONSONANTS = 'BCDFGHJKLMNPRSTVWZ';
const VOWELS = 'AEIOU';
const ENDS = 'DGHKNST';
const BUSINESS: Record<string, readonly string[]> = {
  Banks: ['Savings', 'Trust', 'Lending'],
  Biotech: ['Therapeutics', 'Genomics', 'Biologics'],
  Chips: ['Silicon', 'Photonics', 'Circuits'],
  Consumer: ['Goods', 'Kitchens', 'Outfitters'],
  Energy: ['Drilling', 'Solar', 'Fuels'],
  Health: ['Clinics', 'Devices', 'Care'],
  Machinery: ['Robotics', 'Tools', 'Motion'],
  Materials: ['Metals', 'Timber', 'Minerals'],
  Media: ['Press', 'Games', 'Pictures'],
  Property: ['Estates', 'Storage', 'Halls'],
  Software: ['Systems', 'Cloud', 'Data'],
  Transport: ['Freight', 'Lines', 'Air'],
  Utilities: ['Water', 'Grid', 'Power'],
};

const pick = <T>(list: readonly T[], r: Random): T => list[below(r, list.length)] as T;
const letter = (letters: string, r: Random): string => letters[below(r, letters.length)] as string;
/** Positive with a heavy right side: a lognormal's shape from exact operations. */
const spreadOut = (r: Random, sigma: number): number => {
  const z = Math.max(-3, Math.min(3, normal(r))) * sigma;
  const half = 1 + z / 16;
  const squared = half * half * half * half;
  return squared * squared * squared * squared;
};

/** The same `count` companies whatever the day. */
// biome-ignore lint/complexity/noExcessiveCognitiveComplexity: one draw after another from one stream
export function companies(count: number, taken: readonly string[] = []): Company[] {
  const r = createRandom(20_270, 'universe');
  const used = new Set(taken);
  const out: Company[] = [];
  while (out.length < count) {
    const root = letter(CONSONANTS, r) + letter(VOWELS, r) + letter(CONSONANTS, r) + letter(VOWELS, r);
    const symbol = root + letter(ENDS, r);
    if (used.has(symbol)) continue;
    used.add(symbol);
    const sector = pick(SECTORS, r);
    const small = uniform(r) < 0.62;
    const dollars = Math.max(0.18, Math.min(620, (small ? 5.2 : 34) * spreadOut(r, small ? 0.95 : 0.8)));
    const floatM = Math.max(0.8, (small ? 22 : 130) * spreadOut(r, 0.9));
    const averageVolume = Math.round(Math.max(3_000, (small ? 190_000 : 900_000) * spreadOut(r, 1.25)));
    const range = Math.max(0.008, Math.min(0.2, (small ? 0.055 : 0.024) * spreadOut(r, 0.35)));
    const optionable = !small || uniform(r) < 0.25;
    const ivLow = range * (6 + 4 * uniform(r));
    out.push({
      symbol,
      name: `${root.charAt(0)}${root.slice(1).toLowerCase()}${pick(['l', 'r', 'n', 'x', 'v'], r)}${pick(['on', 'ia', 'ex', 'ane', 'or'], r)} ${pick(BUSINESS[sector] as readonly string[], r)}`,
      sector,
      dollars,
      floatM,
      averageVolume,
      range,
      sharesPerFloat: 1.05 + uniform(r) * uniform(r) * 2.2,
      premarketShare: small ? 0.02 + 0.06 * uniform(r) : 0.01 + 0.02 * uniform(r),
      borrow: small
        ? uniform(r) < 0.3
          ? 'none'
          : uniform(r) < 0.45
            ? 'hard'
            : 'easy'
        : uniform(r) < 0.05
          ? 'hard'
          : 'easy',
      tier: !small && floatM > 150 ? 1 : 2,
      options: optionable ? { ivLow, ivHigh: ivLow * (1.6 + 1.6 * uniform(r)) } : null,
    });
  }
  return out;
}

/** A company on a given day: its prior candle and numbers, from the day's stream. `close` in dollars. */
export function listed(c: Company, close: number, r: Random, date: string): Listing {
  const range = close * c.range * (0.7 + 0.5 * uniform(r));
  const low = close - range * (0.25 + 0.5 * uniform(r));
  const open = low + range * uniform(r);
  const dollars = (d: number) => roundToTick(fromDollars(Math.max(0.0001, d)));
  // Nothing follows from it any more; what is drawn after it stays what it was.
  uniform(r);
  return {
    symbol: c.symbol,
    name: c.name,
    sector: c.sector,
    kind: 'stock',
    priorOpen: dollars(open),
    priorHigh: dollars(Math.max(low + range, close, open)),
    priorLow: dollars(Math.min(low, close, open)),
    priorClose: dollars(close),
    float: Math.round(c.floatM * 1e6),
    sharesOutstanding: Math.round(c.floatM * 1e6 * c.sharesPerFloat),
    averageVolume: c.averageVolume,
    premarketShare: c.premarketShare,
    atr: fromDollars(close * c.range),
    borrow: c.borrow,
    tier: c.tier,
    options: c.options && impliedFacts(c.symbol, c.options.ivLow, c.options.ivHigh, date),
  };
}
