/** The price that a trigger looks at. */
export const SEEN = ['last', 'bid', 'ask'] as const;
export type Seen = (typeof SEEN)[number];

/** What is known of a symbol after a trade or a new quote. Prices in 1/10,000 dollar. */
export interface Tick {
  symbol: string;
  at: number;
  last: number | null;
  bid: number | null;
  ask: number | null;
}

export type Way = 'up' | 'down';

/** Whether a price has reached a level from the side that `way` says: at the level counts (common practice). */
export const touched = (way: Way, level: number, price: number | null): boolean =>
  price !== null && (way === 'up' ? price >= level : price <= level);
