import type { Ranking } from './rank.ts';

/** A saved scan: who is a candidate, in which order, and when it is worth looking. Times in minutes after midnight. */
export interface Scan {
  id: string;
  name: string;
  rule: string;
  ranking: Ranking;
  from: number;
  to: number;
  /** Most rows it shows. */
  limit: number;
  /** Names of the fields shown, in their order. */
  columns: readonly string[];
}

const PRE_MARKET = { from: 4 * 60, to: 9 * 60 + 30 };
const MORNING = { from: 9 * 60 + 30, to: 11 * 60 + 30 };
const WHOLE_DAY = { from: 4 * 60, to: 20 * 60 };

/** The scans that a new trader starts with. The bounds are common practice among small-cap day traders. */
export const PRESETS: readonly Scan[] = [
  {
    id: 'gappers',
    name: 'Gapping up',
    rule: 'gap > 8% and price between 2 and 20 and premarket volume > 100k',
    ranking: [{ field: 'gap', weight: 1 }],
    ...WHOLE_DAY,
    limit: 100,
    columns: [
      'price',
      'gap',
      'premarket volume',
      'relative volume',
      'float',
      'from premarket high',
      'news age',
    ],
  },
  {
    id: 'low-float',
    name: 'Low float, turning over',
    rule: 'gap > 5% and price between 1 and 20 and float < 20M and relative volume > 3 and float turnover > 0.02',
    ranking: [
      { field: 'float turnover', weight: 2 },
      { field: 'gap', weight: 1 },
    ],
    ...WHOLE_DAY,
    limit: 100,
    columns: ['price', 'gap', 'float', 'float turnover', 'relative volume', 'speed 5m', 'halts'],
  },
  {
    id: 'news',
    name: 'Moving on news',
    rule: 'news age < 240m and news kind is not offering and change > 4% and relative volume > 2 and price > 1',
    ranking: [
      { field: 'relative volume', weight: 1 },
      { field: 'change', weight: 1 },
    ],
    ...WHOLE_DAY,
    limit: 100,
    columns: ['price', 'change', 'news age', 'news kind', 'relative volume', 'float', 'from premarket high'],
  },
  {
    id: 'near-high',
    name: 'Near the pre-market high',
    rule: 'gap > 4% and from premarket high > -2.5% and premarket volume > 50k and price between 1.5 and 30 and spread bp < 120',
    ranking: [
      { field: 'atr from premarket high', weight: 1 },
      { field: 'premarket dollar volume', weight: 2 },
    ],
    ...WHOLE_DAY,
    limit: 100,
    columns: ['price', 'gap', 'from premarket high', 'premarket volume', 'spread', 'speed 15m', 'new highs'],
  },
  {
    id: 'awake',
    name: 'Waking up now',
    rule: 'speed 5m > 0.8% and prints a minute > 8 and price between 1 and 30 and relative volume > 2',
    ranking: [
      { field: 'speed 5m', weight: 2 },
      { field: 'prints a minute', weight: 1 },
    ],
    ...WHOLE_DAY,
    limit: 60,
    columns: ['price', 'change', 'speed 1m', 'speed 5m', 'prints a minute', 'relative volume', 'spread'],
  },
  {
    id: 'fading',
    name: 'Short: fading below VWAP',
    rule: 'gap > 5% and from vwap < -1% and from premarket high < -4% and price > 2 and borrow is not none and not restricted',
    ranking: [{ field: 'from vwap', weight: -1 }],
    ...WHOLE_DAY,
    limit: 60,
    columns: ['price', 'gap', 'from vwap', 'from premarket high', 'borrow', 'relative volume', 'spread'],
  },
  {
    id: 'gapping-down',
    name: 'Short: gapping down',
    rule: 'gap < -5% and price between 2 and 60 and premarket volume > 30k and borrow is not none',
    ranking: [{ field: 'gap', weight: -1 }],
    ...PRE_MARKET,
    limit: 60,
    columns: ['price', 'gap', 'premarket volume', 'relative volume', 'from prior low', 'borrow', 'news kind'],
  },
  {
    id: 'stretched',
    name: 'Short: stretched and halted',
    rule: 'atr from prior close > 2.5 and float turnover > 0.3 and price > 1.5 and borrow is not none',
    ranking: [
      { field: 'atr from prior close', weight: 1 },
      { field: 'halts', weight: 1 },
    ],
    ...MORNING,
    limit: 60,
    columns: ['price', 'change', 'atr from prior close', 'float turnover', 'halts', 'from vwap', 'borrow'],
  },
  {
    id: 'options-movers',
    name: 'Options: movers with cheap volatility',
    rule: 'options listed and iv rank < 40% and relative volume > 2 and dollar volume > 500k and price > 5',
    ranking: [
      { field: 'relative volume', weight: 1 },
      { field: 'atr from prior close', weight: 1 },
    ],
    ...WHOLE_DAY,
    limit: 100,
    columns: [
      'price',
      'change',
      'iv rank',
      'atr from prior close',
      'relative volume',
      'dollar volume',
      'sector',
    ],
  },
  {
    id: 'options-sellers',
    name: 'Options: rich volatility to sell',
    rule: 'options listed and iv rank > 85% and price > 15 and dollar volume > 1M and spread bp < 25',
    ranking: [{ field: 'iv rank', weight: 1 }],
    ...WHOLE_DAY,
    limit: 100,
    columns: ['price', 'change', 'iv rank', 'atr', 'dollar volume', 'spread bp', 'sector'],
  },
];
