import { type Condition, parseRule } from '../../core/language/index.ts';
import { type Ranking, rank } from '../../core/scan/index.ts';
import { clockOf, DAY, dayOf, MINUTE, PRE_OPEN } from '../../core/units/index.ts';
import type { DaySource, DayStart } from '../../session/day-ref.ts';
import type { DayMarket } from '../../session/ports.ts';
import { simMarket } from '../../session/sim-market.ts';
import { marketView, stocksOf } from '../../session/view.ts';
import type { Jobs } from '../call/serve.ts';

/** Whose places are wanted, on which day, up to when (session time). */
export interface RanksAsked {
  source: DaySource;
  start: DayStart;
  rule: string;
  ranking: Ranking;
  hidden: readonly string[];
  until: number;
}

/** Who led at one moment, best first. */
export interface RankPoint {
  at: number;
  leaders: string[];
}

/** The leaders from 04:00 to `until`. */
export type RanksRequest = { kind: 'follow'; asked: RanksAsked };
export interface RanksAnswers {
  follow: RankPoint[];
}

export const RANK_STEP = 5 * MINUTE;
const LEADERS = 40;

/** Follows one scan through a day, on a market of its own: the same day, without what the trader did to it. */
interface Follower {
  /** Goes on to a time in steps; the last answer holds every point from 04:00 on. */
  follow(asked: RanksAsked): Generator<number, RankPoint[]>;
}

/** A follower of a scan’s leaders through the day. */
export function createFollower(): Follower {
  let market: DayMarket | null = null;
  let key = '';
  let points: RankPoint[] = [];
  return {
    *follow({ source, start, rule, ranking, hidden, until }) {
      const parsed = parseRule(rule);
      if (!parsed.ok) return points;
      const wanted = JSON.stringify([source.ref, start.dayNumber, rule, ranking, hidden]);
      if (wanted !== key || market === null) {
        market = simMarket(source, null, start);
        key = wanted;
        points = [];
      }
      const first = dayOf(until) * DAY + PRE_OPEN;
      for (
        let at = points.length === 0 ? first : (points[points.length - 1] as RankPoint).at + RANK_STEP;
        at <= until;
        at += RANK_STEP
      ) {
        while (market.next(at) !== null);
        points.push({ at, leaders: leadersOf(market, parsed.rule, ranking, hidden) });
        yield clockOf(at);
      }
      return points;
    },
  };
}

/** Progress: the time of day that it has come to. */
export function ranksJobs(): Jobs<RanksRequest, RanksAnswers, number> {
  const follower = createFollower();
  return {
    follow({ asked }, progress) {
      const work = follower.follow(asked);
      for (;;) {
        const step = work.next();
        if (step.done) return step.value;
        progress(step.value);
      }
    },
  };
}

function leadersOf(
  market: DayMarket,
  rule: Condition,
  ranking: Ranking,
  hidden: readonly string[],
): string[] {
  const stocks = stocksOf(market).filter((i) => !hidden.includes(market.instruments[i]?.symbol ?? ''));
  return [...rank(marketView(market), rule, ranking, stocks, LEADERS).order].map(
    (i) => market.instruments[i]?.symbol ?? '',
  );
}
