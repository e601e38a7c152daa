import { isOption, rootOf } from '../core/instruments/index.ts';
import { type Listing, statusOf } from '../core/market/index.ts';
import {
  aheadOf,
  auctionOf,
  catchUp,
  changeLine,
  closePit,
  depthOf,
  endDay,
  forget,
  haltOf,
  hasSymbol,
  keepFloor,
  leaveOut,
  listed,
  passes,
  pitAhead,
  pitDepth,
  pitOrders,
  pitQuote,
  quoteOf,
  saveMarket,
  standStill,
  tapeOf,
  unlisted,
  workingOrders,
  worthNow,
} from '../core/sim/index.ts';
import type { Price } from '../core/units/index.ts';
import { type DaySource, type DayStart, FIRST, type KeptMarket } from './day-ref.ts';
import type { DayMarket, Exchange, Feed } from './ports.ts';
import {
  dailyOf,
  earlierOf,
  goOn,
  historyOf,
  listingOf,
  openDays,
  placeOf,
  type SimDays,
  truthOf,
} from './sim-days.ts';
import { cross, execute, floorside, nextOf, openFloor, type SimFloor } from './sim-floor.ts';

/** The simulated exchange behind the feed and exchange ports; from the start of a day, or from what was kept of it. */
export function simMarket(source: DaySource, kept: unknown = null, start: DayStart = FIRST): DayMarket {
  const before = kept as KeptMarket | null;
  const d = openDays(source, before, start);
  const f = openFloor(d, before);
  return joined(dayFeed(d), timeFeed(f), priceFeed(f), historyFeed(d), exchange(f), {
    start: () => ({ dayNumber: d.dayNumber, carry: d.carry }),
    save: (): KeptMarket => ({
      dayNumber: d.dayNumber,
      dates: [...d.dates],
      carry: d.carry,
      past: d.past,
      market: saveMarket(d.m),
      line: f.line,
      pit: f.pit,
      register: f.register,
    }),
  });
}

/** One object of several, with their getters. */
function joined<T extends object[]>(...parts: T): Joined<T> {
  return Object.defineProperties(
    {},
    Object.assign({}, ...parts.map((p) => Object.getOwnPropertyDescriptors(p))),
  ) as Joined<T>;
}
type Joined<T> = T extends [infer A, ...infer Rest] ? A & Joined<Rest> : object;

type DayFacts =
  | 'instruments'
  | 'news'
  | 'title'
  | 'character'
  | 'date'
  | 'dates'
  | 'hours'
  | 'startAt'
  | 'dayStart'
  | 'board';

/** Which day it is, and what is listed on it. */
const dayFeed = (d: SimDays): Pick<Feed, DayFacts> => ({
  get instruments() {
    return d.instruments;
  },
  get news() {
    return d.news;
  },
  get title() {
    return d.m.scenario.title;
  },
  get character() {
    return d.m.scenario.character;
  },
  get date() {
    return d.m.scenario.date;
  },
  get dates() {
    return d.dates;
  },
  get hours() {
    return d.m.scenario.hours;
  },
  get startAt() {
    return d.m.dayStart + d.m.scenario.startAt;
  },
  get dayStart() {
    return d.m.dayStart;
  },
  get board() {
    return d.m.board;
  },
});

type Time = 'now' | 'next' | 'happened' | 'nextDay' | 'standStill' | 'still' | 'catchUp' | 'leaveOut';

/** How time goes on, and for whom. */
const timeFeed = (f: SimFloor): Pick<Feed, Time> => {
  const { days: d } = f;
  return {
    now: () => d.m.now,
    next: (until) => nextOf(f, until),
    happened: () => d.m.happened,
    nextDay() {
      goOn(d, () => {
        d.m.reports.push(...closePit(f.pit, d.m.now));
        endDay(d.m);
        cross(f);
      });
      forget(f.register, d.dayNumber - 1);
    },
    standStill: () => standStill(d.m),
    get still() {
      return d.m.coarse;
    },
    catchUp: (from, count) => catchUp(d.m, from, count),
    leaveOut: (who) => leaveOut(d.m, who),
  };
};

type Prices =
  | 'has'
  | 'number'
  | 'instrument'
  | 'last'
  | 'quote'
  | 'worth'
  | 'unlisted'
  | 'status'
  | 'restricted'
  | 'tape'
  | 'depth'
  | 'watch'
  | 'auction'
  | 'halt';

/** What is public of one symbol now. */
const priceFeed = (f: SimFloor): Pick<Feed, Prices> => {
  const { days: d, pit } = f;
  const notListed = (symbol: string): string | null =>
    hasSymbol(d.m, rootOf(symbol))
      ? unlisted(symbol, listingOf(d, symbol), d.m.scenario.date)
      : `${rootOf(symbol)} is not listed`;
  return {
    has: (symbol) => (isOption(symbol) ? notListed(symbol) === null : hasSymbol(d.m, symbol)),
    number: (symbol) => placeOf(d, symbol),
    instrument: (symbol) => listingOf(d, symbol),
    last: (symbol) => (d.m.board.last[placeOf(d, symbol)] || null) as Price | null,
    quote: (symbol) => (isOption(symbol) ? pitQuote(pit, symbol, floorside(f)) : quoteOf(d.m, symbol)),
    worth: (symbol) => worthNow(symbol, floorside(f)),
    unlisted: notListed,
    status: (symbol) => statusOf(d.m.board, placeOf(d, symbol)),
    restricted(symbol) {
      const i = placeOf(d, symbol);
      const today = d.m.board.restricted[i] as number;
      return today === 2 || (truthOf(d, i)?.restricted ?? today !== 0);
    },
    tape: (symbol) => tapeOf(d.m, symbol),
    depth: (symbol, levels) =>
      isOption(symbol) ? pitDepth(pit, symbol, floorside(f), levels) : depthOf(d.m, symbol, levels),
    watch: (symbol) => keepFloor(d.m, rootOf(symbol)),
    auction: (symbol) => auctionOf(d.m, symbol),
    halt: (symbol) => haltOf(d.m, symbol),
  };
};

/** What is known of the past of a symbol, and of the day's halts. */
const historyFeed = (d: SimDays): Pick<Feed, 'stops' | 'daily' | 'earlier' | 'history'> => ({
  stops: () =>
    d.m.stops.map(({ i, at, stopped }) => ({ symbol: (d.instruments[i] as Listing).symbol, at, stopped })),
  daily: (symbol) => dailyOf(d, symbol),
  earlier: (symbol, days) => earlierOf(d, symbol, days),
  history: (symbol) => historyOf(d, symbol),
});

/** Where orders go. */
const exchange = (f: SimFloor): Exchange => {
  const { days: d, line, pit } = f;
  return {
    carryOut(command) {
      const { m } = d;
      if (!isOption(command.symbol) && hasSymbol(m, command.symbol)) {
        // Where the trader comes in, what was only drawn of a restriction gives way to what was.
        const i = placeOf(d, command.symbol);
        const truth = truthOf(d, i);
        if (truth && m.board.restricted[i] !== 2) m.board.restricted[i] = truth.restricted ? 1 : 0;
      }
      if (passes(line, m.now, command)) execute(f, command);
      cross(f);
    },
    drain() {
      cross(f);
      return line.here.splice(0);
    },
    ahead: (symbol, id) => (isOption(symbol) ? pitAhead(pit, symbol, id) : aheadOf(d.m, symbol, id)),
    line: () => line,
    changeLine(c) {
      cross(f);
      const orders = () => [...workingOrders(d.m), ...pitOrders(pit)].map((x) => listed(f.register, x));
      changeLine(line, d.m.now, c, orders);
    },
  };
};
