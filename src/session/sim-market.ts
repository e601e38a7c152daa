import { isOption, rootOf } from '../core/instruments/index.ts';
import { barsOf, createTape, type DailyBar, type Listing, record, statusOf } from '../core/market/index.ts';
import {
  aheadOf,
  arrive,
  auctionOf,
  type Carry,
  carryOf,
  carryOut,
  carryOutInPit,
  catchUp,
  changeLine,
  closePit,
  counted,
  createLine,
  createMarket,
  type DayFrame,
  dailyHistory,
  depthOf,
  endDay,
  executionsOf,
  type Floorside,
  follow,
  forget,
  frameOf,
  haltOf,
  hasSymbol,
  keepFloor,
  type Line,
  leaveOut,
  listed,
  look,
  nextDue,
  nextLook,
  numberOf,
  openPit,
  ownDailyBars,
  type Pit,
  type Prior,
  passes,
  pitAhead,
  pitDepth,
  pitOrders,
  pitQuote,
  printOf,
  priorOf,
  quoteOf,
  type Register,
  register,
  report,
  runAlone,
  saveMarket,
  sharpen,
  standStill,
  stepMarket,
  tapeOf,
  unlisted,
  workingOrders,
  worthNow,
} from '../core/sim/index.ts';
import { DAY, type Price } from '../core/units/index.ts';
import type { VenueCommand } from '../core/venue/index.ts';
import {
  type DaySource,
  type DayStart,
  FIRST,
  type KeptMarket,
  openDay,
  reviveDay,
  scenarioOf,
  scenarioOfOne,
} from './day-ref.ts';
import type { DayMarket } from './ports.ts';

/** The simulated exchange behind the feed and exchange ports; from the start of a day, or from what was kept of it. */
export function simMarket(source: DaySource, kept: unknown = null, start: DayStart = FIRST): DayMarket {
  const before = kept as KeptMarket | null;
  let m = before ? reviveDay(source, before) : openDay(source, start);
  let dayNumber = before?.dayNumber ?? start.dayNumber;
  let dates = before?.dates ?? [m.scenario.date];
  let carry: Carry | null = before?.carry ?? start.carry;
  let past: Carry[] = before?.past ?? [];
  carry = past[past.length - 1] ?? carry;
  let firstDay: { date: string; instruments: readonly Listing[] } | null = null;
  const lists = () => ({
    instruments: m.scenario.symbols.map((s) => s.instrument),
    news: m.scenario.news.map((n) => ({ ...n, at: m.dayStart + n.at })),
  });
  let { instruments, news } = lists();
  const line: Line = before?.line ?? createLine(m.scenario.seed);
  const pit: Pit = before?.pit ?? openPit(m.scenario.seed);
  const known: Register = before?.register ?? {};
  /** What the options market sees of the stocks. */
  const floorside = (): Floorside => ({
    now: m.now,
    dayStart: m.dayStart,
    date: m.scenario.date,
    hours: m.scenario.hours,
    has: (symbol) => hasSymbol(m, symbol),
    listing: (symbol) => truthOf(found(symbol))?.instrument ?? (instruments[found(symbol)] as Listing),
    quote: (symbol) => quoteOf(m, symbol),
    stopped: (symbol) => statusOf(m.board, found(symbol)) !== 'trading',
  });
  /** A request of the trader, carried out where what it names trades. */
  const execute = (command: VenueCommand): void => {
    register(known, command, dayNumber);
    if (command.kind === 'executions') return report(line, m.now, [executionsOf(known, command, m.now)]);
    if (!isOption(command.symbol)) return carryOut(m, command);
    // Its makers follow every move of the underlying from now on.
    if (hasSymbol(m, rootOf(command.symbol))) keepFloor(m, rootOf(command.symbol));
    m.reports.push(...carryOutInPit(pit, floorside(), command));
  };
  /** What the exchange has to say starts on its way. */
  const cross = () => {
    if (m.reports.length > 0)
      report(
        line,
        m.now,
        m.reports.splice(0).map((o) => counted(known, o)),
      );
  };
  const found = (symbol: string) => numberOf(m, rootOf(symbol));
  /** The days so far with what those that were not run really were, where somebody looked: made again when it is asked for, never kept. */
  const sharp: Carry[] = [];
  const frames: DayFrame[] = [];
  const looked = new Map<number, Prior>();
  /**
   * What is truly known of a symbol before today, where days of it have not been run; null where it is as it is listed.
   * It depends on nothing but the days, and changes nothing but what is answered to whoever looks.
   */
  const truthOf = (i: number): Prior | null => {
    const first = past.findIndex((day) => day.coarse[i] === 1);
    if (first < 0) return null;
    const there = looked.get(i);
    if (there) return there;
    past.forEach((day, n) => {
      sharp[n] ??= structuredClone(day);
      const [now, before] = [sharp[n], sharp[n - 1] ?? null];
      if (day.coarse[i] === 1) {
        const alone = scenarioOfOne(source, n, before, i);
        frames[n] ??= frameOf(alone);
        sharpen(now, i, alone, frames[n]);
      } else if (n > first && before) follow(now, before, i);
    });
    const truth = priorOf(instruments[i] as Listing, sharp[past.length - 1] as Carry, i);
    looked.set(i, truth);
    return truth;
  };
  return {
    get instruments() {
      return instruments;
    },
    get news() {
      return news;
    },
    get title() {
      return m.scenario.title;
    },
    get character() {
      return m.scenario.character;
    },
    get date() {
      return m.scenario.date;
    },
    get dates() {
      return dates;
    },
    get hours() {
      return m.scenario.hours;
    },
    get startAt() {
      return m.dayStart + m.scenario.startAt;
    },
    get dayStart() {
      return m.dayStart;
    },
    get board() {
      return m.board;
    },
    now: () => m.now,
    next(until) {
      const message = nextDue(line) ?? Number.POSITIVE_INFINITY;
      const makers = nextLook(pit);
      const due = Math.min(message, makers?.at ?? Number.POSITIVE_INFINITY);
      const i = stepMarket(m, Math.min(due, until));
      const stepped = m.scenario.symbols[i]?.instrument.symbol;
      if (stepped !== undefined) return { symbol: stepped, traded: m.printed === i };
      if (due > until) return null;
      if (makers && makers.at < message) {
        m.reports.push(...look(pit, floorside(), makers.name));
        cross();
        return { symbol: makers.name, traded: true };
      }
      // Everything before it has happened: the message arrives.
      const { symbol, command } = arrive(line);
      if (command) execute(command);
      return {
        symbol: symbol ?? m.scenario.symbols[0]?.instrument.symbol ?? '',
        traded: command !== null && m.printed >= 0,
      };
    },
    happened: () => m.happened,
    nextDay() {
      const handed = carryOf(m);
      // Throws where there is no further day: then this one goes on as it was.
      const next = createMarket(scenarioOf(source, dayNumber + 1, handed), dayNumber + 1);
      m.reports.push(...closePit(pit, m.now));
      endDay(m);
      cross();
      carry = handed;
      past = [...past, handed];
      dayNumber++;
      forget(known, dayNumber - 1);
      if (m.coarse) standStill(next);
      m = next;
      looked.clear();
      ({ instruments, news } = lists());
      dates = [...dates, m.scenario.date];
    },
    standStill() {
      standStill(m);
    },
    get still() {
      return m.coarse;
    },
    catchUp(from, count) {
      catchUp(m, from, count);
    },
    leaveOut(who) {
      leaveOut(m, who);
    },
    has: (symbol) =>
      isOption(symbol)
        ? hasSymbol(m, rootOf(symbol)) &&
          unlisted(symbol, floorside().listing(rootOf(symbol)), m.scenario.date) === null
        : hasSymbol(m, symbol),
    number: found,
    instrument(symbol) {
      const i = found(symbol);
      return truthOf(i)?.instrument ?? (instruments[i] as Listing);
    },
    last: (symbol) => (m.board.last[found(symbol)] || null) as Price | null,
    quote: (symbol) => (isOption(symbol) ? pitQuote(pit, symbol, floorside()) : quoteOf(m, symbol)),
    worth: (symbol) => worthNow(symbol, floorside()),
    unlisted: (symbol) =>
      hasSymbol(m, rootOf(symbol))
        ? unlisted(symbol, floorside().listing(rootOf(symbol)), m.scenario.date)
        : `${rootOf(symbol)} is not listed`,
    status: (symbol) => statusOf(m.board, found(symbol)),
    restricted(symbol) {
      const i = found(symbol);
      const today = m.board.restricted[i] as number;
      return today === 2 || (truthOf(i)?.restricted ?? today !== 0);
    },
    tape: (symbol) => tapeOf(m, symbol),
    depth: (symbol, levels) =>
      isOption(symbol) ? pitDepth(pit, symbol, floorside(), levels) : depthOf(m, symbol, levels),
    watch: (symbol) => keepFloor(m, rootOf(symbol)),
    auction: (symbol) => auctionOf(m, symbol),
    stops: () =>
      m.stops.map(({ i, at, stopped }) => ({
        symbol: (instruments[i] as (typeof instruments)[number]).symbol,
        at,
        stopped,
      })),
    halt: (symbol) => haltOf(m, symbol),
    daily(symbol) {
      if (source.own) return ownDailyBars(source.own, symbol, m.scenario.date);
      const i = found(symbol);
      // The candles before the session's first day end in that day's prior candle; where its days are not all known, in today's.
      const whole = past.length === dayNumber;
      if (!whole || dayNumber === 0) firstDay = { date: m.scenario.date, instruments };
      else if (!firstDay) {
        const first = scenarioOf(source, 0, null);
        firstDay = { date: first.date, instruments: first.symbols.map((x) => x.instrument) };
      }
      const since = (!whole ? [] : truthOf(i) ? sharp : past).flatMap((d): DailyBar[] =>
        d.highs[i] === 0
          ? []
          : [
              {
                date: d.date,
                open: (d.opens[i] || d.closes[i]) as number,
                high: d.highs[i] as number,
                low: d.lows[i] as number,
                close: d.closes[i] as number,
                volume: d.volumes[i] as number,
              },
            ],
      );
      return [...dailyHistory(firstDay.instruments[i] as Listing, firstDay.date), ...since];
    },
    earlier(symbol, days) {
      const from = Math.max(0, past.length - days);
      return past.slice(from).flatMap((_, k) => {
        const [at, n] = [from + k, dayNumber - past.length + from + k];
        const alone = scenarioOfOne(
          source,
          n,
          past[at - 1] ?? (at === 0 ? start.carry : null),
          found(symbol),
        );
        const who = alone.symbols.findIndex((s) => s.instrument.symbol === symbol);
        if (who < 0) return [];
        const tape = createTape(symbol, alone.hours.close);
        const dayStart = m.dayStart - (past.length - at) * DAY;
        runAlone(alone, who, alone.hours.end, (h) => record(tape, printOf(symbol, dayStart, h)));
        return barsOf(tape, 1);
      });
    },
    history(symbol) {
      const out: ReturnType<typeof printOf>[] = [];
      runAlone(
        m.scenario,
        found(symbol),
        m.now - m.dayStart,
        (h) => out.push(printOf(symbol, m.dayStart, h)),
        m.frame,
      );
      return out;
    },
    carryOut(command) {
      if (!isOption(command.symbol) && hasSymbol(m, command.symbol)) {
        // Where the trader comes in, what was only drawn of a restriction gives way to what was.
        const i = found(command.symbol);
        const truth = truthOf(i);
        if (truth && m.board.restricted[i] !== 2) m.board.restricted[i] = truth.restricted ? 1 : 0;
      }
      if (passes(line, m.now, command)) execute(command);
      cross();
    },
    drain() {
      cross();
      return line.here.splice(0);
    },
    ahead: (symbol, id) => (isOption(symbol) ? pitAhead(pit, symbol, id) : aheadOf(m, symbol, id)),
    line: () => line,
    changeLine(c) {
      cross();
      changeLine(line, m.now, c, () => [...workingOrders(m), ...pitOrders(pit)].map((x) => listed(known, x)));
    },
    start: () => ({ dayNumber, carry }),
    save: (): KeptMarket => ({
      dayNumber,
      dates,
      carry,
      past,
      market: saveMarket(m),
      line,
      pit,
      register: known,
    }),
  };
}
