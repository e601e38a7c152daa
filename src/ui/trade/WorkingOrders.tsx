'use client';

import { useState } from 'react';
import { isOption, rootOf } from '@/core/instruments';
import { isLive, type Order, statusOf } from '@/core/orders';
import { act, useLive, useSession } from '../client';
import { ScriptEditor } from '../editor/ScriptEditor';
import { px } from '../format';
import { Pop } from '../primitives/Pop';
import { orderSentence } from './order-sentence';

/** The working orders of the focus, each to be replaced, canceled, or sent lit. */
export function WorkingOrders() {
  const symbol = useSession((s) => s.focus?.symbol);
  const account = useSession((s) => s.account?.id);
  const book = useSession((s) => s.book);
  const ahead = useSession((s) => s.marks?.ahead);
  const orders = (book?.orders ?? []).filter(
    (o) => rootOf(o.symbol) === symbol && o.account === account && isLive(o),
  );
  return (
    <Pop
      title={`Orders of ${symbol}: ${orders.length}`}
      className="btn num w-[92px] py-0.5 text-[13px]"
      label={<>Orders {orders.length}</>}
    >
      <div className="w-[640px] p-3 text-[13px]">
        {orders.length === 0 && <p className="text-quiet">No order of {symbol} works or waits.</p>}
        <ul className="grid gap-1.5" aria-label="Working orders">
          {orders.map((o) => (
            <One key={o.id} order={o} ahead={ahead?.[o.id] ?? null} />
          ))}
        </ul>
        {orders.length > 1 && (
          <div className="mt-2 flex gap-2">
            <button
              type="button"
              className="btn"
              onClick={() => void act('cancel symbol', 'buttons', 'Orders')}
            >
              Cancel all but stops
            </button>
            <button
              type="button"
              className="btn"
              onClick={() => void act('cancel symbol and exits', 'buttons', 'Orders')}
            >
              Cancel stops as well
            </button>
          </div>
        )}
      </div>
    </Pop>
  );
}

function One({ order: o, ahead }: { order: Order; ahead: number | null }) {
  const [draft, setDraft] = useState<string | null>(null);
  const own = o.role === 'entry' || o.role === 'close';
  const status = statusOf(o);
  const replace = async (text: string) => {
    if ((await act(`replace order ${o.id} with ${text}`, 'buttons', 'Replace')) === 'sent') setDraft(null);
  };
  return (
    <li className="grid grid-cols-[40px_1fr_auto] items-start gap-2 border-b border-line pb-1.5 last:border-0">
      <span className="num text-quiet">#{o.id}</span>
      <span className="min-w-0">
        {draft === null ? (
          <code className="num">
            {own
              ? orderSentence(o)
              : `${o.role} ${o.side} ${o.qty - o.filled}${isOption(o.symbol) ? ` of ${o.symbol}` : ''} at ${px(o.stop ?? o.limit)}`}
          </code>
        ) : (
          <span className="block h-[44px]">
            <ScriptEditor
              label={`Replace order ${o.id} with`}
              small
              value={draft}
              change={setDraft}
              submit={(text) => void replace(text)}
            />
          </span>
        )}
        <span className="num block text-quiet">
          {status === 'Suspended' ? 'asleep until its session' : status}
          {o.filled > 0 && ` · ${o.filled} of ${o.qty} filled`}
          {ahead !== null && ` · ${ahead} ahead in the queue`}
          {o.pair && ` · one of two, with #${o.pair.id}`}
          {o.works && o.limit !== o.works.to && ` · works to ${px(o.works.to)}`}
        </span>
      </span>
      <span className="flex gap-1">
        {o.route === 'mid' && draft === null && <Lit order={o} />}
        {own && draft === null && (
          <button type="button" className="btn px-2 py-0.5" onClick={() => setDraft(orderSentence(o))}>
            Replace
          </button>
        )}
        {draft !== null && (
          <>
            <button type="button" className="btn px-2 py-0.5 text-focus" onClick={() => void replace(draft)}>
              Send
            </button>
            <button type="button" className="btn px-2 py-0.5" onClick={() => setDraft(null)}>
              Leave
            </button>
          </>
        )}
        {draft === null && (
          // Of a group, and of a stop, the strip asks what is meant.
          <button
            type="button"
            className="btn px-2 py-0.5"
            onClick={() => void act(`cancel order ${o.id}`, 'buttons', 'Cancel')}
          >
            Cancel
          </button>
        )}
      </span>
    </li>
  );
}

/** A midpoint order made a lit one: at rest at the price that was asked for, or taking what is there, with that price named and asked about. */
function Lit({ order: o }: { order: Order }) {
  const quote = useLive<'symbol'>({ kind: 'symbol', symbol: o.symbol })?.quote;
  const verb = o.role === 'close' ? 'close' : o.side === 'buy' ? 'buy' : 'short';
  const there = quote && (o.side === 'buy' ? quote.ask : quote.bid);
  const own = quote && (o.side === 'buy' ? quote.bid : quote.ask);
  const rest = o.limit ?? own;
  const lit = (at: string, from: string, origin: 'buttons' | 'always') =>
    void act(`replace order ${o.id} with ${verb} ${o.qty} at ${at}`, origin, from);
  return (
    <>
      {rest != null && (
        <button
          type="button"
          className="btn px-2 py-0.5"
          title={o.limit === null ? 'At its own side of the quote' : 'At the price that was asked for'}
          onClick={() => lit(px(rest), 'Rest in the book', 'buttons')}
        >
          Rest in the book at {px(rest)}
        </button>
      )}
      {there != null && (
        <button
          type="button"
          className="btn px-2 py-0.5"
          onClick={() => lit(px(there), `Take at ${px(there)}`, 'always')}
        >
          Take the {o.side === 'buy' ? 'ask' : 'bid'} at {px(there)}…
        </button>
      )}
    </>
  );
}
