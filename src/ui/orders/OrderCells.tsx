'use client';

import { useState } from 'react';
import { dayOf, parsePrice } from '@/core/units';
import { act, focusOn, useSession } from '../client';
import { avg, clock, count, px } from '../format';
import { orderSentence } from '../trade/order-sentence';
import { useTicketText } from '../trade/ticket-text';
import { editable, type OrderRow } from './order-rows';

/** The sentence that cancels a row. */
export const cancelSentence = (r: OrderRow): string =>
  r.stand === 'waiting' ? `cancel condition ${r.id}` : `cancel order ${r.id}`;

/** What a column says of an order. */
export function Cell({ row: r, column }: { row: OrderRow; column: string }) {
  const today = useSession((s) => s.clock?.dayStart ?? 0);
  const dates = useSession((s) => s.clock?.dates);
  switch (column) {
    case 'at': {
      if (r.stand === 'waiting') return '';
      const before = dayOf(today) - dayOf(r.at);
      const date = before > 0 ? dates?.[dates.length - 1 - before] : undefined;
      return date ? `${date.slice(5)} ${clock(r.at, 'minutes')}` : clock(r.at);
    }
    case 'symbol':
      return (
        <button type="button" className="hover:underline" onClick={() => void focusOn(r.symbol)}>
          {r.symbol}
        </button>
      );
    case 'side':
      return <span className={r.side === 'buy' ? 'text-up' : 'text-down'}>{r.side}</span>;
    case 'qty':
      return <Size row={r} />;
    case 'price':
      return <Price row={r} />;
    case 'what':
      return <What row={r} />;
    case 'limit':
      return r.limit === null ? '' : px(r.limit);
    case 'average':
      return r.average === null ? '' : avg(r.average);
    case 'ahead':
      return r.ahead === null ? '' : count(r.ahead);
    default:
      return <span title={String(r[column as keyof OrderRow])}>{String(r[column as keyof OrderRow])}</span>;
  }
}

function Size({ row: r }: { row: OrderRow }) {
  return r.stand === 'waiting' ? (
    ''
  ) : (
    <Edited
      row={r}
      label="Size"
      text={r.filled > 0 ? `${count(r.filled)} of ${count(r.qty)}` : count(r.qty)}
      value={String(r.qty)}
      sentence={(text) => {
        const qty = Number(text.replace(/,/g, ''));
        return Number.isInteger(qty) && qty > 0 && r.order
          ? `replace order ${r.id} with ${orderSentence(r.order, { qty })}`
          : null;
      }}
    />
  );
}

function Price({ row: r }: { row: OrderRow }) {
  return r.price === null ? (
    r.order?.route === 'mid' ? (
      'mid'
    ) : (
      'market'
    )
  ) : (
    <Edited
      row={r}
      label="Price"
      text={px(r.price)}
      value={px(r.price)}
      sentence={(text) => {
        const price = parsePrice(text.trim());
        return price === null ? null : `move order ${r.id} to ${px(price)}`;
      }}
    />
  );
}

function What({ row: r }: { row: OrderRow }) {
  return r.order ? (
    <Edited
      row={r}
      label="Sentence"
      text={r.what}
      value={orderSentence(r.order)}
      sentence={(text) => (text.trim() === '' ? null : `replace order ${r.id} with ${text.trim()}`)}
    />
  ) : (
    <span title={r.what}>{r.what}</span>
  );
}

/** A number that can be changed where it stands: pressed, typed, Enter. */
function Edited({
  row,
  label,
  text,
  value,
  sentence,
}: {
  row: OrderRow;
  label: string;
  text: string;
  value: string;
  sentence(typed: string): string | null;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  // Exits follow the position: their size is not theirs to choose.
  const own = row.order?.role === 'entry' || row.order?.role === 'close';
  if (!editable(row) || (label !== 'Price' && !own)) return text;
  const name = `${label} of order ${row.id}`;
  if (draft === null)
    return (
      <button
        type="button"
        className="decoration-dotted underline-offset-2 hover:underline"
        aria-label={`${name}: ${text}`}
        onClick={() => setDraft(value)}
      >
        {text}
      </button>
    );
  const to = sentence(draft);
  return (
    <input
      ref={(el) => el?.focus()}
      className={`field num px-1 py-0 text-[13px] ${label === 'Sentence' ? 'absolute inset-x-8 z-10' : 'w-full text-right'}`}
      aria-label={name}
      aria-invalid={to === null}
      title={
        label === 'Sentence'
          ? 'Size, price, kind, life and route, as a sentence; Enter sends it, Escape leaves it'
          : to === null
            ? 'A number, such as 5.25 or 200'
            : 'Enter sends it, Escape leaves it'
      }
      value={draft}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={() => setDraft(null)}
      onKeyDown={(e) => {
        if (e.key === 'Escape') setDraft(null);
        if (e.key !== 'Enter' || to === null) return;
        e.preventDefault();
        void act(to, 'buttons', `Order ${row.id}`);
        setDraft(null);
      }}
    />
  );
}

const LITTLE = 'px-1 text-[12px] text-quiet hover:text-text';
/** What can be done with an order where it stands. */
export function Doing({ row: r }: { row: OrderRow }) {
  const load = useTicketText((s) => s.set);
  const trade = useSession((s) =>
    s.book?.trades.find((t) => t.id === r.order?.tradeId && t.status === 'open'),
  );
  const own = r.order?.role === 'entry' || r.order?.role === 'close';
  const button = (label: string, name: string, go: () => void) => (
    <button type="button" className={LITTLE} aria-label={name} title={name} onClick={go}>
      {label}
    </button>
  );
  if (r.stand === 'waiting')
    return (
      <span className="flex justify-end" role="cell">
        {button(
          r.status === 'paused' ? '▸' : '❚❚',
          r.status === 'paused' ? `Resume condition ${r.id}` : `Pause condition ${r.id}`,
          () =>
            void act(`${r.status === 'paused' ? 'resume' : 'pause'} condition ${r.id}`, 'buttons', 'Orders'),
        )}
        {button('ticket', `Load condition ${r.id} into the ticket`, () => load(r.what))}
        {button('✕', `Cancel condition ${r.id}`, () => void act(cancelSentence(r), 'buttons', 'Orders'))}
      </span>
    );
  const { order } = r;
  if (!order) return null;
  return (
    <span className="flex justify-end" role="cell">
      {trade &&
        order.filled > 0 &&
        order.role === 'entry' &&
        button(
          'close',
          `Close what order ${r.id} brought`,
          () =>
            void act(
              `close ${order.filled} of ${r.symbol} at usual through extended account "${r.account}"`,
              'buttons',
              'Orders',
            ),
        )}
      {own &&
        button('copy', `Send order ${r.id} once more`, () => {
          void act(orderSentence(order, { of: r.symbol, account: r.account }), 'buttons', 'Orders');
        })}
      {own &&
        button('ticket', `Load order ${r.id} into the ticket`, () =>
          load(
            orderSentence(
              order,
              order.symbol === useSession.getState().focus?.symbol ? {} : { of: order.symbol },
            ),
          ),
        )}
      {editable(r) &&
        button('✕', `Cancel order ${r.id}`, () => void act(cancelSentence(r), 'buttons', 'Orders'))}
    </span>
  );
}
