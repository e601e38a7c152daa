// Trades as pictures need them: a running sum, days, a spread, and how far each went for and against.
import { dateAfter } from '../units/index.ts';
import { WEEKDAYS, weekdayOf } from './dimensions.ts';
import type { Groups, Ledger } from './ledger.ts';
import type { TradeRecord } from './record.ts';

/** The running sum after each day, in money and R, and what the day added. */
export interface DayPoint {
  date: string;
  trades: number;
  /** Of them those that say what was risked. */
  withRisk: number;
  net: number;
  r: number;
  sumNet: number;
  sumR: number;
}

/** One point for each date on which a trade ended. */
export function dayPoints(l: Ledger, places: Int32Array): DayPoint[] {
  const out: DayPoint[] = [];
  let [sumNet, sumR, last] = [0, 0, -1];
  for (const i of places) {
    const day = l.day[i] as number;
    if (day !== last)
      out.push({ date: l.dates[day] as string, trades: 0, withRisk: 0, net: 0, r: 0, sumNet: 0, sumR: 0 });
    last = day;
    const p = out[out.length - 1] as DayPoint;
    const r = l.r[i] as number;
    p.trades++;
    p.net += l.net[i] as number;
    sumNet += l.net[i] as number;
    if (!Number.isNaN(r)) {
      p.withRisk++;
      p.r += r;
      sumR += r;
    }
    p.sumNet = sumNet;
    p.sumR = sumR;
  }
  return out;
}

/** What a span of days came to. */
interface SpanSum extends Pick<DayPoint, 'trades' | 'withRisk' | 'net' | 'r'> {
  name: string;
  days: number;
}

export type Span = 'day' | 'week' | 'month' | 'quarter';
/** Which span a date lies in, by a name that sorts: the date, the week's Monday, 2027-03, 2027 Q1. */
export function spanOf(date: string, span: Span): string {
  if (span === 'day') return date;
  if (span === 'week') return dateAfter(date, -((weekdayOf(date) + 6) % 7));
  if (span === 'month') return date.slice(0, 7);
  return `${date.slice(0, 4)} Q${Math.ceil(Number(date.slice(5, 7)) / 3)}`;
}

/** Days put together to weeks, months or quarters. */
export function spansOf(days: readonly DayPoint[], span: Span): SpanSum[] {
  const out = new Map<string, SpanSum>();
  for (const d of days) {
    const name = spanOf(d.date, span);
    const p = out.get(name) ?? { name, days: 0, trades: 0, withRisk: 0, net: 0, r: 0 };
    p.days++;
    p.trades += d.trades;
    p.withRisk += d.withRisk;
    p.net += d.net;
    p.r += d.r;
    out.set(name, p);
  }
  return [...out.values()];
}

interface HourCell {
  trades: number;
  r: number;
  net: number;
}
/** Results by hour of the day (rows) and weekday, Monday first: trades, and their sums in R and money. */
export function hoursByWeekday(l: Ledger, places: Int32Array): { hour: number; cells: HourCell[] }[] {
  const [hours, weekdays] = [l.groups.get('hour') as Groups, l.groups.get('weekday') as Groups];
  const columns = weekdays.names.map((name) => (WEEKDAYS.indexOf(name) + 6) % 7);
  const rows: (HourCell[] | undefined)[] = hours.names.map(() => undefined);
  for (const i of places) {
    const hour = hours.of[i] as number;
    const cells = rows[hour] ?? Array.from({ length: 5 }, () => ({ trades: 0, r: 0, net: 0 }));
    rows[hour] = cells;
    const cell = cells[columns[weekdays.of[i] as number] as number];
    if (!cell) continue;
    const r = l.r[i] as number;
    cell.trades++;
    cell.net += l.net[i] as number;
    if (!Number.isNaN(r)) cell.r += r;
  }
  return rows
    .flatMap((cells, k) => (cells ? [{ hour: Number(hours.names[k]?.slice(0, 2)), cells }] : []))
    .sort((a, b) => a.hour - b.hour);
}

/** A trade by how far it went against and for it, in R; `made` is what came of it. */
export interface Excursion {
  trade: string;
  against: number;
  forIt: number;
  made: number;
}

/** Of trades that say what was risked and of which prices are known; thinned evenly where there are more than `most`. */
export function excursions(l: Ledger, places: Int32Array, most: number): Excursion[] {
  const known: number[] = [];
  for (const i of places) {
    const t = l.records[i];
    if (t?.risk && t.mae !== null && t.mfe !== null) known.push(i);
  }
  const step = Math.max(1, known.length / most);
  return Array.from({ length: Math.min(most, known.length) }, (_, k) => {
    const i = known[Math.floor(k * step)] as number;
    const t = l.records[i] as TradeRecord;
    const risk = t.risk as number;
    return {
      trade: t.ref,
      against: -(t.mae as number) / risk,
      forIt: (t.mfe as number) / risk,
      made: l.r[i] as number,
    };
  });
}
