'use client';

import { useState } from 'react';
import { type DayPoint, spanOf, weekdayOf } from '@/core/review';
import { dateAfter, PRICE_SCALE } from '@/core/units';
import { setFilter } from './asked';
import { border, dollars, inR } from './said';

const MONTHS = 'January February March April May June July August September October November December'.split(
  ' ',
);
const netOf = (days: readonly DayPoint[]): number => days.reduce((a, d) => a + d.net, 0);
/** `-$124.20, the trades’ R summed −2.1R`. */
const inSum = (days: readonly DayPoint[]): string =>
  `${dollars(netOf(days))}, trades’ R summed ${inR(days.reduce((a, d) => a + d.r, 0))}`;
const nameOf = (month: string) => `${MONTHS[Number(month.slice(5)) - 1]} ${month.slice(0, 4)}`;

/** Weeks of a month, Monday to Friday: dollars first, and the R of the trades, summed, as that. */
export function Calendar({ days, open }: { days: readonly DayPoint[]; open(date: string): void }) {
  // Whole dollars: there is little room.
  const say = (x: number) => border('$', Math.round(x / PRICE_SCALE));
  const months = [...new Set(days.map((d) => d.date.slice(0, 7)))];
  const [chosen, setChosen] = useState<string | null>(null);
  const month = chosen && months.includes(chosen) ? chosen : months[months.length - 1];
  if (!month) return null;
  const at = months.indexOf(month);
  const by = new Map(days.map((d) => [d.date, d]));
  const most = Math.max(1, ...days.map((d) => Math.abs(d.net)));
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
        <span className="min-w-32 text-center">
          {nameOf(month)}: <span className="num">{inSum(days.filter((d) => d.date.startsWith(month)))}</span>
        </span>
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
            const week = dates.flatMap((d) => (d.slice(0, 7) === month ? (by.get(d) ?? []) : []));
            return (
              <tr key={monday}>
                {dates.map((d) => (
                  <td key={d} className="relative border border-line p-0">
                    {d.slice(0, 7) === month && (
                      <Day date={d} day={by.get(d)} most={most} say={say} open={open} />
                    )}
                  </td>
                ))}
                <td className="num pl-2 text-right text-quiet" title={`The week: ${inSum(week)}`}>
                  {week.length > 0 && say(netOf(week))}
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
  day: DayPoint | undefined;
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
      title={`${day.trades} trades, ${inSum([day])}`}
      aria-label={`${date}: ${say(day.net)}, ${day.trades} trades`}
      onClick={() => {
        setFilter({ from: date, to: date });
        open(date);
      }}
    >
      {number}
      <span className="num pr-1.5">{say(day.net)}</span>
      <span
        className={`absolute bottom-0 h-[4px] ${day.net < 0 ? 'right-1/2 bg-down' : 'left-1/2 bg-up'}`}
        style={{ width: `${(Math.abs(day.net) / most) * 50}%` }}
      />
    </button>
  );
}
