import { mix } from '../units/index.ts';
import type { VenueCommand, VenueReport } from '../venue/index.ts';

/** How long a message is under way to the exchange or back, in ms: drawn between the two. */
export interface Latency {
  from: number;
  to: number;
}

/**
 * The line between broker and exchange. Without latency a request is carried out and answered in the
 * same moment, also while the market stands still. With it every message takes its time, and none
 * overtakes another. While the line is cut, requests under way are lost and reports wait at the
 * exchange; when it stands again they come in their order, and the list of what works there after them.
 */
export interface Line {
  up: boolean;
  latency: Latency | null;
  seed: number;
  draws: number;
  out: { due: number; command: VenueCommand }[];
  back: { due: number; report: VenueReport }[];
  /** Reports that have not crossed the cut line. */
  kept: VenueReport[];
  /** What can be read on this side now. */
  here: VenueReport[];
}

export type LineChange = { kind: 'cut' } | { kind: 'mend' } | { kind: 'latency'; latency: Latency | null };

/** A line that stands, without latency. */
export const createLine = (seed: number): Line => ({
  up: true,
  latency: null,
  seed,
  draws: 0,
  out: [],
  back: [],
  kept: [],
  here: [],
});

/** What a message that is sent at `now` behind others is due at. */
function dueAt(l: Line, now: number, before: { due: number } | undefined): number {
  const { from, to } = l.latency ?? { from: 0, to: 0 };
  const spread = to - from + 1;
  return Math.max(before?.due ?? 0, now + from + (mix(l.seed, l.draws++) % spread));
}

/** Whether a request goes through in this moment; otherwise it is under way, or lost. */
export function passes(l: Line, now: number, command: VenueCommand): boolean {
  if (!l.up) return false;
  if (l.latency === null && l.out.length === 0) return true;
  l.out.push({ due: dueAt(l, now, l.out[l.out.length - 1]), command });
  return false;
}

/** Reports of the exchange start on their way to the broker. */
export function report(l: Line, now: number, reports: readonly VenueReport[]): void {
  for (const r of reports) {
    if (!l.up) l.kept.push(r);
    else if (l.latency === null && l.back.length === 0) l.here.push(r);
    else l.back.push({ due: dueAt(l, now, l.back[l.back.length - 1]), report: r });
  }
}

/** When the next message arrives somewhere; null when none is under way. */
export function nextDue(l: Line): number | null {
  const due = Math.min(l.out[0]?.due ?? Number.POSITIVE_INFINITY, l.back[0]?.due ?? Number.POSITIVE_INFINITY);
  return due === Number.POSITIVE_INFINITY ? null : due;
}

/** The message that arrives now: a report is then here; a request is returned, to be carried out. */
export function arrive(l: Line): { symbol: string | null; command: VenueCommand | null } {
  const [request, answer] = [l.out[0], l.back[0]];
  if (request && (!answer || request.due <= answer.due)) {
    l.out.shift();
    return { symbol: request.command.symbol, command: request.command };
  }
  l.back.shift();
  if (answer) l.here.push(answer.report);
  return { symbol: answer && 'symbol' in answer.report ? answer.report.symbol : null, command: null };
}

/** The line is cut, mended, or given another latency. `works` tells what the exchange works now. */
export function change(
  l: Line,
  now: number,
  c: LineChange,
  works: () => Extract<VenueReport, { kind: 'list' }>['orders'],
): void {
  switch (c.kind) {
    case 'latency':
      l.latency = c.latency;
      return;
    case 'cut':
      if (!l.up) return;
      l.up = false;
      l.out = [];
      l.kept.push(...l.back.map((b) => b.report));
      l.back = [];
      l.here.push({ kind: 'line', up: false, at: now });
      return;
    case 'mend':
      if (l.up) return;
      l.up = true;
      l.here.push({ kind: 'line', up: true, at: now }, ...l.kept, { kind: 'list', at: now, orders: works() });
      l.kept = [];
  }
}
