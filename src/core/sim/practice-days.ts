// The days that a trader can practise on: what is known of each before it starts, and what it is sure to teach.
import { at } from '../units/index.ts';
import type { Phase } from './plan.ts';

/** The one thing that is sure to come. Who, when, which way and how far are drawn. */
export type Lesson = 'pauses' | 'halt' | 'second headline' | 'restriction' | 'overnight gap';

export interface PracticeDay {
  id: string;
  title: string;
  /** What kind of day it is. Never how it ends: that is drawn. */
  character: string;
  date: string;
  /** Where the trader enters the day, as a time of day. */
  startAt: number;
  mood: readonly Phase[];
  /** Well-known companies with news before the open, and others that move. */
  leaders: number;
  movers: number;
  /** Companies on which something comes in mid-session. */
  surges: number;
  lesson: Lesson | null;
  /** How much trades, beside a usual day. */
  volume: number;
}

const mood = (by: number): readonly Phase[] =>
  (
    [
      [4, 0, 0.01],
      [9, 30, 0.075],
      [10, 0, 0.048],
      [10, 30, 0.034],
      [12, 0, 0.027],
      [15, 0, 0.036],
      [16, 0, 0.008],
    ] as const
  ).map(([h, m, percent]) => ({ from: at(h, m), vol: (percent / 100) * by, pace: 0 }));

const USUAL = { mood: mood(1), leaders: 6, movers: 28, surges: 14, lesson: null, volume: 1 };

/** The days that a trader can practise on. The first one is where a new trader starts. */
export const PRACTICE_DAYS: readonly PracticeDay[] = [
  {
    ...USUAL,
    id: 'fresh-headlines',
    title: 'Fresh headlines',
    character:
      'Ten well-known names and thirty others have news before the open. Which of them go on, which come back and which only thrash about is not known to anybody.',
    date: '2027-03-09',
    startAt: at(9, 10),
    leaders: 10,
    movers: 30,
  },
  {
    ...USUAL,
    id: 'crowded-open',
    title: 'A crowded open',
    character:
      'Many gaps, much volume, wide spreads in the first minutes. More to choose from than anybody can follow.',
    date: '2027-04-14',
    startAt: at(9, 10),
    mood: mood(1.3),
    leaders: 8,
    movers: 44,
    surges: 20,
    volume: 1.15,
  },
  {
    ...USUAL,
    id: 'low-float',
    title: 'Low float, volatility pauses',
    character:
      'One company with very few shares to trade is rushed from the open on. It will be paused, up or down, perhaps more than once, and what a rush has brought can be gone in a second.',
    date: '2027-05-19',
    startAt: at(9, 20),
    leaders: 5,
    lesson: 'pauses',
  },
  {
    ...USUAL,
    id: 'halted-for-news',
    title: 'Halted for news',
    character:
      'A sleepy open. Later in the morning one company is halted with news pending, and reopens by auction far from where it was: higher or lower.',
    date: '2027-06-09',
    startAt: at(9, 25),
    leaders: 3,
    movers: 14,
    lesson: 'halt',
    volume: 0.85,
  },
  {
    ...USUAL,
    id: 'second-headline',
    title: 'A second headline',
    character:
      'The company that everybody watches has news again in the course of the morning, an offering or a contract. Where it trades then is another price.',
    date: '2027-08-11',
    startAt: at(9, 10),
    lesson: 'second headline',
  },
  {
    ...USUAL,
    id: 'thin',
    title: 'Thin and wide',
    character:
      'Little volume and wide spreads all day. What is sent to the market slips; patience costs less.',
    date: '2027-08-27',
    startAt: at(9, 25),
    mood: mood(0.6),
    leaders: 4,
    movers: 10,
    surges: 6,
    volume: 0.6,
  },
  {
    ...USUAL,
    id: 'wild-index',
    title: 'A wild index, short-sale restrictions',
    character:
      'The whole market swings two to three times as far as usual. Some names open a tenth or more below the day before: they are under the short-sale restriction, for that day and the next.',
    date: '2027-10-05',
    startAt: at(9, 25),
    mood: mood(2.6),
    movers: 32,
    lesson: 'restriction',
    volume: 1.3,
  },
  {
    ...USUAL,
    id: 'half-day',
    title: 'Half day before the holiday weekend',
    character:
      'The day after Thanksgiving closes at 13:00. Volume is thin, and there is less time than you think.',
    date: '2027-11-26',
    startAt: at(9, 10),
    mood: mood(0.8),
    leaders: 5,
    movers: 16,
    surges: 6,
    volume: 0.7,
  },
  {
    ...USUAL,
    id: 'overnight-gap',
    title: 'An overnight gap',
    character:
      'It is late in the session. Go on to the next day: one of the leaders opens far from where it closed, above or below, and stops on the wrong side fill at the open’s price.',
    date: '2027-09-15',
    startAt: at(15, 10),
    leaders: 5,
    movers: 20,
    lesson: 'overnight gap',
  },
  {
    ...USUAL,
    id: 'quiet-day',
    title: 'A quiet day',
    character:
      'Nothing much is known before the open. The best trade may be none; a good day to practise doing little.',
    date: '2027-07-21',
    startAt: at(9, 10),
    mood: mood(0.7),
    leaders: 1,
    movers: 8,
    surges: 6,
    volume: 0.8,
  },
];

/** What the days after a practice day are like. */
export const LATER_DAY: Pick<PracticeDay, 'mood' | 'leaders' | 'movers' | 'surges' | 'lesson' | 'volume'> = {
  ...USUAL,
  leaders: 2,
  movers: 22,
};
