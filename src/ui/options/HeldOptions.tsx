'use client';

import { contractsIn, instrumentOf, isOption, legsOf, mostToLose, nameOf, rootOf } from '@/core/instruments';
import { averageEntry, isLive, netNow, type Order, positionOf, type Trade } from '@/core/orders';
import { daysBetween, PRICE_SCALE } from '@/core/units';
import { act, focusOn, useSession } from '../client';
import { avg, px, shortName, signed, usd } from '../format';
import { orderSentence } from '../trade/order-sentence';
import { useTicketText } from '../trade/ticket-text';

const NOTHING: Readonly<Record<string, number | null>> = {};

/** What of options is held and works, whatever the chain shows: what closing would bring, and what is done with it most. */
export function HeldOptions() {
  const book = useSession((s) => s.book);
  const account = useSession((s) => s.account?.id);
  const date = useSession((s) => s.clock?.date);
  const last = useSession((s) => s.marks?.last) ?? NOTHING;
  const mine = (x: { account: string; symbol: string }) => x.account === account && isOption(x.symbol);
  const trades = (book?.trades ?? []).filter((t) => mine(t) && t.status === 'open');
  const orders = (book?.orders ?? []).filter(
    (o) => mine(o) && isLive(o) && (o.role === 'entry' || o.role === 'close'),
  );
  if (trades.length + orders.length === 0 || date === undefined) return null;
  return (
    <section
      className="max-h-[42%] shrink-0 overflow-y-auto border-t border-line px-3 py-1.5"
      aria-label="Options held and working"
    >
      <ul className="grid gap-1 text-[13px]">
        {trades.map((t) => (
          <Position
            key={t.id}
            trade={t}
            now={last[t.symbol] ?? null}
            date={date}
            closing={orders.some((o) => o.tradeId === t.id && o.role === 'close')}
          />
        ))}
        {orders.map((o) => (
          <Working key={o.id} order={o} />
        ))}
      </ul>
    </section>
  );
}

const ROW = 'flex min-h-[26px] items-center gap-2.5 whitespace-nowrap';

function Position({
  trade: t,
  now,
  date,
  closing,
}: {
  trade: Trade;
  now: number | null;
  date: string;
  closing: boolean;
}) {
  const i = instrumentOf(t.symbol);
  const entry = averageEntry(t) ?? 0;
  const gain = now === null || entry === 0 ? null : (t.sign * (now - entry)) / entry;
  const total = netNow(t, now) ?? 0;
  const days = i.kind === 'stock' ? 0 : daysBetween(date, i.expiry);
  const into = useTicketText.getState().set;
  return (
    <li className={ROW}>
      <Name symbol={t.symbol} />
      <span className={`num w-[62px] ${t.sign === 1 ? 'text-up' : 'text-down'}`}>
        {t.sign === 1 ? 'long' : 'short'} {positionOf(t)}
      </span>
      <span className="num text-quiet">
        {avg(entry)} → <span className="text-text">{px(now)}</span>
      </span>
      <span className={`num font-bold ${total >= 0 ? 'text-up' : 'text-down'}`}>net {usd(total, true)}</span>
      <span
        className="num text-quiet"
        title={t.sign === -1 ? 'What is kept of the credit, and days to go' : 'Gain, and days to go'}
      >
        {gain !== null && `${t.sign === -1 ? 'kept ' : ''}${signed(gain * 100, 0, ' %')}, `}
        {days} days
      </span>
      <span className="ml-auto flex gap-1">
        {t.sign === -1 && !closing && (
          <button
            type="button"
            className="btn px-2 py-0.5"
            title="Places the standing order that buys it back at half of what it was sold for"
            onClick={() => void act(`close all of ${t.symbol} at half the credit gtc`, 'buttons', 'Options')}
          >
            Half the credit
          </button>
        )}
        <button
          type="button"
          className="btn px-2 py-0.5"
          onClick={() => into(`close all of ${t.symbol} at mid`)}
        >
          Close…
        </button>
        <button type="button" className="btn px-2 py-0.5" onClick={() => into(rollOf(t))}>
          Roll…
        </button>
        {contractsIn(t.symbol) === 2 && (
          <button
            type="button"
            className="btn px-2 py-0.5"
            title="Closes the leg that is short and keeps the other one"
            onClick={() => into(legOut(t))}
          >
            Leg out…
          </button>
        )}
      </span>
    </li>
  );
}

function Working({ order: o }: { order: Order }) {
  return (
    <li className={ROW}>
      <Name symbol={o.symbol} />
      <code className="num text-[12.5px]">{orderSentence(o, { of: o.symbol })}</code>
      <span className="num text-quiet">
        {o.filled} of {o.qty}
      </span>
      <span className="ml-auto flex gap-1">
        {(['down', 'up'] as const).map((way) => (
          <button
            key={way}
            type="button"
            className="btn px-2 py-0.5"
            aria-label={`Order ${o.id} a step ${way}`}
            onClick={() => void act(`move order ${o.id} ${way} 1 tick`, 'buttons', 'Options')}
          >
            {way === 'up' ? '+' : '−'}
          </button>
        ))}
        <button
          type="button"
          className="btn px-2 py-0.5"
          onClick={() => void act(`cancel order ${o.id}`, 'buttons', 'Options')}
        >
          Cancel
        </button>
      </span>
    </li>
  );
}

const Name = ({ symbol }: { symbol: string }) => (
  <button
    type="button"
    className="w-[150px] truncate text-left font-semibold underline decoration-line"
    title={symbol}
    onClick={() => void focusOn(rootOf(symbol))}
  >
    {shortName(symbol)}
  </button>
);

/** Out of it, and as soon as that fills into the same about 45 days from now, at the usual delta. */
function rollOf(t: Trade): string {
  const i = instrumentOf(t.symbol);
  if (i.kind === 'stock') return '';
  const verb = t.sign === 1 ? 'buy' : 'short';
  const out = `close all of ${t.symbol} at mid\n  once filled: `;
  if (i.kind === 'option')
    return `${out}${verb} ${positionOf(t)} of ${i.root} 45 days 30 delta ${i.right} at mid`;
  const wide = mostToLose(t.symbol, -1, 0) / PRICE_SCALE;
  // The leg that is written first is traded as the verb says: of a credit the one that is sold.
  return `${out}${verb} ${positionOf(t)} of ${i.root} 45 days 30 delta ${wide} wide ${i.right} at mid ${t.sign === 1 ? 'debit' : 'credit'}`;
}

/** Buys back the leg that is short; the other one stays. */
function legOut(t: Trade): string {
  const short = legsOf(t.symbol).find((l) => l.sign * t.sign === -1);
  return short ? `close all of ${nameOf(short.contract)} alone at mid` : '';
}
