// What becomes of the trades that are kept when executions of a file come or go.
import { beginningsOf, type Said } from '../../core/formats/index.ts';
import {
  concerned,
  type Joined,
  type JoinedFrom,
  type Remark,
  rejoin,
  riskOf,
  type TradeRecord,
  takenApart,
} from '../../core/review/index.ts';
import type { TradesChanged } from '../../store/review.ts';

type Fresh = TradesChanged['fresh'][number];

const recordOf = (t: Joined): Fresh => ({
  ...t,
  scenario: 'imported',
  day: `imported ${t.opened.date}`,
  mfe: null,
  mae: null,
  sentence: null,
  plan: null,
  script: null,
  scan: null,
  float: null,
});

function changesOf(kept: readonly TradeRecord[], executions: readonly JoinedFrom[]): TradesChanged {
  const by = new Map(kept.map((t) => [t.ref, t]));
  const { fresh, changed, gone } = rejoin(kept, executions);
  return {
    fresh: fresh.map(recordOf),
    changed: changed.map(({ ref, trade }) => ({ ...(by.get(ref) as TradeRecord), ...trade })),
    gone,
  };
}

/** With a file's executions; `usualRisk` (1/10,000 dollar) is for trades of which nothing says what they risked. */
export function withExecutions(
  kept: readonly TradeRecord[],
  executions: readonly JoinedFrom[],
  usualRisk: number | null,
): TradesChanged {
  const mine = concerned(kept, executions);
  const { fresh, changed, gone } = changesOf(mine, [...takenApart(mine), ...executions]);
  const risked = <T extends Fresh>(t: T): T => ({
    ...t,
    risk: t.risk ?? riskOf(t, t.exits?.stop ?? null) ?? usualRisk,
  });
  return { fresh: fresh.map(risked), changed: changed.map(risked), gone };
}

/** With what our own JSON says of trades: of new ones, and of those that are kept and of which nothing is said (`remarked` has what is). */
export function withSaid(
  said: ReadonlyMap<string, Said>,
  remarked: ReadonlySet<string>,
  kept: readonly TradeRecord[],
  changes: TradesChanged,
): TradesChanged {
  const keys = beginningsOf([...kept, ...changes.fresh]);
  const fresh = changes.fresh.map((t, k) => {
    const of = said.get(keys[kept.length + k] as string);
    return of ? { ...t, ...of.from, ...(of.remark ? { remark: of.remark } : {}) } : t;
  });
  const remarks = kept.flatMap((t, k): Remark[] => {
    const remark = said.get(keys[k] as string)?.remark;
    return remark && !remarked.has(t.ref) && !changes.gone.includes(t.ref) ? [{ ...remark, ref: t.ref }] : [];
  });
  return { ...changes, fresh, remarks };
}

/** Without the executions of a file. */
export function withoutFile(kept: readonly TradeRecord[], file: number): TradesChanged {
  const isOfFile = (t: TradeRecord) => t.source.kind === 'import' && t.source.id === file;
  const had = kept.filter((t) => isOfFile(t) || t.executions.some((x) => x.file === file));
  const all = concerned(kept, had);
  const others = all.filter((t) => !isOfFile(t));
  const { fresh, changed, gone } = changesOf(
    others,
    takenApart(all).filter((x) => x.file !== file),
  );
  return { fresh, changed, gone: [...gone, ...all.filter(isOfFile).map((t) => t.ref)] };
}
