import type { AccountId, WireId } from '../units/index.ts';
import type { Execution, Outcome, VenueCommand, VenueReport, WireTerms } from '../venue/index.ts';

type Listed = Extract<VenueReport, { kind: 'list' }>['orders'][number];

/** What is known of one order of the trader's at the exchange: whose it is, and what has been executed of it. */
interface Entry {
  account: AccountId;
  symbol: string;
  /** The trading day that it came on. */
  day: number;
  cumQty: number;
  executions: (Execution & { cumQty: number })[];
}

/** The exchange's register of the trader's orders, by their number there. */
export type Register = Record<WireId, Entry>;

/** An order is entered before anything is said of it. */
export function register(r: Register, c: VenueCommand, day: number): void {
  r[c.id] ??= { account: c.account, symbol: c.symbol, day, cumQty: 0, executions: [] };
}

/** Of an order that nobody entered nothing is known. */
const entryOf = (r: Register, { id, symbol }: { id: WireId; symbol: string }): Entry => {
  r[id] ??= { account: '' as AccountId, symbol, day: 0, cumQty: 0, executions: [] };
  return r[id];
};

/** What a market says of an order, with whose it is and how much of it has filled in all. */
export function counted(r: Register, o: Outcome): VenueReport {
  const entry = entryOf(r, o);
  if (o.kind === 'fill') {
    entry.cumQty += o.qty;
    const { at, price, qty, liquidity, venue, better } = o;
    entry.executions.push({ at, price, qty, liquidity, venue, better, cumQty: entry.cumQty });
  }
  return { ...o, account: entry.account, cumQty: entry.cumQty } as VenueReport;
}

/** Everything that has been executed of an order; nothing of one that is not known. */
export const executionsOf = (
  r: Register,
  { account, id, symbol }: Extract<VenueCommand, { kind: 'executions' }>,
  at: number,
): VenueReport => ({
  kind: 'executions',
  account,
  id,
  symbol,
  at,
  of: r[id]?.executions.map((x) => ({ ...x })) ?? [],
});

/** What came before a day is no longer asked for. */
export function forget(r: Register, before: number): void {
  for (const id of Object.keys(r).map(Number) as WireId[]) if ((r[id]?.day ?? 0) < before) delete r[id];
}

/** A working order as the list after a cut tells it. */
export function listed(r: Register, o: { id: WireId; symbol: string } & WireTerms): Listed {
  const { account, cumQty } = entryOf(r, o);
  return { ...o, account, cumQty };
}
