// Where an imported trade was planned to end, as its file or the trader says it.
import { multiplierOfSymbol } from '../instruments/index.ts';
import type { Exits, Remark, TradeRecord } from './record.ts';

/** What a stop would lose of some shares, in 1/10,000 dollar; null where it stands on the wrong side of the entry. */
export function riskOf(
  t: Pick<TradeRecord, 'direction' | 'averageEntry' | 'shares' | 'symbol'>,
  stop: number | null,
): number | null {
  if (stop === null) return null;
  const away = t.direction === 'long' ? t.averageEntry - stop : stop - t.averageEntry;
  return away > 0 ? away * t.shares * multiplierOfSymbol(t.symbol) : null;
}

/** Why a price cannot be a planned exit of a trade; null where it can. */
export function wrongExit(
  t: Pick<TradeRecord, 'direction' | 'averageEntry'>,
  which: keyof Exits,
  at: number,
): string | null {
  const below = (which === 'stop') === (t.direction === 'long');
  if (below ? at < t.averageEntry : at > t.averageEntry) return null;
  return `The ${which} of a ${t.direction} trade is ${below ? 'below' : 'above'} its entry.`;
}

/** An imported trade with what the trader says of its exits before what its file says, and with what its stop risked where nothing else says that. */
export function withExits(t: TradeRecord, said: Remark | undefined): TradeRecord {
  if (t.source.kind !== 'import') return t;
  const exits = {
    stop: said?.stop ?? t.exits?.stop ?? null,
    target: said?.target ?? t.exits?.target ?? null,
  };
  return { ...t, exits, risk: t.risk ?? riskOf(t, exits.stop) };
}
