import { onTick, type Price, roundToTick } from '../units/index.ts';
import { type Happening, NEVER, type Sketches, VENUE } from './columns.ts';
import { priceNow } from './impact.ts';
import type { SymbolPlan } from './plan.ts';
import { type PlannedPrint, printsOf, quoteAround } from './replay.ts';
import { type DayFrame, setQuote } from './sketch-frame.ts';

// --- imported days

const minutes = new WeakMap<object, readonly PlannedPrint[]>();

export function replayPrint(s: Sketches, i: number, plan: SymbolPlan, seed: number): PlannedPrint | null {
  const bars = plan.bars ?? [];
  for (;;) {
    const bar = bars[s.bar[i] as number];
    if (!bar) return null;
    let prints = minutes.get(bar);
    if (!prints) {
      prints = printsOf(bar, seed);
      minutes.set(bar, prints);
    }
    const print = prints[s.trade[i] as number];
    if (print) return print;
    s.bar[i] = (s.bar[i] as number) + 1;
    s.trade[i] = 0;
  }
}

/** The next imported trade, with a book's best prices around it; where the trader has moved the price, all of it is moved. */
export function stepReplay(s: Sketches, i: number, plan: SymbolPlan, day: DayFrame, h: Happening): void {
  const print = replayPrint(s, i, plan, day.seed);
  if (!print) {
    s.nextAt[i] = NEVER;
    return;
  }
  const bar = plan.bars?.[s.bar[i] as number];
  const side = print.price >= (s.worth[i] as number) ? 1 : -1;
  s.worth[i] = print.price;
  // Where the trader has moved the price, it is another one; else it is honoured, at half a tick too.
  const now = priceNow(s, i, plan, h.at);
  const price = now === print.price ? print.price : roundToTick(Math.max(1, now));
  if (!onTick(price as Price)) h.venue = VENUE.off;
  const q = quoteAround(price, side === 1, bar ? bar.high - bar.low : 0, s.random, i * 4);
  setQuote(
    s,
    i,
    q.bid,
    q.ask,
    Math.max(q.bidSize, side === -1 ? print.qty : 0),
    Math.max(q.askSize, side === 1 ? print.qty : 0),
  );
  h.bid = q.bid;
  h.ask = q.ask;
  h.bidSize = s.bidSize[i] as number;
  h.askSize = s.askSize[i] as number;
  h.price = price;
  h.qty = print.qty;
  h.side = side;
  s.movedAt[i] = h.at;
  if (side === 1) s.askSize[i] = Math.max(100, h.askSize - print.qty);
  else s.bidSize[i] = Math.max(100, h.bidSize - print.qty);
  s.trade[i] = (s.trade[i] as number) + 1;
  s.nextAt[i] = replayPrint(s, i, plan, day.seed)?.at ?? NEVER;
}
