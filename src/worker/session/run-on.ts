// Running on: to the end of the day, or over many sessions to the next own fill or a date.
import { everything, isLive } from '../../core/orders/index.ts';
import { DAY, MINUTE, nextTradingDay, PRE_OPEN } from '../../core/units/index.ts';
import { apply, dayEnd, type Engine } from '../../session/engine.ts';
import type { LogEntry } from '../../session/log.ts';
import type { Hosted } from './hosted.ts';
import { append, keep, lookAgain, publish } from './keeping.ts';
import { longWork, PIECE, runTo } from './long-work.ts';
import { PAUSED } from './pace.ts';
import type { RunUntil } from './session-messages.ts';

/** Most sessions that are run in one go. */
const MOST_SESSIONS = 60;
/** Symbols brought on at once. */
const SOME = 200;
/** Time run at once: long, so that what belongs to one symbol is done in one go. */
const STRETCH = 10 * MINUTE;

/** Lets the day under way run to its end; what it has lived through is stored piece by piece, also when it is ended on the way. */
export async function runToEnd(h: Hosted): Promise<void> {
  const take = async (entries: LogEntry[]) => {
    await publish(h, entries);
    await h.store.beat(h.engine.market.now());
  };
  const what = 'Running to the end of the day';
  try {
    await longWork(h, (work) => runTo(h.engine, dayEnd(h.engine), h, { work, what, ending: 'here', take }));
  } finally {
    await keep(h);
  }
}

/**
 * Runs on, session after session. Symbols that nobody holds, orders or waits for are carried by their
 * plan's day meanwhile, and brought on where it ends; nothing is told before that.
 * @returns what it came to, in words.
 * @throws Error for a goal that cannot be reached.
 */
export async function runSessions(h: Hosted, until: RunUntil): Promise<string> {
  const sessions = sessionsTo(h.engine, until);
  h.pace = PAUSED;
  const start = h.engine.market.dayStart;
  const from = h.engine.market.now();
  const end = start + sessions * DAY + PRE_OPEN;
  let filled = false;
  const enough =
    until.kind === 'fill'
      ? (entries: readonly LogEntry[]) => entries.some((x) => x.events.some((v) => v.exec === 'Trade'))
      : undefined;
  const take = async (entries: LogEntry[]) => {
    filled ||= enough?.(entries) ?? false;
    await append(h, entries);
    await h.store.beat(h.engine.market.now());
  };
  const way = () => {
    const { market } = h.engine;
    const nth = Math.round((market.dayStart - start) / DAY) + 1;
    return {
      part: (market.now() - from) / Math.max(1, end - from),
      words: `${market.date}, ${nth} of ${until.kind === 'fill' ? 'at most ' : ''}${sessions}`,
    };
  };
  const what = until.kind === 'fill' ? 'Running on to your next fill' : `Running on to ${until.date}`;
  try {
    await longWork(h, async (work) => {
      if (!scansAll(h.engine)) await take(apply(h.engine, { kind: 'others', run: 'coarsely' }).entries);
      // The days of imported data may lie further apart.
      const there = () => until.kind === 'date' && h.engine.market.date >= until.date;
      for (let k = 0; k < sessions && !filled && !there(); k++) {
        const running = {
          work,
          what,
          ending: 'here' as const,
          take,
          way,
          step: STRETCH,
          ...(enough ? { enough } : {}),
        };
        await runTo(h.engine, dayEnd(h.engine), h, running);
        if (!filled) await take(apply(h.engine, { kind: 'next day' }).entries);
      }
    });
  } finally {
    await arrive(h);
  }
  if (until.kind === 'date') return `It is ${h.engine.market.date}, 04:00`;
  return filled ? 'One of your orders has filled' : `No order has filled in ${sessions} sessions`;
}

/** Whatever stood still is brought up to now, and all is told. */
export async function arrive(h: Hosted): Promise<void> {
  const { market } = h.engine;
  const n = market.instruments.length;
  let piece = h.clock.now();
  for (let i = 0; market.still && i + SOME < n; i += SOME) {
    market.catchUp(i, SOME);
    if (h.clock.now() - piece < PIECE) continue;
    const words = `${i + SOME} of ${n} symbols`;
    h.tell({ kind: 'working', what: 'Bringing every symbol up to now', part: i / n, words, ending: null });
    await h.clock.breathe();
    piece = h.clock.now();
  }
  if (market.still) await append(h, apply(h.engine, { kind: 'others', run: 'in full' }).entries);
  h.tell({ kind: 'worked' });
  lookAgain(h);
  await publish(h);
  await keep(h);
}

/** An alert on any symbol has to see them all. */
const scansAll = ({ state }: Engine): boolean =>
  state.alerts.list.some((a) => a.symbol === null && a.status === 'armed' && a.on.kind === 'rule');

/** How many sessions it takes at most. @throws Error where the goal cannot be reached. */
function sessionsTo({ market, state }: Engine, until: RunUntil): number {
  if (until.kind === 'fill') {
    const { orders } = everything(state.broker);
    const waits = orders.some(isLive) || state.desk.waiting.length > 0;
    if (!waits) throw new Error('Nothing of yours can fill: no order works, sleeps or waits. Choose a date.');
    return MOST_SESSIONS;
  }
  let date: string = market.date;
  for (let k = 1; k <= MOST_SESSIONS; k++) {
    date = nextTradingDay(date);
    if (date === until.date) return k;
    if (date > until.date) break;
  }
  throw new Error(
    until.date <= market.date
      ? `${until.date} is not after today, ${market.date}.`
      : date > until.date
        ? `${until.date} is no trading day; the next one is ${date}.`
        : `${until.date} is more than ${MOST_SESSIONS} sessions away; the last that can be reached in one go is ${date}.`,
  );
}
