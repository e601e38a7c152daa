// What a saved session has to have: all that is read of it, obeyed or shown before anything new happens.
import {
  each,
  flag,
  isObject,
  listOf,
  maybe,
  misfit,
  number,
  oneOf,
  or,
  type Shape,
  shaped,
  text,
} from './fits.ts';

const VERSION = 7;

/** Longer than any session: some twenty-five years of it. */
const LAST = 8e11;
const time = (x: unknown): boolean => number(x) && (x as number) >= 0 && (x as number) < LAST;
const costs = shaped({ commission: number, venue: number, sec: number, taf: number });
const side = oneOf('buy', 'sell');
const sign = (x: unknown): boolean => x === 1 || x === -1;

const ORDER: Shape = {
  id: number,
  account: text,
  symbol: text,
  side,
  role: oneOf('entry', 'close', 'target', 'stop'),
  type: text,
  qty: number,
  filled: number,
  notional: number,
  limit: or(number),
  stop: or(number),
  extended: flag,
  phase: shaped({ k: oneOf('asleep', 'armed', 'working', 'leaving', 'owed', 'ended') }),
  costs,
};
const TRADE: Shape = {
  id: number,
  account: text,
  symbol: text,
  sign,
  status: oneOf('pending', 'open', 'closed', 'canceled'),
  entered: number,
  entryNotional: number,
  exited: number,
  exitNotional: number,
  costs,
  risk: or(number),
  lots: maybe(each(shaped({ qty: number, notional: number, risk: or(number) }))),
  best: or(number),
  worst: or(number),
};
const SCOPE: Shape = {
  id: number,
  tradeId: number,
  sign,
  basis: shaped({ qty: number, notional: number }),
  out: number,
  legs: listOf(shaped({ kind: oneOf('stop', 'target'), filled: number, moved: or(number) })),
};
const ACCOUNT: Shape = {
  id: text,
  rules: shaped({ name: text, kind: text, startCash: number, riskUnit: number, guards: isObject }),
  fees: listOf(isObject),
  ledger: shaped({ cash: number, settled: number, unsettled: listOf(isObject) }),
  closed: shaped({ gross: number, costs: number }),
  day: shaped({ day: number, equity: number }),
};
const HOLDING: Shape = {
  account: text,
  symbol: text,
  multiplier: number,
  orders: listOf(isObject),
  scopes: listOf(isObject),
  trades: listOf(isObject),
};
const STATE: Shape = {
  seq: number,
  session: text,
  broker: shaped({ next: isObject, accounts: each(isObject), holdings: each(isObject), past: isObject }),
  alerts: shaped({
    nextId: number,
    list: listOf(shaped({ id: number, text, status: oneOf('armed', 'fired') })),
    fired: listOf(shaped({ at: number, text })),
  }),
  desk: shaped({
    account: text,
    plans: isObject,
    staged: listOf(shaped({ id: number, symbol: text, statement: isObject })),
    waiting: listOf(shaped({ id: number, symbol: text, sentence: isObject, trigger: isObject })),
    chains: listOf(isObject),
    waited: listOf(shaped({ at: number, text })),
    levels: each(isObject),
    notes: listOf(shaped({ at: number, text })),
  }),
  events: listOf(shaped({ id: number, at: number, kind: text })),
};

/** What is wrong with a saved session, in words that follow “its saved session:”; null where nothing is. */
export function wrongWithSession(x: unknown): string | null {
  if (!isObject(x) || x.version !== VERSION) return 'it is of another version of the app';
  const top = misfit({ seq: number, now: time, state: isObject, market: isObject }, x);
  if (top !== null) return `it has no fitting “${top}”`;
  const state = misfit(STATE, x.state);
  if (state !== null) return `what it says of the trader has no fitting “${state}”`;
  const { accounts, holdings } = (x.state as { broker: Record<string, Record<string, unknown>> }).broker;
  return (
    first('account', ACCOUNT, Object.values(accounts ?? {})) ?? inHoldings(Object.values(holdings ?? {}))
  );
}

function inHoldings(holdings: readonly unknown[]): string | null {
  const wrong = first('holding', HOLDING, holdings);
  if (wrong !== null) return wrong;
  for (const { orders, trades, scopes } of holdings as Record<string, unknown[]>[]) {
    const inside =
      first('order', ORDER, orders ?? []) ??
      first('trade', TRADE, trades ?? []) ??
      first('group of exits', SCOPE, scopes ?? []);
    if (inside !== null) return inside;
  }
  return null;
}

/** What is wrong with the first of some parts of a session that does not fit. */
function first(what: string, shape: Shape, parts: readonly unknown[]): string | null {
  for (const part of parts) {
    const wrong = misfit(shape, part);
    if (wrong === '') return `one ${what} in it is no record`;
    if (wrong !== null) {
      const id = isObject(part) && (number(part.id) || text(part.id)) ? ` ${part.id}` : '';
      return `its ${what}${id} has no fitting “${wrong}”`;
    }
  }
  return null;
}
