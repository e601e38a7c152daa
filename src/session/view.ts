import type { AlertScene } from '../core/alerts/index.ts';
import { factsOf, type MarketView, NEWS_KINDS } from '../core/market/index.ts';
import type { Feed } from './ports.ts';

/** The newest news of each symbol, made anew only when an item comes out. */
const newest = new WeakMap<object, { told: number; newsAt: Float64Array; newsKind: Uint8Array }>();

/** The market as rules, columns and alerts see it now. */
export function marketView(market: Feed): MarketView {
  const { board, instruments, news } = market;
  const now = market.now();
  let told = 0;
  while (told < news.length && (news[told]?.at as number) <= now) told++;
  let of = newest.get(news);
  if (of?.told !== told) {
    of = {
      told,
      newsAt: new Float64Array(instruments.length).fill(Number.NaN),
      newsKind: new Uint8Array(instruments.length),
    };
    for (const item of news.slice(0, told)) {
      if (!market.has(item.symbol)) continue;
      const i = market.number(item.symbol);
      of.newsAt[i] = item.at;
      of.newsKind[i] = NEWS_KINDS.indexOf(item.kind);
    }
    newest.set(news, of);
  }
  return { board, facts: factsOf(instruments), now, newsAt: of.newsAt, newsKind: of.newsKind };
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
export function sceneOf(market: Feed, at = market.now()): AlertScene {
  let view: MarketView | null = null;
  return {
    at,
    // Made only where somebody looks: its columns are of thousands of symbols.
    get view() {
      view ??= marketView(market);
      return view;
    },
    get stocks() {
      return stocksOf(market);
    },
    symbolOf: (i) => market.instruments[i]?.symbol ?? '',
    numberOf: (s) => (market.has(s) ? market.number(s) : -1),
    news: market.news,
    stops: market.stops(),
  };
}
