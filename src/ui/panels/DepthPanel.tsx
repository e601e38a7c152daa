'use client';

import { BASIS_POINTS, type Price } from '@/core/units';
import type { SymbolSlice } from '@/worker/session/slices';
import { pointedNow } from '../chart/pointed-now';
import { pointedSentence } from '../chart/pointing';
import { act, useSession } from '../client';
import { count, px } from '../format';
import { priceIntoTicket } from '../trade/ticket-text';
import { tradeOf } from '../trade/trade-view';
import { Auction, Bound, Halted } from './halts';
import { PrintList, PrintsHead } from './Prints';

/** Five levels of depth with the trader's own orders marked, the auction that is forming, and the prints under it. */
export function DepthPanel() {
  const focus = useSession((s) => s.focus);
  const book = useSession((s) => s.book);
  const account = useSession((s) => s.account?.id);
  const ahead = useSession((s) => s.marks?.ahead);
  if (!focus)
    return <section className="panel p-3 text-quiet">Depth appears with a symbol in focus.</section>;
  const trade = tradeOf(book, focus.symbol, account);
  const held = trade?.trade.status === 'open';
  const mine = new Map(trade?.lines.map((l) => [l.price, l]) ?? []);
  const widest = Math.max(1, ...focus.bids.map((l) => l.qty), ...focus.asks.map((l) => l.qty));
  const { bid, ask } = focus.quote;
  const row = (l: { price: number; qty: number }, side: 'bid' | 'ask') => {
    const own = mine.get(l.price);
    return (
      <tr key={l.price} className="group relative">
        <td className="relative w-1/2 py-[2px] pr-3 text-right">
          <span
            className={`absolute inset-y-[3px] right-1 ${side === 'bid' ? 'bg-up' : 'bg-down'} opacity-25`}
            style={{ width: `${(l.qty / widest) * 90}%` }}
          />
          <span className="relative">{count(l.qty)}</span>
        </td>
        <td className={`py-[2px] text-right ${side === 'bid' ? 'text-up' : 'text-down'}`}>
          <button
            type="button"
            className="hover:underline"
            title={held ? 'An exit at this price' : 'Into the ticket'}
            aria-label={held ? `An exit at ${px(l.price)}` : `${px(l.price)} into the ticket`}
            onClick={() =>
              held
                ? useSession.setState({ exits: { price: l.price as Price } })
                : void priceIntoTicket(l.price as Price)
            }
          >
            {px(l.price)}
          </button>
        </td>
        <td className="w-[62px] py-[2px] pl-2 text-left text-[12px] text-text">
          {own
            ? `you ${own.open}${ahead?.[own.id] ? ` +${count(ahead[own.id] ?? 0)}` : ''}`
            : !held && <AtLevel focus={focus} price={l.price as Price} />}
        </td>
      </tr>
    );
  };
  return (
    <section className="panel flex h-full flex-col overflow-hidden px-3 py-2" aria-label="Depth and prints">
      <div className="flex items-baseline justify-between">
        <h2 className="heading">Depth</h2>
        <Bound focus={focus} />
      </div>
      {/* One height, halted or not: the prints below stay where they are. */}
      <div className="h-[252px] shrink-0">
        {focus.halt ? (
          <>
            <Halted halt={focus.halt} status={focus.status} />
            <Auction focus={focus} />
          </>
        ) : (
          <table className="num w-full" data-testid="depth">
            <caption className="sr-only">Shares at the best five prices, asks above bids</caption>
            <tbody>
              {[...focus.asks].reverse().map((l) => row(l, 'ask'))}
              <tr>
                <td colSpan={3} className="border-y border-line py-[2px] text-center text-[12px] text-quiet">
                  {bid !== null && ask !== null
                    ? `spread ${((ask - bid) / 100).toFixed((ask - bid) % 100 ? 2 : 0)}c · ${(((ask - bid) / ask) * BASIS_POINTS).toFixed(0)} bp`
                    : 'one side is empty'}
                </td>
              </tr>
              {focus.bids.map((l) => row(l, 'bid'))}
            </tbody>
          </table>
        )}
      </div>
      <PrintsHead focus={focus} />
      {!focus.halt && <Auction focus={focus} />}
      <PrintList focus={focus} />
    </section>
  );
}

/** An entry at a level, with the plan of its side: both ways, seen when the row is pointed at or reached by Tab. */
function AtLevel({ focus, price }: { focus: SymbolSlice; price: Price }) {
  return (['buy', 'short'] as const).map((side) => (
    <button
      key={side}
      type="button"
      className={`mr-1 px-1 opacity-0 focus-visible:opacity-100 group-hover:opacity-100 ${side === 'buy' ? 'text-up' : 'text-down'}`}
      title={side === 'buy' ? 'Buy 1R at this price' : 'Short 1R at this price'}
      aria-label={`${side === 'buy' ? 'Buy' : 'Short'} at ${px(price)}`}
      onClick={() => {
        void act(pointedSentence(side, price, pointedNow(focus.symbol, side)), 'buttons', 'Depth');
      }}
    >
      {side === 'buy' ? '▲' : '▼'}
    </button>
  ));
}
