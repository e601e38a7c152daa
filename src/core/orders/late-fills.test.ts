// Executions that come late, out of their order, twice, or never: what the exchange counts (FIX 4.4, CumQty, tag 14) decides.
import fc from 'fast-check';
import { desk, only } from '../../../tests/model/desk.ts';
import { bare, exposed, plan, target, texts } from '../../../tests/model/plans.ts';
import { fromDollars } from '../units/index.ts';
import type { VenueReport } from '../venue/index.ts';
import { openOf, statusOf, wireOf } from './index.ts';

type Desk = ReturnType<typeof desk>;
const report = (d: Desk, from = 0, count = 1) =>
  d.step({ kind: 'reports', reports: d.exchange.deliver(count, from) });

/** Long 100 with a target for all of it at work; 44 of it have filled and are not told; its cancel is answered first. */
function overtaken(): { d: Desk; id: number } {
  const d = desk({ slow: true });
  d.enter('buy', 100, plan({ ...bare, targets: [target(10.2)] }));
  d.settle();
  d.execute(1, 100);
  d.settle();
  const { id } = only(d.find('target'));
  d.execute(id, 44);
  d.cancel(id);
  d.exchange.arrive(1);
  report(d, 1);
  return { d, id };
}

test('a cancel is answered before a fill that came first: its shares stay spoken for, and nothing turns', () => {
  const { d, id } = overtaken();
  expect([statusOf(d.order(id)), wireOf(d.order(id))?.owes?.runs]).toEqual([
    'PendingCancel',
    [{ from: 0, to: 44 }],
  ]);
  d.close(100, { limit: fromDollars(10.1) });
  d.exchange.arrive(1);
  expect(exposed(d)).toBe(56);
  d.execute(only(d.find('close')).id, 56);
  d.settle();
  expect([d.position, statusOf(d.order(id)), d.live()]).toEqual([0, 'Canceled', []]);
});

test('what is missing for two seconds is asked for, told, and booked once, also where the fill comes after the answer', () => {
  const { d, id } = overtaken();
  const late = d.exchange.deliver(1);
  expect(late[0]?.kind).toBe('fill');
  expect(d.due).not.toBeNull();
  expect(d.wait(1_900)).toEqual([]);
  expect(d.wait(100)).toMatchObject([{ kind: 'executions', id: wireOf(d.order(id))?.id }]);
  expect(d.wait(5_000)).toEqual([]);
  d.settle();
  expect([d.position, d.order(id).filled, statusOf(d.order(id))]).toEqual([56, 44, 'Canceled']);
  d.step({ kind: 'reports', reports: late });
  expect([d.position, d.order(id).filled]).toEqual([56, 44]);
  expect(texts(d).filter((t) => t.includes('counts 44 VULPN as filled'))).toHaveLength(1);
});

test('flatten asks at once; what the exchange then does not have is nobody’s', () => {
  const { d } = overtaken();
  d.exchange.deliver(1);
  d.exchange.forget();
  expect(d.flatten().map((c) => c.kind)).toEqual(['executions', 'new']);
  expect(d.exchange.underway.map((c) => 'qty' in c && c.qty)).toEqual([false, 56]);
  d.settle();
  expect(texts(d).some((t) => t.includes('has no fills for the 44 VULPN'))).toBe(true);
  expect(exposed(d)).toBe(100);
});

test('a stop is never held back by what is missing', () => {
  const { d } = overtaken();
  d.price(9.6);
  d.exchange.arrive(1);
  const stop = only(d.find('stop'));
  expect([openOf(stop), exposed(d)]).toEqual([100, 100]);
});

test('after the line was away what is missing is asked for anew', () => {
  const { d } = overtaken();
  d.exchange.deliver(1);
  d.wait(2_000);
  d.exchange.cut();
  d.exchange.mend();
  d.settle();
  expect(d.wait(2_000)).toMatchObject([{ kind: 'executions' }]);
  d.settle();
  expect(d.position).toBe(56);
});

test('a reverse waits until the cancels of the old entries are answered', () => {
  const d = desk({ slow: true });
  d.enter('buy', 100);
  d.settle();
  d.execute(1, 40);
  d.settle();
  d.flatten();
  d.enter('sell', 100, null, { afterFlat: true });
  d.exchange.arrive(2);
  d.execute(only(d.find('close')).id, 40);
  // The close has filled; the entry's cancel has been carried out and is not answered yet.
  const fill = d.exchange.said.findIndex((r) => r.kind === 'fill');
  report(d, fill - 1, 2);
  expect(d.position).toBe(0);
  expect(d.exchange.underway).toEqual([]);
  expect(statusOf(only(d.find('entry')))).toBe('Suspended');
  report(d);
  expect(d.exchange.underway).toMatchObject([{ kind: 'new', side: 'sell', qty: 100 }]);
});

type Act =
  | { do: 'enter' | 'close' | 'flatten' | 'cancel' | 'arrive'; n: number }
  | { do: 'execute'; n: number; qty: number }
  | { do: 'report'; from: number }
  | { do: 'price'; at: number }
  | { do: 'wait' | 'again' };
const act: fc.Arbitrary<Act> = fc.oneof(
  fc.record({
    do: fc.constantFrom('enter' as const, 'close' as const, 'flatten' as const, 'cancel' as const),
    n: fc.nat(9),
  }),
  {
    weight: 4,
    arbitrary: fc.record({ do: fc.constant('arrive' as const), n: fc.integer({ min: 1, max: 4 }) }),
  },
  {
    weight: 4,
    arbitrary: fc.record({
      do: fc.constant('execute' as const),
      n: fc.nat(5),
      qty: fc.integer({ min: 1, max: 400 }),
    }),
  },
  { weight: 5, arbitrary: fc.record({ do: fc.constant('report' as const), from: fc.nat(4) }) },
  fc.record({ do: fc.constant('price' as const), at: fc.integer({ min: 960, max: 1_040 }) }),
  fc.record({ do: fc.constantFrom('wait' as const, 'again' as const) }),
);

/** Fills that have been told, so that one can be told again. */
type Heard = Extract<VenueReport, { kind: 'fill' }>[];

function play(d: Desk, heard: Heard, a: Act): void {
  switch (a.do) {
    case 'enter':
      d.enter('buy', 100, plan());
      return;
    case 'close':
      d.close(20 * (a.n + 1));
      return;
    case 'flatten':
      d.flatten();
      return;
    case 'cancel': {
      const o = d.live()[a.n % Math.max(1, d.live().length)];
      if (o) d.cancel(o.id);
      return;
    }
    case 'arrive':
      d.exchange.arrive(a.n);
      return;
    case 'execute': {
      const there = [...d.exchange.orders.values()];
      const o = there[a.n % Math.max(1, there.length)];
      if (o) d.exchange.fill(o.id, a.qty, o.limit ?? fromDollars(10));
      return;
    }
    case 'report':
      if (d.exchange.said.length > 0) {
        const from = a.from % d.exchange.said.length;
        const next = d.exchange.said[from];
        if (next?.kind === 'fill') heard.push(next);
        report(d, from);
      }
      return;
    case 'again':
      d.step({ kind: 'reports', reports: heard.slice(-1) });
      return;
    case 'price':
      d.price(a.at / 100);
      return;
    case 'wait':
      d.wait(2_000);
  }
}

test('whatever overtakes what: every execution is booked once, nothing stays open, and only a stop may reach beyond what is held', () => {
  fc.assert(
    fc.property(fc.array(act, { maxLength: 60 }), (acts) => {
      const d = desk({ slow: true });
      const traded = () =>
        d.exchange.executions.reduce((sum, x) => sum + (x.side === 'buy' ? x.qty : -x.qty), 0);
      d.enter('buy', 200, plan());
      d.settle();
      d.execute(1, 200);
      d.settle();
      const heard: Heard = [];
      for (const a of acts) play(d, heard, a);
      d.settle();
      d.wait(2_000);
      d.settle();
      expect(d.position).toBe(traded());
      expect(d.live().filter((o) => wireOf(o)?.owes)).toEqual([]);
      const triggered = d.events.some((e) => e.kind === 'triggered');
      if (!triggered) expect(d.events.filter((e) => e.kind === 'turned')).toEqual([]);
    }),
    { numRuns: process.env.FEW_RUNS ? 100 : Number(process.env.RUNS ?? 1_500) },
  );
});
