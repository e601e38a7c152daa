/** Which way an order or a trade faces: +1 buys or is long, −1 sells or is short. */
export type Sign = 1 | -1;

/** Side of an order as the venue sees it. */
export type Side = 'buy' | 'sell';

/** +1 for a buy, −1 for a sale. */
export const signOf = (side: Side): Sign => (side === 'buy' ? 1 : -1);
/** The side of a sign. */
export const sideOf = (sign: Sign): Side => (sign === 1 ? 'buy' : 'sell');

/** Marks a switch as complete; reaching it is a bug. */
export function unreachable(value: never): never {
  throw new Error(`unhandled case: ${JSON.stringify(value)}`);
}
