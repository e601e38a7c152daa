// A close that would take far more than usual through the quote: a stop may be meant.
import { isOption } from '../instruments/index.ts';
import { instrumentNamed, type PriceTree, printTree } from '../language/index.ts';
import type { SymbolView } from '../market/index.ts';
import { isAtWork, type Order, protects } from '../orders/index.ts';
import { type Price, type Side, signOf } from '../units/index.ts';
import { literal, type Reading, type RunContext } from './moment.ts';
import { usualAt } from './usual.ts';

/** Whether a price is written from bid, ask, mid or last. */
export function isOfQuote(p: PriceTree): boolean {
  switch (p.kind) {
    case 'sum':
      return isOfQuote(p.base);
    case 'lower':
    case 'higher':
      return isOfQuote(p.a) && isOfQuote(p.b);
    default:
      return QUOTED.has(p.kind);
  }
}
const QUOTED: ReadonlySet<string> = new Set(['bid', 'ask', 'midpoint', 'last']);

/** The quote that a limit is past by more than usual; null: it is not, or nothing trades. */
export function farPast(limit: Price, side: Side, v: SymbolView, c: RunContext): Price | null {
  const quote = side === 'buy' ? v.quote.ask : v.quote.bid;
  if (quote === null || c.session === 'closed') return null;
  const atr = isOption(v.symbol) ? null : v.instrument.atr || null;
  return signOf(side) * (limit - quote) > usualAt(c.usual, 'reach', quote, atr) ? quote : null;
}

/** Asks of targets and closes that are moved far through the quote by a price that is not written from it: they would fill at once. */
export function askFarMoves(
  moves: readonly { order: Order; to: Price }[],
  written: PriceTree | null,
  v: SymbolView,
  c: RunContext,
  out: Reading,
): void {
  if (c.byItself || (written && isOfQuote(written))) return;
  for (const { order: o, to } of moves) {
    const trades = o.role !== 'entry' && !protects(o) && (o.stop === null || isAtWork(o));
    const at = trades ? farPast(to, o.side, v, c) : null;
    if (at === null) continue;
    const stop = printTree({
      kind: 'move stop',
      instrument: instrumentNamed(v.symbol),
      how: { kind: 'stop to', price: literal(to) },
    });
    out.asks.push({ kind: 'far through', symbol: v.symbol, side: o.side, limit: to, at, instead: [stop] });
    return;
  }
}
