import type { AlertScene } from '../core/alerts/index.ts';
import { factsOf, type MarketView, NEWS_KINDS } from '../core/market/index.ts';
import type { Feed } from './ports.ts';

/** The market as rules, columns and alerts see it now. */
export function marketView(market: Feed): MarketView {
  const { board, instruments } = market;
  const now = market.now();
  const n = instruments.length;
  const newsAt = new Float64Array(n).fill(Number.NaN);
  const newsKind = new Uint8Array(n);
  for (const item of market.news) {
    if (item.at > now) break;
    if (!market.has(item.symbol)) continue;
    const i = market.number(item.symbol);
    newsAt[i] = item.at;
    newsKind[i] = NEWS_KINDS.indexOf(item.kind);
  }
  return { board, facts: factsOf(instruments), now, newsAt, newsKind };
}

const lists = new WeakMap<object, Int32Array>();

/** Numbers of all symbols but the index stand-in. */
export function stocksOf({ instruments }: Feed): Int32Array {
  let list = lists.get(instruments);
  if (!list) {
    list = Int32Array.from(instruments.flatMap((x, i) => (x.kind === 'stock' ? [i] : [])));
    lists.set(instruments, list);
  }
  return list;
}

/** What alerts look at. */
export const sceneOf = (market: Feed, at = market.now()): AlertScene => ({
  at,
  view: marketView(market),
  stocks: stocksOf(market),
  symbolOf: (i) => market.instruments[i]?.symbol ?? '',
  numberOf: (s) => (market.has(s) ? market.number(s) : -1),
  news: market.news,
  stops: market.stops(),
});
