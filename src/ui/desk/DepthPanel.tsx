'use client';

import type { Print } from '@/core/market';
import { BASIS_POINTS, type Price } from '@/core/units';
import type { SymbolSlice } from '@/worker/protocol';
import { pointedSentence } from '../chart/pointing';
import { avg, clock, count, px } from '../format';
import { act, useSession } from '../session';
import { useSettings } from '../settings';
import { tradeOf } from '../trade/trade-view';

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
          {held ? (
            <button
              type="button"
              className="hover:underline"
              title="An exit at this price"
              aria-label={`An exit at ${px(l.price)}`}
              onClick={() => useSession.setState({ exits: { price: l.price as Price } })}
            >
              {px(l.price)}
            </button>
          ) : (
            px(l.price)
          )}
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
    <section className="panel flex flex-col overflow-hidden px-3 py-2" aria-label="Depth and prints">
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
      <h2 className="heading mt-2">Prints</h2>
      {!focus.halt && <Auction focus={focus} />}
      <div className="min-h-0 grow overflow-hidden">
        {focus.prints.length === 0 && <p className="text-quiet">Nothing has traded yet today.</p>}
        <table className="num w-full text-[13px]" data-testid="prints">
          <caption className="sr-only">Newest trades first: time, price, shares, where and how</caption>
          <tbody>
            {focus.prints.map((p, i) => (
              <tr
                key={focus.count - i}
                className={
                  p.aggressor === 'buy' ? 'text-up' : p.aggressor === 'sell' ? 'text-down' : 'text-text'
                }
              >
                <td className="text-quiet">{clock(p.at)}</td>
                <td className="text-right whitespace-nowrap">
                  {p.aggressor === 'buy' ? '▲' : p.aggressor === 'sell' ? '▼' : '='} {px(p.price)}
                </td>
                <td className="pl-1.5 text-right text-text">{count(p.qty)}</td>
                <td className="w-[30px] pl-1 text-[12px] text-quiet" title={howTraded(p)}>
                  {mark(p)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

/** An entry at a level, with the plan of its side: both ways, seen when the row is pointed at or reached by Tab. */
function AtLevel({ focus, price }: { focus: SymbolSlice; price: Price }) {
  const regular = useSession((s) => s.clock?.session === 'regular');
  const plans = { buy: useSettings((s) => s.planLong), short: useSettings((s) => s.planShort) };
  return (['buy', 'short'] as const).map((side) => (
    <button
      key={side}
      type="button"
      className={`mr-1 px-1 opacity-0 focus-visible:opacity-100 group-hover:opacity-100 ${side === 'buy' ? 'text-up' : 'text-down'}`}
      title={side === 'buy' ? 'Buy 1R at this price' : 'Short 1R at this price'}
      aria-label={`${side === 'buy' ? 'Buy' : 'Short'} at ${px(price)}`}
      onClick={() => {
        const { bid, ask } = focus.quote;
        const about = { bid, ask, regular, names: [], plan: plans[side] };
        void act(pointedSentence(side, price, about), 'buttons', 'Depth');
      }}
    >
      {side === 'buy' ? '▲' : '▼'}
    </button>
  ));
}

/** Where a print happened and how, in a word; the lit book's ordinary trade is the one without a mark. */
function mark(p: Print): string {
  if (p.condition.endsWith('auction')) return 'auct';
  if (p.venue === 'MID') return 'mid';
  if (p.venue === 'OFF') return 'off';
  return p.condition === 'odd lot' ? 'odd' : '';
}
const WHERE = { LIT: 'in the lit book', MID: 'in the midpoint book', OFF: 'off the exchange' };
const howTraded = (p: Print): string =>
  `${p.condition}, ${WHERE[p.venue]}${p.aggressor === 'none' ? '' : `, the ${p.aggressor === 'buy' ? 'buyer' : 'seller'} took`}`;

/** Why nothing trades now. */
function Halted({ halt, status }: { halt: NonNullable<SymbolSlice['halt']>; status: SymbolSlice['status'] }) {
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
function Bound({ focus }: { focus: SymbolSlice }) {
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
function Auction({ focus: { auction } }: { focus: SymbolSlice }) {
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
