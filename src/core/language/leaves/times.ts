// Times, dates and lengths of candles.
import type { Leaf, Taken } from '../grammar.ts';
import type { Token } from '../tokens.ts';
import { measure } from './measures.ts';
import { between } from './random.ts';

/** The candles that a script can speak of, in minutes. */
export const CANDLES = [1, 2, 3, 5, 10, 15, 30, 60] as const;
const MINUTE = /^(m|min|minute)$/i;
/** The length of a candle: 1m, 2m, 3m, 5m, 10m, 15m, 30m or 60m. */
export const CANDLE: Leaf<number> = {
  leaf: 'a candle of 1m, 2m, 3m, 5m, 10m, 15m, 30m or 60m',
  role: 'value',
  example: '5m',
  starts: ['#number'],
  choices: () => CANDLES.map((n) => `${n}m`),
  write: (n) => `${n}m`,
  random: (r) => CANDLES[between(r, 0, CANDLES.length - 1)] as number,
  take(tokens, i) {
    const t = tokens[i];
    if (t?.kind !== 'number' || t.dollar) return null;
    const apart = t.unit === '' && MINUTE.test(tokens[i + 1]?.word ?? '');
    if (!apart && !MINUTE.test(t.unit)) return null;
    const n = Number(t.digits);
    const next = apart ? i + 2 : i + 1;
    if (CANDLES.some((c) => c === n)) return { value: n, next };
    const nearest = CANDLES.reduce((a, b) => (Math.abs(b - n) < Math.abs(a - n) ? b : a));
    return {
      value: nearest,
      next,
      finding: { code: 'no such candle', found: t.text, fixes: [`${nearest}m`] },
    };
  },
};

/** A time of day in minutes after midnight. */
export const TIME: Leaf<number> = {
  leaf: 'a time such as 11:00',
  role: 'time',
  example: '15:50',
  starts: ['#time', '#number'],
  write: (n) => `${String(Math.floor(n / 60)).padStart(2, '0')}:${String(n % 60).padStart(2, '0')}`,
  random: (r) => between(r, 4 * 60, 20 * 60),
  take(tokens, i) {
    const t = tokens[i];
    if (t?.kind === 'number' && /^\d{1,2}$/.test(t.digits) && /^(|am|pm)$/i.test(t.unit)) return hourOf(t, i);
    if (t?.kind !== 'time') return null;
    const half = /^[ap]m$/.exec(tokens[i + 1]?.word ?? '')?.[0];
    const [hour = 0, m = 0] = t.text.split(':').map(Number);
    const h = half === 'pm' && hour < 12 ? hour + 12 : half === 'am' && hour === 12 ? 0 : hour;
    const value = h * 60 + m;
    // Nobody trades then: the afternoon may be meant.
    if (half === undefined && hour > 0 && h < 4 && m < 60)
      return {
        value,
        next: i + 1,
        finding: { code: 'at night', found: t.text, fixes: [TIME.write(value + 12 * 60, {})] },
      };
    if (h < 24 && m < 60) return { value, next: half ? i + 2 : i + 1 };
    return { value: 0, next: i + 1, finding: { code: 'no such time', found: t.text, fixes: [TIME.example] } };
  },
};
/** An hour without its minutes: 11, 3pm. */
function hourOf(t: Token, i: number): Taken<number> {
  const hour = Number(t.digits) + (t.unit.toLowerCase() === 'pm' && Number(t.digits) < 12 ? 12 : 0);
  const minutes = (hour % 24) * 60;
  return {
    value: minutes,
    next: i + 1,
    finding: {
      code: 'unfit',
      found: t.text,
      expected: 'a time such as 15:50',
      fixes: [TIME.write(minutes, {})],
    },
  };
}
const DAYS_IN = [31, 29, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
/** Whole seconds. */
export const SECONDS = measure({
  leaf: 'seconds such as 20s',
  name: 'SECONDS',
  role: 'time',
  example: '20s',
  units: ['s', 'sec', 'seconds'],
  least: 1,
  most: 3_600,
  scale: 1,
  write: (n) => `${n}s`,
});

/** Whole minutes. */
export const MINUTES = measure({
  leaf: 'minutes such as 10 minutes',
  name: 'MINUTES',
  role: 'time',
  example: '10 minutes',
  units: ['m', 'min', 'mins', 'minute', 'minutes'],
  least: 1,
  most: 480,
  scale: 1,
  write: (n) => `${n} ${n === 1 ? 'minute' : 'minutes'}`,
});

export const DATE: Leaf<string> = {
  leaf: 'a date such as 2026-04-17',
  role: 'time',
  example: '2026-04-17',
  starts: ['#date'],
  write: (d) => d,
  random: (r) =>
    `2026-${String(between(r, 1, 12)).padStart(2, '0')}-${String(between(r, 1, 28)).padStart(2, '0')}`,
  take(tokens, i) {
    const t = tokens[i];
    if (t?.kind !== 'date') return null;
    const [y = 0, m = 0, d = 0] = t.text.split('-').map(Number);
    const leap = (y % 4 === 0 && y % 100 !== 0) || y % 400 === 0;
    const exists = m >= 1 && m <= 12 && d >= 1 && d <= (m === 2 && !leap ? 28 : (DAYS_IN[m - 1] as number));
    if (exists)
      return { value: `${y}-${String(m).padStart(2, '0')}-${String(d).padStart(2, '0')}`, next: i + 1 };
    return { value: t.text, next: i + 1, finding: { code: 'no such time', found: t.text, fixes: [] } };
  },
};

/** A candle, or days. */
export const CANDLE_OR_DAY: Leaf<number | 'day'> = {
  ...(CANDLE as unknown as Leaf<number | 'day'>),
  leaf: 'day, or a candle of 1m, 2m, 3m, 5m, 10m, 15m, 30m or 60m',
  starts: ['day', '#number'],
  choices: () => ['day', ...CANDLES.map((n) => `${n}m`)],
  write: (on) => (on === 'day' ? on : `${on}m`),
  random: (r) => (r() < 0.3 ? 'day' : (CANDLES[between(r, 0, CANDLES.length - 1)] as number)),
  take: (tokens, i, before, expect) =>
    tokens[i]?.word === 'day' ? { value: 'day', next: i + 1 } : CANDLE.take(tokens, i, before, expect),
};
