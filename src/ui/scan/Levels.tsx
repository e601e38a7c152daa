'use client';

import { Bell } from 'lucide-react';
import type { Sheet } from '@/worker/session/sheet';
import { act, useSession } from '../client';
import { avg, px, signed } from '../format';

/** Levels from high to low with the last price among them, each with its distance in percent and in ATR. */
export function Levels({ symbol, sheet, atr }: { symbol: string; sheet: Sheet | null; atr: number }) {
  const last = useSession((s) => (s.focus?.symbol === symbol ? s.focus.last : null));
  const rows: { name: string; names: string; price: number }[] = [];
  for (const { name, price } of sheet?.levels ?? []) {
    if (price === null) continue;
    // Levels at one price share a line.
    const same = rows.find((r) => r.price === price);
    if (same) same.names += ` · ${name}`;
    else rows.push({ name, names: name, price });
  }
  if (last !== null) rows.push({ name: 'last', names: 'last', price: last });
  rows.sort((a, b) => b.price - a.price || (a.name === 'last' ? 1 : -1));
  return (
    <section className="mt-1" aria-label="Levels">
      <table className="w-full">
        <thead className="text-left text-[12px] text-quiet">
          <tr>
            <th scope="col" className="font-normal">
              level
            </th>
            <th scope="col" className="text-right font-normal">
              price
            </th>
            <th scope="col" className="text-right font-normal">
              away
            </th>
            <th scope="col" className="text-right font-normal">
              ATR
            </th>
            <th scope="col">
              <span className="sr-only">Alert</span>
            </th>
          </tr>
        </thead>
        <tbody className="num">
          {rows.map((r) =>
            r.name === 'last' ? (
              <tr key="last" className="border-y border-text font-bold">
                <td>last</td>
                <td className="text-right">{px(r.price)}</td>
                <td colSpan={3} />
              </tr>
            ) : (
              <tr key={r.name} className="leading-[17px]">
                <td className="max-w-40 truncate" title={r.names}>
                  {r.names}
                </td>
                <td className="pl-2 text-right">{avg(r.price)}</td>
                <td className="pl-2 text-right text-quiet">
                  {last === null ? '–' : signed((r.price / last - 1) * 100, 1, '%')}
                </td>
                <td className="pl-2 text-right text-quiet">
                  {last === null ? '–' : signed((r.price - last) / atr, 2)}
                </td>
                <td className="w-5 text-right">
                  <button
                    type="button"
                    className="text-line hover:text-text focus-visible:text-text"
                    aria-label={`Alert at ${r.name}`}
                    title={`alert at ${r.name}`}
                    onClick={() => void act(`alert of ${symbol} at ${r.name}`, 'tools', 'Alert')}
                  >
                    <Bell size={11} aria-hidden />
                  </button>
                </td>
              </tr>
            ),
          )}
        </tbody>
      </table>
    </section>
  );
}
