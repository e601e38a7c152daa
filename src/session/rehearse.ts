// One day of a rehearsal: an engine like the trader's, whose keys are pressed by conditions.
import type { AccountSetup } from '../core/account/index.ts';
import { totalOf } from '../core/account/index.ts';
import { explain, parseRule, purposeOf } from '../core/language/index.ts';
import { everything, holdingOf, openTrade, type Trade } from '../core/orders/index.ts';
import type { PlanBook } from '../core/reading/index.ts';
import type { Hand, Press, RehearsalTerms, RehearsedTrade } from '../core/rehearsal/index.ts';
import { reviewTrade } from '../core/review/index.ts';
import { type AccountId, clockOf, MINUTE, type OrderId, type TradeId } from '../core/units/index.ts';
import { type DaySource, symbolsListed } from './day-ref.ts';
import { advance, apply, createEngine, dayEnd, type Engine } from './engine.ts';
import type { LogEntry } from './log.ts';
import { everMembers, isMember, type Members, membersOf } from './members.ts';
import { parsed } from './read-texts.ts';
import { runInput } from './scripts.ts';
import { simMarket } from './sim-market.ts';

/** The trader's side of a rehearsal: what every day begins with. */
export interface RehearsalDesk {
  accounts: readonly AccountSetup[];
  account: AccountId;
  plans: PlanBook;
}

/** A key that was pressed: when (session time), for which symbol, which of the hand's keys (null: out at the end), and why nothing came of it. */
export interface Pressed {
  at: number;
  symbol: string;
  key: number | null;
  problem: string | null;
}

/** What one hand did on one day. */
export interface HandDay {
  trades: Omit<RehearsedTrade, 'day'>[];
  pressed: Pressed[];
  /** Conditions that could not be waited for, in words. */
  problems: string[];
}

/** What is asked of one day, and what is known of its scan already. */
export interface DayJob {
  source: DaySource;
  /** Which date of imported data; 0 for a practice day. */
  n: number;
  terms: RehearsalTerms;
  desk: RehearsalDesk;
  members: Members | null;
}

/** What a day came to: one entry a hand, and the scan's members where they had to be worked out. */
export interface DayDone {
  hands: HandDay[];
  members: Members | null;
}

/** Rehearses one day with each hand. @throws Error where the scan does not read, or the data is gone. */
export function rehearseDay({ source, n, terms, desk, members }: DayJob): DayDone {
  const { symbols, from, to } = terms;
  if (symbols.kind === 'one') {
    const place = symbolsListed(source).indexOf(symbols.symbol);
    const problems = [`“${symbols.symbol}” is not listed on this day.`];
    const none: HandDay = { trades: [], pressed: [], problems };
    const cast = { who: [place], may: () => true };
    return {
      members: null,
      hands: terms.hands.map((h) => (place < 0 ? none : rehearseHand({ source, n }, cast, h, terms, desk))),
    };
  }
  const parsed = parseRule(symbols.rule);
  if (!parsed.ok) throw new Error(`The scan “${symbols.name}” does not read: ${explain(parsed.problem)}`);
  const known = members !== null && members.from <= from && members.to >= to;
  const seen = known
    ? members
    : membersOf(source, n, { rule: parsed.rule, ranking: symbols.ranking }, from, to);
  const cast: RehearsalCast = {
    who: everMembers(seen, symbols.first, from, to),
    may: (place, at) => isMember(seen, symbols.first, place, at),
  };
  return {
    members: known ? null : seen,
    hands: terms.hands.map((h) => rehearseHand({ source, n }, cast, h, terms, desk)),
  };
}

/** Which symbols of a day are looked at, and whether one may be entered at a session time; that may change with each minute. */
export interface RehearsalCast {
  /** Places in the day's list, rising. */
  who: readonly number[];
  may(place: number, at: number): boolean;
}

/** Places of the symbols that a hand's texts speak of: they have to be there as well. */
function spokenOf(source: DaySource, hand: Hand): number[] {
  const words = new Set(hand.presses.flatMap((p) => `${p.when} ${p.script}`.toUpperCase().split(/[^A-Z.]+/)));
  return symbolsListed(source).flatMap((s, i) => (words.has(s) ? [i] : []));
}

interface Due {
  at: number;
  symbol: string;
  key: number;
}

/** Runs one hand through one day. The same terms give the same day, to the last share. */
export function rehearseHand(
  { source, n }: Pick<DayJob, 'source' | 'n'>,
  cast: RehearsalCast,
  hand: Hand,
  terms: RehearsalTerms,
  desk: RehearsalDesk,
): HandDay {
  const spoken = spokenOf(source, hand);
  const only = [...new Set([...cast.who, ...spoken])].sort((a, b) => a - b);
  if (cast.who.length === 0) return { trades: [], pressed: [], problems: [] };
  const market = simMarket({ ...source, only }, null, { dayNumber: n, carry: null });
  const e = createEngine(market, desk.accounts);
  e.state = { ...e.state, desk: { ...e.state.desk, plans: desk.plans, account: desk.account } };
  apply(e, { kind: 'line', change: { kind: 'latency', latency: { from: terms.line, to: terms.line } } });
  const listed = symbolsListed(source);
  const places = new Map(cast.who.map((i) => [listed[i] as string, i]));
  const may = (symbol: string, at: number) => cast.may(places.get(symbol) as number, at);
  return new Player(e, hand, terms, [...places.keys()], may).play();
}

/** One hand at one day. */
class Player {
  readonly #middles: ReturnType<typeof createMiddles>;
  readonly #to: number;
  readonly #out: number;
  readonly #ways: readonly ReturnType<typeof purposeOf>[];
  readonly #pressed: Pressed[] = [];
  readonly #went: number[];
  readonly #problems = new Set<string>();
  /** Conditions that wait, by key and symbol. */
  readonly #armed = new Map<string, number>();
  #due: Due[] = [];
  /** What happened while something was asked for. */
  readonly #late: LogEntry[] = [];

  constructor(
    readonly e: Engine,
    readonly hand: Hand,
    readonly terms: RehearsalTerms,
    readonly symbols: readonly string[],
    readonly may: (symbol: string, at: number) => boolean,
  ) {
    const { dayStart, hours } = e.market;
    this.#middles = createMiddles(e);
    this.#to = dayStart + terms.to * MINUTE;
    // On a half day whatever is open goes before its close, too.
    this.#out = Math.min(dayStart + terms.out * MINUTE, dayStart + hours.close - MINUTE);
    this.#ways = hand.presses.map((p) => purposeOf(parsed(p.script).statements));
    this.#went = hand.presses.map(() => 0);
  }

  /** Plays the day to its end. */
  play(): HandDay {
    const { e } = this;
    this.#take(advance(e, e.market.dayStart + this.terms.from * MINUTE));
    this.#minutesTo(this.#out, () => this.#attend());
    this.#due = [];
    // Whoever is paused or halted then gets out when it trades again.
    this.#minutesTo(dayEnd(e), () => {
      for (const symbol of this.symbols) if (this.#busy(symbol)) this.#press(symbol, null);
    });
    const pressed = this.#pressed;
    return { trades: tradesOf(e, pressed, this.#middles.of), pressed, problems: [...this.#problems] };
  }

  #obey(symbol: string, text: string): string | null {
    const { result, entries } = apply(this.e, runInput(text, symbol));
    this.#late.push(...entries);
    return result.problem;
  }

  #busy(symbol: string): boolean {
    const { broker, desk } = this.e.state;
    const h = holdingOf(broker, desk.account, symbol);
    return openTrade(h) !== undefined || h.orders.length > 0;
  }

  #left(key: number): boolean {
    return (this.#went[key] as number) < (this.hand.presses[key] as Press).most;
  }

  /** A way in is pressed while nothing is held or ordered there, every other key that concerns orders while something is. */
  #wanted(symbol: string, key: number): boolean {
    const now = this.e.market.now();
    if (!this.#left(key) || now >= this.#out) return false;
    const way = this.#ways[key];
    if (way === 'in') return now <= this.#to && !this.#busy(symbol) && this.may(symbol, now);
    return way === 'size' || way === 'see' || this.#busy(symbol);
  }

  /**
   * Waits for the conditions of the keys that would be pressed, and for no other: a condition that became true
   * while nobody would press has to become false first, so it comes to the same as if all were always looked at.
   */
  #attend(): void {
    for (const symbol of this.symbols)
      for (const [key, { when }] of this.hand.presses.entries()) this.#arm(symbol, key, when);
  }

  #arm(symbol: string, key: number, when: string): void {
    const name = `${key} ${symbol}`;
    const id = this.#armed.get(name);
    if (this.#wanted(symbol, key) === (id !== undefined)) return;
    if (id !== undefined) {
      this.#armed.delete(name);
      this.#obey(symbol, `cancel condition ${id}`);
      return;
    }
    const next = this.e.state.desk.nextWaiting;
    const problem = this.#obey(symbol, `when newly ${when}: note "key ${key + 1}"`);
    if (problem === null) this.#armed.set(name, next);
    else this.#problems.add(`“${when}”: ${problem}`);
  }

  /** What has fired is a key to be pressed. */
  #take(entries: readonly LogEntry[]): void {
    this.#middles.take(entries);
    for (const { fired, at } of entries) {
      const of = fired?.of === 'condition' ? [...this.#armed].find(([, id]) => id === fired.id) : undefined;
      if (!of) continue;
      this.#armed.delete(of[0]);
      const [key, symbol] = of[0].split(' ') as [string, string];
      this.#due.push({ symbol, key: Number(key), at: at + this.terms.reaction });
    }
  }

  #press(symbol: string, key: number | null): void {
    const text = key === null ? 'flatten' : (this.hand.presses[key] as Press).script;
    const problem = this.#middles.around(symbol, () => this.#obey(symbol, text));
    this.#pressed.push({ at: this.e.market.now(), symbol, key, problem });
    if (key !== null) this.#went[key] = (this.#went[key] as number) + 1;
  }

  /** Nobody will press anything any more today. */
  #over(): boolean {
    const idle = this.#due.length === 0 && !this.symbols.some((s) => this.#busy(s));
    const mayEnter = this.#ways.some((way, k) => way === 'in' && this.#left(k));
    return idle && (this.e.market.now() > this.#to || !mayEnter);
  }

  #runTo(until: number): void {
    const { e } = this;
    while (e.market.now() < until && !this.#over()) {
      const next = this.#due.reduce((a, d) => Math.min(a, d.at), until);
      const before = e.state.broker.holdings;
      this.#take(advance(e, next, (entries) => e.state.broker.holdings !== before || entries.length > 0));
      const now = e.market.now();
      const ready = this.#due.filter((d) => d.at <= now);
      this.#due = this.#due.filter((d) => d.at > now);
      for (const d of ready) if (this.#wanted(d.symbol, d.key)) this.#press(d.symbol, d.key);
      this.#attend();
      this.#take(this.#late.splice(0));
    }
  }

  /** Runs on minute by minute, as with each of them other symbols may be in the scan. */
  #minutesTo(end: number, each: () => void): void {
    for (let until = this.e.market.now(); until < end && !this.#over(); ) {
      each();
      until = Math.min(until + MINUTE, end);
      this.#runTo(until);
    }
  }
}

/** The middle of the quote when an order was asked for, or when a stop triggered. */
function createMiddles(e: Engine) {
  const of = new Map<OrderId, number>();
  const middle = (symbol: string): number | null => {
    const { bid, ask } = e.market.quote(symbol);
    return bid !== null && ask !== null ? (bid + ask) / 2 : e.market.last(symbol);
  };
  return {
    of,
    /** Orders that come of a press have the middle of that moment. */
    around<T>(symbol: string, ask: () => T): T {
      const first = e.state.broker.next.order;
      const seen = middle(symbol);
      const out = ask();
      if (seen !== null)
        for (let id = first; id < e.state.broker.next.order; id++) of.set(id as OrderId, seen);
      return out;
    },
    take(entries: readonly LogEntry[]): void {
      for (const { events } of entries)
        for (const v of events) {
          if (v.kind !== 'triggered' || v.orderId === null) continue;
          of.set(v.orderId, middle(v.symbol) ?? v.seen);
        }
    },
  };
}

function tradesOf(
  e: Engine,
  pressed: readonly Pressed[],
  middles: ReadonlyMap<OrderId, number>,
): HandDay['trades'] {
  const { trades, fills } = everything(e.state.broker);
  const unit = e.state.broker.accounts[e.state.desk.account]?.rules.riskUnit ?? 1;
  const slipped = new Map<TradeId, number>();
  for (const f of fills) {
    // A target that rested gave its price to whoever came.
    const middle = f.role === 'target' ? undefined : middles.get(f.orderId);
    if (middle === undefined) continue;
    const by = (f.side === 'buy' ? f.price - middle : middle - f.price) * f.qty;
    slipped.set(f.tradeId, (slipped.get(f.tradeId) ?? 0) + by);
  }
  return trades.flatMap((t: Trade) => {
    const seen = reviewTrade(t, []);
    if (!seen) return [];
    const open = t.entered - t.exited;
    const last = e.market.last(t.symbol) ?? seen.averageEntry;
    const gross = seen.gross + t.sign * open * (last - seen.averageEntry);
    const costs = totalOf(t.costs);
    const risk = t.risk || unit;
    const press = pressed.findLast((p) => p.symbol === t.symbol && p.at <= seen.openedAt);
    return [
      {
        symbol: t.symbol,
        side: seen.direction,
        pressedAt: clockOf(press?.at ?? seen.openedAt),
        enteredAt: clockOf(seen.openedAt),
        leftAt: clockOf(seen.closedAt ?? e.market.now()),
        price: seen.averageEntry,
        shares: t.entered,
        r: (gross - costs) / risk,
        gross,
        costs,
        slippage: slipped.get(t.id) ?? 0,
        risk,
        open: t.closedAt === null,
      },
    ];
  });
}
