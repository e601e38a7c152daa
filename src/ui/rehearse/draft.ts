// The form of a rehearsal: what is written in it, and what it comes to.
import { array, boolean, type InferType, object, string } from 'yup';
import { explain, parseScript, purposeOf } from '@/core/language';
import {
  EARLIEST,
  FIRST_SEED,
  LATEST,
  MOST_DAYS,
  type RehearsalDay,
  type RehearsalTerms,
} from '@/core/rehearsal';
import { MINUTE } from '@/core/units';
import type { SavedScan } from '@/store/settings';
import type { DayChoice } from '@/worker/session/session-messages';
import { conditionProblem } from '../builder/frames';
import { readTime } from '../format';

const text = () => string().defined().max(10_000);
const keySchema = object({ when: text(), script: text(), most: text() });
const handSchema = object({ keys: array(keySchema).defined().max(6) });
export const draftSchema = object({
  name: text(),
  first: handSchema,
  /** The second hand; it is there, but not rehearsed, while nothing is compared. */
  second: handSchema,
  compare: boolean().defined(),
  who: string()
    .oneOf(['scan', 'one'] as const)
    .defined(),
  scan: text(),
  best: text(),
  symbol: text(),
  from: text(),
  to: text(),
  out: text(),
  reaction: text(),
  line: text(),
  practice: array(text()).defined().max(100),
  each: text(),
  own: array(text()).defined().max(1_000),
});

/** What is written, as it is written: nothing is lost because it does not read yet. */
export type Draft = InferType<typeof draftSchema>;
export type DraftKey = Draft['first']['keys'][number];

export const FIRST_KEY: DraftKey = {
  when: 'last crosses above premarket high',
  script:
    'buy risk 1R at usual through\n  stop usual\n  target 1R for half\n  target 2R for half\n  breakeven after 1.3R',
  most: '2',
};

export const FIRST_DRAFT: Draft = {
  name: '',
  first: { keys: [FIRST_KEY] },
  second: { keys: [FIRST_KEY] },
  compare: false,
  who: 'scan',
  scan: 'gappers',
  best: '5',
  symbol: '',
  from: '09:31',
  to: '10:30',
  out: '11:30',
  reaction: '350',
  line: '40',
  practice: ['fresh-headlines', 'crowded-open', 'second-headline'],
  each: '10',
  own: [],
};

/** Something in the form that does not do, in words, and where it stands. */
export interface Flaw {
  where: keyof Draft | 'days';
  text: string;
}

const whole = (s: string, least: number, most: number): number | null => {
  const n = Number(s.trim());
  return /^\d+$/.test(s.trim()) && n >= least && n <= most ? n : null;
};

/** The terms and days that a draft comes to, or everything that is wrong with it. */
export function readDraft(
  d: Draft,
  scans: readonly SavedScan[],
  choice: Pick<DayChoice, 'practice' | 'own'>,
): { ok: true; terms: RehearsalTerms; days: RehearsalDay[] } | { ok: false; flaws: Flaw[] } {
  const flaws: Flaw[] = [];
  const flaw = (where: Flaw['where'], says: string) => void flaws.push({ where, text: says });
  const hands = (d.compare ? (['first', 'second'] as const) : (['first'] as const)).map((which) => ({
    name: which === 'first' ? 'A' : 'B',
    presses: d[which].keys.map((k, i) => {
      for (const says of keyFlaws(k)) flaw(which, d[which].keys.length > 1 ? `Key ${i + 1}: ${says}` : says);
      return { when: k.when, script: k.script, most: whole(k.most, 1, 999) ?? 1 };
    }),
  }));
  hands.forEach(({ presses }, h) => {
    if (!presses.some((p) => purposeOf(parseScript(p.script).statements) === 'in'))
      flaw(h === 0 ? 'first' : 'second', 'None of these keys opens a position; one has to buy or to short.');
  });
  const [a, b] = hands;
  if (b && JSON.stringify(a?.presses) === JSON.stringify(b.presses))
    flaw('second', 'A and B are the same. Change one thing in B: a stop, a target, when it is pressed.');
  const time = (where: 'from' | 'to' | 'out'): number => {
    const t = readTime(d[where]);
    if (t === null || t < EARLIEST * MINUTE || t > LATEST * MINUTE)
      flaw(where, 'A time of day from 04:00 to 20:00, such as 09:31.');
    return t === null ? 0 : Math.floor(t / MINUTE);
  };
  const [from, to, out] = [time('from'), time('to'), time('out')];
  if (flaws.every((f) => f.where !== 'from' && f.where !== 'to' && f.where !== 'out')) {
    if (to <= from) flaw('to', 'Later than the first minute.');
    else if (out <= to) flaw('out', 'Later than the last way in.');
  }
  const number = (where: 'best' | 'reaction' | 'line' | 'each', least: number, most: number): number => {
    const n = whole(d[where], least, most);
    if (n === null) flaw(where, `A whole number from ${least} to ${most.toLocaleString('en-US')}.`);
    return n ?? least;
  };
  const [reaction, line] = [number('reaction', 50, 60_000), number('line', 1, 5_000)];
  const scan = scans.find((s) => s.id === d.scan);
  const best = d.who === 'scan' ? number('best', 1, 20) : 1;
  if (d.who === 'scan' && !scan) flaw('scan', 'Choose a scan.');
  const symbol = d.symbol.trim().toUpperCase();
  if (d.who === 'one' && symbol === '') flaw('symbol', 'Write a symbol.');
  const each = d.practice.length > 0 ? number('each', 1, 1_000) : 1;
  const practice = choice.practice.filter((p) => d.practice.includes(p.id));
  const days: RehearsalDay[] = [
    // Kinds of days take turns, so that what is there early is of all of them.
    ...Array.from({ length: each }, (_, k) =>
      practice.map((p): RehearsalDay => ({ kind: 'practice', id: p.id, seed: FIRST_SEED + k })),
    ).flat(),
    ...choice.own
      .filter((o) => d.own.includes(o.id))
      .flatMap((o) => o.dates.map((date, n): RehearsalDay => ({ kind: 'own', id: o.id, n, date }))),
  ];
  if (days.length === 0) flaw('days', 'Choose at least one kind of day.');
  if (days.length > MOST_DAYS)
    flaw(
      'days',
      `These are ${days.length} days; at most ${MOST_DAYS.toLocaleString('en-US')} go in one rehearsal.`,
    );
  if (flaws.length > 0) return { ok: false, flaws };
  return {
    ok: true,
    days,
    terms: {
      hands,
      symbols:
        d.who === 'scan' && scan
          ? { kind: 'scan', name: scan.name, rule: scan.rule, ranking: scan.ranking, first: best }
          : { kind: 'one', symbol },
      from,
      to,
      out,
      reaction,
      line,
    },
  };
}

function keyFlaws(k: DraftKey): string[] {
  const out: string[] = [];
  const when = conditionProblem(k.when);
  if (when !== null) out.push(`when it is pressed: ${when}`);
  const { statements, problems } = parseScript(k.script);
  const [wrong] = problems;
  if (k.script.trim() === '' || statements.length + problems.length === 0)
    out.push('what it does: write a script, or take one of yours.');
  else if (wrong) out.push(`what it does: ${explain(wrong)}`);
  if (whole(k.most, 1, 999) === null) out.push('at most so often a day: a whole number from 1 to 999.');
  return out;
}
