import type { Unit } from '@/core/review';
import { PRICE_SCALE } from '@/core/units';
import type { Overview } from '@/worker/review/review-messages';
import { clock } from '../format';
import { border, inR } from './said';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri'];

/** Results by the hour of the entry and the weekday: a bar for the sum, left of the middle what was lost; faint where there are few. */
export function HourGrid({ hours: all, unit }: { hours: Overview['hours']; unit: Unit }) {
  const hours = all.map((h) => ({
    ...h,
    cells: h.cells.map((c) => ({ trades: c.trades, sum: unit === 'R' ? c.r : c.net })),
  }));
  const most = Math.max(1, ...hours.flatMap((h) => h.cells.map((c) => Math.abs(c.sum))));
  return (
    <div className="h-full overflow-y-auto">
      <table className="h-full w-full table-fixed text-[12px]">
        <thead>
          <tr className="text-quiet">
            <th className="w-12 text-left font-normal" scope="col">
              from
            </th>
            {DAYS.map((d) => (
              <th key={d} scope="col" className="font-normal">
                {d}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {hours.map(({ hour, cells }) => (
            <tr key={hour}>
              <th scope="row" className="num text-left font-normal text-quiet">
                {clock(hour * 3_600_000, 'minutes')}
              </th>
              {cells.map((c, k) => (
                <td
                  key={DAYS[k]}
                  className={`relative border border-line text-center ${c.trades < 5 ? 'text-quiet' : ''}`}
                  title={`${c.trades} trades`}
                >
                  {c.trades > 0 && (
                    <>
                      <span
                        className={`absolute bottom-0 h-[4px] ${c.sum < 0 ? 'right-1/2 bg-down' : 'left-1/2 bg-up'} ${c.trades < 5 ? 'opacity-40' : ''}`}
                        style={{ width: `${(Math.abs(c.sum) / most) * 48}%` }}
                      />
                      <span className="num relative">
                        {unit === 'R' ? inR(c.sum, 1) : border(unit, Math.round(c.sum / PRICE_SCALE))}
                      </span>
                    </>
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
