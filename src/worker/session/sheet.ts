import { LEVELS, priceNamed } from '../../core/language/index.ts';
import type { DailyBar } from '../../core/market/index.ts';
import { candidateTrade } from '../../core/scan/index.ts';
import type { Engine } from '../../session/engine.ts';
import { symbolView } from '../../session/moment.ts';

/** What a candidate's sheet shows beyond the focus: days gone by, levels, and a trade to start from. */
export interface Sheet {
  symbol: string;
  daily: DailyBar[];
  levels: { name: string; price: number | null }[];
  /** A sentence for each side; null where there is no pre-market candle to lean on. */
  drafts: { long: string | null; short: string | null };
}

/** The sheet of a symbol that trades today. */
export function sheetOf(engine: Engine, symbol: string): Sheet {
  const { market } = engine;
  const view = symbolView(engine, symbol);
  return {
    symbol,
    daily: market.daily(symbol),
    levels: view ? LEVELS.map((l) => ({ name: l.text, price: priceNamed(l.tree, view) })) : [],
    drafts: { long: view && candidateTrade(view, 'long'), short: view && candidateTrade(view, 'short') },
  };
}
