'use client';

import dynamic from 'next/dynamic';
import { useLive } from '../client';
import { avg } from '../format';
import { useTicketText } from '../trade/ticket-text';

const PayoffChart = dynamic(() => import('./PayoffChart'), {
  ssr: false,
  loading: () => <p className="text-quiet">The picture is on its way.</p>,
});

const money = (x: number): string => `${x < 0 ? '−' : '+'}${Math.abs(x).toFixed(0)}`;

/** What may come of what the ticket opens, as a picture and as a small table of changes. */
export function Payoff() {
  const text = useTicketText((s) => s.text);
  const payoff = useLive<'payoff'>({ kind: 'payoff', text });
  if (!payoff) return null;
  return (
    <section
      className="panel flex h-[244px] shrink-0 flex-col px-3 py-2"
      aria-label="What may come of the ticket"
    >
      <h2 className="heading">What may come of it</h2>
      <p className="text-[11.5px] text-quiet">
        <span className="text-text">━ at its end</span>, ╌ half way,{' '}
        <span className="text-focus">─ today</span>; even at{' '}
        <span className="num text-text">{payoff.even.map(avg).join(', ')}</span>
      </p>
      <div className="min-h-0 grow">
        <PayoffChart payoff={payoff} />
      </div>
      <table className="num mt-1 w-full text-[11px]">
        <thead>
          <tr className="text-quiet">
            <th className="text-left font-normal">$ today, price</th>
            {payoff.grid.moves.map((m) => (
              <th key={m} className="text-right font-normal">
                {m > 0 ? '+' : m < 0 ? '−' : '±'}
                {Math.abs(m)}%
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {payoff.grid.shifts.map((points, r) => (
            <tr key={points}>
              <th scope="row" className="text-left font-normal text-quiet">
                IV {points > 0 ? '+' : points < 0 ? '−' : '±'}
                {Math.abs(points)}
              </th>
              {payoff.grid.moves.map((m, k) => {
                const value = payoff.grid.values[r]?.[k] ?? 0;
                return (
                  <td key={m} className={`text-right ${value < 0 ? 'text-down' : 'text-up'}`}>
                    {money(value)}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
