import fc from 'fast-check';
import { everything, liveOrders, orderOf, wireOf } from '../../src/core/orders/index.ts';
import { at, signOf } from '../../src/core/units/index.ts';
import type { DaySource } from '../../src/session/day-ref.ts';
import { advance, apply, createEngine, dayEnd, type Engine } from '../../src/session/engine.ts';
import type { LogEntry, SavedSession, SessionInput } from '../../src/session/log.ts';
import { peek } from '../../src/session/peek.ts';
import { restore, save } from '../../src/session/saving.ts';
import { simMarket } from '../../src/session/sim-market.ts';
import { checkBroker, must } from './rules.ts';

const BRACKET = 'stop 30c\n target 1R for half\n target 2R for half\n breakeven after 1.3R';
const SIZE = 24;

/** What a trader may do on the shipped market, with the line to it being late or cut, and the session brought back from its log. */
export type MarketAct =
  | { kind: 'run'; text: string; focus: string }
  | { kind: 'wait'; ms: number }
  | { kind: 'step' }
  | { kind: 'line'; change: Extract<SessionInput, { kind: 'line' }>['change'] }
  | { kind: 'reload' };

const text = fc.constantFrom(
  `buy risk 1R at ask + 3c extended\n ${BRACKET}`,
  'buy 700 at ask + 2c extended\n stop 5%\n target 4% for third\n target 7% for third\n breakeven after target 1 plus costs',
  'buy 300 at bid extended\n stop 4c',
  'buy 150 at ask + 1c extended',
  'buy 100 at ask + 3c',
  'buy 120 above last + 2c extended\n stop 3c\n target 4c',
  'buy 400 at mid hidden\n stop 5c',
  'buy 200 at ask + 1c ioc extended\n stop 2c\n target 3c',
  'buy 90 at ask gtc\n stop 2c\n target 5c for half',
  'short 400 at bid - 3c extended\n stop 3%\n target 1R for half\n breakeven after 1R',
  'close half at bid',
  'close third at ask',
  'close all at last + 1c',
  'sell 90 at last + 1c',
  'sell all below last - 2c gtc',
  'cover all at ask + 1c',
  'cover all above last + 2c',
  'move stop to entry - 4c',
  'move stop to last - 1c',
  'move last order up 1c',
  'move last order down 2c',
  'cancel last',
  'cancel symbol',
  'cancel everything',
  'flatten',
  'flatten everything',
  'alert at last + 2c',
  'alert any when from vwap > 1%',
  'alert any on news',
  'buy 100 at nothing',
  'close half at bid\nbuy 100 at ask + 2c extended\n stop 3c',
  'when last >= 6.60: buy 80 at 3c through extended\n stop 5c\n target 1R for half\n trail 4c after 1R',
  'when last <= 6.38 until cancelled: short 60 of TARNH at 3c through extended\n stop 2%',
  'when newly last of TARNH >= 9.75 and volume > 10k: buy 30 at ask + 2c extended',
  'when 1m close > vwap or change < -40%: buy 50 at ask + 2c extended\n stop 6c',
  'when gain >= 2c a share: close half at bid extended',
  'when time >= 09:36 until 15:59: flatten',
  'buy 300 at bid extended\n stop 6c\n once filled: close third at ask + 5c extended\n once filled: buy 10 of TARNH at ask + 2c extended',
  'one of\n  buy 120 at bid - 2c extended\n   stop 5c\n  buy 90 of TARNH at bid - 2c extended\n   stop 5c',
  'one of\n  buy 70 above last + 3c extended\n   stop 5c\n  short 70 below last - 3c extended\n   stop 5c',
  'buy 150 at bid working to ask + 1c within 20s extended\n stop 5c',
  'buy 60 at 2c through extended account "Practice cash"\n stop 6c\n target 3c for half',
  'use account "Practice cash"',
  'use account "Practice margin"',
  'locate 200 of ORBNT',
  'replace last with buy 110 at bid + 1c gtc extended',
  'pause condition 1',
  'resume condition 1',
  'cancel condition 2',
  'attach to half\n stop 6c\n target 4c',
  'reverse',
  'level "lid" at last + 3c',
  'level "slope" of VULPN from 6.40 at 09:10 to 6.60 at 09:50',
  'when ask >= level "slope": buy 20 at 3c through extended\n stop 5c',
  'when last <= level "lid": short 30 at 3c through extended\n stop 2%',
  'clear drawings',
  'buy 2 of 45 days 30 delta call at mid gtc',
  'buy 3 of 10 days at the money put at ask\n stop 20%\n target 20%',
  'short 1 vertical of 10 days 30 delta 1 wide put at mid - 2c credit\n once filled: close all at half the credit gtc',
  'when last >= 6.50 or gain >= 3%: close all of 45 days 30 delta call at bid - 5c',
  'close half of 10 days 30 delta 1 wide put at ask',
  'buy 1 of 10 days at the money call at ask\n target 15%\n once filled when last >= 6.20 or last <= 5.40: close all at bid - 5c',
  'buy 2 of 2027-03-19 6/5 put at ask debit',
  'close 1 of 2027-03-19 5 put alone at ask + 5c',
  'close 1 of 2027-03-19 6 put alone at bid - 5c',
);
const focus = fc.constantFrom('VULPN', 'VULPN', 'ORBNT', 'SOLVN', 'TARNH');
const latency = fc.constantFrom(null, { from: 5, to: 60 }, { from: 100, to: 900 });

export const marketAct: fc.Arbitrary<MarketAct> = fc.oneof(
  { weight: 8, arbitrary: fc.record({ kind: fc.constant('run' as const), text, focus }) },
  {
    weight: 5,
    arbitrary: fc.record({
      kind: fc.constant('wait' as const),
      ms: fc.oneof(fc.integer({ min: 1, max: 3_000 }), fc.integer({ min: 1, max: 120_000 })),
    }),
  },
  { weight: 2, arbitrary: fc.constant({ kind: 'step' as const }) },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('line' as const),
      change: fc.oneof(
        fc.constant({ kind: 'cut' as const }),
        fc.constant({ kind: 'mend' as const }),
        fc.record({ kind: fc.constant('latency' as const), latency }),
      ),
    }),
  },
  { weight: 1, arbitrary: fc.constant({ kind: 'reload' as const }) },
);
export type MarketHistory = { acts: MarketAct[]; start: number };
/** Starts before the open, in its first minutes, in a quiet hour, and shortly before the end of the regular session and of the day. */
export const marketHistory: fc.Arbitrary<MarketHistory> = fc.record({
  acts: fc.array(marketAct, { minLength: 4, maxLength: 30 }),
  start: fc.integer({ min: 0, max: 4 }),
});
const STARTS = [at(9, 10), at(9, 33), at(13), at(15, 58), at(19, 58)];

export const MARKET_DAY: DaySource = {
  ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: SIZE },
  own: null,
};
const saved = new Map<number, SavedSession>();

function startAt(index: number): Engine {
  let kept = saved.get(index);
  if (!kept) {
    const e = createEngine(simMarket(MARKET_DAY));
    advance(e, STARTS[index] as number);
    kept = structuredClone(save(e));
    saved.set(index, kept);
  }
  const copy = structuredClone(kept);
  return restore(copy, simMarket(MARKET_DAY, copy.market), [], null);
}

/** Plays a history on the shipped market and throws at the first rule that does not hold. */
export function playMarket({ acts, start }: MarketHistory): void {
  const e = startAt(start);
  const first = structuredClone(save(e));
  const log: LogEntry[] = [];
  let engine = e;
  const paid: Record<string, number> = {};
  const fired = new Set<number>();
  const took = (entries: LogEntry[]) => {
    for (const x of entries) {
      must(x.seq === (log[log.length - 1]?.seq ?? first.seq) + 1, 'the log has no hole and no number twice');
      log.push(x);
      for (const ev of x.events)
        if (ev.kind === 'located') paid[ev.account] = (paid[ev.account] ?? 0) + ev.fee;
      if (x.fired?.of !== 'condition') continue;
      must(!fired.has(x.fired.id), 'a condition fires once');
      fired.add(x.fired.id);
    }
    checkBroker(engine.state.broker, paid);
    waits(engine);
  };
  const obey = (input: SessionInput) => {
    const before = log.length;
    took(apply(engine, input).entries);
    must(
      log.slice(before).some((x) => x.input === input),
      'every input has its entry',
    );
  };
  for (const a of acts) {
    switch (a.kind) {
      case 'run':
        obey({ kind: 'run', text: a.text, focus: a.focus });
        break;
      case 'wait':
        took(advance(engine, engine.market.now() + a.ms));
        break;
      case 'step': {
        const tape = engine.market.tape('VULPN');
        const { prints } = tape;
        took(advance(engine, engine.market.now() + 60_000, () => tape.prints > prints));
        break;
      }
      case 'line':
        obey({ kind: 'line', change: a.change });
        break;
      case 'reload': {
        const kept = structuredClone(save(engine));
        engine = restore(kept, simMarket(MARKET_DAY, kept.market), [], null);
        break;
      }
    }
    agree(engine);
  }

  // The same session from its start and its log alone.
  took(advance(engine, engine.market.now()));
  const again = restore(
    structuredClone(first),
    simMarket(MARKET_DAY, structuredClone(first).market),
    structuredClone(log),
    engine.market.now(),
  );
  must(
    JSON.stringify(again.state.broker) === JSON.stringify(engine.state.broker),
    'a restore from the log gives the same broker',
  );
  must(
    JSON.stringify(again.state.desk) === JSON.stringify(engine.state.desk),
    'a restore from the log gives the same desk',
  );
  must(again.state.seq === engine.state.seq, 'a restore gives the same log numbers');
  must(
    again.market.happened() === engine.market.happened(),
    'a restore comes to the same count of happenings',
  );

  // A patient trader gets out: the line stands, and flatten leaves nothing.
  obey({ kind: 'line', change: { kind: 'mend' } });
  obey({ kind: 'line', change: { kind: 'latency', latency: null } });
  took(advance(engine, engine.market.now() + 5_000));
  for (const account of ['Practice margin', 'Practice cash']) {
    obey({ kind: 'run', text: `use account "${account}"`, focus: 'VULPN' });
    const text = 'cancel everything and exits';
    const yes = peek(engine, text, 'VULPN').lines.flatMap((l) => l.asks);
    obey({ kind: 'run', text, focus: 'VULPN', yes });
  }
  took(advance(engine, engine.market.now() + 2_000));
  // What the exchange was asked in the last moment of a day is answered by the next one.
  if (engine.market.now() === dayEnd(engine)) obey({ kind: 'next day' });
  must(
    liveOrders(engine.state.broker).every((o) => o.bounced.times > 0 || o.role === 'close'),
    'a cancel of everything leaves nothing',
  );
  must(engine.state.desk.waiting.length === 0, 'nothing waits after it');
}

/** What waits for a price is not there yet: at rest nothing that is true still waits, unless it is paused or has to be false first. */
function waits({ state, market }: Engine): void {
  for (const { sentence, symbol, trigger } of state.desk.waiting) {
    const { condition } = sentence;
    if (condition.kind !== 'price is' || condition.left.kind !== 'last' || condition.right.kind !== 'number')
      continue;
    const last = market.last(condition.symbol ?? symbol);
    if (last === null || trigger.paused || trigger.newly) continue;
    const there = condition.op === '>=' ? last >= condition.right.price : last <= condition.right.price;
    must(!there, `${symbol} stands at ${last}, and a condition on it waits still`);
  }
  for (const c of state.desk.chains) {
    const first = orderOf(state.broker, c.orderId);
    must(first !== undefined && first.filled === c.done, 'what hangs on a fill has seen all of it');
  }
}

/** On a line without latency that stands, broker and exchange believe the same after each step. */
function agree({ state: { broker }, market }: Engine): void {
  const { up, latency } = market.line();
  if (!up || latency !== null) return;
  for (const o of liveOrders(broker)) {
    const wire = wireOf(o);
    if (!wire || wire.pending) continue;
    const ahead = market.ahead(o.symbol, wire.id);
    must(ahead === null || ahead >= 0, 'a working order has a place');
  }
  const { fills, trades } = everything(broker);
  for (const t of trades)
    must(
      fills.filter((f) => f.tradeId === t.id).reduce((a, f) => a + t.sign * signOf(f.side) * f.qty, 0) >= 0,
      'no trade is turned',
    );
}
