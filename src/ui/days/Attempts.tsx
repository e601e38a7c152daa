'use client';

import { dayOf } from '@/core/units';
import type { DayChoice } from '@/worker/session/session-messages';
import { clock, signed, usd } from '../format';

/** Every attempt so far, newest first; attempts at one day stand together and can be compared. */
export function Attempts({ choice }: { choice: DayChoice }) {
  const key = (a: DayChoice['attempts'][number]) => JSON.stringify(a.day);
  const order = [...choice.attempts].reverse();
  const days = [...new Set(order.map(key))];
  const moment = (t: number) => `${dayOf(t) > 0 ? `day ${dayOf(t) + 1}, ` : ''}${clock(t, 'minutes')}`;
  return (
    <section className="panel shrink-0" aria-label="Attempts">
      <h2 className="heading px-3 pt-2">Attempts</h2>
      <div className="max-h-52 overflow-auto">
        <table className="plain text-[13px]">
          <thead>
            <tr>
              <th scope="col">Day and attempt</th>
              <th scope="col">Begun</th>
              <th scope="col">Reached</th>
              <th scope="col">Trades</th>
              <th scope="col">Net</th>
              <th scope="col">R</th>
            </tr>
          </thead>
          <tbody className="num">
            {days.flatMap((day) => {
              const list = order.filter((a) => key(a) === day);
              const best = Math.max(...list.map((a) => a.net));
              return list.map((a) => (
                <tr key={a.id} data-testid="attempt">
                  <td className="font-sans">
                    {a.title}
                    {a.day.kind === 'practice' && a.day.seed !== 7 ? `, variation ${a.day.seed}` : ''}{' '}
                    <span className="num">#{a.id}</span>{' '}
                    {a.id === choice.current && <span className="text-[12px] text-focus">under way</span>}
                    {list.length > 1 && a.net === best && a.trades > 0 && (
                      <span className="text-[12px] text-quiet"> best of {list.length}</span>
                    )}
                  </td>
                  <td className="font-sans text-quiet">
                    {a.from ? `went back in #${a.from.attempt} to ${moment(a.from.at)}` : 'afresh'}
                  </td>
                  <td>{moment(a.reached)}</td>
                  <td>{a.trades}</td>
                  <td className={a.net > 0 ? 'text-up' : a.net < 0 ? 'text-down' : ''}>{usd(a.net, true)}</td>
                  <td>{signed(a.r, 2, 'R')}</td>
                </tr>
              ));
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}
