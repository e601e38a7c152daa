// The table of what can be asked: for each kind of question what its answer depends on, and how it is made.
import { multipleOf } from '../../core/account/index.ts';
import { printTree } from '../../core/language/index.ts';
import { barsOf, contextOf, minuteOf } from '../../core/market/index.ts';
import { openRisk } from '../../core/orders/index.ts';
import { MINUTE, SECOND } from '../../core/units/index.ts';
import { brokerContext } from '../../session/circuit.ts';
import { account, accountInUse, type Engine } from '../../session/engine.ts';
import { symbolView } from '../../session/moment.ts';
import { stagedText } from '../../session/scripts.ts';
import { marketView, stocksOf } from '../../session/view.ts';
import { bookChanges } from './book-changes.ts';
import { chainSlice } from './chain.ts';
import type { Live, Scene, Source } from './live.ts';
import { namedPrices } from './names.ts';
import { payoffSlice } from './payoff.ts';
import { peekedAt } from './peeked.ts';
import { planSeen } from './plan.ts';
import type { Question, QuestionAnswers, QuestionOf } from './questions.ts';
import { sheetOf } from './sheet.ts';
import type { DeskSlice, TableSlice } from './slices.ts';
import { marksSlice, symbolSlice } from './symbol-slice.ts';
import { readTable, type Table, tableSlice, valuesOf, whyOf } from './table.ts';
import { waitingNow } from './waiting.ts';

/** Days of minutes before today that a chart can go back to. */
const EARLIER_DAYS = 5;
/** Counts of a table's clauses are made anew at most so often, in ms of wall time. */
const COUNTS_EVERY = 1_000;

type Answers = { [K in Question['kind']]: (q: QuestionOf<K>) => Live<QuestionAnswers[K]> };

/** What an answer has depended on so far, and is made from now. */
const moment = ({ engine: { market, state } }: Scene): readonly unknown[] => [
  market.now(),
  market.date,
  state.seq,
];
/** The symbol that is meant; null where it does not trade today. */
const meant = ({ engine: { market }, focus }: Scene, symbol: string | null): string | null =>
  market.has(symbol ?? focus) ? (symbol ?? focus) : null;
const second = ({ engine }: Scene): number => Math.floor(engine.market.now() / SECOND);

export const LIVE: Answers = {
  clock: () => ({
    from: (s) => {
      const { state, market } = s.engine;
      const { speed, jumpingTo, attempt, watching } = s;
      return { now: [second(s), speed, state.session, jumpingTo, attempt, watching?.coming, market.date] };
    },
    make({ engine: { market, state }, speed, jumpingTo, attempt, watching }) {
      const { date, dates, title, character, hours, dayStart } = market;
      const { session } = state;
      const day = { date, dates, title, character, hours, dayStart };
      return { ...day, now: market.now(), session, speed, attempt, watching, jumpingTo };
    },
  }),
  'focus on': () => ({ from: (s) => ({ now: [s.focus] }), make: (s) => s.focus }),
  symbols: () => ({
    from: ({ engine }) => ({ now: [engine.market.instruments] }),
    make: ({ engine }) => engine.market.instruments.map((i) => i.symbol),
  }),
  context: () => ({
    every: 1_000,
    from: ({ engine }) => ({ now: [engine.market.date], later: [engine.market.now()] }),
    make({ engine: { market } }) {
      const index = market.instruments.findIndex((i) => i.kind === 'index stand-in');
      return contextOf(marketView(market), stocksOf(market), index);
    },
  }),
  alerts: () => ({
    from: ({ engine }) => ({ now: [engine.state.alerts] }),
    make: ({ engine: { state } }) => ({ list: state.alerts.list, fired: state.alerts.fired }),
  }),
  book() {
    const changes = bookChanges();
    return {
      from: ({ engine }) => ({ now: [engine.state.broker] }),
      make: ({ engine: { state } }) => changes(state.broker, state.events),
    };
  },
  line: () => ({
    from: ({ engine }) => {
      const { up, latency } = engine.market.line();
      return { now: [up, JSON.stringify(latency)] };
    },
    make({ engine }) {
      const { up, latency } = engine.market.line();
      return { up, latency };
    },
  }),
  marks: () => ({ every: 200, from: moneySource, make: ({ engine }) => marksSlice(engine) }),
  account: () => ({
    every: 200,
    from: moneySource,
    make({ engine }) {
      const inUse = accountInUse(engine);
      const { id, rules } = inUse;
      return {
        ...account(engine),
        id,
        riskUnit: rules.riskUnit,
        name: rules.name,
        kind: rules.kind,
        multiple: multipleOf(inUse),
        openRisk: Math.round(openRisk(engine.state.broker, id, brokerContext(engine))),
      };
    },
  }),
  desk: () => ({
    from: ({ engine: { state } }) => ({
      now: [state.desk, ...Object.values(state.broker.accounts).map((a) => a.rules)],
    }),
    make: ({ engine }) => deskSlice(engine),
  }),
  news: () => ({
    from: ({ engine: { market } }) => ({ now: [minuteOf(market.now()), market.date] }),
    make: ({ engine: { market } }) => market.news.filter((n) => n.at <= market.now()),
  }),
  table({ table: asked }) {
    let table: Table | null = null;
    let counted = 0;
    let last: TableSlice | null = null;
    return {
      every: 250,
      from: (s) => ({ now: [], later: moment(s) }),
      make({ engine }, wall) {
        table ??= readTable(asked);
        const recount = last === null || wall >= counted;
        if (recount) counted = wall + COUNTS_EVERY;
        last = tableSlice(engine.market, table, recount ? null : (last?.clauses ?? null));
        return last;
      },
    };
  },
  peeks: ({ texts, every = 400 }) => ({
    every,
    from: (s) => ({ now: [s.engine.state.broker, s.focus], later: moment(s) }),
    make: ({ engine, focus }) => texts.map((t) => peekedAt(engine, t.text, t.symbol ?? focus)),
    same: sameJson,
  }),
  symbol: ({ symbol }) => ({
    from(s) {
      const name = meant(s, symbol);
      if (name === null) return null;
      const { market } = s.engine;
      // An auction that forms is told by the second.
      const auction = market.auction(name) ? second(s) : 0;
      const depth = JSON.stringify(market.depth(name, 5));
      const { prints } = market.tape(name);
      return { now: [name, market.status(name), auction, minuteOf(market.now()), prints, depth] };
    },
    make: (s) => symbolSlice(s.engine.market, symbol ?? s.focus),
  }),
  bars: ({ symbol }) => ({
    from: (s) => ofDay(s, symbol, minuteOf(s.engine.market.now())),
    make({ engine: { market }, focus }) {
      const now = market.now();
      const name = symbol ?? focus;
      const bars = barsOf(market.tape(name), 1).filter((b) => minuteOf(b.start) < minuteOf(now));
      return { formingFrom: now - (now % MINUTE), symbol: name, bars };
    },
  }),
  days: ({ symbol }) => ({
    from: (s) => ofDay(s, symbol),
    make: ({ engine: { market }, focus }) => ({
      symbol: symbol ?? focus,
      daily: market.daily(symbol ?? focus),
    }),
  }),
  earlier: ({ symbol }) => ({
    from: (s) => ofDay(s, symbol),
    make: ({ engine: { market }, focus }) => ({
      symbol: symbol ?? focus,
      bars: market.earlier(symbol ?? focus, EARLIER_DAYS),
    }),
  }),
  depth: ({ levels, contract }) => ({
    from(s) {
      const name = meant(s, contract);
      return name === null ? null : { now: [name, JSON.stringify(s.engine.market.depth(name, levels))] };
    },
    make: ({ engine: { market }, focus }) => ({
      symbol: contract ?? focus,
      ...market.depth(contract ?? focus, levels),
    }),
  }),
  chain: ({ symbol, expiry }) => ({
    every: 300,
    from: (s) => ({ now: [symbol ?? s.focus], later: moment(s) }),
    make: ({ engine, focus }) => chainSlice(engine, symbol ?? focus, expiry),
  }),
  payoff: ({ text }) => ({
    every: 700,
    from: (s) => ({ now: [s.focus], later: moment(s) }),
    make: ({ engine, focus }) => payoffSlice(engine, text, focus),
  }),
  waits: () => ({
    every: 250,
    from(s) {
      const { waiting } = s.engine.state.desk;
      return { now: [waiting], later: waiting.length === 0 ? [s.engine.state.seq] : moment(s) };
    },
    make: ({ engine }) => ({ waiting: waitingNow(engine), ended: engine.state.desk.waited }),
  }),
  values: ({ symbol }) => ({
    ...aboutOne(symbol),
    make: ({ engine: { market }, focus }) => {
      const name = symbol ?? focus;
      return { symbol: name, values: valuesOf(market, market.number(name)) };
    },
  }),
  sheet: ({ symbol }) => ({
    ...aboutOne(symbol),
    make: ({ engine, focus }) => ({ symbol: symbol ?? focus, sheet: sheetOf(engine, symbol ?? focus) }),
  }),
  why({ symbol, table }) {
    return {
      ...aboutOne(symbol),
      make({ engine: { market }, focus }) {
        const name = symbol ?? focus;
        return { symbol: name, ...whyOf(market, readTable(table), market.number(name)) };
      },
    };
  },
  names: () => ({
    every: 1_000,
    from: (s) => ({ now: [s.focus, s.engine.state.desk], later: [second(s)] }),
    make({ engine, focus }) {
      const { desk } = engine.state;
      const view = symbolView(engine, focus);
      const levels = Object.keys(desk.levels[focus] ?? {});
      return {
        symbol: focus,
        names: view ? namedPrices(view, levels) : [],
        plans: desk.plans.plans.map((p) => p.name),
        levels,
      };
    },
    same: sameJson,
  }),
  plan: ({ text, ...example }) => ({
    every: 1_000,
    from: (s) =>
      meant(s, null) === null ? null : { now: [s.focus, s.engine.state.desk.plans], later: [second(s)] },
    make: ({ engine, focus }) => planSeen(engine, focus, text, example),
  }),
};

/** What is told of one symbol once a second while time runs. */
const aboutOne = (symbol: string | null): Pick<Live<unknown>, 'every' | 'from'> => ({
  every: 1_000,
  from(s) {
    const name = meant(s, symbol);
    return name === null ? null : { now: [name, s.engine.market.date], later: moment(s) };
  },
});

const sameJson = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** What belongs to a symbol's day, and to a part of it. */
function ofDay(s: Scene, symbol: string | null, part: number = 0): Source | null {
  const name = meant(s, symbol);
  return name === null ? null : { now: [name, s.engine.market.date, part] };
}

/** Money follows orders at once and prices now and then; while time stands it is that of its moment. */
function moneySource({ engine, speed }: Scene): Source {
  const now = [engine.state.broker, accountInUse(engine), speed === 0];
  const price = engine.market.now();
  return speed === 0 ? { now: [...now, price] } : { now, later: [price] };
}

const deskSlice = ({ state: { desk, broker } }: Engine): DeskSlice => ({
  account: desk.account,
  accounts: Object.values(broker.accounts).map(({ id, rules, next, fees }) => ({ id, rules, next, fees })),
  ticket: desk.ticket,
  loaded: desk.ticket ? `size ${printTree(desk.ticket)}` : '',
  staged: desk.staged
    .filter((x) => x.account === desk.account)
    .map((x) => ({ id: x.id, symbol: x.symbol, text: stagedText(x), at: x.at, place: x.place ?? null })),
  levels: desk.levels,
  notes: desk.notes,
});
