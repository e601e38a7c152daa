import { multipleOf } from '../../core/account/index.ts';
import { isOption } from '../../core/instruments/index.ts';
import { printTree } from '../../core/language/index.ts';
import { contextOf, type MarketContext, minuteOf } from '../../core/market/index.ts';
import {
  type Broker,
  type Fill,
  type Holding,
  type OrderEvent,
  openRisk,
  wireOf,
} from '../../core/orders/index.ts';
import { reviewTrade } from '../../core/review/index.ts';
import { shelf } from '../../core/units/index.ts';
import { brokerContext, markOf } from '../../session/circuit.ts';
import { account, accountInUse, type Engine } from '../../session/engine.ts';
import { stagedText } from '../../session/scripts.ts';
import { marketView, stocksOf } from '../../session/view.ts';
import type { BookSlice, ClockSlice, DeskSlice, MarksSlice, Seen, Update } from './session-messages.ts';
import type { Watch } from './watch.ts';

/** What is told from. */
interface Watched {
  engine: Engine;
  speed: number;
  jumpingTo: number | null;
  focus: string;
  watches: ReadonlyMap<string, Watch>;
  attempt: number;
  watching: ClockSlice['watching'];
}

/** Slices that are computed from everything are told at most so often while time runs, in ms of wall time; at rest they are told at once. */
const ACCOUNT_EVERY = 200;
const CONTEXT_EVERY = 1_000;

export interface Slices {
  /** What has changed since it was last asked, or null. `wall` is wall time in ms. */
  changes(w: Watched, wall: number): Update | null;
  /** Computes the slices with a pace of their own at the next chance. */
  soon(): void;
}

/** Remembers what was told, so that only slices that changed are told again. */
export function createSlices(): Slices {
  const due = { account: 0, context: 0 };
  /** Whether prices have moved since the account was told. */
  let stale = false;
  let toldRules: unknown[] = [];
  /** By slice, what it was last made from. */
  const told: Partial<Record<keyof Update, unknown>> = {};
  const tellBook = bookTeller();
  return {
    soon: () => void Object.assign(due, { account: 0 }),
    changes(w, wall) {
      const update: Update = {};
      const { market, state } = w.engine;
      const now = market.now();
      /** Tells a slice when what it is made from has changed. */
      const tell = <K extends keyof Update>(slice: K, from: unknown, make: () => Update[K]): void => {
        if (told[slice] === from) return;
        told[slice] = from;
        update[slice] = make();
      };
      tell(
        'clock',
        `${Math.floor(now / 1000)} ${w.speed} ${state.session} ${w.jumpingTo} ${w.attempt} ${w.watching?.coming} ${market.date}`,
        () => clockSlice(w),
      );
      tell('focusOn', w.focus, () => w.focus);
      const watched = watchedBy(w, wall);
      if (watched) update.watched = watched;
      tell('news', minuteOf(now), () => market.news.filter((n) => n.at <= now));
      tell('book', state.broker, () => tellBook(state.broker, state.events));
      const inUse = accountInUse(w.engine);
      const moved = update.book !== undefined || told.account !== inUse;
      stale ||= watched !== null || update.clock !== undefined;
      if (moved || (stale && (wall >= due.account || w.speed === 0))) {
        stale = false;
        due.account = wall + ACCOUNT_EVERY;
        told.account = inUse;
        const { id, rules } = inUse;
        update.account = {
          ...account(w.engine),
          id,
          riskUnit: rules.riskUnit,
          name: rules.name,
          kind: rules.kind,
          multiple: multipleOf(inUse),
          openRisk: Math.round(openRisk(state.broker, id, brokerContext(w.engine))),
        };
        update.marks = marksSlice(w.engine);
      }
      const rules = Object.values(state.broker.accounts).map((a) => a.rules);
      const sameRules = rules.every((r, k) => r === toldRules[k]) && rules.length === toldRules.length;
      if (!sameRules) told.desk = undefined;
      toldRules = rules;
      tell('desk', state.desk, () => deskSlice(w.engine));
      const { up, latency } = market.line();
      tell('line', `${up} ${JSON.stringify(latency)}`, () => ({ up, latency }));
      tell('alerts', state.alerts, () => ({ list: state.alerts.list, fired: state.alerts.fired }));
      tell('symbols', market.instruments, () => market.instruments.map((i) => i.symbol));
      if (wall >= due.context) {
        due.context = wall + CONTEXT_EVERY;
        tell('context', now, () => contextSlice(w.engine));
      }
      return Object.keys(update).length > 0 ? update : null;
    },
  };
}

function clockSlice({ engine: { market, state }, speed, attempt, watching, jumpingTo }: Watched): ClockSlice {
  const { date, dates, title, character, hours, dayStart } = market;
  const now = market.now();
  return {
    now,
    session: state.session,
    speed,
    date,
    dates,
    title,
    character,
    hours,
    dayStart,
    attempt,
    watching,
    jumpingTo,
  };
}

/** What the watches have to tell; null when nothing. */
function watchedBy(w: Watched, wall: number): Record<string, Seen> | null {
  const out: Record<string, Seen> = {};
  let some = false;
  for (const [id, watch] of w.watches) {
    const seen = watch.changes(w, wall);
    if (!seen) continue;
    out[id] = seen;
    some = true;
  }
  return some ? out : null;
}

function contextSlice({ market }: Engine): MarketContext {
  const index = market.instruments.findIndex((i) => i.kind === 'index stand-in');
  return contextOf(marketView(market), stocksOf(market), index);
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

/** Remembers what of the book was told, so that a step costs what it changed, not what has been. */
function bookTeller(): (b: Broker, events: readonly OrderEvent[]) => BookSlice {
  let told: Broker | null = null;
  let eventId = 0;
  const fills = new Map<number, Fill[]>();
  return (b, events) => {
    const before = told;
    told = b;
    for (const f of shelf.changed(before?.past.fills ?? null, b.past.fills)) {
      const list = fills.get(f.tradeId);
      if (list) list.push(f);
      else fills.set(f.tradeId, [f]);
    }
    const out: BookSlice = {
      whole: before === null,
      trades: [],
      orders: [],
      scopes: [],
      reviews: [],
      events: events.filter((e) => e.id > eventId),
    };
    eventId = events[events.length - 1]?.id ?? eventId;
    const fresh = <T extends { id: number }>(now: readonly T[], old: readonly T[] | undefined) =>
      now.filter((x) => !old?.includes(x));
    for (const key in b.holdings) {
      const now = b.holdings[key] as Holding;
      const old = before?.holdings[key];
      if (now === old) continue;
      out.trades.push(...fresh(now.trades, old?.trades));
      out.orders.push(...fresh(now.orders, old?.orders));
      out.scopes.push(...fresh(now.scopes, old?.scopes));
    }
    out.trades.push(...shelf.changed(before?.past.trades ?? null, b.past.trades));
    out.orders.push(...shelf.changed(before?.past.orders ?? null, b.past.orders));
    out.scopes.push(...shelf.changed(before?.past.scopes ?? null, b.past.scopes));
    for (const list of [out.trades, out.orders, out.scopes]) list.sort((x, y) => x.id - y.id);
    out.reviews = out.trades.flatMap((t) => reviewTrade(t, fills.get(t.id) ?? []) ?? []);
    return out;
  };
}

function marksSlice(e: Engine): MarksSlice {
  const { broker } = e.state;
  const { market } = e;
  const last: Record<string, number | null> = {};
  const ahead: Record<number, number> = {};
  for (const h of Object.values(broker.holdings)) {
    if (!market.has(h.symbol)) continue;
    last[h.symbol] = isOption(h.symbol) ? markOf(e, h.symbol) : market.last(h.symbol);
    for (const o of h.orders) {
      const wire = wireOf(o);
      const n = wire && market.ahead(o.symbol, wire.id);
      if (n !== null) ahead[o.id] = n;
    }
  }
  return { last, ahead };
}
