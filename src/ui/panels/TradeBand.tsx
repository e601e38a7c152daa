'use client';

import dynamic from 'next/dynamic';
import Link from 'next/link';
import { isOption, rootOf } from '@/core/instruments';
import { atTheStop, averageEntry, netNow, positionOf } from '@/core/orders';
import { MINUTE } from '@/core/units';
import { useSession } from '../client';
import { avg, px, shortName, signed, usd } from '../format';
import { useFees } from '../trade/fees';
import { RRuler } from '../trade/RRuler';
import { tradeOf } from '../trade/trade-view';
import { WorkingOrders } from '../trade/WorkingOrders';

/** With its controls, fetched once something is held. */
const ExitsForm = dynamic(() => import('../trade/ExitsForm').then((m) => m.ExitsForm), {
  ssr: false,
  loading: () => <span className="btn w-[64px] py-0.5 text-center text-[13px] text-quiet">Exits</span>,
});

/** The trade card of the symbol in focus, across the Desk: price, position, result, R ruler. */
export function TradeBand() {
  const focus = useSession((s) => s.focus);
  const book = useSession((s) => s.book);
  const account = useSession((s) => s.account?.id);
  const view = tradeOf(book, focus?.symbol, account);
  const options = book?.trades.some(
    (t) =>
      t.account === account &&
      t.status === 'open' &&
      isOption(t.symbol) &&
      rootOf(t.symbol) === focus?.symbol,
  );
  return (
    // One height, with and without a trade: the chart below never moves.
    <section className="panel h-[122px] overflow-hidden px-3 py-2" aria-label="Trade card">
      <div className="flex h-[44px] items-baseline gap-6 overflow-hidden whitespace-nowrap">
        <span className="num text-4xl leading-10 font-bold" data-testid="last-price">
          {px(focus?.last)}
        </span>
        {focus?.change != null && (
          <span className={`num text-lg ${focus.change >= 0 ? 'text-up' : 'text-down'}`}>
            {focus.change >= 0 ? '▲' : '▼'} {signed(focus.change, 1, '%')}
          </span>
        )}
        <span className="num text-quiet">
          <span className="text-up">{px(focus?.quote.bid)}</span> ×{' '}
          <span className="text-down">{px(focus?.quote.ask)}</span>
        </span>
        {view ? (
          <Standing view={view} last={focus?.last ?? null} />
        ) : (
          <span className="text-lg text-quiet" data-testid="position">
            flat in {focus?.symbol}
          </span>
        )}
        <span className="ml-auto flex items-baseline gap-2">
          <Overnight />
          {view?.trade.status === 'open' && <ExitsForm view={view} last={focus?.last ?? null} />}
          <WorkingOrders />
        </span>
      </div>
      {view && <RRuler view={view} last={focus?.last ?? null} />}
      {!view && options && <OptionsOf symbol={focus?.symbol} />}
      {!view && !options && (
        <p className="pt-3 text-quiet">
          No trade here. A key or a rack button below enters {focus?.symbol} with its exits attached; Shift
          and the key shows it first.
        </p>
      )}
    </section>
  );
}

/** Options that are held of what is in focus, in short: what is done with them is under Options. */
function OptionsOf({ symbol }: { symbol: string | undefined }) {
  const trades = useSession((s) => s.book?.trades);
  const account = useSession((s) => s.account?.id);
  const last = useSession((s) => s.marks?.last);
  const held = (trades ?? []).filter(
    (t) => t.account === account && t.status === 'open' && isOption(t.symbol) && rootOf(t.symbol) === symbol,
  );
  return (
    <p className="flex gap-6 overflow-hidden pt-3 whitespace-nowrap">
      {held.map((t) => {
        const total = netNow(t, last?.[t.symbol] ?? null) ?? 0;
        return (
          <Link key={t.id} href="/options" className="num" title={t.symbol}>
            <span className={t.sign === 1 ? 'text-up' : 'text-down'}>
              {t.sign === 1 ? '+' : '−'}
              {positionOf(t)}
            </span>{' '}
            {shortName(t.symbol)} at {avg(averageEntry(t))} net{' '}
            <b className={total >= 0 ? 'text-up' : 'text-down'}>{usd(total, true)}</b>
          </Link>
        );
      })}
    </p>
  );
}

/** How long before the close what stays overnight is said, in ms. */
const BEFORE_THE_CLOSE = 30 * MINUTE;

/** Before the close: what is held over the night, and that its stops sleep. */
function Overnight() {
  const time = useSession((s) => s.clock);
  const account = useSession((s) => s.account?.id);
  const held = useSession(
    (s) => s.book?.trades.filter((t) => t.account === account && t.status === 'open').length ?? 0,
  );
  if (!time || held === 0) return null;
  const left = time.dayStart + time.hours.close - time.now;
  if (left > BEFORE_THE_CLOSE || left <= 0) return null;
  return (
    <span className="font-semibold">
      {held === 1
        ? '1 stays overnight; its stop sleeps until 09:30'
        : `${held} stay overnight; stops sleep until 09:30`}
    </span>
  );
}

function Standing({ view, last }: { view: NonNullable<ReturnType<typeof tradeOf>>; last: number | null }) {
  const { trade } = view;
  const shares = positionOf(trade);
  const total = netNow(trade, last) ?? 0;
  const fees = useFees();
  const orders = useSession((s) => s.book?.orders);
  const end = atTheStop(trade, orders ?? [], fees);
  const side = trade.sign === 1 ? 'long' : 'short';
  const stops = view.lines.filter((l) => l.protects);
  const stop = stops[0];
  const entry = averageEntry(trade);
  const covered = stops.reduce((a, l) => a + l.open, 0);
  if (trade.status === 'pending')
    return (
      <span className="text-lg" data-testid="position">
        {trade.sign === 1 ? 'buy' : 'short'} waits
      </span>
    );
  return (
    <>
      <span
        className={`text-lg font-semibold ${trade.sign === 1 ? 'text-up' : 'text-down'}`}
        data-testid="position"
      >
        {side} <span className="num">{shares}</span> at <span className="num">{avg(entry)}</span>
      </span>
      <span className={`num text-2xl font-bold ${total >= 0 ? 'text-up' : 'text-down'}`} data-testid="result">
        <span className="mr-1 text-[13px] font-normal text-quiet">net</span>
        {usd(total, true)}{' '}
        {trade.risk ? <span className="ml-2">{signed(total / trade.risk, 2, 'R')}</span> : null}
      </span>
      {covered < shares && (
        <span className="rounded bg-down px-2 py-0.5 text-xl font-bold text-ground" role="alert">
          ⚠ {shares - covered} without a stop
        </span>
      )}
      <span className="text-quiet">
        {end && (
          <>
            at the stop, net <span className="num text-text">{usd(end.net, true)}</span>
            {end.r !== null && <span className="num text-text"> {signed(end.r, 2, 'R')}</span>}
          </>
        )}
        {stop?.sleeping && <span className="ml-2 font-semibold">stop sleeps until 09:30</span>}
      </span>
    </>
  );
}
