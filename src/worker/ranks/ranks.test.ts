import { at, MINUTE } from '../../core/units/index.ts';
import type { DaySource } from '../../session/day-ref.ts';
import { FIRST } from '../../session/day-ref.ts';
import { createFollower, RANK_STEP, type RankPoint, type RanksAsked } from './ranks.ts';

const source: DaySource = { ref: { kind: 'practice', id: 'fresh-headlines', seed: 7, size: 60 }, own: null };
const ASKED: RanksAsked = {
  source,
  start: FIRST,
  rule: 'gap > 1% and volume > 1k',
  ranking: [{ field: 'gap', weight: 1 }],
  hidden: [],
  until: at(8),
};

function whole(work: Generator<number, RankPoint[]>): { steps: number[]; points: RankPoint[] } {
  const steps: number[] = [];
  for (;;) {
    const step = work.next();
    if (step.done) return { steps, points: structuredClone(step.value) };
    steps.push(step.value);
  }
}

test('a scan’s leaders every five minutes from 04:00, the same however far it is followed at a time', () => {
  const once = whole(createFollower().follow({ ...ASKED, until: at(9, 10) }));
  expect(once.points.map((p) => p.at)).toEqual(Array.from({ length: 63 }, (_, k) => at(4) + k * RANK_STEP));
  const follower = createFollower();
  whole(follower.follow(ASKED));
  const on = whole(follower.follow({ ...ASKED, until: at(9, 10) }));
  expect(on.points).toEqual(once.points);
  // Going on takes only the steps that are missing.
  expect(on.steps).toHaveLength((70 * MINUTE) / RANK_STEP);
  expect(once.points[0]?.leaders).toEqual([]);
  expect(once.points[62]?.leaders[0]).toBeTruthy();
});

test('another rule, or somebody hidden, starts over; a rule with a mistake leaves what was there', () => {
  const follower = createFollower();
  const before = whole(follower.follow(ASKED)).points;
  const leader = before[before.length - 1]?.leaders[0] as string;
  const without = whole(follower.follow({ ...ASKED, hidden: [leader] }));
  expect(without.points.flatMap((p) => p.leaders)).not.toContain(leader);
  expect(without.points).toHaveLength(before.length);
  expect(whole(follower.follow({ ...ASKED, rule: 'gap >' })).steps).toEqual([]);
});
