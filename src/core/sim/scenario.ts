import type { Instrument, NewsItem } from '../market/index.ts';
import { at, fromDollars, roundToTick } from '../units/index.ts';
import { below, createRandom, uniform } from './random.ts';

/**
 * A stretch of a symbol's day. `drift` is the expected change a minute and `vol` the typical
 * (one standard deviation) change a minute, both as a fraction of price; `pace` multiplies how
 * often the crowd acts. A stretch lasts until the next one starts.
 */
export interface Phase {
  from: number;
  drift: number;
  vol: number;
  pace: number;
}

/** A step in what the crowd thinks a symbol is worth, as a fraction of price. */
export interface Jump {
  at: number;
  by: number;
}

export interface SymbolPlan {
  instrument: Instrument;
  /** Worth at 04:00 as a fraction above the prior close. */
  overnight: number;
  /** Half the usual spread as a fraction of price, in the regular session. */
  halfSpread: number;
  phases: Phase[];
  jumps: Jump[];
}

export interface Scenario {
  id: string;
  title: string;
  /** The made-up calendar date of the day, yyyy-mm-dd. */
  date: string;
  seed: number;
  startAt: number;
  symbols: SymbolPlan[];
  news: NewsItem[];
}

interface Mover {
  symbol: string;
  name: string;
  sector: string;
  close: number;
  floatM: number;
  averageM: number;
  atr: number;
  overnight: number;
  jumps: [hour: number, minute: number, by: number][];
  shape: 'gap and go' | 'gap and fade' | 'squeeze' | 'late news' | 'slides';
}

/** The small caps that matter today. All names are invented. */
const MOVERS: Mover[] = [
  {
    symbol: 'VULP',
    name: 'Vulpine Robotics',
    sector: 'Machinery',
    close: 4.12,
    floatM: 11.4,
    averageM: 0.9,
    atr: 0.31,
    overnight: 0.02,
    jumps: [
      [7, 2, 0.46],
      [8, 31, 0.09],
    ],
    shape: 'gap and go',
  },
  {
    symbol: 'ORBN',
    name: 'Orbinal Therapeutics',
    sector: 'Biotech',
    close: 2.38,
    floatM: 6.2,
    averageM: 0.5,
    atr: 0.22,
    overnight: 0,
    jumps: [
      [6, 30, 0.62],
      [8, 12, -0.06],
    ],
    shape: 'squeeze',
  },
  {
    symbol: 'TARN',
    name: 'Tarn Hollow Energy',
    sector: 'Energy',
    close: 7.86,
    floatM: 23.0,
    averageM: 1.6,
    atr: 0.48,
    overnight: 0.04,
    jumps: [[7, 45, 0.13]],
    shape: 'gap and go',
  },
  {
    symbol: 'QUOL',
    name: 'Quollis Semiconductor',
    sector: 'Chips',
    close: 11.25,
    floatM: 31.5,
    averageM: 2.2,
    atr: 0.64,
    overnight: 0.09,
    jumps: [[8, 0, 0.05]],
    shape: 'gap and fade',
  },
  {
    symbol: 'MIRL',
    name: 'Mirelle Foods',
    sector: 'Consumer',
    close: 5.44,
    floatM: 14.8,
    averageM: 0.7,
    atr: 0.27,
    overnight: 0.01,
    jumps: [[8, 30, 0.17]],
    shape: 'gap and fade',
  },
  {
    symbol: 'BRYX',
    name: 'Bryxton Aero',
    sector: 'Machinery',
    close: 3.07,
    floatM: 9.1,
    averageM: 0.6,
    atr: 0.24,
    overnight: 0.11,
    jumps: [[7, 20, 0.08]],
    shape: 'gap and go',
  },
  {
    symbol: 'ZEPH',
    name: 'Zephaline Wind',
    sector: 'Energy',
    close: 14.6,
    floatM: 27.3,
    averageM: 1.1,
    atr: 0.7,
    overnight: 0.06,
    jumps: [[8, 45, 0.04]],
    shape: 'late news',
  },
  {
    symbol: 'KELO',
    name: 'Kelo Diagnostics',
    sector: 'Biotech',
    close: 6.31,
    floatM: 12.7,
    averageM: 0.8,
    atr: 0.41,
    overnight: -0.03,
    jumps: [[7, 0, -0.17]],
    shape: 'slides',
  },
  {
    symbol: 'PIVT',
    name: 'Pivotal Loam',
    sector: 'Materials',
    close: 8.92,
    floatM: 18.2,
    averageM: 0.9,
    atr: 0.44,
    overnight: 0.05,
    jumps: [[6, 50, 0.06]],
    shape: 'gap and fade',
  },
  {
    symbol: 'SOLV',
    name: 'Solvane Water',
    sector: 'Utilities',
    close: 0.86,
    floatM: 44,
    averageM: 3.1,
    atr: 0.07,
    overnight: 0.08,
    jumps: [[7, 30, 0.12]],
    shape: 'squeeze',
  },
];

const QUIET: [symbol: string, name: string, sector: string, close: number][] = [
  ['ALDR', 'Alder & Quay', 'Consumer', 18.4],
  ['BOSC', 'Boscage Homes', 'Consumer', 33.1],
  ['CYND', 'Cynder Metals', 'Materials', 9.75],
  ['DOVR', 'Dovrell Freight', 'Transport', 21.8],
  ['ELMA', 'Elmarine Lines', 'Transport', 6.6],
  ['FJRD', 'Fjordane Fish', 'Consumer', 4.9],
  ['GLIM', 'Glimmer Optics', 'Chips', 15.2],
  ['HUSK', 'Husk & Grain', 'Consumer', 7.35],
  ['INKA', 'Inkadia Press', 'Media', 3.4],
  ['JUNP', 'Juniper Vale Bank', 'Banks', 27.9],
  ['KAOL', 'Kaolin Works', 'Materials', 12.1],
  ['LUMM', 'Lummox Games', 'Media', 5.8],
  ['MOSS', 'Mossgate Parks', 'Media', 40.2],
  ['NIMB', 'Nimbale Cloud', 'Software', 52.7],
  ['OPAQ', 'Opaque Systems', 'Software', 8.2],
  ['PLIN', 'Plinth Realty', 'Property', 16.9],
  ['QUAY', 'Quaystone Ports', 'Transport', 24.3],
  ['RUSK', 'Ruskin Mills', 'Materials', 2.95],
  ['SABL', 'Sable Hill Mining', 'Materials', 1.85],
  ['TEAZ', 'Teazle Textiles', 'Consumer', 10.4],
  ['UMBR', 'Umbrage Labs', 'Biotech', 3.75],
  ['VELD', 'Veldt Insurance', 'Banks', 36.5],
  ['WREN', 'Wrenfield Media', 'Media', 13.3],
  ['XYLO', 'Xylograph', 'Software', 19.6],
  ['YARR', 'Yarrow Clinics', 'Health', 11.9],
  ['ZINN', 'Zinnober Paints', 'Materials', 22.4],
];

const NEWS: [symbol: string, hour: number, minute: number, kind: NewsItem['kind'], headline: string][] = [
  ['ORBN', 6, 30, 'trial result', 'Orbinal reports that its mid-stage eye drop trial met its main goal'],
  ['PIVT', 6, 50, 'earnings', 'Pivotal Loam earns 14 cents a share in the quarter, 9 cents expected'],
  ['KELO', 7, 0, 'offering', 'Kelo Diagnostics prices an offering of 3.2 million new shares'],
  ['VULP', 7, 2, 'contract', 'Vulpine Robotics signs a five-year sorting contract with an invented parcel carrier'],
  ['BRYX', 7, 20, 'contract', 'Bryxton Aero wins a repair order for forty light aircraft'],
  ['SOLV', 7, 30, 'partnership', 'Solvane Water to supply membranes to three coastal towns'],
  ['TARN', 7, 45, 'earnings', 'Tarn Hollow Energy raises its outlook for the year'],
  ['QUOL', 8, 0, 'partnership', 'Quollis Semiconductor licenses a sensor design'],
  ['VULP', 8, 31, 'contract', 'Vulpine Robotics adds a second depot to the sorting contract'],
  ['MIRL', 8, 30, 'approval', 'Mirelle Foods gets clearance for its oat protein'],
  ['ZEPH', 8, 45, 'partnership', 'Zephaline Wind in talks with a grid operator'],
];

/** How the regular session goes, by character: drift and vol in % a minute, and the pace. */
const SHAPES: Record<Mover['shape'], [hour: number, minute: number, drift: number, vol: number, pace: number][]> = {
  'gap and go': [
    [9, 30, 0.62, 0.62, 3.2],
    [9, 42, -0.16, 0.5, 2.2],
    [9, 58, 0.3, 0.46, 1.8],
    [10, 20, -0.05, 0.3, 1],
    [11, 30, 0, 0.16, 0.6],
    [14, 30, 0.03, 0.22, 0.8],
  ],
  squeeze: [
    [9, 30, -0.4, 0.8, 3],
    [9, 36, 1.15, 0.95, 3.6],
    [9, 52, -0.5, 0.9, 2.6],
    [10, 15, 0.12, 0.5, 1.4],
    [11, 20, -0.06, 0.25, 0.7],
    [15, 0, -0.1, 0.35, 1],
  ],
  'gap and fade': [
    [9, 30, 0.25, 0.55, 2.6],
    [9, 35, -0.42, 0.5, 2],
    [10, 5, -0.08, 0.32, 1.1],
    [11, 0, 0, 0.15, 0.6],
    [15, 0, 0.02, 0.2, 0.8],
  ],
  'late news': [
    [9, 30, 0.02, 0.35, 1.4],
    [10, 30, 0, 0.2, 0.8],
    [13, 10, 0.25, 0.4, 1.8],
    [13, 40, 0, 0.2, 0.8],
  ],
  slides: [
    [9, 30, -0.35, 0.55, 2.4],
    [9, 50, 0.1, 0.4, 1.4],
    [10, 40, -0.03, 0.22, 0.8],
  ],
};

/**
 * The demo day: several small caps on news before the open, a crowd of quiet names and one index
 * stand-in. Everything in it is invented; the same seed gives the same day.
 */
export function demoDay(seed = 7): Scenario {
  const random = createRandom(seed, 'scenario');
  const symbols: SymbolPlan[] = MOVERS.map((m) => ({
    instrument: instrument(m.symbol, m.name, m.sector, m.close, m.floatM * 1e6, m.averageM * 1e6, m.atr, random),
    overnight: m.overnight,
    halfSpread: m.close < 1 ? 0.0035 : 0.0011,
    jumps: m.jumps.map(([h, min, by]) => ({ at: at(h, min), by: by * (0.92 + 0.16 * uniform(random)) })),
    phases: moverPhases(m),
  }));
  for (const [symbol, name, sector, close] of QUIET) {
    const average = (0.15 + 0.8 * uniform(random)) * 1e6;
    symbols.push({
      instrument: instrument(symbol, name, sector, close, (15 + below(random, 60)) * 1e6, average, close * 0.03, random),
      overnight: (uniform(random) - 0.5) * 0.03,
      halfSpread: 0.0008 + 0.0012 * uniform(random),
      jumps: [],
      phases: quietPhases(0.035, 0.35),
    });
  }
  symbols.push({
    instrument: { ...instrument('FOXX', 'Index stand-in', 'Index', 412.3, 900e6, 38e6, 4.1, random), kind: 'index stand-in' },
    overnight: 0.003,
    halfSpread: 0.00003,
    jumps: [],
    phases: quietPhases(0.018, 2.2),
  });
  return {
    id: 'demo-day',
    title: 'Demo day: a gap and go, a squeeze and a crowd of followers',
    date: '2027-03-09',
    seed,
    startAt: at(9, 10),
    symbols,
    news: NEWS.map(([symbol, h, m, kind, headline]) => ({ at: at(h, m), symbol, kind, headline })).sort((a, b) => a.at - b.at),
  };
}

function instrument(
  symbol: string,
  name: string,
  sector: string,
  close: number,
  float: number,
  averageVolume: number,
  atr: number,
  random: Int32Array,
): Instrument {
  const range = atr * (0.7 + 0.5 * uniform(random));
  const low = close - range * (0.25 + 0.5 * uniform(random));
  const open = low + range * uniform(random);
  const dollars = (d: number) => roundToTick(fromDollars(d));
  return {
    symbol,
    name,
    sector,
    kind: 'stock',
    priorOpen: dollars(open),
    priorHigh: dollars(Math.max(low + range, close, open)),
    priorLow: dollars(Math.min(low, close, open)),
    priorClose: dollars(close),
    float: Math.round(float),
    averageVolume: Math.round(averageVolume),
    atr: fromDollars(atr),
  };
}

function moverPhases(m: Mover): Phase[] {
  const first = m.jumps[0];
  const newsAt = first ? at(first[0], first[1]) : at(7);
  const percent = 0.01;
  return [
    { from: at(4), drift: 0, vol: 0.05 * percent, pace: 0.05 },
    { from: newsAt, drift: 0.1 * percent, vol: 0.42 * percent, pace: 1.1 },
    { from: newsAt + 25 * 60_000, drift: 0, vol: 0.26 * percent, pace: 0.7 },
    { from: at(9, 5), drift: 0.05 * percent, vol: 0.3 * percent, pace: 1 },
    ...SHAPES[m.shape].map(([h, min, drift, vol, pace]) => ({ from: at(h, min), drift: drift * percent, vol: vol * percent, pace })),
    { from: at(16), drift: 0, vol: 0.08 * percent, pace: 0.15 },
  ];
}

function quietPhases(volPercent: number, pace: number): Phase[] {
  const vol = volPercent / 100;
  return [
    { from: at(4), drift: 0, vol: vol * 0.5, pace: pace * 0.04 },
    { from: at(8), drift: 0, vol: vol * 0.8, pace: pace * 0.12 },
    { from: at(9, 30), drift: 0, vol: vol * 1.8, pace },
    { from: at(10, 15), drift: 0, vol, pace: pace * 0.6 },
    { from: at(15, 30), drift: 0, vol: vol * 1.2, pace: pace * 0.8 },
    { from: at(16), drift: 0, vol: vol * 0.4, pace: pace * 0.05 },
  ];
}
