import type { Figures } from '@/core/rehearsal';
import type { Results } from '@/store/rehearsal-results';
import { signed, usd } from '../format';
import { handColour } from './rehearsals';

const percent = (x: number): string => (Number.isNaN(x) ? '–' : `${(x * 100).toFixed(0)} %`);
const r = (x: number): string => (Number.isNaN(x) ? '–' : signed(x, 2, 'R'));
const minutes = (ms: number): string =>
  Number.isNaN(ms) ? '–' : ms < 90_000 ? `${(ms / 1000).toFixed(0)} s` : `${(ms / 60_000).toFixed(1)} min`;

const ROWS: readonly [string, string, (f: Figures) => string][] = [
  ['Trades', 'Over so many days', (f) => `${f.trades} on ${f.days} days`],
  ['Average', 'Result a trade after costs, in R of its own first risk', (f) => r(f.average)],
  [
    '19 of 20 between',
    'In 19 of 20 rehearsals like this one the true average lies between these: whole days drawn anew 2,000 times',
    (f) => (f.interval ? `${signed(f.interval.low, 2)} to ${r(f.interval.high)}` : 'too few days to say'),
  ],
  ['Win rate', 'Share of trades that made something after costs', (f) => percent(f.winRate)],
  [
    'Profit factor',
    'What winners made over what losers lost',
    (f) => (f.profitFactor === null ? 'no loser' : f.profitFactor.toFixed(2)),
  ],
  [
    'Expectancy',
    'Money a trade after costs',
    (f) => (Number.isNaN(f.expectancy) ? '–' : usd(Math.round(f.expectancy), true)),
  ],
  ['Costs took', 'Commissions and fees a trade', (f) => r(-f.costs)],
  [
    'Slippage took',
    'A trade: what was paid beyond the middle of the quote at the key, or when a stop triggered',
    (f) => r(-f.slippage),
  ],
  ['Deepest fall', 'Of the sum of R, from its best so far', (f) => r(-f.drawdown)],
  [
    'Worst runs',
    'Most losers in a row, and what the costliest row lost',
    (f) => `${f.worstRow.trades} in a row, ${r(f.worstRow.r)}`,
  ],
  ['In a trade', 'On average', (f) => minutes(f.held)],
];

/** The figures of each hand, one column each. */
export function FiguresTable({ figures, results }: { figures: readonly Figures[]; results: Results }) {
  const open = results.hands.flat().filter((t) => t.open).length;
  return (
    <table className="w-full border-collapse text-[13px] leading-[19px]" aria-label="Figures">
      {figures.length > 1 && (
        <thead>
          <tr>
            <th />
            {figures.map((_, h) => (
              <th key={h} className="text-right font-semibold" style={{ color: handColour(h) }}>
                {'AB'[h]}
              </th>
            ))}
          </tr>
        </thead>
      )}
      <tbody>
        {ROWS.map(([name, means, of]) => (
          <tr key={name}>
            <th className="text-left font-normal whitespace-nowrap text-quiet" title={means}>
              {name}
            </th>
            {figures.map((f, h) => (
              <td
                key={h}
                className={`num pl-3 text-right whitespace-nowrap ${name === 'Average' ? 'text-[15px] font-bold' : ''}`}
              >
                {of(f)}
              </td>
            ))}
          </tr>
        ))}
        {open > 0 && (
          <tr>
            <td colSpan={3} className="text-quiet">
              {open} could not be left that day and {open === 1 ? 'is' : 'are'} worth the last price.
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
