'use client';

import { useEffect, useState } from 'react';
import type { PastSession } from '@/session/log';
import { ask } from '../client';
import { avg, clock, signed, usd } from '../format';

/** Sessions of an earlier version of the app: they cannot be gone on with, but what happened in them stays readable. */
export function PastSessions() {
  const [sessions, setSessions] = useState<PastSession[]>([]);
  useEffect(() => {
    void ask({ kind: 'past' }).then((a) => a && setSessions(a.sessions));
  }, []);
  if (sessions.length === 0) return null;
  return (
    <details className="panel max-h-64 overflow-auto px-3 py-2">
      <summary className="heading cursor-pointer">
        Sessions of an earlier version ({sessions.length}): read only
      </summary>
      {sessions.map((s) => (
        <section key={s.id} className="mt-2" aria-label={`Session of an earlier version, attempt ${s.id}`}>
          <h2 className="text-[13px] text-quiet">
            attempt {s.id}, up to <span className="num">{clock(s.reached)}</span>
          </h2>
          {s.trades.length > 0 && (
            <table className="num w-full text-[13px]">
              <tbody>
                {s.trades.map((t) => (
                  <tr key={t.id}>
                    <td>
                      {t.direction} {t.shares} {t.symbol}
                    </td>
                    <td>{avg(t.averageEntry)}</td>
                    <td>{avg(t.averageExit)}</td>
                    <td>{usd(t.net, true)}</td>
                    <td>{t.r === null ? '–' : signed(t.r, 2, 'R')}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          <ol className="text-[13px]">
            {s.journal.map((e, i) => (
              <li key={`${e.at} ${i}`}>
                <span className="num mr-2 text-quiet">{clock(e.at)}</span>
                {e.text}
              </li>
            ))}
          </ol>
        </section>
      ))}
    </details>
  );
}
