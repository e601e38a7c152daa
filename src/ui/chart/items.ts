// What is drawn, whatever it is kept as: its outline, and where changes of it go.
import type { DrawnLevel, PricePoint } from '@/core/market';
import { MINUTE, type Price } from '@/core/units';
import { DAY_CANDLE } from '@/store/arrangement';
import type { DrawingKind } from '@/store/drawing';
import type { Drawing } from '@/store/settings';
import { act } from '../client';
import { draw, remember } from './drawn';
import { levelSentence } from './pointing';

/** Something drawn, whatever it is kept as. */
export interface Item {
  key: string;
  kind: 'level' | 'trend' | DrawingKind;
  points: readonly PricePoint[];
  text: string;
  colour: string;
  dashed: boolean;
  /** Number among the drawings; null for a level. */
  id: number | null;
}

/** A level of the session. */
export const levelItem = ([name, level]: [string, DrawnLevel]): Item => ({
  key: `level ${name}`,
  kind: typeof level === 'number' ? 'level' : 'trend',
  points: typeof level === 'number' ? [{ at: 0, price: level }] : [level.from, level.to],
  text: name,
  colour: 'quiet',
  dashed: true,
  id: null,
});
/** A drawing that is kept with the choices. */
export const drawnItem = (d: Drawing): Item => ({ ...d, key: `drawing ${d.id}` }) as Item;

/** On a chart of days, what was drawn within one of them says nothing; levels and notes do. */
export const wideEnough = ({ kind, points }: Item, minutes: number): boolean =>
  kind === 'level' ||
  kind === 'note' ||
  minutes < DAY_CANDLE ||
  Math.max(...points.map((p) => p.at)) - Math.min(...points.map((p) => p.at)) >= minutes * MINUTE;

/** Keeps where something was moved to. */
export function keep(symbol: string, item: Item, points: readonly PricePoint[]): void {
  if (JSON.stringify(points) === JSON.stringify(item.points)) return;
  remember(symbol);
  if (item.id !== null)
    return draw(symbol, (list) => list.map((d) => (d.id === item.id ? { ...d, points: [...points] } : d)));
  const [a, b] = points as [PricePoint, PricePoint];
  const level: DrawnLevel = item.kind === 'level' ? (a.price as Price) : { from: a, to: b };
  void act(levelSentence(item.text, symbol, level), 'tools', 'Chart');
}

/** Takes something off the chart. */
export function remove(symbol: string, item: Item): void {
  remember(symbol);
  if (item.id !== null) draw(symbol, (list) => list.filter((d) => d.id !== item.id));
  else void act(`discard level "${item.text}" of ${symbol}`, 'tools', 'Chart');
}

/** A number that no drawing has. */
export const nextId = (list: readonly { id: number }[]): number =>
  1 + list.reduce((most, d) => Math.max(most, d.id), 0);

/** What something drawn is called. */
export const nameOf = (i: Item): string =>
  i.kind === 'level' || i.kind === 'trend' ? `“${i.text}”` : i.kind === 'note' ? 'note' : i.kind;
