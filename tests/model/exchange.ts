import type { AccountId, Price, Side, WireId } from '../../src/core/units/index.ts';
import type { Execution, VenueCommand, VenueReport } from '../../src/core/venue/index.ts';

/** An order as the exchange has it. */
export interface Resting {
  account: AccountId;
  id: WireId;
  symbol: string;
  side: Side;
  limit: Price | null;
  qty: number;
  filled: number;
}

/**
 * An exchange that a test plays: orders rest until the test fills them, in any pieces. Messages are under
 * way in both directions until the test lets them arrive; the line can be cut; and it can be told to be
 * rude: to reject, to refuse, to throw out what it had taken.
 */
export function fakeExchange() {
  const orders = new Map<WireId, Resting>();
  const seen = new Set<WireId>();
  const executions: { id: WireId; symbol: string; side: Side; price: Price; qty: number }[] = [];
  let out: VenueCommand[] = [];
  let back: VenueReport[] = [];
  let kept: VenueReport[] = [];
  let up = true;
  let clock = 0;
  const rude = { reject: 0, refuse: 0 };
  const say = (r: VenueReport) => (up ? back : kept).push(r);
  const head = (c: { account: AccountId; id: WireId; symbol: string }) => ({
    account: c.account,
    id: c.id,
    symbol: c.symbol,
    at: clock,
  });
  /** What has been executed of each order, ended ones too. */
  const done = new Map<WireId, (Execution & { cumQty: number })[]>();
  const cumOf = (id: WireId): number => done.get(id)?.at(-1)?.cumQty ?? 0;

  // biome-ignore lint/complexity/noExcessiveCognitiveComplexity: one branch a request, each with its rudeness
  function take(c: VenueCommand): void {
    const o = orders.get(c.id);
    switch (c.kind) {
      case 'new': {
        if (seen.has(c.id)) throw new Error(`the exchange's number ${c.id} was used twice`);
        seen.add(c.id);
        if (rude.reject > 0) {
          rude.reject--;
          say({ kind: 'rejected', ...head(c), why: 'not today' });
          return;
        }
        orders.set(c.id, {
          account: c.account,
          id: c.id,
          symbol: c.symbol,
          side: c.side,
          limit: c.limit,
          qty: c.qty,
          filled: 0,
        });
        say({ kind: 'new', ...head(c) });
        return;
      }
      case 'replace':
        if (!o || rude.refuse > 0) {
          if (o) rude.refuse--;
          say({ kind: 'refused', ...head(c), request: 'replace', why: o ? 'not today' : 'too late' });
          return;
        }
        o.qty = Math.max(c.qty, o.filled);
        o.limit = c.limit;
        if (o.qty <= o.filled) orders.delete(o.id);
        say({ kind: 'replaced', ...head(c), cumQty: o.filled, qty: o.qty, limit: o.limit });
        return;
      case 'cancel':
        if (!o || rude.refuse > 0) {
          if (o) rude.refuse--;
          say({ kind: 'refused', ...head(c), request: 'cancel', why: o ? 'not today' : 'too late' });
          return;
        }
        orders.delete(o.id);
        say({ kind: 'out', ...head(c), cumQty: o.filled, why: 'canceled' });
        return;
      case 'executions':
        say({ kind: 'executions', ...head(c), of: done.get(c.id) ?? [] });
    }
  }

  return {
    orders,
    executions,
    rude,
    get up() {
      return up;
    },
    /** Requests that have not arrived yet. */
    get underway(): readonly VenueCommand[] {
      return out;
    },
    /** Nothing is under way, and the line stands. */
    get quiet(): boolean {
      return up && out.length === 0 && back.length === 0;
    },
    at(now: number) {
      clock = now;
    },
    send(commands: readonly VenueCommand[]) {
      if (up) out.push(...commands);
    },
    /** Lets so many requests arrive. */
    arrive(count: number) {
      for (const c of out.splice(0, count)) take(c);
    },
    /** Hands over so many reports, as one piece; from a later one on, what was said before it is overtaken. */
    deliver: (count: number, from = 0): VenueReport[] => back.splice(from, count),
    /** Reports that are under way. */
    get said(): readonly VenueReport[] {
      return back;
    },
    fill(id: WireId, qty: number, price: Price) {
      const o = orders.get(id);
      if (!o) return;
      const part = Math.min(qty, o.qty - o.filled);
      o.filled += part;
      if (o.filled === o.qty) orders.delete(id);
      executions.push({ id, symbol: o.symbol, side: o.side, price, qty: part });
      const x: Execution & { cumQty: number } = {
        at: clock,
        price,
        qty: part,
        cumQty: cumOf(id) + part,
        liquidity: 'added',
        venue: 'LIT',
        better: 0,
      };
      done.set(id, [...(done.get(id) ?? []), x]);
      say({ kind: 'fill', ...head(o), ...x });
    },
    /** It loses its records of what has been executed. */
    forget() {
      done.clear();
    },
    throwOut(id: WireId) {
      const o = orders.get(id);
      if (!o) return;
      orders.delete(id);
      say({ kind: 'out', ...head(o), cumQty: o.filled, why: 'self trade' });
    },
    cut() {
      if (!up) return;
      up = false;
      out = [];
      kept = back;
      back = [{ kind: 'line', up: false, at: clock }];
    },
    mend() {
      if (up) return;
      up = true;
      // What was said before the cut and not read yet comes first.
      back = [
        ...back,
        { kind: 'line', up: true, at: clock },
        ...kept,
        {
          kind: 'list',
          at: clock,
          orders: [...orders.values()].map(({ account, id, symbol, qty, filled, limit }) => ({
            account,
            id,
            symbol,
            qty,
            cumQty: filled,
            limit,
          })),
        },
      ];
      kept = [];
    },
  };
}
