import { onTick, unreachable, type WireId } from '../units/index.ts';
import type { Request, WireTerms } from '../venue/index.ts';
import { answer, enter } from './floor.ts';
import { bookOnBoard, contextOf, flickers, floorOf, freshen } from './market.ts';
import type { Market } from './market-state.ts';
import { hasSymbol } from './market-symbols.ts';
import { amend, leave } from './trader-orders.ts';

/** Carries out a request of the trader; the answer, executions and an end go to `market.reports`, in their order. */
export function carryOut(m: Market, command: Request): void {
  const { symbol, id } = command;
  const head = { id, symbol, at: m.now };
  m.printed = -1;
  if (!hasSymbol(m, symbol))
    return void m.reports.push({ kind: 'rejected', ...head, why: `${symbol} does not trade today` });
  const f = floorOf(m, symbol);
  freshen(m, f.i);
  const c = contextOf(m, f);
  const trace = m.sketches.taken[f.i];
  switch (command.kind) {
    case 'new': {
      const wrong = unfit(command) ?? ended(m);
      if (wrong) return void m.reports.push({ kind: 'rejected', ...head, why: wrong });
      m.reports.push({ kind: 'new', ...head });
      enter(f, c, command);
      break;
    }
    case 'replace': {
      const wrong = unfit(command) ?? ended(m);
      if (wrong) return void m.reports.push({ kind: 'refused', ...head, request: 'replace', why: wrong });
      if (!amend(f, c, id, command.qty, command.limit))
        m.reports.push({ kind: 'refused', ...head, request: 'replace', why: 'too late' });
      break;
    }
    case 'cancel':
      if (leave(f, id)) m.reports.push({ kind: 'out', ...head, why: 'canceled' });
      else m.reports.push({ kind: 'refused', ...head, request: 'cancel', why: 'too late' });
      break;
    default:
      unreachable(command);
  }
  if (m.sketches.taken[f.i] !== trace) {
    // Makers answer what was taken at once, and so does whoever is in the auction to come.
    f.arrivals = null;
    answer(f, c);
  }
  flickers(m, f, m.now - m.dayStart);
  bookOnBoard(m, f);
}

/** Nothing is traded from the end of the day on: what arrives then is not taken. */
const ended = (m: Market): string | null =>
  m.now >= m.dayStart + m.frame.hours.end ? 'the day has ended' : null;

/** What is not an order at all never reaches the book. */
function unfit({ qty, limit }: WireTerms): string | null {
  if (!Number.isSafeInteger(qty) || qty <= 0)
    return `a quantity must be a whole number from 1 on, not ${qty}`;
  if (limit !== null && !onTick(limit)) return `${limit} is not a price on a tick`;
  return null;
}

/** An order of the trader's that works at the exchange. */
export type Works = { id: WireId; symbol: string } & WireTerms;

/** Everything of the trader's that works at the exchange now. */
export const workingOrders = (m: Market): Works[] =>
  [...m.floors.values()].flatMap((f) =>
    [...f.orders.values()].map(({ id, qty, limit }) => ({ id, symbol: f.symbol, qty, limit })),
  );
