// A practice morning for tests of sentences: sessions that begin at a moment of it, each anew.
import { at } from '../src/core/units/index.ts';
import type { DaySource } from '../src/session/day-ref.ts';
import { advance, createEngine, type Engine } from '../src/session/engine.ts';
import { restore, save } from '../src/session/saving.ts';
import { simMarket } from '../src/session/sim-market.ts';

const DAY: DaySource = { ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 24 }, own: null };

/** Two moments of one morning, before the open and after it; each call is a session of its own. */
export function morning(): { early(): Engine; late(): Engine } {
  const e = createEngine(simMarket(DAY));
  const kept = () => {
    const saved = structuredClone(save(e));
    return () => {
      const own = structuredClone(saved);
      return restore(own, simMarket(DAY, own.market), [], null);
    };
  };
  advance(e, at(9, 10));
  const early = kept();
  advance(e, at(9, 45));
  return { early, late: kept() };
}
