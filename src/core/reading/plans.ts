import { PLAIN_USUAL, type Usual } from './usual.ts';

/** A named set of exits, as it is written. */
export interface Plan {
  name: string;
  /** Its exits, one a line. */
  text: string;
  /** Minutes after midnight between which entries may take it; null: at any time. */
  hours: { from: number; to: number } | null;
}

/** The trader's plans, which of them long and short positions take where none is named, and the usual distances. */
export interface PlanBook {
  plans: readonly Plan[];
  long: string;
  short: string;
  usual: Usual;
}

const plan = (name: string, ...lines: string[]): Plan => ({ name, text: lines.join('\n'), hours: null });

/** What comes with the app. */
export const PLAIN_PLANS: PlanBook = {
  plans: [
    plan('two steps', 'stop usual', 'target 1R for half', 'target 2R', 'breakeven after 1.3R'),
    plan(
      'three steps',
      'stop usual',
      'target 1R for third',
      'target 2R for third',
      'target 3R',
      'breakeven after target 1 plus costs',
    ),
    plan(
      'half and trail',
      'stop usual',
      'target 1R for half',
      'trail 1 atr on 5m after 1R',
      'breakeven after target 1',
    ),
    plan('candle trail', 'stop beyond 5m candle by 1c', 'trail beyond 1m candle by 1c after 1R'),
    plan('one shot', 'stop usual', 'target 2.5R', 'breakeven after 1.2R plus costs'),
    plan('scalp', 'stop usual', 'target 0.7R for half', 'target 1.2R', 'breakeven after 0.7R plus costs'),
    plan('day low', 'stop beyond day by 2c', 'target 1R for half', 'target 3R', 'breakeven after target 1'),
    plan(
      'opening range',
      'stop beyond opening range 5m by 1c',
      'target 1R for half',
      'target 2R',
      'breakeven after target 1',
    ),
    plan('runner', 'stop usual', 'target 2R for third', 'breakeven after 1.5R', 'trail 2 atr on 5m after 2R'),
    plan(
      'out by the close',
      'stop usual',
      'target 1R for half',
      'target 2R',
      'breakeven after 1.3R',
      'out by 15:50',
    ),
    plan('wide by volatility', 'stop 0.15 atr', 'target 1R for half', 'target 2.5R', 'breakeven after 1.3R'),
  ],
  long: 'two steps',
  short: 'two steps',
  usual: PLAIN_USUAL,
};
