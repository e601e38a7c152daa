import { printTree } from '../../core/language/index.ts';
import { nearnessOf, pricesAwaited } from '../../core/reading/index.ts';
import type { Engine } from '../../session/engine.ts';
import { runContext } from '../../session/moment.ts';
import type { WaitingNow } from './slices.ts';

/** What waits for a condition as it stands now, the nearest first. */
export function waitingNow(e: Engine): WaitingNow[] {
  return e.state.desk.waiting
    .map((w) => {
      const c = runContext(e, w.symbol, null, w.account);
      const { far, text } = nearnessOf(w, c);
      const way =
        far === 0
          ? 1
          : Number.isFinite(far) && Number.isFinite(w.far)
            ? 1 - far / Math.max(far, w.far)
            : null;
      return {
        far,
        now: {
          id: w.id,
          symbol: w.symbol,
          text: printTree(w.sentence),
          paused: w.trigger.paused,
          until: w.trigger.until,
          near: text,
          way,
          prices: pricesAwaited(w, c),
        },
      };
    })
    .sort((a, b) => (a.far === b.far ? a.now.id - b.now.id : a.far - b.far))
    .map(({ now }) => now);
}
