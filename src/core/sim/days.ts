import type { NewsItem } from '../market/index.ts';
import { at, DAY, hoursOn, nextTradingDay, type Price, toDollars } from '../units/index.ts';
import { CAST, type Known, QUIET } from './cast.ts';
import type { Phase, Scenario, SymbolPlan } from './plan.ts';
import { below, createRandom, mix, normal, type Random, uniform } from './random.ts';
import { moverPhases, type Shape, usualPhases, weightedSeconds } from './shapes.ts';
import { PRINT_SHARE } from './sketch.ts';
import { type Company, companies, listed as listing } from './universe.ts';

/** How many symbols the invented market lists. */
const UNIVERSE = 8_000;
const INDEX_SYMBOL = 'FOXID';

type Clock = [hour: number, minute: number];

/** What a company of the cast does on a day. */
interface Role {
  symbol: string;
  shape: Shape;
  overnight?: number;
  jumps?: [...Clock, by: number][];
  news?: [...Clock, kind: NewsItem['kind'], headline: string][];
  halts?: { at: Clock; until: Clock; reason: string; gap: number }[];
  floatM?: number;
}

interface PracticeDay {
  id: string;
  title: string;
  character: string;
  date: string;
  /** Where the trader enters the day. */
  startAt: Clock;
  /** Drift of the index in % a minute from times on, and how far it swings. */
  mood: [...Clock, drift: number, vol: number][];
  roles: Role[];
  /** Further movers drawn from the universe. */
  gappers: number;
  /** What the next days bring to companies of the cast, by number of the day after this one. */
  later?: Record<number, Role[]>;
}

const CALM: PracticeDay['mood'] = [
  [4, 0, 0, 0.006],
  [9, 30, 0.001, 0.03],
  [10, 30, 0, 0.016],
  [15, 30, 0.001, 0.02],
  [16, 0, 0, 0.005],
];

const ORBINAL: Role = {
  symbol: 'ORBNT',
  shape: 'squeeze',
  jumps: [
    [6, 30, 0.62],
    [8, 12, -0.06],
  ],
  news: [[6, 30, 'trial result', 'Orbinal reports that its mid-stage eye drop trial met its main goal']],
};
const FOLLOWERS: Role[] = [
  {
    symbol: 'TARNH',
    shape: 'gap and go',
    overnight: 0.04,
    jumps: [[7, 45, 0.13]],
    news: [[7, 45, 'earnings', 'Tarn Hollow Energy raises its outlook for the year']],
  },
  {
    symbol: 'QUOLS',
    shape: 'gap and fade',
    overnight: 0.09,
    jumps: [[8, 0, 0.05]],
    news: [[8, 0, 'partnership', 'Quollis Semiconductor licenses a sensor design']],
  },
  {
    symbol: 'MIRLS',
    shape: 'gap and fade',
    overnight: 0.01,
    jumps: [[8, 30, 0.17]],
    news: [[8, 30, 'approval', 'Mirelle Foods gets clearance for its oat protein']],
  },
  {
    symbol: 'BRYXT',
    shape: 'gap and go',
    overnight: 0.11,
    jumps: [[7, 20, 0.08]],
    news: [[7, 20, 'contract', 'Bryxton Aero wins a repair order for forty light aircraft']],
  },
  {
    symbol: 'ZEPHN',
    shape: 'late news',
    overnight: 0.06,
    jumps: [[8, 45, 0.04]],
    news: [[8, 45, 'partnership', 'Zephaline Wind in talks with a grid operator']],
  },
  {
    symbol: 'KELOD',
    shape: 'slides',
    overnight: -0.03,
    jumps: [[7, 0, -0.17]],
    news: [[7, 0, 'offering', 'Kelo Diagnostics prices an offering of 3.2 million new shares']],
  },
  {
    symbol: 'PIVTS',
    shape: 'gap and fade',
    overnight: 0.05,
    jumps: [[6, 50, 0.06]],
    news: [[6, 50, 'earnings', 'Pivotal Loam earns 14 cents a share in the quarter, 9 cents expected']],
  },
  {
    symbol: 'SOLVN',
    shape: 'squeeze',
    overnight: 0.08,
    jumps: [[7, 30, 0.12]],
    news: [[7, 30, 'partnership', 'Solvane Water to supply membranes to three coastal towns']],
  },
];
const some = (...symbols: string[]): Role[] =>
  [ORBINAL, ...FOLLOWERS].filter((r) => symbols.includes(r.symbol));

/** The days that a trader can practise on. The first one is where a new trader starts. */
export const PRACTICE_DAYS: readonly PracticeDay[] = [
  {
    id: 'gap-and-go',
    title: 'Gap and go',
    character:
      'Vulpine Robotics gaps up on a contract and keeps going after the open; Orbinal squeezes beside it, and eight more move on news.',
    date: '2027-03-09',
    startAt: [9, 10],
    mood: CALM,
    gappers: 26,
    roles: [
      {
        symbol: 'VULPN',
        shape: 'gap and go',
        overnight: 0.02,
        jumps: [
          [7, 2, 0.46],
          [8, 31, 0.09],
        ],
        news: [
          [
            7,
            2,
            'contract',
            'Vulpine Robotics signs a five-year sorting contract with an invented parcel carrier',
          ],
          [8, 31, 'contract', 'Vulpine Robotics adds a second depot to the sorting contract'],
        ],
      },
      ORBINAL,
      ...FOLLOWERS,
    ],
  },
  {
    id: 'gap-and-fade',
    title: 'Gap and fade',
    character:
      'The leaders open high and are sold from the first minutes on. Chasing costs; shorts need a borrow and patience.',
    date: '2027-04-14',
    startAt: [9, 10],
    mood: CALM,
    gappers: 30,
    roles: [
      {
        symbol: 'VULPN',
        shape: 'gap and fade',
        overnight: 0.05,
        jumps: [[7, 10, 0.34]],
        news: [[7, 10, 'guidance', 'Vulpine Robotics sees orders at the upper end of its range']],
      },
      {
        symbol: 'ORBNT',
        shape: 'gap and fade',
        jumps: [[6, 45, 0.41]],
        news: [[6, 45, 'filing', 'Orbinal files for an early review of its eye drop']],
      },
      {
        symbol: 'BRYXT',
        shape: 'slides',
        overnight: 0.22,
        news: [[7, 5, 'contract', 'Bryxton Aero takes a small service order']],
      },
      ...some('QUOLS', 'MIRLS', 'PIVTS', 'KELOD'),
    ],
  },
  {
    id: 'halted-squeeze',
    title: 'Low-float squeeze with halts',
    character:
      'Orbinal has four million shares to trade and everyone wants them: up, paused, up again, paused, then down as fast. Several volatility halts.',
    date: '2027-05-19',
    startAt: [9, 20],
    mood: CALM,
    gappers: 24,
    roles: [
      {
        symbol: 'ORBNT',
        shape: 'halted squeeze',
        floatM: 4.1,
        overnight: 0.04,
        jumps: [[8, 5, 0.38]],
        news: [[8, 5, 'trial result', 'Orbinal reports full recovery in a small early trial']],
      },
      {
        symbol: 'SOLVN',
        shape: 'halted squeeze',
        overnight: 0.12,
        jumps: [[7, 40, 0.2]],
        news: [[7, 40, 'contract', 'Solvane Water lands its largest order so far']],
      },
      ...some('TARNH', 'BRYXT', 'ZEPHN', 'KELOD'),
    ],
  },
  {
    id: 'mid-morning-news',
    title: 'News in mid-morning',
    character:
      'A sleepy open. At 10:42 Zephaline Wind is halted for news, reopens by auction far higher and trends; the rest of the list wakes up with it.',
    date: '2027-06-09',
    startAt: [9, 25],
    mood: CALM,
    gappers: 12,
    roles: [
      {
        symbol: 'ZEPHN',
        shape: 'mid-morning news',
        halts: [{ at: [10, 42], until: [10, 57], reason: 'news pending', gap: 0.19 }],
        news: [
          [10, 42, 'halt', 'Zephaline Wind: trading halted, news pending'],
          [10, 50, 'contract', 'Zephaline Wind signs to build a coastal park of ninety turbines'],
        ],
      },
      {
        symbol: 'TARNH',
        shape: 'mid-morning news',
        jumps: [[10, 59, 0.05]],
        news: [[10, 59, 'partnership', 'Tarn Hollow Energy owns the land of Zephaline’s park']],
      },
      ...some('MIRLS', 'PIVTS'),
    ],
  },
  {
    id: 'offering',
    title: 'An offering kills the mover',
    character:
      'Bryxton Aero runs all morning, then sells new shares into the strength at 10:25. What was a breakout is a trap within seconds.',
    date: '2027-08-11',
    startAt: [9, 10],
    mood: CALM,
    gappers: 22,
    roles: [
      {
        symbol: 'BRYXT',
        shape: 'offering',
        overnight: 0.06,
        jumps: [
          [7, 15, 0.36],
          [10, 25, -0.27],
        ],
        news: [
          [7, 15, 'contract', 'Bryxton Aero to rebuild a fleet of mail planes'],
          [10, 25, 'offering', 'Bryxton Aero begins an offering of four million shares'],
        ],
      },
      ...some('ORBNT', 'QUOLS', 'PIVTS', 'SOLVN'),
    ],
  },
  {
    id: 'thin-grind',
    title: 'Thin and grinding',
    character:
      'Little volume, wide spreads, slow drifts upward. Market orders slip; patience and resting orders are paid.',
    date: '2027-08-27',
    startAt: [9, 25],
    mood: [
      [4, 0, 0, 0.003],
      [9, 30, 0.0015, 0.011],
      [16, 0, 0, 0.003],
    ],
    gappers: 8,
    roles: [
      {
        symbol: 'PIVTS',
        shape: 'thin grind',
        overnight: 0.07,
        news: [[7, 30, 'guidance', 'Pivotal Loam repeats its outlook']],
      },
      {
        symbol: 'MIRLS',
        shape: 'thin grind',
        overnight: 0.09,
        news: [[8, 0, 'partnership', 'Mirelle Foods opens a second mill']],
      },
      { symbol: 'VULPN', shape: 'thin grind', overnight: 0.05 },
      { symbol: 'KELOD', shape: 'thin grind', overnight: 0.08 },
    ],
  },
  {
    id: 'index-sell-off',
    title: 'Index sell-off with short-sale restrictions',
    character:
      'The whole market falls from ten o’clock on. Weak names lose a tenth and come under the short-sale restriction, for that day and the next.',
    date: '2027-10-05',
    startAt: [9, 25],
    mood: [
      [4, 0, -0.001, 0.01],
      [9, 30, -0.004, 0.05],
      [10, 2, -0.05, 0.075],
      [10, 40, 0.012, 0.06],
      [12, 0, -0.006, 0.045],
      [15, 0, -0.02, 0.06],
      [16, 0, 0, 0.01],
    ],
    gappers: 26,
    roles: [
      {
        symbol: 'QUOLS',
        shape: 'breaks down',
        overnight: -0.03,
        news: [[8, 10, 'guidance', 'Quollis Semiconductor lowers its outlook for the quarter']],
      },
      {
        symbol: 'KELOD',
        shape: 'breaks down',
        overnight: -0.05,
        news: [[7, 30, 'filing', 'Kelo Diagnostics delays its annual report']],
      },
      { symbol: 'TARNH', shape: 'slides', overnight: -0.04 },
      ...some('ORBNT', 'SOLVN'),
    ],
  },
  {
    id: 'half-day',
    title: 'Half day before the holiday weekend',
    character:
      'The day after Thanksgiving closes at 13:00. Volume is thin, and everything happens in the first hour.',
    date: '2027-11-26',
    startAt: [9, 10],
    mood: CALM,
    gappers: 14,
    roles: some('ORBNT', 'BRYXT', 'MIRLS', 'PIVTS', 'QUOLS'),
  },
  {
    id: 'overnight-gap',
    title: 'An overnight gap through stops',
    character:
      'Tarn Hollow closes strong at the end of day one. Go on to the next day: an offering comes overnight, and stops below it fill at the open’s price.',
    date: '2027-09-15',
    startAt: [15, 10],
    mood: CALM,
    gappers: 18,
    roles: [
      {
        symbol: 'TARNH',
        shape: 'strong close',
        overnight: 0.05,
        news: [[8, 15, 'contract', 'Tarn Hollow Energy wins a heat supply contract']],
      },
      { symbol: 'VULPN', shape: 'strong close', overnight: 0.03 },
      ...some('ORBNT', 'PIVTS', 'KELOD'),
    ],
    later: {
      1: [
        {
          symbol: 'TARNH',
          shape: 'slides',
          overnight: -0.31,
          news: [
            [
              4,
              1,
              'offering',
              'Tarn Hollow Energy priced an offering overnight, far below yesterday’s close',
            ],
          ],
        },
        {
          symbol: 'VULPN',
          shape: 'gap and go',
          overnight: 0.14,
          news: [[6, 20, 'contract', 'Vulpine Robotics wins a follow-up order']],
        },
      ],
    },
  },
  {
    id: 'quiet-day',
    title: 'A quiet day',
    character: 'Nothing moves much. The best trade may be none; a good day to practise doing little.',
    date: '2027-07-21',
    startAt: [9, 10],
    mood: [
      [4, 0, 0, 0.003],
      [9, 30, 0, 0.012],
      [16, 0, 0, 0.003],
    ],
    gappers: 5,
    roles: some('PIVTS'),
  },
];

const GENERIC: Record<'up' | 'down', [NewsItem['kind'], string][]> = {
  up: [
    ['earnings', 'earns more in the quarter than expected'],
    ['contract', 'wins a supply contract'],
    ['approval', 'receives an approval'],
    ['partnership', 'announces a partnership'],
    ['guidance', 'raises its outlook'],
  ],
  down: [
    ['earnings', 'earns less in the quarter than expected'],
    ['offering', 'prices an offering of new shares'],
    ['guidance', 'lowers its outlook'],
    ['filing', 'delays its report'],
  ],
};

/** What one day hands on to the next. Prices in 1/10,000 dollar, in the order of the scenario's symbols. */
export interface Carry {
  closes: Int32Array;
  highs: Int32Array;
  lows: Int32Array;
  opens: Int32Array;
  volumes: Float64Array;
  /** ATR(14) after Wilder with that day in it. */
  atrs: Int32Array;
  date: string;
  /** Restricted by what happened on that day: holds on the next one too. */
  restricted: Uint8Array;
}

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
    options: { ivLow: 0.11, ivHigh: 0.34 },
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

const moodPhases = (mood: PracticeDay['mood']): Phase[] =>
  mood.map(([h, m, drift, vol]) => ({ from: at(h, m), drift: drift / 100, vol: vol / 100, pace: 0 }));

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
  const spec = PRACTICE_DAYS.find((d) => d.id === id);
  if (!spec) throw new Error(`no practice day is called ${id}`);
  let date = spec.date;
  for (let k = 0; k < dayNumber; k++) date = nextTradingDay(date);
  const hours = hoursOn(date);
  const daySeed = dayNumber === 0 ? seed : mix(seed, dayNumber) & 0x7fffffff;
  const r = createRandom(daySeed, `${id} scenario`);
  const roles = dayNumber === 0 ? spec.roles : (spec.later?.[dayNumber] ?? []);
  const gappers = dayNumber === 0 ? spec.gappers : 16;
  const news: NewsItem[] = [];
  const list = allCompanies(size);
  const chosen = new Set<string>();
  // A short list may not have so many.
  for (let tries = 0; chosen.size < gappers && tries < 5_000; tries++) {
    const c = list[below(r, list.length)] as Company;
    if (
      c.dollars > 0.7 &&
      c.dollars < 40 &&
      c.floatM < 90 &&
      c.tier === 2 &&
      !roles.some((x) => x.symbol === c.symbol)
    )
      chosen.add(c.symbol);
  }
  const symbols = list.map((c, i): SymbolPlan => {
    const before = carry?.closes[i] ?? 0;
    const close = before > 0 ? toDollars(before) : c.dollars * (1 + 0.06 * normal(r)) || c.dollars;
    const role = roles.find((x) => x.symbol === c.symbol);
    const exact = CAST.some((k) => k.symbol === c.symbol) && before === 0 ? c.dollars : Math.max(0.05, close);
    const plan = role
      ? movingPlan(c, exact, role, r, hours)
      : chosen.has(c.symbol)
        ? gapperPlan(c, exact, r, hours, news)
        : usualPlan(c, exact, r, hours);
    for (const [h, m, kind, headline] of role?.news ?? [])
      news.push({ at: at(h, m), symbol: c.symbol, kind, headline });
    if (carry && before > 0) {
      plan.instrument.priorOpen = (carry.opens[i] || before) as Price;
      plan.instrument.priorHigh = Math.max(carry.highs[i] || before, before) as Price;
      plan.instrument.priorLow = Math.min(carry.lows[i] || before, before) as Price;
      plan.instrument.atr = carry.atrs[i] as Price;
      plan.restricted = carry.restricted[i] === 1;
    }
    return plan;
  });
  return {
    id,
    title:
      dayNumber === 0 ? spec.title : `${spec.title}, ${dayNumber} ${dayNumber === 1 ? 'day' : 'days'} on`,
    character: spec.character,
    date,
    hours,
    seed: daySeed,
    startAt: dayNumber === 0 ? at(...spec.startAt) : at(4),
    mood: moodPhases(dayNumber === 0 ? spec.mood : CALM),
    symbols,
    news: news.filter((n) => n.at < DAY).sort((a, b) => a.at - b.at || (a.symbol < b.symbol ? -1 : 1)),
  };
}

function usualPlan(c: Company, close: number, r: Random, hours: Scenario['hours']): SymbolPlan {
  const prints = Math.max(8, Math.min(1_500, c.averageVolume / 260));
  const phases = usualPhases(hours);
  const index = c.symbol === INDEX_SYMBOL;
  const liquid = Math.sqrt(500_000 / Math.max(20_000, c.averageVolume));
  return {
    instrument: index ? { ...listing(c, close, r), kind: 'index stand-in' } : listing(c, close, r),
    overnight: index ? 0.003 : 0.35 * c.range * normal(r),
    halfSpread: index
      ? 0.00003
      : Math.max(0.0002, Math.min(0.018, 0.00045 * liquid * (0.7 + 0.6 * uniform(r)))),
    beta: index ? 1 : c.tier === 1 ? 0.7 + 0.6 * uniform(r) : 0.25 + 0.6 * uniform(r),
    vol: index ? 0.00003 : (c.range / 1.6 / 20) * 1.15,
    rate: prints / PRINT_SHARE / weightedSeconds(phases, hours.end),
    lot: (2.4 * c.averageVolume) / prints,
    depth: Math.max(0.5, Math.min(40, 1.4 * Math.sqrt(c.averageVolume / 400_000) * (close < 5 ? 2 : 1))),
    cross: c.averageVolume * 0.012,
    phases,
    jumps: [],
    halts: [],
    restricted: false,
    bars: null,
  };
}

function movingPlan(c: Company, close: number, role: Role, r: Random, hours: Scenario['hours']): SymbolPlan {
  const jumps = (role.jumps ?? []).map(([h, m, by]) => ({
    at: at(h, m),
    by: by * (0.92 + 0.16 * uniform(r)),
  }));
  const first = Math.min(
    jumps[0]?.at ?? at(7),
    role.news?.[0] ? at(role.news[0][0], role.news[0][1]) : at(7),
  );
  const base = usualPlan(c, close, r, hours);
  return {
    ...base,
    instrument: role.floatM
      ? { ...base.instrument, float: role.floatM * 1e6, sharesOutstanding: role.floatM * 2.1e6 }
      : base.instrument,
    overnight: role.overnight ?? 0,
    halfSpread: close < 1 ? 0.0035 : role.shape === 'thin grind' ? 0.003 : 0.0011,
    vol: 1,
    rate: 3,
    lot: close < 1 ? 700 : close < 5 ? 240 : 160,
    depth: (close < 5 ? 5 : 3) * (role.shape === 'thin grind' ? 0.5 : 1),
    cross: c.averageVolume * 0.06,
    phases: moverPhases(role.shape, first, hours),
    jumps: jumps.sort((a, b) => a.at - b.at),
    halts: (role.halts ?? []).map((x) => ({
      at: at(...x.at),
      until: at(...x.until),
      reason: x.reason,
      gap: x.gap,
    })),
  };
}

/** A mover of which no story is told: it gapped on some news, trades several times its usual volume, and goes its own way. */
function gapperPlan(
  c: Company,
  close: number,
  r: Random,
  hours: Scenario['hours'],
  news: NewsItem[],
): SymbolPlan {
  const base = usualPlan(c, close, r, hours);
  const up = uniform(r) < 0.68;
  const size = 0.05 + 0.24 * uniform(r) * uniform(r) * (up ? 1.6 : 1);
  const busy = 2.5 + 9 * uniform(r) * uniform(r);
  const when = at(6) + below(r, 170) * 60_000;
  const early = uniform(r) < 0.5;
  const [kind, text] = GENERIC[up ? 'up' : 'down'][below(r, up ? 5 : 4)] as [NewsItem['kind'], string];
  if (uniform(r) < 0.8)
    news.push({
      at: early ? at(4, 5) + below(r, 60) * 60_000 : when,
      symbol: c.symbol,
      kind,
      headline: `${c.name} ${text}`,
    });
  const trend = (uniform(r) - 0.5) * 0.0012;
  return {
    ...base,
    overnight: early ? (up ? size : -size) : 0,
    jumps: early ? [] : [{ at: when, by: up ? size : -size }],
    vol: base.vol * 1.9,
    lot: base.lot * 1.5,
    cross: base.cross * 3,
    phases: base.phases.map((p) => ({
      from: p.from,
      drift: p.from >= at(9, 30) && p.from < at(11) ? trend : 0,
      vol: p.vol * (p.from < at(9, 30) ? 2.2 : 1.3),
      pace: p.pace * busy * (p.from < at(9, 30) ? 6 : 1),
    })),
  };
}
