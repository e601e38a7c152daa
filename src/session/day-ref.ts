import {
  type Carry,
  createMarket,
  type Line,
  listedSymbols,
  type Market,
  type OwnDay,
  ownScenario,
  type Pit,
  practiceDay,
  practiceSymbols,
  type Register,
  reviveMarket,
  type SavedMarket,
  type Scenario,
} from '../core/sim/index.ts';

/** Which day: one of the practice days with its seed (and how many symbols are listed, all when left out), or one that the trader imported. */
export type DayRef =
  | { kind: 'practice'; id: string; seed: number; size?: number }
  | { kind: 'own'; id: string };

/** A day made ready: the scenario of any of its trading days follows from it. */
export interface DaySource {
  ref: DayRef;
  /** The imported data, for a day of one's own. */
  own: OwnDay | null;
  /** Only these symbols, by their places in the day's list, in order; all when left out. What happens to them is the same. */
  only?: readonly number[];
}

/** The symbols of a day's list, in order. */
export const symbolsListed = ({ ref, own }: DaySource): string[] =>
  ref.kind === 'practice' ? listedSymbols(ref.size) : (own?.symbols.map((s) => s.symbol) ?? []);

type Practice = Extract<DayRef, { kind: 'practice' }>;
const laterDay = ({ id, seed, size }: Practice, n: number, carry: Carry | null): Scenario =>
  practiceDay(id, seed, n, carry, size);

let drawn: { key: string; scenario: Scenario } | null = null;

/** The first day as it was drawn last: nothing changes it, and drawing it takes a quarter of a second. */
function firstDay(ref: Practice): Scenario {
  const key = JSON.stringify(ref);
  if (drawn?.key !== key) drawn = { key, scenario: laterDay(ref, 0, null) };
  return drawn.scenario;
}

/** The scenario of the `n`-th trading day (0 is the first); later ones go on from what `carry` hands over. */
export function scenarioOf(source: DaySource, n: number, carry: Carry | null): Scenario {
  const { ref, own, only } = source;
  if (ref.kind === 'practice') {
    if (only) return practiceSymbols(ref, n, carry, only);
    return n === 0 && carry === null ? firstDay(ref) : laterDay(ref, n, carry);
  }
  if (!own) throw new Error('The imported data of this day is gone. Import it again, or choose another day.');
  return ownScenario(
    only ? { ...own, symbols: own.symbols.filter((_, i) => only.includes(i)) } : own,
    n,
    carry,
  );
}

/** The same day with one symbol alone, the `i`-th. */
export const scenarioOfOne = (source: DaySource, n: number, carry: Carry | null, i: number): Scenario =>
  source.ref.kind === 'practice'
    ? scenarioOf({ ...source, only: [i] }, n, carry)
    : scenarioOf(source, n, carry);

/** What is kept of a market: the rest follows from the day. */
export interface KeptMarket {
  dayNumber: number;
  dates: string[];
  carry: Carry | null;
  /** What each finished day of the session handed on, oldest first. */
  past: Carry[];
  market: SavedMarket;
  line: Line;
  /** The options market; left out in sessions of before it. */
  pit?: Pit;
  /** What is known of the trader's orders; left out in sessions of before it. */
  register?: Register;
}

/** Where a trading day of a session starts: which one it is, and what the day before handed on. */
export interface DayStart {
  dayNumber: number;
  carry: Carry | null;
}
export const FIRST: DayStart = { dayNumber: 0, carry: null };

/** A market at the start of a day. */
export const openDay = (source: DaySource, { dayNumber, carry }: DayStart): Market =>
  createMarket(scenarioOf(source, dayNumber, carry), dayNumber);
/** A market from what was kept of its day. */
export const reviveDay = (source: DaySource, kept: KeptMarket): Market =>
  reviveMarket(scenarioOf(source, kept.dayNumber, kept.carry), kept.market);
