// What the pointer does on a chart: send something at a price, or draw.
import type { PricePoint } from '@/core/market';
import type { DrawingKind } from '@/store/drawing';
import type { Pointing } from './pointing';

export type ToolKind = Pointing | 'trend' | DrawingKind;

/** A tool in hand, with the points that have been clicked. */
export interface Tool {
  kind: ToolKind;
  points: readonly PricePoint[];
}

export interface ToolFacts {
  kind: ToolKind;
  name: string;
  says: string;
  clicks: 1 | 2 | 3;
}
const tool = (kind: ToolKind, name: string, clicks: 1 | 2 | 3, says: string): ToolFacts => ({
  kind,
  name,
  says,
  clicks,
});

/** Those that send something or name a price, always in sight. */
export const SENDING: readonly ToolFacts[] = [
  tool('buy', '▲ buy', 1, 'The next click buys at its price, with the plan of longs; it snaps to levels'),
  tool(
    'short',
    '▼ short',
    1,
    'The next click shorts at its price, with the plan of shorts; it snaps to levels',
  ),
  tool('level', '— line', 1, 'The next click names its price, for orders, alerts and scripts'),
  tool('alert', '◔ alert', 1, 'The next click sets an alert at its price'),
];
/** Those that draw. */
export const DRAWING: readonly ToolFacts[] = [
  tool('trend', 'Trend line', 2, 'A level that moves with the time, through two points of today'),
  tool('ray', 'Ray', 2, 'From one point through another, and on'),
  tool('box', 'Box', 2, 'Two corners'),
  tool('fibonacci', 'Fibonacci retracement', 2, 'From the start of a move to its end'),
  tool('extension', 'Fibonacci extension', 3, 'A move, and where it was corrected to'),
  tool('note', 'Note', 1, 'Words at a price and a time'),
  tool('measure', 'Measure', 2, 'A distance in $, %, R and candles'),
];
const FACTS = new Map([...SENDING, ...DRAWING].map((t) => [t.kind, t]));
export const factsOf = (kind: ToolKind): ToolFacts => FACTS.get(kind) as ToolFacts;

/** Whether a tool sends something at the price of its click. */
export const sends = (kind: ToolKind): kind is Pointing => SENDING.some((t) => t.kind === kind);
