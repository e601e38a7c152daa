'use client';

import type { SymbolSlice } from '@/worker/session/slices';
import { avg, clock, count, px } from '../format';

/** Why nothing trades now. */
export function Halted({
  halt,
  status,
}: {
  halt: NonNullable<SymbolSlice['halt']>;
  status: SymbolSlice['status'];
}) {
  return (
    <div className="my-1 border-2 border-text px-2 py-1.5" role="status" data-testid="halt">
      <p className="font-bold">
        {status === 'halted' ? '■ Halted' : '❚❚ Volatility pause'}{' '}
        <span className="num font-normal">until {clock(halt.until)}</span>
      </p>
      <p className="text-[13px] text-quiet">
        {halt.reason}. Your orders wait and join the reopening auction.
      </p>
    </div>
  );
}

/** What binds trading while it goes on, in the heading's own line. */
export function Bound({ focus }: { focus: SymbolSlice }) {
  if (focus.status === 'limit up' || focus.status === 'limit down')
    return (
      <span
        className="text-[12px] font-bold"
        role="status"
        title="The quote stands at its price band; a pause follows after 15 seconds"
      >
        ⚠ {focus.status}, pause near
      </span>
    );
  if (!focus.restricted) return null;
  return (
    <span className="text-[12px] text-quiet" role="status" title="Short-sale restriction (Rule 201)">
      shorts only above the bid
    </span>
  );
}

/** The auction that is forming: where it would clear now, what pairs, and what is left over. */
export function Auction({ focus: { auction } }: { focus: SymbolSlice }) {
  if (!auction) return null;
  const { kind, price, paired, imbalance, at, reference } = auction;
  return (
    <dl
      className="num mt-1 grid grid-cols-[auto_1fr] gap-x-3 border border-quiet px-2 py-1 text-[13px]"
      aria-label={`${kind} auction`}
      data-testid="auction"
    >
      <dt className="col-span-2 font-sans font-semibold">
        {kind.charAt(0).toUpperCase() + kind.slice(1)} auction {clock(at)}
      </dt>
      <dt className="text-quiet whitespace-nowrap">would clear at</dt>
      <dd className="text-right text-[15px] font-bold">{price === null ? '–' : px(price)}</dd>
      <dt className="text-quiet">pairs</dt>
      <dd className="text-right">{paired === 0 ? 'nothing yet' : count(paired)}</dd>
      <dt className="text-quiet">left over</dt>
      <dd
        className={`text-right whitespace-nowrap ${imbalance > 0 ? 'text-up' : imbalance < 0 ? 'text-down' : ''}`}
      >
        {imbalance === 0
          ? 'none'
          : `${imbalance > 0 ? '▲' : '▼'} ${count(Math.abs(imbalance))} to ${imbalance > 0 ? 'buy' : 'sell'}`}
      </dd>
      <dt className="text-quiet">reference</dt>
      <dd className="text-right">{avg(reference)}</dd>
    </dl>
  );
}
