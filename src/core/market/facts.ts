import { type Listing, SECTORS } from './listing.ts';

/** What is known of every symbol before the day, as columns in the order of the instruments. 0 means not known; prices in 1/10,000 dollar. */
export interface Facts {
  priorHigh: Float64Array;
  priorLow: Float64Array;
  priorClose: Float64Array;
  float: Float64Array;
  shares: Float64Array;
  averageVolume: Float64Array;
  premarketShare: Float64Array;
  atr: Float64Array;
  /** 0 to 100; NaN without listed options. */
  ivRank: Float64Array;
  options: Float64Array;
  /** Place in {@link BORROWS}. */
  borrow: Float64Array;
  /** Place in {@link SECTORS}, NaN for none of them. */
  sector: Float64Array;
  /** Place of each symbol in the alphabet's order, for ties. */
  alphabet: Int32Array;
}

export const BORROWS = ['easy', 'hard', 'none'] as const;

/** Where implied volatility stands in its 52-week range, 0 to 100; NaN without listed options. */
export const ivRank = ({ options: o }: Listing): number =>
  o ? ((o.iv - o.ivLow) / (o.ivHigh - o.ivLow)) * 100 : Number.NaN;

const kept = new WeakMap<readonly Listing[], Facts>();

/** The columns of a list of instruments; made once for each list. */
export function factsOf(instruments: readonly Listing[]): Facts {
  const there = kept.get(instruments);
  if (there) return there;
  const column = (of: (x: Listing) => number) => Float64Array.from(instruments, of);
  const place = (list: readonly string[], what: string) => {
    const k = list.indexOf(what);
    return k < 0 ? Number.NaN : k;
  };
  const alphabet = new Int32Array(instruments.length);
  instruments
    .map((x, i) => ({ symbol: x.symbol, i }))
    .sort((a, b) => (a.symbol < b.symbol ? -1 : 1))
    .forEach((x, k) => {
      alphabet[x.i] = k;
    });
  const facts: Facts = {
    priorHigh: column((x) => x.priorHigh),
    priorLow: column((x) => x.priorLow),
    priorClose: column((x) => x.priorClose),
    float: column((x) => x.float),
    shares: column((x) => x.sharesOutstanding),
    averageVolume: column((x) => x.averageVolume),
    premarketShare: column((x) => x.premarketShare),
    atr: column((x) => x.atr),
    ivRank: column(ivRank),
    options: column((x) => (x.options ? 1 : 0)),
    borrow: column((x) => place(BORROWS, x.borrow)),
    sector: column((x) => place(SECTORS, x.sector)),
    alphabet,
  };
  kept.set(instruments, facts);
  return facts;
}
