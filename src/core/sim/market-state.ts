import type { Board } from '../market/index.ts';
import type { Outcome } from '../venue/index.ts';
import type { Sketches } from './columns.ts';
import type { Floor } from './floor-types.ts';
import type { Scenario } from './plan.ts';
import type { DayFrame } from './sketch-frame.ts';

/**
 * The simulated exchange: the plan and the public board of every symbol, and full books (floors)
 * of those that are looked at or traded. The board, the plan and the books that the trader touched
 * are all that has to be kept; everything else follows from the scenario.
 */
export interface Market {
  scenario: Scenario;
  frame: DayFrame;
  /** Session time of this day's midnight: how many trading days it lies after the session's first. */
  dayStart: number;
  now: number;
  sketches: Sketches;
  board: Board;
  index: Map<string, number>;
  floors: Map<number, Floor>;
  /** Filled while something happens, emptied by whoever reads it. */
  reports: Outcome[];
  /** Symbol number of the last full book that printed in the step, −1 when none did. */
  printed: number;
  /** Every halt and resumption of the day so far. */
  stops: { i: number; at: number; stopped: boolean }[];
  /** Happenings so far in the books that are kept for the trader's sake; the same whoever looks at others. */
  happened: number;
  bulkAt: number;
  /**
   * Companies of which nothing special is told, and that nobody looks at, stand still since `bulkAt`:
   * where they end the day is known without running them. {@link catchUp} brings them on.
   */
  coarse: boolean;
}
