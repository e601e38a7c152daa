'use client';

import type { Figures } from '@/core/review';
import { usd } from '../format';
import { between, dollars, inR, percent, span, sumInR } from './said';

/** R first and money beside it; where nothing says what was risked, money. */
const of = (f: Figures, r: string, money: number): string => (f.withRisk === 0 ? dollars(money) : r);
const beside = (f: Figures, money: number): string => (f.withRisk === 0 ? '' : dollars(money));

const ROWS: readonly [
  name: string,
  means: string,
  of: (f: Figures) => string,
  beside?: (f: Figures) => string,
][] = [
  ['Net', 'After commissions and fees', (f) => dollars(f.net), (f) => `gross ${dollars(f.gross)}`],
  [
    'Costs',
    'Commissions and fees; as a share of what was made before them',
    (f) => usd(Math.round(f.costs)),
    (f) => (f.costShare === null ? '' : `${percent(f.costShare)} of gross`),
  ],
  [
    'R',
    'Sum of results in multiples of what each risked',
    (f) => sumInR(f, 1),
    (f) => (f.withRisk < f.trades ? `${f.trades - f.withRisk} say no risk` : ''),
  ],
  [
    'Expectancy',
    'Mean R a trade; 19 of 20 such intervals hold the true mean',
    (f) => inR(f.expectancy.value),
    (f) => between(f.expectancy.interval, inR),
  ],
  ['A trade', 'Mean money a trade', (f) => dollars(f.money.value), (f) => between(f.money.interval, dollars)],
  [
    'Won',
    'Trades that made something after costs',
    (f) => percent(f.winRate.value),
    (f) => between(f.winRate.interval, percent),
  ],
  ['Mean win', 'Of winners', (f) => of(f, inR(f.win.r), f.win.money), (f) => beside(f, f.win.money)],
  ['Mean loss', 'Of losers', (f) => of(f, inR(f.loss.r), f.loss.money), (f) => beside(f, f.loss.money)],
  ['Payoff', 'Mean win over mean loss, by money', (f) => f.payoff?.toFixed(2) ?? '–'],
  [
    'Profit factor',
    'What winners made over what losers lost',
    (f) => f.profitFactor?.toFixed(2) ?? 'no loser',
  ],
  [
    'Deepest fall',
    'Of the running sum from its best',
    (f) => of(f, inR(-f.drawdown.r.depth, 1), -f.drawdown.money.depth),
    (f) =>
      `${f.withRisk === 0 ? '' : `${dollars(-f.drawdown.money.depth)}, `}${f.drawdown.money.trades} trades, ${f.drawdown.money.days} days`,
  ],
  [
    'In a row',
    'Most winners and most losers one after another',
    (f) => `${f.streaks.won} won`,
    (f) => `${f.streaks.lost} lost`,
  ],
  [
    'In a trade',
    'Mean time',
    (f) => span(f.held.all),
    (f) => `winners ${span(f.held.won)}, losers ${span(f.held.lost)}`,
  ],
];

/** Few figures, each with how sure it is. */
export function FiguresPanel({ figures }: { figures: Figures }) {
  return (
    <section className="panel shrink-0 px-3 py-2" aria-label="Figures">
      <h2 className="heading">
        {figures.trades} trades on {figures.days} {figures.days === 1 ? 'day' : 'days'}
      </h2>
      <table className="mt-1 w-full text-[13px]">
        <tbody>
          {ROWS.filter(([name]) => figures.withRisk > 0 || name !== 'Expectancy').map(
            ([name, means, of, beside]) => {
              const more = beside?.(figures) ?? '';
              return (
                <tr key={name} title={means}>
                  <th scope="row" className="pr-2 text-left font-normal whitespace-nowrap text-quiet">
                    {name}
                  </th>
                  <td className="num pr-2 text-right font-semibold whitespace-nowrap">{of(figures)}</td>
                  <td className="num text-[12px] text-quiet">{more}</td>
                </tr>
              );
            },
          )}
        </tbody>
      </table>
    </section>
  );
}
