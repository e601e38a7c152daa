// Companies whose options are dear (or cheap) against their year, each with the vertical that would be sold now.
import { multipleOf } from '../../core/account/index.ts';
import { isOption, mostToLose, rootOf } from '../../core/instruments/index.ts';
import { factsOf, ivRank } from '../../core/market/index.ts';
import { outlookOf, pitchOf } from '../../core/options/index.ts';
import { openTrade } from '../../core/orders/index.ts';
import { contractNow } from '../../core/reading/index.ts';
import { PRICE_SCALE } from '../../core/units/index.ts';
import { account, accountInUse, type Engine } from '../../session/engine.ts';
import { chainOf, runContext } from '../../session/moment.ts';
import type { VerticalFound, VerticalsAsked } from './session-messages.ts';

/** Rows that are worked out at most. */
const MOST = 24;

/** What of a vertical is asked for, as a sentence names it. */
export const verticalText = (
  symbol: string,
  a: Pick<VerticalsAsked, 'days' | 'delta' | 'width' | 'right'>,
): string => `${symbol} ${a.days} days ${a.delta} delta ${a.width} wide ${a.right}`;

/** The companies that fit, those with the highest rank first; and how many fit in all. */
export function findVerticals(e: Engine, a: VerticalsAsked): { rows: VerticalFound[]; fit: number } {
  const { market } = e;
  const facts = factsOf(market.instruments);
  const fit: number[] = [];
  market.instruments.forEach((x, i) => {
    const price = (market.last(x.symbol) ?? x.priorClose) / PRICE_SCALE;
    if (!x.options || (facts.ivRank[i] as number) < a.rank || price < a.from || price > a.to) return;
    if (a.sector !== '' && x.sector !== a.sector) return;
    // What hardly trades has no options that anybody would sell.
    if ((x.averageVolume * x.priorClose) / PRICE_SCALE < 10e6) return;
    fit.push(i);
  });
  fit.sort((p, q) => (facts.ivRank[q] as number) - (facts.ivRank[p] as number));
  const held = new Set(
    Object.values(e.state.broker.holdings).flatMap((h) =>
      isOption(h.symbol) && openTrade(h) ? [rootOf(h.symbol)] : [],
    ),
  );
  const power = account(e).buyingPower;
  const rows = fit.slice(0, MOST).flatMap((i) => {
    const x = market.instruments[i] as (typeof market.instruments)[number];
    const row = rowOf(e, x.symbol, a, power);
    return row
      ? [{ ...row, sector: x.sector, rank: ivRank(x), iv: x.options?.iv ?? 0, held: held.has(x.symbol) }]
      : [];
  });
  return { rows, fit: fit.length };
}

function rowOf(
  e: Engine,
  symbol: string,
  a: VerticalsAsked,
  power: number,
): Omit<VerticalFound, 'sector' | 'rank' | 'iv' | 'held'> | null {
  const m = chainOf(e, symbol);
  if (m === null) return null;
  const text = verticalText(symbol, a);
  const name = contractNow(text, runContext(e, symbol, null));
  if (name === null) return null;
  const pitch = pitchOf(name, m);
  const mid = pitch.ask === null ? pitch.fair : ((pitch.bid ?? 0) + pitch.ask) / 2;
  const o = outlookOf(name, -1, mid, m, false);
  if (!o || o.least === null) return null;
  const needs = mostToLose(name, -1, mid) * 100 * multipleOf(accountInUse(e));
  const r = (o.least * 100) / accountInUse(e).rules.riskUnit;
  const least = o.least * 100;
  return {
    symbol,
    spot: m.spot,
    text,
    name,
    mid,
    least,
    profit: o.profit,
    needs,
    r,
    affordable: needs <= power,
  };
}
