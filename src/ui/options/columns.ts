import type { ChainSide } from '@/worker/session/slices';
import { px } from '../format';

/** What a chain can show of a contract: head, what it is, and the value as text. */
export interface ChainColumn {
  id: string;
  head: string;
  title: string;
  show(s: ChainSide): string;
}

const signed = (x: number, places: number): string =>
  x < 0 ? `−${Math.abs(x).toFixed(places)}` : x.toFixed(places);

/** From the strike outward: calls to the left, puts to the right. */
export const CHAIN_COLUMNS: readonly ChainColumn[] = [
  { id: 'bid', head: 'bid', title: 'Best price that is bid; pressing it sells', show: (s) => px(s.bid) },
  { id: 'ask', head: 'ask', title: 'Best price that is offered; pressing it buys', show: (s) => px(s.ask) },
  {
    id: 'mid',
    head: 'mid',
    title: 'Middle of bid and ask',
    show: (s) => (s.ask === null ? '–' : (((s.bid ?? 0) + s.ask) / 20_000).toFixed(3)),
  },
  {
    id: 'iv',
    head: 'IV %',
    title: 'Implied volatility a year, of the middle of the quote',
    show: (s) => (s.iv === null ? '–' : (s.iv * 100).toFixed(1)),
  },
  {
    id: 'delta',
    head: 'delta',
    title: 'What a dollar of the underlying makes of it, in dollars',
    show: (s) => signed(s.delta, 2),
  },
  {
    id: 'gamma',
    head: 'gamma',
    title: 'By how much delta changes with a dollar of the underlying',
    show: (s) => signed(s.gamma, 3),
  },
  {
    id: 'theta',
    head: 'theta',
    title: 'What a day takes from it, in dollars a share',
    show: (s) => signed(s.theta, 3),
  },
  {
    id: 'vega',
    head: 'vega',
    title: 'What a point of implied volatility makes of it, in dollars a share',
    show: (s) => signed(s.vega, 3),
  },
  {
    id: 'open',
    head: 'open int.',
    title: 'Contracts that are open',
    show: (s) => s.open.toLocaleString('en-US'),
  },
  {
    id: 'volume',
    head: 'volume',
    title: 'Contracts that have traded today',
    show: (s) => s.volume.toLocaleString('en-US'),
  },
  {
    id: 'inside',
    head: 'ITM %',
    title: 'Probability that it expires in the money, at its own volatility',
    show: (s) => (s.inside * 100).toFixed(0),
  },
];

/** Those of some ids, in the order of the list. */
export const columnsOf = (ids: readonly string[]): ChainColumn[] =>
  CHAIN_COLUMNS.filter((c) => ids.includes(c.id));
