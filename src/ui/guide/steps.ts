// The first morning of a new profile: eight things to do on the real screens, each done by doing it.
import type { BookSlice } from '@/worker/session/slices';

/** What is known of what the trader has done. */
export interface Done {
  path: string;
  /** A symbol was put into focus by hand. */
  chosen: boolean;
  /** A sentence was looked at before it went, or waits for a yes. */
  looked: boolean;
  book: BookSlice | null;
}

interface Step {
  name: string;
  /** What to do and why, in a sentence; `key` names the key of a script, or the rack. */
  says(key: (script: string) => string): string;
  /** Where it is done. */
  at: string;
  done(d: Done): boolean;
}

const events = (d: Done) => d.book?.events ?? [];
const fills = (d: Done) => events(d).filter((e) => e.kind === 'fill');

export const STEPS: readonly Step[] = [
  {
    name: 'Find',
    says: () => 'On the Scan, click a symbol near the top: it gapped on news, and keys now act on it.',
    at: '/scan',
    done: (d) => d.chosen,
  },
  {
    name: 'Read',
    says: () =>
      'Open the Desk: the dotted lines are the pre-market high and low, where most of these trades are decided.',
    at: '/desk',
    done: (d) => d.path === '/desk',
  },
  {
    name: 'Size',
    says: (key) =>
      `Hold Shift and press ${key('buy-1r')}: cost, risk and net are said before anything is sent.`,
    at: '/desk',
    done: (d) => d.looked,
  },
  {
    name: 'Enter',
    says: (key) =>
      `Press ${key('buy-1r')}, then Enter: it buys so many shares that the stop costs 1R; run time if it waits.`,
    at: '/desk',
    done: (d) => fills(d).some((e) => e.role === 'entry'),
  },
  {
    name: 'Protect',
    says: () =>
      'Its stop and targets work already; drag the stop’s line on the chart and say Move, so that you know how.',
    at: '/desk',
    done: (d) => events(d).some((e) => e.kind === 'moved' && e.role === 'stop'),
  },
  {
    name: 'Scale out',
    says: (key) =>
      `Run time and press ${key('close-half')} for half: the stop shrinks with the position by itself.`,
    at: '/desk',
    done: (d) => fills(d).some((e) => e.role !== 'entry'),
  },
  {
    name: 'Get out',
    says: (key) => `Press ${key('flatten')}: everything goes, and nothing is left behind.`,
    at: '/desk',
    done: (d) => events(d).some((e) => e.kind === 'trade over'),
  },
  {
    name: 'Review',
    says: () => 'Open Review: what the trade made after costs, in dollars and in R.',
    at: '/review',
    done: (d) => d.path === '/review',
  },
];

/** The step that is next, from one on: those that are done already are passed over. */
export function nextStep(from: number, d: Done): number {
  let at = from;
  while (at < STEPS.length && STEPS[at]?.done(d)) at++;
  return at;
}
