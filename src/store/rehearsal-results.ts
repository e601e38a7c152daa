// What a rehearsal has come to, put together from its days.
import type { RehearsalDay, RehearsalTerms, RehearsedTrade } from '../core/rehearsal/index.ts';
import type { HandDay } from '../session/rehearse.ts';

/** What is there of a rehearsal. */
export interface Results {
  /** The days that are done, in order; a trade's day is a place in it. */
  days: RehearsalDay[];
  /** The trades of each hand, in the order of the days. */
  hands: RehearsedTrade[][];
  /** Keys that were pressed, and of those the ones that came to nothing, with the reasons. */
  pressed: number[];
  refused: Map<string, number>[];
  /** What could not be waited for. */
  problems: string[];
}

/** A rehearsal’s results, hand by hand, from the days that are done. */
export function resultsOf(
  r: { terms: Pick<RehearsalTerms, 'hands'>; days: readonly RehearsalDay[] },
  done: ReadonlyMap<number, HandDay[]>,
): Results {
  const order = [...done.keys()].sort((a, b) => a - b);
  const of = (h: number) => order.map((k) => done.get(k)?.[h]);
  const each = r.terms.hands.map((_, h) => of(h));
  return {
    days: order.map((k) => r.days[k] as RehearsalDay),
    hands: each.map((days) =>
      days.flatMap((d, day) => (d?.trades ?? []).map((t): RehearsedTrade => ({ ...t, day }))),
    ),
    pressed: each.map((days) =>
      days.reduce((n, d) => n + (d?.pressed.filter((p) => p.key !== null).length ?? 0), 0),
    ),
    refused: each.map((days) => {
      const why = new Map<string, number>();
      for (const p of days.flatMap((d) => d?.pressed ?? []))
        if (p.problem !== null) why.set(p.problem, (why.get(p.problem) ?? 0) + 1);
      return why;
    }),
    problems: [...new Set(each.flat().flatMap((d) => d?.problems ?? []))],
  };
}
