// What is risked on a trade, month by month: raised and lowered by rules that were agreed before.

/** Rules of a ladder: rungs are whole multiples of what one usual stop risks. Money in 1/10,000 dollar. */
export interface LadderRules {
  usual: number;
  /** R of a month from which on the next one is a rung higher, and to which it is a rung lower (below zero). */
  up: number;
  down: number;
  /** Trades that a month must have to change anything. */
  trades: number;
  /** The highest rung. */
  most: number;
}

/** The rules that a trader begins with. */
export const PLAIN_LADDER: Omit<LadderRules, 'usual'> = { up: 5, down: -4, trades: 20, most: 8 };

/** A month on the ladder: its rung, and why the next month's is what it is. */
export interface Rung {
  month: string;
  rung: number;
  unit: number;
  trades: number;
  r: number;
  next: 'up' | 'down' | 'same';
}

/** Climbs month by month from the first rung. @returns the months, and the rung for the one after them. */
export function climb(
  months: readonly { name: string; trades: number; r: number }[],
  { usual, up, down, trades, most }: LadderRules,
): { months: Rung[]; now: { rung: number; unit: number } } {
  let rung = 1;
  const out = months.map((m): Rung => {
    const here = rung;
    const enough = m.trades >= trades;
    if (enough && m.r >= up) rung = Math.min(most, rung + 1);
    else if (enough && m.r <= down) rung = Math.max(1, rung - 1);
    const next = rung > here ? 'up' : rung < here ? 'down' : 'same';
    return { month: m.name, rung: here, unit: here * usual, trades: m.trades, r: m.r, next };
  });
  return { months: out, now: { rung, unit: rung * usual } };
}
