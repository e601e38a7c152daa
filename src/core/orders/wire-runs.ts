// What the exchange has counted of a wire against what it has told: executions may come late, twice, or out of their order.
import type { Run, Wire } from './order.ts';

const sum = (runs: readonly Run[]): number => runs.reduce((a, r) => a + r.to - r.from, 0);

/** Shares of a wire that the exchange is known to have filled, those it has not told of included. */
export const heard = (wire: Wire): number => wire.filled + sum(wire.owes?.runs ?? []);

/** Shares of a wire that have filled and not been told. */
export const owed = (wire: Wire | null): number => sum(wire?.owes?.runs ?? []);

function owing({ owes, ...wire }: Wire, runs: readonly Run[], now: number): Wire {
  return runs.length === 0
    ? wire
    : { ...wire, owes: { runs, since: owes?.since ?? now, asked: owes?.asked ?? null } };
}

/** A wire of which the exchange counts so many shares as filled (FIX 4.4, CumQty, tag 14). */
export function heardOf(wire: Wire, cumQty: number, now: number): Wire {
  const before = heard(wire);
  return cumQty > before
    ? owing(wire, [...(wire.owes?.runs ?? []), { from: before, to: cumQty }], now)
    : wire;
}

/** A wire after an execution; null where that was told before. */
export function executed(
  wire: Wire,
  { qty, cumQty }: { qty: number; cumQty: number },
  now: number,
): Wire | null {
  const [from, to] = [cumQty - qty, cumQty];
  const first = heardOf(wire, from, now);
  const after = { ...first, filled: first.filled + qty };
  const runs = first.owes?.runs ?? [];
  if (from >= heard(wire)) return owing(after, runs, now);
  const within = runs.find((r) => r.from <= from && to <= r.to);
  if (!within) return null;
  const parts = [
    { from: within.from, to: from },
    { from: to, to: within.to },
  ].filter((r) => r.to > r.from);
  return owing(
    after,
    runs.flatMap((r) => (r === within ? parts : [r])),
    now,
  );
}
