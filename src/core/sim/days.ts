// A day made from its description and a seed: who moves, on what news, how lively; nothing of where to.
import { DAY, hoursOn, keyOf, mix, nextTradingDay, PRE_OPEN } from '../units/index.ts';
import type { Carry } from './carry.ts';
import { CAST, type Known, QUIET } from './cast.ts';
import { between, evenStep } from './courses.ts';
import { type Draft, INDEX_SYMBOL } from './day-draft.ts';
import { alike, drawGap, drawLarge, planOf, small } from './day-plans.ts';
import { moodImplied } from './implied-days.ts';
import type { Scenario } from './plan.ts';
import { LATER_DAY, PRACTICE_DAYS } from './practice-days.ts';
import { below, createRandom } from './random.ts';
import { type Company, companies } from './universe.ts';

/** How many symbols the invented market lists. */
const UNIVERSE = 8_000;

const INDEX_BAND = { ivLow: 0.085, ivHigh: 0.19 };

/** Which of the equally likely days has which number. */
const NUMBERING = 155;

const castCompany = (k: Known): Company => ({
  symbol: k.symbol,
  name: k.name,
  sector: k.sector,
  dollars: k.dollars,
  floatM: k.floatM,
  averageVolume: Math.round(k.averageM * 1e6),
  range: k.atr / k.dollars,
  sharesPerFloat: 1.3,
  premarketShare: 0.06,
  borrow: k.borrow ?? 'easy',
  tier: 2,
  options: k.options ? { ivLow: 0.48, ivHigh: 1.36 } : null,
});

const universes = new Map<number, Company[]>();

/** Every listed company: index stand-in, cast, quiet ones, and the invented rest. The same on every day. */
function allCompanies(listed: number): Company[] {
  const there = universes.get(listed);
  if (there) return there;
  const known = CAST.map(castCompany);
  const quiet = QUIET.map(([symbol, name, sector, dollars], k) =>
    castCompany({
      symbol,
      name,
      sector,
      dollars,
      floatM: 15 + (mix(k, 3) % 60),
      averageM: 0.15 + (mix(k, 4) % 80) / 100,
      atr: dollars * 0.03,
    }),
  );
  const index: Company = {
    symbol: INDEX_SYMBOL,
    name: 'Index stand-in',
    sector: 'Index',
    dollars: 412.3,
    floatM: 900,
    averageVolume: 38_000_000,
    range: 0.01,
    sharesPerFloat: 1,
    premarketShare: 0.03,
    borrow: 'easy',
    tier: 1,
    options: INDEX_BAND,
  };
  const first = [...known, ...quiet, index];
  const all = [
    ...first,
    ...companies(
      Math.max(0, listed - first.length),
      first.map((c) => c.symbol),
    ),
  ];
  universes.set(listed, all);
  return all;
}

/**
 * One practice day, made from its description and a seed alone.
 * @param dayNumber how many trading days after the description's own date; those go on from `carry`.
 * @param size how many companies are listed; the ones told of come first.
 * @throws Error for an id that is not in {@link PRACTICE_DAYS}.
 */
export function practiceDay(
  id: string,
  seed: number,
  dayNumber = 0,
  carry: Carry | null = null,
  size = UNIVERSE,
): Scenario {
  return dayOf({ id, seed, dayNumber, carry, size }, (list) => list.map((_, i) => i));
}

/** The same with some symbols alone, by their places in the list: their plans are those of the whole day. */
export const practiceSymbols = (
  { id, seed, size = UNIVERSE }: { id: string; seed: number; size?: number | undefined },
  dayNumber: number,
  carry: Carry | null,
  who: readonly number[],
): Scenario => dayOf({ id, seed, dayNumber, carry, size }, () => [...who]);

/** The symbols that are listed on practice days, in the order of a day's list. */
export const listedSymbols = (size = UNIVERSE): string[] => allCompanies(size).map((c) => c.symbol);

interface DayAsked {
  id: string;
  seed: number;
  dayNumber: number;
  carry: Carry | null;
  size: number;
}

/** The day with the symbols that are asked for, by their places in the list. */
function dayOf(
  { id, seed, dayNumber, carry, size }: DayAsked,
  who: (list: readonly Company[]) => number[],
): Scenario {
  const told = PRACTICE_DAYS.find((d) => d.id === id);
  if (!told) throw new Error(`no practice day is called ${id}`);
  let date = told.date;
  for (let k = 0; k < dayNumber; k++) date = nextTradingDay(date);
  const spec = dayNumber === 0 ? told : { ...told, ...LATER_DAY };
  const daySeed = mix(mix(seed, keyOf(NUMBERING, id)), dayNumber) & 0x7fffffff;
  const stream = (name: string) => createRandom(daySeed, name);
  const r = stream('scenario');
  const list = allCompanies(size);
  const draft: Draft = {
    r,
    stream,
    hours: hoursOn(date),
    date,
    spec,
    toldOf: new Set(dayNumber === 0 ? CAST.map((k) => k.symbol) : []),
    mood:
      dayNumber === 0
        ? spec.mood
        : moodImplied(
            spec.mood,
            INDEX_SYMBOL,
            { iv: 0, ...INDEX_BAND, band: { low: INDEX_BAND.ivLow, high: INDEX_BAND.ivHigh } },
            date,
          ),
    roles: new Map(),
    surges: new Set(),
    news: [],
    carry,
  };
  cast(draft, list, spec, told.lesson === 'overnight gap' && dayNumber === 1);
  // What happens to a company does not depend on how many others are listed.
  const symbols = who(list).map((i) => {
    const c = list[i] as Company;
    return alike(planOf({ ...draft, r: draft.stream(`${c.symbol} plan`) }, c, i));
  });
  return {
    id,
    title:
      dayNumber === 0 ? told.title : `${told.title}, ${dayNumber} ${dayNumber === 1 ? 'day' : 'days'} on`,
    character: told.character,
    date,
    hours: draft.hours,
    seed: daySeed,
    startAt: dayNumber === 0 ? told.startAt : PRE_OPEN,
    mood: draft.mood,
    symbols,
    news: draft.news.filter((n) => n.at < DAY).sort((a, b) => a.at - b.at || (a.symbol < b.symbol ? -1 : 1)),
  };
}

/** Who moves today. Anyone of the cast may get any part. */
function cast(
  d: Draft,
  list: readonly Company[],
  spec: Draft['spec'] & typeof LATER_DAY,
  gaps: boolean,
): void {
  const { r } = d;
  // On later days nothing is told of those with options: they go by what their options say.
  const leaders = CAST.filter((k) => d.toldOf.size > 0 || !k.options).map((k) => k.symbol);
  for (let k = leaders.length - 1; k > 0; k--) {
    const other = below(r, k + 1);
    [leaders[k], leaders[other]] = [leaders[other] as string, leaders[k] as string];
  }
  leaders.slice(0, spec.leaders).forEach((symbol, k) => {
    d.roles.set(symbol, {
      gap: k === 0 && spec.lesson !== 'halt' ? drawLarge(r) : drawGap(r),
      lesson: k === 0 ? spec.lesson : null,
    });
  });
  const hero = leaders[0] as string;
  switch (spec.lesson) {
    case 'pauses':
      d.roles.set(hero, {
        gap: evenStep(r, between(r, 0.25, 0.6), between(r, 0.25, 0.5)),
        course: 'squeeze',
        lesson: 'pauses',
      });
      break;
    case 'halt':
      d.roles.set(hero, { gap: 0, course: 'steady', lesson: 'halt' });
      break;
    case 'second headline':
      d.roles.set(hero, {
        gap: evenStep(r, between(r, 0.25, 0.5), between(r, 0.2, 0.45)),
        course: 'announcement',
        lesson: 'second headline',
      });
      break;
    case 'restriction':
      // As much goes up elsewhere: who knows the day beforehand knows no direction of all of them.
      for (const symbol of leaders.slice(1, 4)) d.roles.set(symbol, { gap: -between(r, 0.1, 0.19) });
      for (const symbol of leaders.slice(4, 6)) d.roles.set(symbol, { gap: between(r, 0.14, 0.29) });
  }
  if (gaps)
    d.roles.set(hero, {
      gap: evenStep(r, between(r, 0.15, 0.45), between(r, 0.15, 0.4)),
      lesson: 'overnight gap',
    });
  // A short list may not have so many. Companies that are known as quiet ones stay it.
  const named = new Set([...CAST.map((k) => k.symbol), ...QUIET.map(([symbol]) => symbol)]);
  const draw = (
    into: { size: number; has(s: string): boolean },
    wanted: number,
    add: (s: string) => void,
  ) => {
    for (let tries = 0; into.size < wanted && tries < 8_000; tries++) {
      const c = list[below(r, list.length)] as Company;
      if (small(c) && !named.has(c.symbol) && !d.roles.has(c.symbol) && !d.surges.has(c.symbol))
        add(c.symbol);
    }
  };
  draw(d.roles, d.roles.size + spec.movers, (symbol) => d.roles.set(symbol, { gap: drawGap(r) }));
  draw(d.surges, spec.surges, (symbol) => d.surges.add(symbol));
}
