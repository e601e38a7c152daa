import type { ChainSlice } from '@/worker/session/slices';
import { dayText } from '../format';

/** The expiries in a row, each with the days to it and how far the market reckons the price to move until then. */
export function ExpiryStrip({ chain, choose }: { chain: ChainSlice; choose(expiry: string): void }) {
  return (
    <div className="flex shrink-0 gap-1 overflow-x-auto px-3 py-2" role="group" aria-label="Expiries">
      {chain.expiries.map((e) => (
        <button
          key={e.date}
          type="button"
          className="btn shrink-0 flex-col px-2 py-0.5 text-left"
          aria-pressed={e.date === chain.expiry}
          title={`${e.date}: ${e.days} days to it; the market reckons with ${(e.move * 100).toFixed(1)} % until then, one deviation`}
          onClick={() => choose(e.date)}
        >
          <span className="block text-[13px]">{dayText(e.date, chain.date)}</span>
          <span className="num block text-[11px] text-quiet">
            {e.days}d ±{(e.move * 100).toFixed(0)}%
          </span>
        </button>
      ))}
    </div>
  );
}
