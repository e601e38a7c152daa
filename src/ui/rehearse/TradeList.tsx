'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useRouter } from 'next/navigation';
import { useMemo, useRef, useState } from 'react';
import type { RehearsalDay, RehearsedTrade } from '@/core/rehearsal';
import type { Results } from '@/store/rehearsal-results';
import { avg, clock, signed } from '../format';
import { Choice } from '../primitives/Choice';
import { dayName } from './day-title';
import { practise } from './practise';
import { handColour } from './rehearsals';

const HEIGHT = 26;
const ORDERS = {
  'in their order': (a: RehearsedTrade, b: RehearsedTrade) => a.day - b.day || a.enteredAt - b.enteredAt,
  'worst first': (a: RehearsedTrade, b: RehearsedTrade) => a.r - b.r,
  'best first': (a: RehearsedTrade, b: RehearsedTrade) => b.r - a.r,
} as const;
const GRID = 'grid grid-cols-[14px_1fr_66px_58px_158px_48px_44px_44px_72px] items-center gap-2';

/** Every trade; each can be practised from the moment before its key. */
export function TradeList({ results }: { results: Results }) {
  const [order, setOrder] = useState<keyof typeof ORDERS>('in their order');
  const box = useRef<HTMLDivElement>(null);
  const router = useRouter();
  const trades = useMemo(
    () => results.hands.flatMap((list, hand) => list.map((t) => ({ ...t, hand }))).sort(ORDERS[order]),
    [results, order],
  );
  const rows = useVirtualizer({
    count: trades.length,
    getScrollElement: () => box.current,
    estimateSize: () => HEIGHT,
    overscan: 8,
  });
  if (trades.length === 0)
    return (
      <p className="py-2 text-quiet">
        No trade on these days. Either what has to become true did not, or every key was refused: Terms says
        which.
      </p>
    );
  return (
    <div className="flex h-full min-h-[140px] flex-col">
      <div className={`${GRID} text-[13px] text-quiet`}>
        <span />
        <Choice<keyof typeof ORDERS>
          label="Order of the trades"
          className="w-36 py-0 text-[13px]"
          value={order}
          options={(Object.keys(ORDERS) as (keyof typeof ORDERS)[]).map((o) => [o, o] as const)}
          change={setOrder}
        />
        <span>key at</span>
        <span>symbol</span>
        <span className="text-right">entry</span>
        <span className="text-right">R</span>
        <span className="text-right">costs</span>
        <span className="text-right">slip</span>
        <span />
      </div>
      <div ref={box} className="min-h-0 grow overflow-y-auto">
        <ul className="relative" style={{ height: rows.getTotalSize() }} aria-label="Trades">
          {rows.getVirtualItems().map((item) => {
            const t = trades[item.index] as (typeof trades)[number];
            const day = results.days[t.day] as RehearsalDay;
            return (
              <li
                key={item.key}
                className={`${GRID} absolute inset-x-0 text-[13px]`}
                style={{ height: HEIGHT, transform: `translateY(${item.start}px)` }}
              >
                <b style={{ color: handColour(t.hand) }}>{results.hands.length > 1 ? 'AB'[t.hand] : ''}</b>
                <span className="truncate">{dayName(day)}</span>
                <span className="num">{clock(t.pressedAt)}</span>
                <span className="num">{t.symbol}</span>
                <span className="num text-right">
                  {t.side} {t.shares} at {avg(t.price)}
                </span>
                <span className={`num text-right font-bold ${t.r > 0 ? 'text-up' : 'text-down'}`}>
                  {signed(t.r, 2)}
                </span>
                <span className="num text-right">{(t.costs / t.risk).toFixed(2)}</span>
                <span className="num text-right">{(t.slippage / t.risk).toFixed(2)}</span>
                <button
                  type="button"
                  className="btn px-2 py-0 text-[13px]"
                  aria-label={`Practise ${t.symbol} of ${dayName(day)} from before ${clock(t.pressedAt)}`}
                  onClick={() => void practise(day, t).then(() => router.push('/desk'))}
                >
                  Practise
                </button>
              </li>
            );
          })}
        </ul>
      </div>
    </div>
  );
}
