'use client';

import { clock, count, px } from '../format';
import { useSession } from '../session';
import { tradeOf } from './trade-view';

/** Five levels of depth with the trader's own orders marked, and the prints under it. */
export function DepthPanel() {
  const focus = useSession((s) => s.focus);
  const book = useSession((s) => s.book);
  const ahead = useSession((s) => s.marks?.ahead);
  if (!focus) return <section className="panel p-3 text-quiet">Depth appears with a symbol in focus.</section>;
  const mine = new Map(tradeOf(book, focus.symbol)?.lines.map((l) => [l.price, l]) ?? []);
  const widest = Math.max(1, ...focus.bids.map((l) => l.qty), ...focus.asks.map((l) => l.qty));
  const { bid, ask } = focus.quote;
  const row = (l: { price: number; qty: number }, side: 'bid' | 'ask') => {
    const own = mine.get(l.price);
    return (
      <tr key={l.price} className="relative">
        <td className="relative w-1/2 py-[2px] pr-3 text-right">
          <span
            className={`absolute inset-y-[3px] right-1 ${side === 'bid' ? 'bg-up' : 'bg-down'} opacity-25`}
            style={{ width: `${(l.qty / widest) * 90}%` }}
          />
          <span className="relative">{count(l.qty)}</span>
        </td>
        <td className={`py-[2px] text-right ${side === 'bid' ? 'text-up' : 'text-down'}`}>{px(l.price)}</td>
        <td className="w-[62px] py-[2px] pl-2 text-left text-[12px] text-text">
          {own ? `you ${own.open}${ahead?.[own.id] ? ` +${count(ahead[own.id] ?? 0)}` : ''}` : ''}
        </td>
      </tr>
    );
  };
  return (
    <section className="panel flex flex-col overflow-hidden px-3 py-2" aria-label="Depth and prints">
      <h2 className="heading">Depth</h2>
      <table className="num w-full" data-testid="depth">
        <caption className="sr-only">Shares at the best five prices, asks above bids</caption>
        <tbody>
          {[...focus.asks].reverse().map((l) => row(l, 'ask'))}
          <tr>
            <td colSpan={3} className="border-y border-line py-[2px] text-center text-[12px] text-quiet">
              {bid !== null && ask !== null
                ? `spread ${((ask - bid) / 100).toFixed(0)}c · ${(((ask - bid) / ask) * 10_000).toFixed(0)} bp`
                : 'one side is empty'}
            </td>
          </tr>
          {focus.bids.map((l) => row(l, 'bid'))}
        </tbody>
      </table>
      <h2 className="heading mt-2">Prints</h2>
      <div className="min-h-0 grow overflow-hidden">
        {focus.prints.length === 0 && <p className="text-quiet">Nothing has traded yet today.</p>}
        <table className="num w-full text-[13px]">
          <caption className="sr-only">Newest trades first</caption>
          <tbody>
            {focus.prints.map((p, i) => (
              <tr key={focus.count - i} className={p.aggressor === 'buy' ? 'text-up' : 'text-down'}>
                <td className="text-quiet">{clock(p.at)}</td>
                <td className="text-right">
                  {p.aggressor === 'buy' ? '▲' : '▼'} {px(p.price)}
                </td>
                <td className="text-right text-text">{count(p.qty)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
