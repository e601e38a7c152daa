import type { OrderEvent } from '../core/orders/index.ts';
import type { Engine } from './circuit.ts';
import type { LogEntry, SessionInput } from './log.ts';
import { type Came, runChains } from './waits.ts';

const EVENTS_KEPT = 200;

/** Writes down what came of what waited, and lets orders go whose turn has come by it. */
export function follow(e: Engine, first: readonly Came[], out: LogEntry[]): void {
  for (let came = [...first, ...runChains(e)]; came.length > 0; came = runChains(e))
    for (const { of, deeds, problem, events } of came)
      out.push(write(e, null, events, { fired: of, deeds, ...(problem === undefined ? {} : { problem }) }));
}

export function write(
  e: Engine,
  input: SessionInput | null,
  events: OrderEvent[],
  more: Pick<LogEntry, 'deeds' | 'problem' | 'fired'> = {},
  at = e.market.now(),
): LogEntry {
  const seq = e.state.seq + 1;
  e.state = { ...e.state, seq, events: [...e.state.events, ...events].slice(-EVENTS_KEPT) };
  return { seq, at, happened: e.market.happened(), input, ...more, events };
}
