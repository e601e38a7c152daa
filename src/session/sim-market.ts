import { type DailyBar, type Instrument, statusOf } from '../core/market/index.ts';
import {
  aheadOf,
  auctionOf,
  type Carry,
  carryOf,
  createMarket,
  dailyHistory,
  depthOf,
  haltOf,
  hasSymbol,
  keepFloor,
  numberOf,
  ownDailyBars,
  printOf,
  pullOrder,
  quoteOf,
  runAlone,
  saveMarket,
  sendOrder,
  shrinkOrder,
  stepMarket,
  tapeOf,
} from '../core/sim/index.ts';
import { type Price, unreachable } from '../core/units/index.ts';
import { type DaySource, type DayStart, FIRST, type KeptMarket, openDay, reviveDay, scenarioOf } from './day-ref.ts';
import type { DayMarket } from './ports.ts';

/** The simulated exchange behind the feed and exchange ports; from the start of a day, or from what was kept of it. */
export function simMarket(source: DaySource, kept: unknown = null, start: DayStart = FIRST): DayMarket {
  const before = kept as KeptMarket | null;
  let m = before ? reviveDay(source, before) : openDay(source, start);
  let dayNumber = before?.dayNumber ?? start.dayNumber;
  let dates = before?.dates ?? [m.scenario.date];
  let carry: Carry | null = before?.carry ?? start.carry;
  let past: Carry[] = before?.past ?? [];
  let firstDay: { date: string; instruments: readonly Instrument[] } | null = null;
  const lists = () => ({
    instruments: m.scenario.symbols.map((s) => s.instrument),
    news: m.scenario.news.map((n) => ({ ...n, at: m.dayStart + n.at })),
  });
  let { instruments, news } = lists();
  const found = (symbol: string) => numberOf(m, symbol);
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
    get dayStart() {
      return m.dayStart;
    },
    get board() {
      return m.board;
    },
    now: () => m.now,
    next(until) {
      const i = stepMarket(m, until);
      const symbol = m.scenario.symbols[i]?.instrument.symbol;
      return symbol === undefined ? null : { symbol, traded: m.printed === i };
    },
    nextDay() {
      carry = carryOf(m);
      past = [...past, carry];
      dayNumber++;
      m = createMarket(scenarioOf(source, dayNumber, carry), dayNumber);
      ({ instruments, news } = lists());
      dates = [...dates, m.scenario.date];
    },
    has: (symbol) => hasSymbol(m, symbol),
    number: found,
    instrument: (symbol) => instruments[found(symbol)] as (typeof instruments)[number],
    last: (symbol) => (m.board.last[found(symbol)] || null) as Price | null,
    quote: (symbol) => quoteOf(m, symbol),
    status: (symbol) => statusOf(m.board, found(symbol)),
    restricted: (symbol) => m.board.restricted[found(symbol)] !== 0,
    tape: (symbol) => tapeOf(m, symbol),
    depth: (symbol, levels) => depthOf(m, symbol, levels),
    watch: (symbol) => keepFloor(m, symbol),
    auction: (symbol) => auctionOf(m, symbol),
    stops: () => m.stops.map(({ i, at, stopped }) => ({ symbol: (instruments[i] as (typeof instruments)[number]).symbol, at, stopped })),
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
      return [...dailyHistory(firstDay.instruments[i] as Instrument, firstDay.date), ...since];
    },
    history(symbol) {
      const out: ReturnType<typeof printOf>[] = [];
      runAlone(m.scenario, found(symbol), m.now - m.dayStart, (h) => out.push(printOf(symbol, m.dayStart, h)), m.frame);
      return out;
    },
    carryOut(command) {
      switch (command.kind) {
        case 'send':
          sendOrder(m, command.symbol, { ...command, id: command.venueId });
          return;
        case 'pull':
          pullOrder(m, command.symbol, command.venueId);
          return;
        case 'shrink':
          shrinkOrder(m, command.symbol, command.venueId, command.qty);
          return;
        default:
          unreachable(command);
      }
    },
    drain: () => m.reports.splice(0),
    ahead: (symbol, venueId) => aheadOf(m, symbol, venueId),
    start: () => ({ dayNumber, carry }),
    save: (): KeptMarket => ({ dayNumber, dates, carry, past, market: saveMarket(m) }),
  };
}
