import { useMemo } from 'react';
import { type Group, groupsOf, type RehearsalDay, type RehearsedTrade } from '@/core/rehearsal';
import { PRICE_SCALE } from '@/core/units';
import type { Results } from '@/store/rehearsal-results';
import { clock, signed } from '../format';
import { dayTitle } from './day-title';
import { handColour } from './rehearsals';

const HALF_HOUR = 30 * 60_000;
const BANDS = [1, 2, 5, 10, 20, 50].map((d) => d * PRICE_SCALE);

function bandOf({ price }: RehearsedTrade): string {
  const above = BANDS.findLast((b) => price >= b);
  const below = BANDS.find((b) => price < b);
  const dollars = (b: number) => `$${b / PRICE_SCALE}`;
  if (above === undefined) return `below ${dollars(BANDS[0] as number)}`;
  return below === undefined ? `${dollars(above)} and more` : `${dollars(above)}–${below / PRICE_SCALE}`;
}
const hourOf = ({ enteredAt }: RehearsedTrade): string =>
  clock(enteredAt - (enteredAt % HALF_HOUR), 'minutes');

/** The same trades by the kind of their day, by the half hour and by the price at which they were entered. */
export function GroupTables({ results }: { results: Results }) {
  const tables = useMemo(() => {
    const kindOf = (t: RehearsedTrade) => dayTitle(results.days[t.day] as RehearsalDay);
    return [
      { name: 'kind of day', of: kindOf, order: undefined },
      {
        name: 'entered from',
        of: hourOf,
        order: (a: RehearsedTrade, b: RehearsedTrade) => a.enteredAt - b.enteredAt,
      },
      { name: 'price', of: bandOf, order: (a: RehearsedTrade, b: RehearsedTrade) => a.price - b.price },
    ].map(({ name, of, order }) => ({
      name,
      hands: results.hands.map((trades) => groupsOf(trades, of, order)),
    }));
  }, [results]);
  return (
    <div className="grid grid-cols-[5fr_4fr_4fr] items-start gap-4">
      {tables.map(({ name, hands }) => (
        <GroupTable key={name} name={name} hands={hands} />
      ))}
    </div>
  );
}

function GroupTable({ name, hands }: { name: string; hands: readonly Group[][] }) {
  const names = [...new Set(hands.flatMap((groups) => groups.map((g) => g.name)))];
  return (
    <table className="w-full border-collapse text-[13px]" aria-label={`By ${name}`}>
      <thead>
        <tr className="text-quiet">
          <th className="text-left font-normal whitespace-nowrap">{name.replace('entered ', '')}</th>
          <th className="text-right font-normal">n</th>
          <th className="text-right font-normal">won</th>
          <th
            className="text-right font-normal"
            title="Average R a trade, give or take one standard error by days"
          >
            R ± error
          </th>
        </tr>
      </thead>
      <tbody>
        {names.flatMap((n) =>
          hands.map((groups, h) => {
            const g = groups.find((x) => x.name === n);
            return (
              <tr key={`${n}${h}`} className={h === 0 ? 'border-line border-t' : ''}>
                <td className="max-w-0 w-full truncate" title={n}>
                  {hands.length > 1 && <b style={{ color: handColour(h) }}>{'AB'[h]} </b>}
                  {h === 0 ? n : ''}
                </td>
                <td className="num pl-2 text-right">{g?.trades ?? 0}</td>
                <td className="num pl-2 text-right whitespace-nowrap">
                  {g ? `${Math.round(g.winRate * 100)} %` : '–'}
                </td>
                <td className="num pl-2 text-right whitespace-nowrap">
                  {g
                    ? `${signed(g.average, 2)}${Number.isNaN(g.error) ? '' : ` ± ${g.error.toFixed(2)}`}`
                    : '–'}
                </td>
              </tr>
            );
          }),
        )}
      </tbody>
    </table>
  );
}
