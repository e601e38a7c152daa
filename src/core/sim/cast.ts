/** The companies that the practice days tell stories about. All names are invented; numbers are of a usual day. */
export interface Known {
  symbol: string;
  name: string;
  sector: string;
  dollars: number;
  floatM: number;
  averageM: number;
  /** Average true range in dollars. */
  atr: number;
  borrow?: 'hard' | 'none';
  options?: true;
}

export const CAST: readonly Known[] = [
  {
    symbol: 'VULPN',
    name: 'Vulpine Robotics',
    sector: 'Machinery',
    dollars: 4.12,
    floatM: 11.4,
    averageM: 0.9,
    atr: 0.31,
    options: true,
  },
  {
    symbol: 'ORBNT',
    name: 'Orbinal Therapeutics',
    sector: 'Biotech',
    dollars: 2.38,
    floatM: 6.2,
    averageM: 0.5,
    atr: 0.22,
    borrow: 'hard',
  },
  {
    symbol: 'TARNH',
    name: 'Tarn Hollow Energy',
    sector: 'Energy',
    dollars: 7.86,
    floatM: 23.0,
    averageM: 1.6,
    atr: 0.48,
    options: true,
  },
  {
    symbol: 'QUOLS',
    name: 'Quollis Semiconductor',
    sector: 'Chips',
    dollars: 11.25,
    floatM: 31.5,
    averageM: 2.2,
    atr: 0.64,
    options: true,
  },
  {
    symbol: 'MIRLS',
    name: 'Mirelle Foods',
    sector: 'Consumer',
    dollars: 5.44,
    floatM: 14.8,
    averageM: 0.7,
    atr: 0.27,
  },
  {
    symbol: 'BRYXT',
    name: 'Bryxton Aero',
    sector: 'Machinery',
    dollars: 3.07,
    floatM: 9.1,
    averageM: 0.6,
    atr: 0.24,
    borrow: 'hard',
  },
  {
    symbol: 'ZEPHN',
    name: 'Zephaline Wind',
    sector: 'Energy',
    dollars: 14.6,
    floatM: 27.3,
    averageM: 1.1,
    atr: 0.7,
    options: true,
  },
  {
    symbol: 'KELOD',
    name: 'Kelo Diagnostics',
    sector: 'Biotech',
    dollars: 6.31,
    floatM: 12.7,
    averageM: 0.8,
    atr: 0.41,
  },
  {
    symbol: 'PIVTS',
    name: 'Pivotal Loam',
    sector: 'Materials',
    dollars: 8.92,
    floatM: 18.2,
    averageM: 0.9,
    atr: 0.44,
    options: true,
  },
  {
    symbol: 'SOLVN',
    name: 'Solvane Water',
    sector: 'Utilities',
    dollars: 0.86,
    floatM: 44,
    averageM: 3.1,
    atr: 0.07,
    borrow: 'none',
  },
];

/** Companies where usually little happens. */
export const QUIET: readonly [symbol: string, name: string, sector: string, dollars: number][] = [
  ['ALDRK', 'Alder & Quay', 'Consumer', 18.4],
  ['BOSKG', 'Boscage Homes', 'Consumer', 33.1],
  ['CYNDS', 'Cynder Metals', 'Materials', 9.75],
  ['DOVRT', 'Dovrell Freight', 'Transport', 21.8],
  ['ELMAN', 'Elmarine Lines', 'Transport', 6.6],
  ['FJRDN', 'Fjordane Fish', 'Consumer', 4.9],
  ['GLIMT', 'Glimmer Optics', 'Chips', 15.2],
  ['HUSKG', 'Husk & Grain', 'Consumer', 7.35],
  ['INKAD', 'Inkadia Press', 'Media', 3.4],
  ['JUNPK', 'Juniper Vale Bank', 'Banks', 27.9],
  ['KAOLN', 'Kaolin Works', 'Materials', 12.1],
  ['LUMMG', 'Lummox Games', 'Media', 5.8],
  ['MOSSG', 'Mossgate Parks', 'Media', 40.2],
  ['NIMBD', 'Nimbale Cloud', 'Software', 52.7],
  ['OPAQS', 'Opaque Systems', 'Software', 8.2],
  ['PLINH', 'Plinth Realty', 'Property', 16.9],
  ['QUAYS', 'Quaystone Ports', 'Transport', 24.3],
  ['RUSKN', 'Ruskin Mills', 'Materials', 2.95],
  ['SABLH', 'Sable Hill Mining', 'Materials', 1.85],
  ['TEAZT', 'Teazle Textiles', 'Consumer', 10.4],
  ['UMBRG', 'Umbrage Labs', 'Biotech', 3.75],
  ['VELDT', 'Veldt Insurance', 'Banks', 36.5],
  ['WRENS', 'Wrenfield Media', 'Media', 13.3],
  ['XYLOG', 'Xylograph', 'Software', 19.6],
  ['YARRN', 'Yarrow Clinics', 'Health', 11.9],
  ['ZINNT', 'Zinnober Paints', 'Materials', 22.4],
];
