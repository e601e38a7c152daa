import {
  aheadOf,
  createMarket,
  depthOf,
  hasSymbol,
  type Market,
  pullOrder,
  quoteOf,
  type Scenario,
  sendOrder,
  shrinkOrder,
  stepMarket,
  tapeOf,
} from '../core/sim/index.ts';
import { unreachable } from '../core/units/index.ts';
import type { DayMarket } from './ports.ts';

/** The simulated exchange behind the feed and exchange ports; from a scenario, or from what was saved. */
export function simMarket(from: { scenario: Scenario } | { saved: unknown }): DayMarket {
  const m = 'saved' in from ? (from.saved as Market) : createMarket(from.scenario);
  return {
    instruments: m.scenario.symbols.map((s) => s.instrument),
    news: m.scenario.news,
    date: m.scenario.date,
    now: () => m.now,
    next(until) {
      const i = stepMarket(m, until);
      const symbol = m.tapes[i]?.symbol;
      return symbol === undefined ? null : { symbol, traded: m.printed === i };
    },
    tape: (symbol) => tapeOf(m, symbol),
    quote: (symbol) => quoteOf(m, symbol),
    depth: (symbol, levels) => depthOf(m, symbol, levels),
    has: (symbol) => hasSymbol(m, symbol),
    carryOut(command) {
      switch (command.kind) {
        case 'send':
          sendOrder(m, { ...command, id: command.venueId });
          return;
        case 'pull':
          pullOrder(m, command.symbol, command.venueId);
          return;
        case 'shrink':
          shrinkOrder(m, command.symbol, command.venueId, command.qty);
          return;
        default:
          unreachable(command);
      }
    },
    drain: () => m.reports.splice(0),
    ahead: (symbol, venueId) => aheadOf(m, symbol, venueId),
    save: () => m,
  };
}
