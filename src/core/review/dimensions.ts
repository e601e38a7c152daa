// By what trades are taken apart. To add one: one entry here.
import { isOption, rootOf } from '../instruments/index.ts';
import { epochDay, HOUR, PRICE_SCALE } from '../units/index.ts';
import type { Remark, TradeRecord } from './record.ts';

/** Weekdays, Sunday first. */
export const WEEKDAYS = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'];
/** The weekday of a date, Sunday first; 1970 began on a Thursday. */
export const weekdayOf = (date: string): number => (epochDay(date) + 4) % 7;

interface Dimension {
  id: string;
  /** What stands over its groups. */
  name: string;
  /** The group of a trade, or several; null where that is not known. */
  of(t: TradeRecord, remark: Remark | undefined): string | readonly string[] | null;
  /** Its groups in their own order; those that do not say are ordered by how much they made. */
  order?: readonly string[];
}

const bands = (unit: string, borders: readonly number[]) => {
  const names = [
    `below ${unit}${borders[0]}`,
    ...borders.slice(1).map((b, k) => `${unit}${borders[k]} to ${b}`),
    `${unit}${borders[borders.length - 1]} and more`,
  ];
  return { names, of: (x: number) => names[borders.filter((b) => x >= b).length] as string };
};
const PRICES = bands('$', [1, 2, 5, 10, 20, 50, 100]);
const FLOATS = bands('', [5, 10, 20, 50, 100, 500]);
const said = (text: string | null | undefined): string | null => (text ? text : null);
const hour = (h: number) => `${String(h).padStart(2, '0')}:00`;

export const DIMENSIONS = [
  { id: 'symbol', name: 'Symbol', of: (t) => rootOf(t.symbol) },
  { id: 'side', name: 'Side', of: (t) => t.direction, order: ['long', 'short'] },
  { id: 'setup', name: 'Setup', of: (_, r) => said(r?.setup) },
  { id: 'tag', name: 'Tag', of: (_, r) => [...new Set(r?.tags)] },
  {
    id: 'grade',
    name: 'Grade',
    of: (t, r) => said(r?.grade) ?? said(t.grade),
    order: ['A', 'B', 'C', 'D', 'F'],
  },
  {
    id: 'kept',
    name: 'Plan kept',
    of: (_, r) => (r?.kept == null ? null : r.kept ? 'kept' : 'broken'),
    order: ['kept', 'broken'],
  },
  { id: 'broke', name: 'Rule broken', of: (_, r) => said(r?.broke) },
  {
    id: 'hour',
    name: 'Hour',
    of: (t) => hour(Math.floor(t.opened.at / HOUR)),
    order: Array.from({ length: 24 }, (_, h) => hour(h)),
  },
  {
    id: 'weekday',
    name: 'Weekday',
    of: (t) => WEEKDAYS[weekdayOf(t.opened.date)] as string,
    order: WEEKDAYS,
  },
  { id: 'price', name: 'Price', of: (t) => PRICES.of(t.averageEntry / PRICE_SCALE), order: PRICES.names },
  {
    id: 'float',
    name: 'Float, in millions',
    of: (t) => (t.float === null ? null : FLOATS.of(t.float / 1e6)),
    order: FLOATS.names,
  },
  { id: 'plan', name: 'Plan', of: (t) => said(t.plan) },
  { id: 'script', name: 'Script', of: (t) => said(t.script) },
  { id: 'scan', name: 'Scan', of: (t) => said(t.scan) },
  { id: 'account', name: 'Account', of: (t) => t.account },
  { id: 'scenario', name: 'Kind of day', of: (t) => t.scenario },
  {
    id: 'instrument',
    name: 'Stock or option',
    of: (t) => (isOption(t.symbol) ? (t.symbol.includes('/') ? 'vertical' : 'option') : 'stock'),
    order: ['stock', 'option', 'vertical'],
  },
] as const satisfies readonly Dimension[];

export type DimensionId = (typeof DIMENSIONS)[number]['id'];
/** The same without what each knows of itself. */
export const DIMENSION_LIST: readonly (Dimension & { id: DimensionId })[] = DIMENSIONS;
