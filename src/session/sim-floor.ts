// Where the trader's orders go: over the line, to the exchange of the shares or to the pit of the options.
import { isOption, rootOf } from '../core/instruments/index.ts';
import { statusOf } from '../core/market/index.ts';
import {
  arrive,
  carryOut,
  carryOutInPit,
  counted,
  createLine,
  executionsOf,
  type Floorside,
  hasSymbol,
  keepFloor,
  type Line,
  look,
  nextDue,
  nextLook,
  openPit,
  type Pit,
  quoteOf,
  type Register,
  register,
  report,
  stepMarket,
} from '../core/sim/index.ts';
import type { VenueCommand } from '../core/venue/index.ts';
import type { KeptMarket } from './day-ref.ts';
import { listingOf, placeOf, type SimDays } from './sim-days.ts';

/** The line, the pit, and what the exchange has registered of the trader's orders. */
export interface SimFloor {
  readonly days: SimDays;
  readonly line: Line;
  readonly pit: Pit;
  readonly register: Register;
}

/** The floor of a session, or what was kept of it. */
export function openFloor(days: SimDays, kept: KeptMarket | null): SimFloor {
  const { seed } = days.m.scenario;
  return {
    days,
    line: kept?.line ?? createLine(seed),
    pit: kept?.pit ?? openPit(seed),
    register: kept?.register ?? {},
  };
}

/** What the options market sees of the stocks. */
export function floorside({ days }: SimFloor): Floorside {
  const { m } = days;
  return {
    now: m.now,
    dayStart: m.dayStart,
    date: m.scenario.date,
    hours: m.scenario.hours,
    has: (symbol) => hasSymbol(m, symbol),
    listing: (symbol) => listingOf(days, symbol),
    quote: (symbol) => quoteOf(m, symbol),
    stopped: (symbol) => statusOf(m.board, placeOf(days, symbol)) !== 'trading',
  };
}

/** A request of the trader, carried out where what it names trades. */
export function execute(f: SimFloor, command: VenueCommand): void {
  const { m, dayNumber } = f.days;
  register(f.register, command, dayNumber);
  if (command.kind === 'executions') return report(f.line, m.now, [executionsOf(f.register, command, m.now)]);
  if (!isOption(command.symbol)) return carryOut(m, command);
  // Its makers follow every move of the underlying from now on.
  if (hasSymbol(m, rootOf(command.symbol))) keepFloor(m, rootOf(command.symbol));
  m.reports.push(...carryOutInPit(f.pit, floorside(f), command));
}

/** What the exchange has to say starts on its way. */
export function cross({ days: { m }, line, register: known }: SimFloor): void {
  if (m.reports.length === 0) return;
  const reports = m.reports.splice(0).map((o) => counted(known, o));
  report(line, m.now, reports);
}

/**
 * Lets the next thing happen that is due by `until`: at the exchange, in the pit, or a message that arrives.
 * @returns the symbol it concerns and whether it traded, or null when nothing more is due
 */
export function nextOf(f: SimFloor, until: number): { symbol: string; traded: boolean } | null {
  const { line, pit } = f;
  const { m } = f.days;
  const message = nextDue(line) ?? Number.POSITIVE_INFINITY;
  const makers = nextLook(pit);
  const due = Math.min(message, makers?.at ?? Number.POSITIVE_INFINITY);
  const i = stepMarket(m, Math.min(due, until));
  const stepped = m.scenario.symbols[i]?.instrument.symbol;
  if (stepped !== undefined) return { symbol: stepped, traded: m.printed === i };
  if (due > until) return null;
  if (makers && makers.at < message) {
    m.reports.push(...look(pit, floorside(f), makers.name));
    cross(f);
    return { symbol: makers.name, traded: true };
  }
  // Everything before it has happened: the message arrives.
  const { symbol, command } = arrive(line);
  if (command) execute(f, command);
  return {
    symbol: symbol ?? m.scenario.symbols[0]?.instrument.symbol ?? '',
    traded: command !== null && m.printed >= 0,
  };
}
