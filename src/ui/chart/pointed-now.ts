'use client';

import { sliceOf, useSession } from '../client';
import { useSettings } from '../settings';
import type { PointedAt, Pointing } from './pointing';

/** What the sentence of a click on a symbol's chart or depth is made from, as it stands now. */
export function pointedNow(symbol: string | undefined, what: Pointing): PointedAt {
  const s = useSession.getState();
  const { bid = null, ask = null } = sliceOf(s, symbol)?.quote ?? {};
  return {
    of: symbol === undefined || symbol === s.focus?.symbol ? null : symbol,
    bid,
    ask,
    regular: s.clock?.session === 'regular',
    names: Object.keys(s.desk?.levels[symbol ?? ''] ?? {}),
    plan: useSettings.getState()[what === 'short' ? 'planShort' : 'planLong'],
  };
}
