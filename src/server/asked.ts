// What is asked of the interface for other programs, checked: bad input is answered with what would be right.
import * as yup from 'yup';
import { PRACTICE_DAYS } from '../core/sim/index.ts';
import { AFTER_CLOSE, formatTime, HOUR, MINUTE, PRE_OPEN } from '../core/units/index.ts';

/** What was asked cannot be answered; `status` is that of HTTP. */
export class Unanswerable extends Error {
  constructor(
    readonly status: 400 | 404 | 414 | 429,
    message: string,
  ) {
    super(message);
  }
}

export const FORMATS = ['csv', 'jsonl', 'parquet'] as const;
export type Format = (typeof FORMATS)[number];

/** Prints of all symbols come for at most so long at once. */
const LONGEST_OF_ALL = 30 * MINUTE;
const MOST_SYMBOLS = 100;
const LONGEST_URL = 2_000;
const MINUTES = [1, 2, 3, 5, 10, 15, 30, 60];

export interface Asked {
  format: Format;
  variation: number;
  /** Null: all. */
  symbols: readonly string[] | null;
  /** Times of day, the first included, the last not. */
  from: number;
  to: number;
  minutes: number;
}

/** Which questions a table takes beside `format`. */
export type Question = 'variation' | 'symbol' | 'from' | 'to' | 'minutes';

const clockText = (text: string): number | null => {
  const m = /^(\d\d):([0-5]\d)$/.exec(text);
  return m ? Number(m[1]) * HOUR + Number(m[2]) * MINUTE : null;
};
const time = (name: string) =>
  yup.string().test('time', (text, c) => {
    const t = text === undefined ? PRE_OPEN : clockText(text);
    const fits = t !== null && t >= PRE_OPEN && t <= AFTER_CLOSE;
    return (
      fits ||
      c.createError({
        message: `${name} is a time of day from 04:00 to 20:00, such as 09:30, not “${text}”.`,
      })
    );
  });

const QUESTIONS = {
  variation: yup
    .string()
    .matches(
      /^\d{1,9}$/,
      ({ value }) => `variation is a whole number up to 999999999, such as 7, not “${value}”.`,
    ),
  symbol: yup
    .string()
    .matches(
      /^(all|[A-Z][A-Z0-9.]{0,5}(,[A-Z][A-Z0-9.]{0,5})*)$/,
      ({ value }) =>
        `symbol is one symbol or several with commas between, such as VULPN,ORBNT, or all, not “${value}”.`,
    ),
  from: time('from'),
  to: time('to'),
  minutes: yup
    .string()
    .oneOf(MINUTES.map(String), ({ value }) => `minutes is one of ${MINUTES.join(', ')}, not “${value}”.`),
  format: yup
    .string()
    .oneOf(FORMATS, ({ value }) => `format is one of ${FORMATS.join(', ')}, not “${value}”.`),
};

type Said = Partial<Record<keyof typeof QUESTIONS, string>>;

/** What stands behind the `?`, each part checked by itself. */
function saidIn(query: URLSearchParams, known: readonly (keyof typeof QUESTIONS)[]): Said {
  for (const name of query.keys()) {
    if (!known.some((k) => k === name))
      throw new Unanswerable(400, `“${name}” is not asked here. Known are: ${known.join(', ')}.`);
    if (query.getAll(name).length > 1) throw new Unanswerable(400, `${name} is given twice; give it once.`);
  }
  const said: Said = {};
  for (const name of known) {
    const text = query.get(name);
    if (text === null) continue;
    said[name] = text;
    try {
      QUESTIONS[name].validateSync(text, { strict: true });
    } catch (e) {
      throw new Unanswerable(400, e instanceof Error ? e.message : String(e));
    }
  }
  return said;
}

/**
 * Reads the question behind a `?`.
 * @throws Unanswerable (400, or 414 for one that is too long) with what would be right.
 */
export function readAsked(url: string, takes: readonly Question[]): Asked {
  if (url.length > LONGEST_URL)
    throw new Unanswerable(
      414,
      `An address has at most ${LONGEST_URL} characters; ask for fewer symbols, or for all.`,
    );
  const said = saidIn(new URL(url).searchParams, [...takes, 'format']);
  const { symbol = 'all', from = '04:00', to = '20:00' } = said;
  const asked: Asked = {
    format: (said.format ?? 'csv') as Format,
    variation: Number(said.variation ?? 7),
    symbols: symbol === 'all' ? null : [...new Set(symbol.split(','))],
    from: clockText(from) ?? PRE_OPEN,
    to: clockText(to) ?? AFTER_CLOSE,
    minutes: Number(said.minutes ?? 1),
  };
  if ((asked.symbols?.length ?? 0) > MOST_SYMBOLS)
    throw new Unanswerable(400, `At most ${MOST_SYMBOLS} symbols are named at once; ask for all instead.`);
  if (asked.from >= asked.to)
    throw new Unanswerable(400, `from has to be before to; ${from} is not before ${to}.`);
  return asked;
}

/** Prints of all symbols are bounded in time. @throws Unanswerable (400). */
export function boundPrints({ symbols, from, to }: Asked): void {
  if (symbols !== null || to - from <= LONGEST_OF_ALL) return;
  const until = formatTime(from + LONGEST_OF_ALL, 'minutes');
  throw new Unanswerable(
    400,
    `Prints of all symbols come for at most 30 minutes at once, such as from=${formatTime(from, 'minutes')}&to=${until}; of named symbols for the whole day.`,
  );
}

/** Candles are whole: none is cut by where the asking begins or ends. @throws Unanswerable (400). */
export function uncut({ from, to, minutes }: Asked): void {
  const length = minutes * MINUTE;
  for (const [name, t] of [
    ['from', from],
    ['to', to],
  ] as const) {
    if (t % length === 0) continue;
    const [before, after] = [t - (t % length), t - (t % length) + length].map((x) =>
      formatTime(x, 'minutes'),
    );
    throw new Unanswerable(
      400,
      `${name} would cut a candle of ${minutes} minutes; whole are ${name}=${before} and ${name}=${after}.`,
    );
  }
}

/** A practice day by its id. @throws Unanswerable (404) that names those there are. */
export function practiceDayId(id: string): string {
  if (PRACTICE_DAYS.some((d) => d.id === id)) return id;
  throw new Unanswerable(
    404,
    `There is no day “${id.slice(0, 60)}”. The days are: ${PRACTICE_DAYS.map((d) => d.id).join(', ')}.`,
  );
}
