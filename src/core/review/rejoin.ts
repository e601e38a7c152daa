// Files of executions that are taken in one after another, in any order, make the trades that one file of all of them would make.
import { plus } from '../account/index.ts';
import { type Joined, type JoinedFrom, joinTrades } from './joining.ts';
import { inTime, noExits, type TradeRecord } from './record.ts';

/** An execution that is kept already: of which trade. */
export interface KeptExecution extends JoinedFrom {
  was?: string;
}

/** What has to be done to the trades that are kept: those that are new, those that are other than they were under their number, those that are no more. */
export interface Rejoined {
  fresh: Joined[];
  changed: { ref: string; trade: Joined }[];
  gone: string[];
}

const keyOf = (x: { account: string; symbol: string }): string => JSON.stringify([x.account, x.symbol]);

/** Imported trades of the accounts and symbols that some executions are of: these may become others by them. */
export function concerned(
  kept: readonly TradeRecord[],
  executions: readonly { account: string; symbol: string }[],
): TradeRecord[] {
  const keys = new Set(executions.map(keyOf));
  return kept.filter((t) => t.source.kind === 'import' && keys.has(keyOf(t)));
}

/**
 * Executions of imported trades as their files had them: the two parts of one that turned a position are one again; what a trade risked, and where it was
 * planned to end, stands with its first.
 */
export function takenApart(kept: readonly TradeRecord[]): KeptExecution[] {
  const all = [...kept].sort(inTime).flatMap((t) =>
    t.executions.map(
      (x, k): KeptExecution => ({
        ...x,
        account: t.account,
        symbol: t.symbol,
        risk: k === 0 ? t.risk : null,
        exits: (k === 0 && t.exits) || noExits,
        file: x.file ?? (t.source.kind === 'import' ? t.source.id : 0),
        was: t.ref,
      }),
    ),
  );
  const sameOne = (x: KeptExecution) =>
    JSON.stringify([x.account, x.symbol, x.date, x.at, x.side, x.price, x.id, x.file]);
  const rests = new Map<string, KeptExecution[]>();
  for (const x of all) if (x.whole === 0) rests.set(sameOne(x), [...(rests.get(sameOne(x)) ?? []), x]);
  return all.flatMap((x) => {
    if (x.whole === 0) return [];
    if (x.whole === undefined) return [x];
    const { whole, ...part } = x;
    const rest = rests.get(sameOne(x))?.find((r) => Math.abs(part.qty + r.qty - whole) < 1e-8);
    if (!rest) return [{ ...part, qty: whole }];
    // What was said of the trade that it opened is said of it.
    const { risk, exits } = rest;
    return [{ ...part, qty: whole, costs: plus(part.costs, rest.costs), risk, exits }];
  });
}

/** What becomes of some kept trades when they are joined anew from these executions; a trade keeps the number of the first of its executions that had one. */
export function rejoin(kept: readonly TradeRecord[], executions: readonly KeptExecution[]): Rejoined {
  const before = new Map(kept.map((t) => [t.ref, partsOf(t)]));
  const out: Rejoined = { fresh: [], changed: [], gone: [] };
  const used = new Set<string>();
  for (const t of joinTrades(executions)) {
    const were = t.executions.map((x) => (x as { was?: string }).was);
    const ref = were.find((w) => w !== undefined && before.has(w) && !used.has(w));
    const trade = { ...t, executions: t.executions.map((x) => withoutWas(x)) };
    if (ref === undefined) out.fresh.push(trade);
    else {
      used.add(ref);
      if (partsOf(trade) !== before.get(ref)) out.changed.push({ ref, trade });
    }
  }
  out.gone = [...before.keys()].filter((ref) => !used.has(ref));
  return out;
}

/** What a trade is made of. */
const partsOf = (t: Pick<TradeRecord, 'executions'>): string =>
  JSON.stringify(
    t.executions.map((x) => [x.file, x.id, x.date, x.at, x.side, x.qty, x.price, x.whole ?? x.qty]),
  );

function withoutWas<T extends object>(x: T): T {
  const { was: _, ...rest } = x as T & { was?: string };
  return rest as T;
}
