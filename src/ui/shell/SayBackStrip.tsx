'use client';

import { Fragment, useState } from 'react';
import { oneLine } from '@/core/language';
import { type OrderFacts, questionText } from '@/core/reading';
import { type Money, type OrderId, type Price, parsePrice } from '@/core/units';
import type { Peeked } from '@/worker/session/slices';
import { act, actInstead, confirm, discard, type Meant, showMove, usePeeked, useSession } from '../client';
import { avg, inUnits, px, usd } from '../format';
import { useHands } from '../hands/hands';
import { Instead } from '../primitives/Instead';
import { useSettings } from '../settings';
import { orderSentence } from '../trade/order-sentence';
import { useTicketText } from '../trade/ticket-text';

/** The sentence strip: the say-back of what happened, would happen, or waits for a yes. */
export function SayBackStrip() {
  const s = useSession((x) => x.sayBack);
  const peeked = usePeeked();
  const account = useSession((x) => x.account?.name);
  const notKept = useSession((x) => x.notKept !== null);
  return (
    // One height, whatever is said: nothing above it moves.
    <div
      className="panel h-[66px] overflow-y-auto border-x-0 border-b-0 px-3 py-1.5"
      role="status"
      aria-live="polite"
      aria-label="Say-back"
    >
      {s.kind === 'idle' && (
        <p className="pt-1 text-quiet">
          What a key or button does is said here. Shift and a key shows it without doing it.
        </p>
      )}
      {s.kind === 'peek' && peeked && <Sentence lead={`${s.from} would`} peeked={peeked} />}
      {s.kind === 'confirm' && peeked && (
        <div className="flex items-center gap-4">
          <Sentence
            lead={`${s.from}:`}
            peeked={peeked}
            waits
            note={s.early ? 'Enter came before this was there and does not count. Press it again.' : null}
          />
          <YesNo yes="Send" />
        </div>
      )}
      {s.kind === 'moving' && <Moving s={s} />}
      {s.kind === 'done' && (
        <p className="pt-1">
          <span className="mr-2 font-semibold">{s.idle ? 'Nothing to do' : 'Done'}</span>
          {notKept && !s.idle && <span className="mr-2">(not kept)</span>}
          {account && <span className="mr-2 text-quiet">{account}</span>}
          {s.lines.map((l, k) => (
            <code key={l} className="num mr-4">
              {oneLine(l)}
              {s.about[k] && <span className="text-quiet"> ({s.about[k]})</span>}
            </code>
          ))}
          {s.got.map((g) => (
            <b key={g} className="num mr-4">
              {g}
            </b>
          ))}
          {s.warnings.map((w) => (
            <Warning key={w} text={w} />
          ))}
          {s.back.length > 0 && (
            <button
              type="button"
              className="btn"
              title={s.back.join(', ')}
              onClick={() => void act(s.back.join('\n'), 'buttons', 'Put back')}
            >
              Put {s.back.length === 1 ? 'the stop' : 'the stops'} back
            </button>
          )}
          {s.meant && <Keep meant={s.meant} />}
        </p>
      )}
      {s.kind === 'told' && (
        <p className="flex items-center gap-4 pt-1 font-semibold">
          {s.text}
          {s.flatten && (
            <button
              type="button"
              className="btn"
              onClick={() => void act(`flatten of ${s.flatten}`, 'buttons', 'Flatten')}
            >
              Flatten {s.flatten}
            </button>
          )}
        </p>
      )}
      {s.kind === 'refused' && (
        <p className="pt-1">
          <span className="mr-2 font-semibold">Not sent ⚠</span>
          {s.done.length > 0 && (
            <span className="mr-2">Sent before that: {s.done.map(oneLine).join('; ')}.</span>
          )}
          {s.problem}
          <Instead texts={s.fixes} take={(fix) => void actInstead(fix, s.lasting ? s.text : null)} />
        </p>
      )}
    </div>
  );
}

const Warning = ({ text }: { text: string }) => <span className="mr-3 font-semibold">⚠ {text}</span>;

/** The answer that was given may stay: in the key or button whose text it is, or in the ticket. */
function Keep({ meant: { text, means } }: { meant: Meant }) {
  const script = useSettings((s) => s.scripts.find((x) => x.text === text));
  const ticket = useTicketText();
  const inTicket = ticket.text === text;
  const keep = () => {
    const { scripts, set } = useSettings.getState();
    set({ scripts: scripts.map((x) => (x.text === text ? { ...x, text: means } : x)) });
    if (inTicket) ticket.set(means);
  };
  if (!script && !inTicket) return null;
  const places = [...(script ? [`“${script.name}”`] : []), ...(inTicket ? ['the ticket'] : [])];
  return (
    <button type="button" className="btn" title={means} onClick={keep}>
      Write this into {places.join(' and ')}
    </button>
  );
}

function Sentence({
  lead,
  peeked,
  waits = false,
  note = null,
}: {
  lead: string;
  peeked: Peeked;
  waits?: boolean;
  note?: string | null;
}) {
  const f = peeked.facts;
  const account = useSession((s) => s.account?.name);
  return (
    <p className="grow pt-1">
      <span className="mr-2 font-semibold text-focus">{lead}</span>
      {note && <Warning text={note} />}
      {peeked.asks.map((q) => (
        <Fragment key={questionText(q)}>
          <Warning text={questionText(q)} />
          {'instead' in q && <Instead texts={q.instead} take={(fix) => void actInstead(fix, peeked.text)} />}
        </Fragment>
      ))}
      {account && <span className="mr-2 text-quiet">{account}</span>}
      {peeked.problem !== null ? (
        <>
          not go: {peeked.problem}
          <Instead
            texts={peeked.fixes}
            take={(fix) => void actInstead(fix, peeked.lasting ? peeked.text : null)}
          />
        </>
      ) : (
        peeked.sayBack.map((l, k) => (
          <code key={l} className="num mr-3">
            {oneLine(l)}
            {peeked.about[k] && <span className="text-quiet"> ({peeked.about[k]})</span>}
            {peeked.guesses[k] && <span className="text-quiet"> if the lines before it go as expected</span>}
          </code>
        ))
      )}
      {f && peeked.problem === null && (
        <span className="mr-3 text-quiet">
          {f.outlook && f.side === 'sell' ? 'brings' : 'cost'}{' '}
          <span className="num text-text">{usd(f.cost)}</span>
          {f.risk !== null && (
            <>
              {' '}
              · risk{' '}
              <span className="num text-text">
                {usd(f.risk)}
                {f.units !== null && `, ${inUnits(f.units)}`}
              </span>
            </>
          )}
          {f.reward !== null && f.risk !== null && (
            <>
              {' '}
              · reward to risk <span className="num text-text">{(f.reward / f.risk).toFixed(1)}</span>
            </>
          )}{' '}
          · costs both ways <span className="num text-text">{usd(f.costs)}</span>
          {f.targets.length > 0 && (
            <>
              {' '}
              · net at targets{' '}
              <span className="num text-text">{f.targets.map((t) => usd(t.net, true)).join(', ')}</span>
            </>
          )}
          {f.outlook && <Ahead of={f.outlook} />}
          {f.power && (
            <>
              {' '}
              · power left <span className="num text-text">{usd(f.power.left)}</span>
            </>
          )}
        </span>
      )}
      {peeked.problem === null && peeked.named.length > 0 && (
        <span className="mr-3 text-quiet">
          {peeked.named.map((n) => (
            <span key={n.text} className="num mr-2">
              {px(n.price)} = {n.text}
            </span>
          ))}
          {waits ? 'as of now, fixed when sent' : 'now'}
        </span>
      )}
      {peeked.warnings.map((w) => (
        <Warning key={w} text={w} />
      ))}
    </p>
  );
}

/** What may come of options: the most either way, where it is even, and how probable that is. */
function Ahead({ of: o }: { of: NonNullable<OrderFacts['outlook']> }) {
  const parts = [
    `at most ${o.most === null ? 'without end' : usd(o.most, true)}`,
    `at worst ${o.least === null ? 'without end' : usd(-o.least as Money, true)}`,
    ...(o.even.length > 0 ? [`even at ${o.even.map((e) => avg(e)).join(' and ')}`] : []),
    `a profit in ${(o.profit * 100).toFixed(0)} %`,
    ...(o.half === null ? [] : [`once worth half in ${(o.half * 100).toFixed(0)} %`]),
    `${usd(o.perDay, true)} a day`,
  ];
  return (
    <>
      {' '}
      · <span className="num text-text">{parts.join(' · ')}</span>
    </>
  );
}

function YesNo({ yes }: { yes: string }) {
  // With the caret in a text Enter belongs to the text.
  const typing = useHands((s) => s.typing);
  return (
    <span className="flex shrink-0 gap-2">
      <button
        type="button"
        className="btn border-focus font-semibold text-focus"
        onClick={() => void confirm()}
      >
        {yes} ({typing ? 'Ctrl+Enter' : 'Enter'})
      </button>
      <button type="button" className="btn" onClick={discard}>
        Drop (Esc)
      </button>
    </span>
  );
}

/** After a drag: the exact price, and of an order by hand the size, to be changed or sent. */
function Moving({
  s,
}: {
  s: { kind: 'moving'; orderId: OrderId; price: Price; label: string; sends?: string };
}) {
  const order = useSession((x) => x.book?.orders.find((o) => o.id === s.orderId));
  const [size, setSize] = useState('');
  // Exits follow the position: their size is not theirs to choose.
  const own = order?.role === 'entry' || order?.role === 'close';
  const qty = Number(size.replaceAll(',', ''));
  const bad = size !== '' && !(Number.isInteger(qty) && qty > (order?.filled ?? 0));
  const to = (price: Price, shares: number | null) => {
    const { orderId, label } = s;
    const sends =
      shares === null || !order
        ? {}
        : { sends: `replace order ${s.orderId} with ${orderSentence(order, { qty: shares, price })}` };
    showMove({ orderId, label, price, ...sends });
    useSession.setState({ drag: { orderId: s.orderId, price } });
  };
  return (
    <form
      className="flex items-center gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (!bad) void confirm();
      }}
    >
      <label className="flex items-center gap-2">
        <span className="font-semibold text-focus">Move {s.label} to</span>
        <input
          key={s.orderId}
          className="field num w-24"
          defaultValue={px(s.price)}
          autoFocus
          inputMode="decimal"
          aria-label="New price"
          onChange={(e) => {
            const p = parsePrice(e.target.value);
            e.target.setCustomValidity(p === null ? 'A price such as 7.21' : '');
            if (p !== null) to(p, size === '' || bad ? null : qty);
          }}
          onKeyDown={(e) => e.key === 'Escape' && discard()}
        />
      </label>
      {own && order && (
        <label className="flex items-center gap-2">
          size
          <input
            className="field num w-20"
            value={size}
            placeholder={String(order.qty)}
            inputMode="numeric"
            aria-label="New size"
            aria-invalid={bad}
            title={
              bad ? `A whole number above the ${order.filled} that have filled` : 'Another number of shares'
            }
            onChange={(e) => {
              const n = Number(e.target.value.replaceAll(',', ''));
              setSize(e.target.value);
              to(s.price, e.target.value !== '' && Number.isInteger(n) && n > order.filled ? n : null);
            }}
            onKeyDown={(e) => e.key === 'Escape' && discard()}
          />
        </label>
      )}
      <button type="submit" className="btn border-focus font-semibold text-focus" disabled={bad}>
        Move (Enter)
      </button>
      <button type="button" className="btn" onClick={discard}>
        Drop (Esc)
      </button>
    </form>
  );
}
