/**
 * The planned day of each symbol: what it is worth, how it quotes, when it trades, halts and
 * reopens. Each symbol draws from its own stream only, so one symbol's day is the same whether
 * 8,000 others run beside it or none, and can be run again at any time. Full books grow around this
 * plan (floor.ts); symbols that nobody looks at are nothing but it.
 *
 * One column a quantity, one place a symbol. Prices in 1/10,000 dollar, times of day in ms.
 */
export interface Sketches {
  count: number;
  random: Int32Array;
  /** A number of the symbol's own for what needs no state. */
  key: Int32Array;

  // --- worth
  /** What the market has learned that it is worth; what the trader's own trades add is apart. */
  worth: Float64Array;
  /** Its own course since 04:00 (news, market and sector apart), as a factor. */
  own: Float64Array;
  /** Move of market and sector that its trades have not taken up yet, as a fraction. */
  pending: Float64Array;
  tide: Float64Array;
  /** Standard deviation of a trade's news at this stretch and heat, as a fraction of price. */
  sigma: Float64Array;

  // --- activity
  /** Logarithm of the variance beside its mean, in standard deviations: one part of minutes, one of most of an hour. */
  quick: Float64Array;
  slow: Float64Array;
  heatAt: Float64Array;
  /** The variance relative to the stretch's own. */
  heat: Float64Array;
  /** Extra activity after news, falling with time. */
  burst: Float64Array;
  /** Excitement of arrivals by arrivals: of seconds, of a minute (1/s). */
  spurt: Float64Array;
  swell: Float64Array;

  // --- sides
  /** Means of past sides over a few, some twenty and some two hundred trades. */
  few: Float64Array;
  some: Float64Array;
  many: Float64Array;
  /** A rush that is on: its tilt; and shares of a flush still to come, in trades. */
  rush: Float64Array;
  flush: Float64Array;

  // --- the trader's trace
  /** Signed shares that the trader took, in mean prints: all of the day, and what has not faded. */
  taken: Float64Array;
  pressure: Float64Array;
  pressedAt: Float64Array;

  // --- programme
  movedAt: Float64Array;
  nextAt: Float64Array;
  /** Time of the next thing on the day's programme (open, close, jump, halt). */
  cueAt: Float64Array;
  phase: Uint16Array;
  jump: Uint16Array;
  halt: Uint16Array;
  /** 0 before the opening, 1 after it, 2 after the closing auction. */
  stage: Uint8Array;
  status: Uint8Array;
  until: Float64Array;
  limitSince: Float64Array;
  extensions: Uint8Array;
  /** Pauses so far. */
  pauses: Uint8Array;

  // --- the quote
  /** How much wider than usual makers quote now, as a fraction; falls with time. */
  wide: Float64Array;
  /** Where the makers stand. What is shown is this or one tick better, with sizes that flicker. */
  low: Int32Array;
  high: Int32Array;
  bid: Int32Array;
  ask: Int32Array;
  bidSize: Int32Array;
  askSize: Int32Array;
  /** Number of the flicker that is shown, −1 before the first; how long each stands, in ms. */
  flicker: Float64Array;
  flickerLength: Float64Array;
  /** Unseen shares at the midpoint: above zero buyers. */
  midpoint: Int32Array;

  // --- price bands
  reference: Float64Array;
  upper: Int32Array;
  lower: Int32Array;
  /** Ten buckets of 30 s: sum of prices, number of trades, and the newest bucket's number. */
  meanSum: Float64Array;
  meanCount: Uint16Array;
  bucket: Float64Array;

  // --- imported days: number of the bar and of its next trade
  bar: Int32Array;
  trade: Int32Array;
}

export const STATUS = { trading: 0, limitUp: 1, limitDown: 2, pause: 3, halted: 4 } as const;
export const VENUE = { lit: 0, mid: 1, off: 2 } as const;
export const CONDITION = { regular: 0, opening: 1, closing: 2, reopening: 3 } as const;
export const NEVER = 1e15;
/** Buckets of the mean trade price a symbol. */
export const BUCKETS = 10;

/** What one step of the plan comes to: the quote before which it happens, and at most one trade against it. */
export interface Happening {
  at: number;
  bid: number;
  ask: number;
  bidSize: number;
  askSize: number;
  /** Trade; `qty` 0 when there is none. `side` 1 when the buyer took liquidity, −1 the seller, 0 in an auction. An auction that pairs nobody still has its condition and price. */
  price: number;
  qty: number;
  side: number;
  venue: number;
  condition: number;
  /** Trading status before it: at a price band one side finds nobody. */
  status: number;
  /** Price bands at the time, 0 where none holds. */
  upper: number;
  lower: number;
}

/** An empty happening, to be filled again and again. */
export const newHappening = (): Happening => ({
  at: 0,
  bid: 0,
  ask: 0,
  bidSize: 0,
  askSize: 0,
  price: 0,
  qty: 0,
  side: 0,
  venue: 0,
  condition: 0,
  status: 0,
  upper: 0,
  lower: 0,
});

/** Columns for so many symbols. */
export function emptyColumns(n: number): Sketches {
  const f = () => new Float64Array(n);
  const i32 = () => new Int32Array(n);
  return {
    count: n,
    random: new Int32Array(n * 4),
    key: i32(),
    worth: f(),
    own: f().fill(1),
    pending: f(),
    tide: f().fill(1),
    sigma: f(),
    quick: f(),
    slow: f(),
    heatAt: f(),
    heat: f().fill(1),
    burst: f(),
    spurt: f(),
    swell: f(),
    few: f(),
    some: f(),
    many: f(),
    rush: f(),
    flush: f(),
    taken: f(),
    pressure: f(),
    pressedAt: f(),
    movedAt: f(),
    nextAt: f(),
    cueAt: f(),
    phase: new Uint16Array(n),
    jump: new Uint16Array(n),
    halt: new Uint16Array(n),
    stage: new Uint8Array(n),
    status: new Uint8Array(n),
    until: f(),
    limitSince: f(),
    extensions: new Uint8Array(n),
    pauses: new Uint8Array(n),
    wide: f(),
    low: i32(),
    high: i32(),
    bid: i32(),
    ask: i32(),
    bidSize: i32(),
    askSize: i32(),
    flicker: f().fill(-1),
    flickerLength: f(),
    midpoint: i32(),
    reference: f(),
    upper: i32(),
    lower: i32(),
    meanSum: new Float64Array(n * BUCKETS),
    meanCount: new Uint16Array(n * BUCKETS),
    bucket: f(),
    bar: i32(),
    trade: i32(),
  };
}

/** A copy of one symbol's plan as it stands, alone in its columns: to look ahead without touching the day. */
export function copyOne(s: Sketches, i: number): Sketches {
  const out = { count: 1 } as unknown as Record<string, unknown>;
  for (const [name, column] of Object.entries(s)) {
    if (typeof column === 'number') continue;
    const wide = (column as Float64Array).length / s.count;
    out[name] = (column as Float64Array).slice(i * wide, (i + 1) * wide);
  }
  return { ...out, count: 1 } as Sketches;
}
