import { type DailyBar, type Listing, statusOf } from '../core/market/index.ts';
import {
  aheadOf,
  arrive,
  auctionOf,
  type Carry,
  carryOf,
  carryOut,
  catchUp,
  changeLine,
  createLine,
  createMarket,
  type DayFrame,
  dailyHistory,
  depthOf,
  endDay,
  frameOf,
  haltOf,
  hasSymbol,
  keepFloor,
  type Line,
  nextDue,
  numberOf,
  ownDailyBars,
  passes,
  printOf,
  quoteOf,
  report,
  runAlone,
  saveMarket,
  sharpen,
  standStill,
  stepMarket,
  takeOver,
  tapeOf,
  workingOrders,
} from '../core/sim/index.ts';
import type { Price } from '../core/units/index.ts';
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
  /** What the exchange has to say starts on its way. */
  const cross = () => {
    if (m.reports.length > 0) report(line, m.now, m.reports.splice(0));
  };
  const tides = new Map<number, DayFrame>();
  /**
   * Somebody looks at a symbol: where days of it have not been run, what they really were takes the place
   * of what was drawn of them.
   */
  const sharpened = (i: number): void => {
    if (carry?.coarse[i] !== 1) return;
    past.forEach((day, n) => {
      if (day.coarse[i] !== 1) return;
      const alone = scenarioOfOne(source, n, past[n - 1] ?? null, i);
      const frame = tides.get(n) ?? frameOf(alone);
      tides.set(n, frame);
      sharpen(day, i, alone, frame);
    });
    takeOver(m, i, carry);
  };
  const found = (symbol: string) => {
    const i = numberOf(m, symbol);
    sharpened(i);
    return i;
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
      const due = nextDue(line);
      const message = due !== null && due <= until;
      const i = stepMarket(m, message ? due : until);
      const stepped = m.scenario.symbols[i]?.instrument.symbol;
      if (stepped !== undefined) return { symbol: stepped, traded: m.printed === i };
      if (!message) return null;
      // Everything before it has happened: the message arrives.
      const { symbol, command } = arrive(line);
      if (command) carryOut(m, command);
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
      endDay(m);
      cross();
      carry = handed;
      past = [...past, handed];
      dayNumber++;
      if (m.coarse) standStill(next);
      m = next;
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
    has: (symbol) => hasSymbol(m, symbol),
    number: (symbol) => numberOf(m, symbol),
    instrument: (symbol) => instruments[found(symbol)] as (typeof instruments)[number],
    last: (symbol) => (m.board.last[found(symbol)] || null) as Price | null,
    quote(symbol) {
      found(symbol);
      return quoteOf(m, symbol);
    },
    status: (symbol) => statusOf(m.board, found(symbol)),
    restricted: (symbol) => m.board.restricted[found(symbol)] !== 0,
    tape(symbol) {
      found(symbol);
      return tapeOf(m, symbol);
    },
    depth: (symbol, levels) => depthOf(m, symbol, levels),
    watch(symbol) {
      found(symbol);
      keepFloor(m, symbol);
    },
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
      const since = (whole ? past : []).flatMap((d): DailyBar[] =>
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
      if (hasSymbol(m, command.symbol)) found(command.symbol);
      if (passes(line, m.now, command)) carryOut(m, command);
      cross();
    },
    drain() {
      cross();
      return line.here.splice(0);
    },
    ahead: (symbol, id) => aheadOf(m, symbol, id),
    line: () => line,
    changeLine(c) {
      cross();
      changeLine(line, m.now, c, () => workingOrders(m));
    },
    start: () => ({ dayNumber, carry }),
    save: (): KeptMarket => ({ dayNumber, dates, carry, past, market: saveMarket(m), line }),
  };
}
