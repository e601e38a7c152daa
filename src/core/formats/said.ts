// What our own JSON says of each trade beside its executions: its plan, what opened it, and the words of the trader.
import { noRemark, type Remark, type TradeRecord } from '../review/index.ts';

/** What a file says of one trade. */
export interface Said {
  from: Pick<TradeRecord, 'plan' | 'sentence' | 'script' | 'scan' | 'grade' | 'scenario'>;
  /** Without the number of its trade, which may be another here. */
  remark: Omit<Remark, 'ref'> | null;
}

type Begun = Pick<TradeRecord, 'account' | 'symbol' | 'direction' | 'opened'>;

/** What tells each of some trades from the others, whatever numbers they have: whose it is, of what, which way, when it began, and its place among those that began so. */
export function beginningsOf(trades: readonly Begun[]): string[] {
  const seen = new Map<string, number>();
  return trades.map((t) => {
    const begun = JSON.stringify([t.account, t.symbol, t.direction, t.opened.date, t.opened.at]);
    const place = (seen.get(begun) ?? 0) + 1;
    seen.set(begun, place);
    return `${begun} ${place}`;
  });
}

const isObject = (x: unknown): x is Record<string, unknown> =>
  typeof x === 'object' && x !== null && !Array.isArray(x);
const textOr = <T>(x: unknown, other: T): string | T => (typeof x === 'string' ? x : other);

function remarkOf(x: unknown): Said['remark'] {
  if (!isObject(x)) return null;
  const { ref: _, ...none } = noRemark('');
  const price = (p: unknown) => (typeof p === 'number' && Number.isFinite(p) ? p : null);
  return {
    ...none,
    setup: textOr(x.setup, ''),
    tags: Array.isArray(x.tags) ? x.tags.filter((t): t is string => typeof t === 'string') : [],
    grade: textOr(x.grade, ''),
    kept: typeof x.kept === 'boolean' ? x.kept : null,
    broke: textOr(x.broke, ''),
    words: textOr(x.words, ''),
    ...(price(x.stop) === null ? {} : { stop: price(x.stop) }),
    ...(price(x.target) === null ? {} : { target: price(x.target) }),
  };
}

/** What a file of ours says of its trades, by their beginnings; nothing where it is none of ours. */
export function saidInJson(text: string): Map<string, Said> {
  const out = new Map<string, Said>();
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return out;
  }
  if (!isObject(value) || value.format !== 'keen-fox trades' || !Array.isArray(value.trades)) return out;
  const trades = value.trades.filter(
    (t): t is Record<string, unknown> & Begun => isObject(t) && isObject(t.opened),
  );
  const keys = beginningsOf(trades);
  for (const [k, t] of trades.entries()) {
    const grade = textOr(t.grade, null);
    out.set(keys[k] as string, {
      from: {
        plan: textOr(t.plan, null),
        sentence: textOr(t.sentence, null),
        script: textOr(t.script, null),
        scan: textOr(t.scan, null),
        scenario: textOr(t.scenario, 'imported'),
        ...(grade === null ? {} : { grade }),
      },
      remark: remarkOf(t.remark),
    });
  }
  return out;
}
