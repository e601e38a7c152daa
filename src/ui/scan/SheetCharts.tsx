'use client';

import dynamic from 'next/dynamic';
import { useMemo } from 'react';
import { MINUTE, REGULAR_OPEN } from '@/core/units';
import type { Sheet } from '@/worker/session/sheet';
import { joinBars } from '../chart/candles';
import { useSession } from '../client';
import { clock } from '../format';

const SmallCandles = dynamic(() => import('./SmallCandles'), {
  ssr: false,
  loading: () => <div className="h-[124px]" />,
});
const NO_LEVELS: number[] = [];
const QUARTER = 15 * MINUTE;

/** The candidate's last days and its morning. */
export function SheetCharts({ symbol, sheet }: { symbol: string; sheet: Sheet | null }) {
  const bars = useSession((s) => s.bars);
  const high = useSession((s) => s.focus?.premarketHigh ?? null);
  const low = useSession((s) => s.focus?.premarketLow ?? null);
  const dayStart = useSession((s) => s.clock?.dayStart ?? 0);
  const morning = useMemo(
    () =>
      joinBars(
        (bars?.symbol === symbol ? bars.bars : []).filter((b) => b.start < dayStart + REGULAR_OPEN),
        15,
      )
        .filter((b) => b.start + QUARTER <= (bars?.formingFrom ?? 0))
        .map((b) => ({ ...b, label: clock(b.start, 'minutes') })),
    [bars, symbol, dayStart],
  );
  const daily = useMemo(
    () => (sheet?.daily ?? []).slice(-60).map((d) => ({ ...d, label: d.date.slice(5) })),
    [sheet],
  );
  const levels = useMemo(() => [high, low].flatMap((p) => (p === null ? [] : [p])), [high, low]);
  return (
    <div className="mt-1 grid grid-cols-2 gap-1">
      {daily.length > 1 ? (
        <SmallCandles
          name={`Last ${daily.length} days`}
          candles={daily}
          levels={NO_LEVELS}
          width={170}
          height={108}
        />
      ) : (
        <p className="text-quiet">
          {sheet ? 'No earlier days of it are known.' : 'The days are being fetched.'}
        </p>
      )}
      {morning.length > 0 ? (
        <SmallCandles
          name="Pre-market, 15 minutes"
          candles={morning}
          levels={levels}
          width={170}
          height={108}
        />
      ) : (
        <p className="text-quiet">No 15 minutes of this pre-market have finished with a trade.</p>
      )}
    </div>
  );
}
