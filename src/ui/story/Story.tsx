'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import {
  atTheStop,
  averageEntry,
  eventText,
  gainOf,
  netNow,
  type OrderEvent,
  positionOf,
} from '@/core/orders';
import { act, useSession } from '../client';
import { avg, clock, px, signed, usd } from '../format';
import { Pop } from '../primitives/Pop';
import { useFees } from '../trade/fees';
import { loadOrder } from '../trade/ticket-text';
import { tradeOf } from '../trade/trade-view';

const NO_EVENTS: readonly OrderEvent[] = [];

/** The trade in focus read from left to right as time: what was done, how it stands now, what is to come; and what can be done. */
export function Story() {
  const symbol = useSession((s) => s.focus?.symbol);
  const last = useSession((s) => s.focus?.last ?? null);
  const book = useSession((s) => s.book);
  const account = useSession((s) => s.account?.id);
  const regular = useSession((s) => s.clock?.session === 'regular');
  const view = tradeOf(book, symbol, account);
  const id = view?.trade.id;
  const events = useMemo(
    () => (id === undefined ? NO_EVENTS : (book?.events ?? NO_EVENTS).filter((e) => e.tradeId === id)),
    [book?.events, id],
  );
  const row = useRef<HTMLOListElement>(null);
  const fees = useFees();
  const orders = useSession((x) => x.book?.orders);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the newest is what is looked for
  useEffect(() => {
    row.current?.querySelector('[data-now]')?.scrollIntoView({ block: 'nearest', inline: 'center' });
  }, [events.length, id]);
  if (!view || !symbol)
    return (
      <section className="panel h-full px-3 py-2" aria-label="Trade so far">
        <h2 className="heading">Trade so far</h2>
        <p className="pt-1 text-quiet">
          No trade in {symbol ?? 'focus'}. Once there is one, it is read here from left to right: what was
          done, how it stands, what is to come.
        </p>
      </section>
    );
  const { trade, lines } = view;
  const atStop = atTheStop(trade, orders ?? [], fees);
  const total = netNow(trade, last) ?? 0;
  const open = trade.status === 'open';
  const hours = regular ? '' : ' extended';
  const entry = averageEntry(trade);
  return (
    <section className="panel flex h-full min-h-0 flex-col px-3 py-1.5" aria-label="Trade so far">
      <div className="flex items-baseline gap-3 text-[13px]">
        <h2 className="heading whitespace-nowrap">
          {symbol}: {open ? `${trade.sign === 1 ? 'long' : 'short'} ${positionOf(trade)}` : 'waits'}
        </h2>
        <code className="num truncate text-quiet" title={trade.sentence}>
          {trade.sentence.replaceAll('\n', ' · ')}
        </code>
        <button
          type="button"
          className="ml-auto text-[12px] whitespace-nowrap text-quiet underline"
          onClick={() => void loadOrder(trade.sentence, trade.symbol, symbol)}
        >
          into the ticket
        </button>
      </div>
      <ol
        ref={row}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, and has to by the keyboard too
        tabIndex={0}
        aria-label="What was done, how it stands, what is to come"
        className="flex min-h-0 grow items-stretch gap-1.5 overflow-x-auto py-1 text-[12px]"
      >
        {events.map((e) => (
          <li key={e.id} className="flex w-[150px] shrink-0 flex-col border-l border-line pl-1.5">
            <span className="num text-quiet">{clock(e.at)}</span>
            <span className="line-clamp-3">{eventText(e)}</span>
          </li>
        ))}
        <li
          data-now
          className="flex w-[132px] shrink-0 flex-col border-2 border-text px-1.5"
          aria-label="How it stands now"
        >
          <span className="num font-bold">now {px(last)}</span>
          {open && (
            <>
              <span className={`num text-[15px] font-bold ${total >= 0 ? 'text-up' : 'text-down'}`}>
                net {usd(total, true)} {trade.risk ? signed(total / trade.risk, 2, 'R') : ''}
              </span>
              <span className="num text-quiet">average {avg(entry)}</span>
            </>
          )}
        </li>
        {[...lines]
          .sort((a, b) => Number(b.protects) - Number(a.protects) || trade.sign * (a.price - b.price))
          .map((l) => (
            <li
              key={l.id}
              className="flex w-[120px] shrink-0 flex-col border border-dashed border-line px-1.5"
            >
              <span className="text-quiet">{l.sleeping ? 'sleeps' : 'to come'}</span>
              <span className={l.protects ? 'text-down' : l.role === 'target' ? 'text-up' : ''}>
                {l.label} <span className="num">{l.open}</span>
              </span>
              <span className="num">
                {px(l.price)}
                {trade.risk && entry !== null && (
                  <span className="text-quiet">
                    {' '}
                    net{' '}
                    {usd(
                      (l.protects ? atStop : null)?.net ??
                        gainOf(trade, { shares: l.open, price: l.price, rests: !l.protects }, fees).net,
                      true,
                    )}
                  </span>
                )}
              </span>
            </li>
          ))}
      </ol>
      <div className="flex flex-wrap gap-1 text-[13px]" role="group" aria-label={`Act on ${symbol}`}>
        {open &&
          (
            [
              ['Half out', `close half of ${symbol} at usual through${hours}`],
              ['Third out', `close third of ${symbol} at usual through${hours}`],
              ['Stop to breakeven', `move stop of ${symbol} to breakeven`],
            ] as const
          ).map(([name, text]) => (
            <button
              key={name}
              type="button"
              className="btn px-1.5 py-0"
              title={text}
              onClick={() => void act(text, 'buttons', name)}
            >
              {name}
            </button>
          ))}
        {open && <Trail symbol={symbol} />}
        <button
          type="button"
          className="btn px-1.5 py-0"
          onClick={() => void act(`cancel symbol of ${symbol}`, 'buttons', 'Cancel')}
        >
          Cancel orders
        </button>
        {open && (
          <button
            type="button"
            className="btn px-1.5 py-0 font-semibold"
            onClick={() => void act(`flatten of ${symbol}`, 'buttons', 'Flatten')}
          >
            Flatten
          </button>
        )}
      </div>
    </section>
  );
}

/** A stop that follows the best price, put on what is held. */
function Trail({ symbol }: { symbol: string }) {
  const [by, setBy] = useState('20c');
  const ok = /^(\d+(\.\d+)?(c|%)|\d+(\.\d+)? atr)$/.test(by.trim());
  return (
    <Pop title="Trail what is held" label="Trail …" className="btn px-1.5 py-0">
      <form
        className="flex items-center gap-2 p-3 text-[13px]"
        onSubmit={(e) => {
          e.preventDefault();
          if (ok) void act(`attach of ${symbol}\n  trail ${by.trim()}`, 'buttons', 'Trail');
        }}
      >
        <label className="flex items-center gap-2">
          behind the best price by
          <input
            className="field num w-20 py-0"
            value={by}
            aria-invalid={!ok}
            title="A distance: 20c, 3% or 0.5 atr"
            onChange={(e) => setBy(e.target.value)}
          />
        </label>
        <button type="submit" className="btn" disabled={!ok}>
          Put it on
        </button>
      </form>
    </Pop>
  );
}
