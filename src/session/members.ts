// Who was in a scan at each minute of a day: worked out once, so that a rehearsal need not run the whole market again.
import type { Condition } from '../core/language/index.ts';
import { type Ranking, rank, sift, weaker } from '../core/scan/index.ts';
import { clockOf, MINUTE, PRE_OPEN, REGULAR_OPEN } from '../core/units/index.ts';
import type { DaySource } from './day-ref.ts';
import { simMarket } from './sim-market.ts';
import { marketView, stocksOf } from './view.ts';

/** The scan's best symbols at each minute, by their places in the day's list. */
export interface Members {
  /** First and last minute of the day that was looked at. */
  from: number;
  to: number;
  /** {@link MEMBERS_KEPT} places a minute, best first; {@link NOBODY} where there are fewer. */
  places: Uint16Array;
}

/** How many of a scan are kept a minute. */
export const MEMBERS_KEPT = 20;
const NOBODY = 0xffff;
/** By then the open has printed, where it is not delayed. */
const OPENED = REGULAR_OPEN + MINUTE;

/** Follows a scan through a day, on the market as it is without the trader. Times in minutes of the day. */
export function membersOf(
  source: DaySource,
  n: number,
  scan: { rule: Condition; ranking: Ranking },
  from: number,
  to: number,
): Members {
  const market = simMarket(source, null, { dayNumber: n, carry: null });
  const { board } = market;
  const places = new Uint16Array((to - from + 1) * MEMBERS_KEPT).fill(NOBODY);
  const runTo = (clock: number) => {
    while (market.next(market.dayStart + clock) !== null);
  };
  /** Whoever fails what is decided already need not be run on. */
  const drop = (stays: readonly (string | undefined)[], known: (i: number) => boolean) => {
    const rule = weaker(scan.rule, (f) => stays.includes(f.stays));
    if (rule === null) return;
    const who = stocksOf(market).slice();
    const passing = new Set(who.subarray(0, sift(rule, marketView(market), who, who.length)));
    market.leaveOut((i) => !passing.has(i) && known(i));
  };
  drop(['all day'], () => true);
  let dropped = false;
  for (let minute = from; minute <= to; minute++) {
    const clock = minute * MINUTE;
    if (!dropped && clock >= OPENED) {
      runTo(OPENED);
      drop(['all day', 'after the open'], (i) => (board.open[i] as number) > 0);
      dropped = true;
    }
    if (clock >= PRE_OPEN) runTo(clock);
    const { order } = rank(marketView(market), scan.rule, scan.ranking, stocksOf(market), MEMBERS_KEPT);
    places.set(order, (minute - from) * MEMBERS_KEPT);
  }
  return { from, to, places };
}

/** Everybody who was among the first `first` at any minute from one on to another, in the order of the day's list. */
export function everMembers(m: Members, first: number, from: number, to: number): number[] {
  const out = new Set<number>();
  for (let minute = from; minute <= to; minute++) for (const i of membersAt(m, first, minute)) out.add(i);
  return [...out].sort((a, b) => a - b);
}

const membersAt = (m: Members, first: number, minute: number): number[] => {
  const start = (minute - m.from) * MEMBERS_KEPT;
  return [...m.places.subarray(start, start + Math.min(first, MEMBERS_KEPT))].filter((i) => i !== NOBODY);
};

/** Whether a symbol was among the first `first` when the list was last looked at before a session time. */
export function isMember(m: Members, first: number, place: number, at: number): boolean {
  const minute = Math.floor(clockOf(at) / MINUTE);
  return minute >= m.from && minute <= m.to && membersAt(m, first, minute).includes(place);
}
