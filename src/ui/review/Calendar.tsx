'use client';

import { useState } from 'react';
import { type DayPoint, spanOf, type Unit, weekdayOf } from '@/core/review';
import { dateAfter, PRICE_SCALE } from '@/core/units';
import { setFilter } from './asked';
import { border, dollars } from './said';

/** A day with what it made in the unit that is told. */
type Told = DayPoint & { made: number };

const MONTHS = 'January February March April May June July August September October November December'.split(
  ' ',
);
const nameOf = (month: string) => `${MONTHS[Number(month.slice(5)) - 1]} ${month.slice(0, 4)}`;

/** Weeks of a month, Monday to Friday, each day with what it made and each week with its sum. */
export function Calendar({
  days: all,
  unit,
  open,
}: {
  days: readonly DayPoint[];
  unit: Unit;
  open(date: string): void;
}) {
  const days = all.map((d): Told => ({ ...d, made: unit === 'R' ? d.r : d.net }));
  // Whole dollars: there is little room.
  const say = (x: number) => border(unit, unit === 'R' ? x : Math.round(x / PRICE_SCALE));
  const months = [...new Set(days.map((d) => d.date.slice(0, 7)))];
  const [chosen, setChosen] = useState<string | null>(null);
  const month = chosen && months.includes(chosen) ? chosen : months[months.length - 1];
  if (!month) return null;
  const at = months.indexOf(month);
  const by = new Map(days.map((d) => [d.date, d]));
  const most = Math.max(1, ...days.map((d) => Math.abs(d.made)));
  const weeks: string[] = [];
  for (let monday = spanOf(`${month}-01`, 'week'); monday.slice(0, 7) <= month; monday = dateAfter(monday, 7))
    if (monday.slice(0, 7) === month || dateAfter(monday, 4).slice(0, 7) === month) weeks.push(monday);
  return (
    <div className="flex h-full flex-col">
      <div className="flex items-center gap-2 text-[13px]">
        <button
          type="button"
          className="btn px-2 py-0"
          disabled={at === 0}
          aria-label="Month before"
          onClick={() => setChosen(months[at - 1] ?? null)}
        >
          ←
        </button>
        <span className="w-32 text-center">{nameOf(month)}</span>
        <button
          type="button"
          className="btn px-2 py-0"
          disabled={at === months.length - 1}
          aria-label="Month after"
          onClick={() => setChosen(months[at + 1] ?? null)}
        >
          →
        </button>
      </div>
      <table className="mt-1 w-full grow table-fixed text-[12px]">
        <tbody>
          {weeks.map((monday) => {
            const dates = Array.from({ length: 5 }, (_, k) => dateAfter(monday, k));
            const sum = dates.reduce((a, d) => a + (d.slice(0, 7) === month ? (by.get(d)?.made ?? 0) : 0), 0);
            return (
              <tr key={monday}>
                {dates.map((d) => (
                  <td key={d} className="relative border border-line p-0">
                    {d.slice(0, 7) === month && (
                      <Day date={d} day={by.get(d)} most={most} say={say} open={open} />
                    )}
                  </td>
                ))}
                <td className="num pl-2 text-right text-quiet" title="The week">
                  {dates.some((d) => d.slice(0, 7) === month && by.has(d)) && say(sum)}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function Day({
  date,
  day,
  most,
  say,
  open,
}: {
  date: string;
  day: Told | undefined;
  most: number;
  say(x: number): string;
  open(date: string): void;
}) {
  const number = (
    <span className="absolute top-0 left-1 text-[11px] text-quiet">{Number(date.slice(8))}</span>
  );
  if (!day) return <span className="block h-full min-h-7">{weekdayOf(date) > 0 && number}</span>;
  return (
    <button
      type="button"
      className="block h-full min-h-7 w-full text-right hover:bg-raised"
      title={`${day.trades} trades, ${dollars(day.net)}`}
      aria-label={`${date}: ${say(day.made)}, ${day.trades} trades`}
      onClick={() => {
        setFilter({ from: date, to: date });
        open(date);
      }}
    >
      {number}
      <span className="num pr-1.5">{say(day.made)}</span>
      <span
        className={`absolute bottom-0 h-[4px] ${day.made < 0 ? 'right-1/2 bg-down' : 'left-1/2 bg-up'}`}
        style={{ width: `${(Math.abs(day.made) / most) * 50}%` }}
      />
    </button>
  );
}
