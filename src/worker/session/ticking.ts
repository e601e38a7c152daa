import { dayEnd } from '../../session/engine.ts';
import type { LogEntry } from '../../session/log.ts';
import type { Hosted } from './hosted.ts';
import { keep, publish } from './keeping.ts';
import { PIECE } from './long-work.ts';
import { PAUSED, turn } from './pace.ts';
import { passTo } from './watch-again.ts';

const BEAT_EVERY = 200;

/** Lets the time pass that is due, stores what happened and tells it. */
export async function tick(h: Hosted): Promise<void> {
  const wall = h.clock.now();
  const moving = h.pace.k !== 'paused';
  const entries = passPieces(h, wall);
  await publish(h, entries);
  if (moving && h.pace.k === 'paused') await keep(h);
  else if (moving && wall >= h.due.beat) {
    h.due.beat = wall + BEAT_EVERY;
    await h.store.beat(h.engine.market.now());
  }
  // A day that was set up anew is kept a moment later: the trader sees it first, and it can be made again.
  if ((moving || h.fresh) && wall >= h.due.save) {
    h.fresh = false;
    await keep(h);
  }
}

/** One turn; a jump or a search takes as many as there is time for. */
function passPieces(h: Hosted, wall: number): LogEntry[] {
  const long = h.pace.k === 'jumping' || h.pace.k === 'seeking';
  const entries: LogEntry[] = [];
  do {
    const { until, after } = turn(h.pace, wall, h.engine.market.now(), dayEnd(h.engine));
    const before = { stops: h.engine.market.stops().length, fired: h.engine.state.alerts.fireSeq };
    const more = passTo(h, until);
    entries.push(...more);
    h.pace = h.pace.k === 'seeking' && isOfInterest(h, h.pace.symbols, more, before) ? PAUSED : after;
  } while (long && h.pace.k !== 'paused' && h.clock.now() - wall < PIECE);
  return entries;
}

/** Whether a search ends: an alert fired, an own order filled, or one of the symbols stopped or resumed. */
function isOfInterest(
  { engine }: Hosted,
  symbols: readonly string[],
  entries: readonly LogEntry[],
  before: { stops: number; fired: number },
): boolean {
  return (
    engine.state.alerts.fireSeq > before.fired ||
    entries.some((x) => x.events.some((e) => e.exec === 'Trade')) ||
    engine.market
      .stops()
      .slice(before.stops)
      .some((s) => symbols.includes(s.symbol))
  );
}
