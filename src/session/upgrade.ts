// Brings what an earlier version kept to what this one goes on with.
import {
  type AccountRules,
  DEFAULT_ACCOUNT,
  DEFAULT_FEES,
  FIRST_ACCOUNTS,
  MAIN,
  NO_COSTS,
  openAccount,
  PLAIN_GUARDS,
} from '../core/account/index.ts';
import type { Rule } from '../core/language/index.ts';
import type { Broker } from '../core/orders/index.ts';
import type { Deed } from '../core/reading/index.ts';
import { trigger } from '../core/triggers/index.ts';
import { dayOf, type Money, money } from '../core/units/index.ts';
import type { LogEntry, SavedSession } from './log.ts';
import { EMPTY_DESK, type State } from './state.ts';

/** A rule as version 3 kept it: pairs joined by and, or; values with their unit. */
type OldRule =
  | { kind: 'compare'; field: string; op: '>' | '>=' | '<' | '<='; to: { value: number } }
  | { kind: 'between'; field: string; low: { value: number }; high: { value: number } }
  | { kind: 'is'; field: string; choice: string; not: boolean }
  | { kind: 'flag'; field: string }
  | { kind: 'and' | 'or'; left: OldRule; right: OldRule }
  | { kind: 'not'; rule: OldRule };

function ruleNow(r: OldRule): Rule {
  switch (r.kind) {
    case 'and':
    case 'or': {
      const kind = r.kind === 'and' ? 'all' : 'any';
      const left = ruleNow(r.left);
      return { kind, of: [...(left.kind === kind ? left.of : [left]), ruleNow(r.right)] };
    }
    case 'not':
      return { kind: 'not', of: ruleNow(r.rule) };
    case 'compare':
      return { kind: 'compare', field: r.field, op: r.op, to: r.to.value };
    case 'between':
      return { kind: 'between', field: r.field, low: r.low.value, high: r.high.value };
    case 'is':
      return { kind: 'is', field: r.field, not: r.not, choice: r.choice };
    case 'flag':
      return { kind: 'flag', field: r.field };
  }
}

const isOld = (r: Rule | OldRule): r is OldRule =>
  r.kind === 'and' ||
  r.kind === 'or' ||
  ('rule' in r && r.kind === 'not') ||
  (r.kind === 'compare' && typeof r.to === 'object') ||
  (r.kind === 'between' && typeof r.low === 'object') ||
  'span' in r;

type On = Extract<Deed, { kind: 'alert' }>['asked']['on'];
const onNow = <T extends On>(on: T): T =>
  on.kind === 'rule' && isOld(on.rule as Rule | OldRule)
    ? { ...on, rule: ruleNow(on.rule as unknown as OldRule) }
    : on;

type Waits = State['alerts']['list'][number]['waits'];
/** What waits, as it is looked at now. */
const waitsNow = (w: Waits, test: Rule | null): Waits =>
  w?.when.kind === 'test' && test
    ? { ...trigger<Rule>({ kind: 'test', test, looks: [{ at: 'seconds' }] }, w), truth: w.truth }
    : w && { ...w, been: w.truth.map(() => false) };

/** An order of a time when nothing hung on it. */
const chainable = <S extends { chain: readonly unknown[] }>(s: S): S => (s.chain ? s : { ...s, chain: [] });

interface OldAccount {
  rules: Partial<AccountRules> & { mostShares: number; collarPercent: number };
  closed: { gross: Money; commission: Money };
}
/** Accounts as they were before they had guards, dated fees and days of their own. */
function accountsNow(accounts: Broker['accounts'], now: number): Broker['accounts'] {
  const old = Object.values(accounts).map((a) => {
    if (a.rules.guards) return a;
    const { rules, closed } = a as unknown as OldAccount;
    const { mostShares, collarPercent, ...others } = rules;
    const fresh = openAccount({
      id: a.id,
      rules: { ...DEFAULT_ACCOUNT, ...others, guards: { ...PLAIN_GUARDS, mostShares, collarPercent } },
      fees: [DEFAULT_FEES],
    });
    return {
      ...fresh,
      ledger: a.ledger,
      closed: { gross: closed.gross, costs: closed.commission },
      day: { day: dayOf(now), equity: money(fresh.rules.startCash + a.ledger.cash) },
    };
  });
  const missing = FIRST_ACCOUNTS.filter((f) => !old.some((a) => a.id === f.id)).map(openAccount);
  return Object.fromEntries([...old, ...missing].map((a) => [a.id, a]));
}

/** Orders, fills and trades once knew a commission only. */
export function withCosts<T>(x: T): T {
  if (Array.isArray(x)) return x.map(withCosts) as T;
  if (typeof x !== 'object' || x === null || ArrayBuffer.isView(x)) return x;
  const out: Record<string, unknown> = {};
  for (const [key, value] of Object.entries(x)) out[key] = withCosts(value);
  if (typeof out.commission !== 'number' || 'venue' in out) return out as T;
  const { commission, ...others } = out;
  const costs = out.kind === 'trade over' ? commission : { ...NO_COSTS, commission };
  return { ...others, costs, ...('phase' in out ? { added: 0 } : {}) } as T;
}

/** Rules of an account of the time when every account flagged costs alike. */
const rulesNow = (r: AccountRules): AccountRules => ({
  ...r,
  costShare: r.costShare ?? DEFAULT_ACCOUNT.costShare,
});
const flagging = (accounts: Broker['accounts']): Broker['accounts'] =>
  Object.fromEntries(
    Object.entries(accounts).map(([id, a]) => [
      id,
      { ...a, rules: rulesNow(a.rules), next: a.next && rulesNow(a.next) },
    ]),
  );

/** A saved session as this version has it. Orders, scopes and legs of version 3 lack what came since, which means that they have none of it. */
export function savedNow(saved: SavedSession): SavedSession {
  if (saved.version === 6) return saved;
  const { state } = saved;
  if (saved.version === 5) {
    const broker = { ...state.broker, accounts: flagging(state.broker.accounts) };
    return { ...saved, version: 6, state: { ...state, broker } };
  }
  const list = state.alerts.list.map((a) => {
    const on = onNow(a.on);
    return { ...a, on, waits: waitsNow(a.waits, on.kind === 'rule' ? on.rule : null) };
  });
  const { staged = [] } = state.desk ?? {};
  const desk = {
    ...EMPTY_DESK,
    ...state.desk,
    staged: staged.map((x) => ({ ...x, account: x.account ?? MAIN, statement: chainable(x.statement) })),
  };
  const broker = { ...withCosts(state.broker), accounts: accountsNow(state.broker.accounts, saved.now) };
  return {
    ...saved,
    version: 6,
    state: { ...withCosts(state), broker, desk, alerts: { ...state.alerts, list } },
  };
}

/** A log entry as this version obeys it. */
export function entryNow(entry: LogEntry): LogEntry {
  const { input } = entry;
  if (input?.kind === 'account') return { ...entry, input: { ...input, rules: rulesNow(input.rules) } };
  if (!entry.deeds) return entry;
  return {
    ...entry,
    deeds: entry.deeds.map((d) => {
      if (d.kind === 'alert') return { ...d, asked: { ...d.asked, on: onNow(d.asked.on) } };
      if (d.kind === 'stage') return { ...d, account: d.account ?? MAIN, statement: chainable(d.statement) };
      return d.kind === 'restage' ? { ...d, statement: chainable(d.statement) } : d;
    }),
  };
}
