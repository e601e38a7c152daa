'use client';

import { useMemo } from 'react';
import { rootOf } from '@/core/instruments';
import { focusOn, useSession } from '../client';
import { avg, px, shortName, signed, usd } from '../format';
import { type Card, cardsOf } from '../trade/cards';
import { lineColour } from '../trade/trade-view';

const NOTHING = {};

/** The trades of the day as small cards, what needs the eye first; one press brings its trade into the large card. */
export function TradeCards() {
  const book = useSession((s) => s.book);
  const account = useSession((s) => s.account?.id);
  const last = useSession((s) => s.marks?.last) ?? NOTHING;
  const focus = useSession((s) => s.focus?.symbol);
  const today = useSession((s) => s.clock?.dayStart ?? 0);
  const cards = useMemo(() => cardsOf(book, account, last, today), [book, account, last, today]);
  const sum = cards.reduce((a, c) => a + c.result, 0);
  return (
    <section className="panel flex h-full min-h-0 flex-col px-2 py-1.5" aria-label="Trades of the day">
      <div className="flex items-baseline px-1">
        <h2 className="heading">Trades</h2>
        {cards.length > 0 && (
          <span className={`num ml-auto text-[13px] font-bold ${sum >= 0 ? 'text-up' : 'text-down'}`}>
            {usd(sum, true)}
          </span>
        )}
      </div>

      <ul className="min-h-0 grow overflow-y-auto">
        {cards.length === 0 && (
          <li className="px-1 text-[13px] text-quiet">None today. The rack enters what is in focus.</li>
        )}
        {cards.map((c) => (
          <li key={c.id}>
            <CardButton card={c} focused={rootOf(c.symbol) === focus && c.state !== 'finished'} />
          </li>
        ))}
      </ul>
    </section>
  );
}

const MARK: Readonly<Record<Card['state'], string>> = {
  bare: '⚠',
  'near stop': '!',
  open: '',
  waits: '◷',
  finished: '✓',
};

function CardButton({ card: c, focused }: { card: Card; focused: boolean }) {
  const over = c.state === 'finished';
  return (
    <button
      type="button"
      className={`num mb-0.5 grid w-full grid-cols-[1fr_44px_50px] items-center gap-1.5 border px-1.5 text-left text-[12px] leading-[18px] ${focused ? 'border-focus' : c.state === 'bare' || c.state === 'near stop' ? 'border-down' : 'border-line'} ${over ? 'opacity-70' : ''}`}
      title={saidOf(c)}
      aria-label={saidOf(c)}
      onClick={() => void focusOn(rootOf(c.symbol))}
    >
      <span className="truncate">
        <b className={focused ? 'text-focus' : ''}>{shortName(c.symbol, false)}</b>{' '}
        <span className={c.side === 'long' ? 'text-up' : 'text-down'}>
          {c.state === 'waits'
            ? c.side === 'long'
              ? 'buy'
              : 'short'
            : `${c.side === 'long' ? '+' : '−'}${c.shares}`}
        </span>{' '}
        {MARK[c.state]}
      </span>
      {c.ruler ? <Ruler ruler={c.ruler} /> : <span />}
      <span className={`text-right font-bold ${c.result >= 0 ? 'text-up' : 'text-down'}`}>
        {c.state === 'waits' ? '' : c.r === null ? usd(Math.round(c.result), true) : signed(c.r, 2, 'R')}
      </span>
    </button>
  );
}

/** Exits, entry and the price on one line: losses left, gains right. */
function Ruler({ ruler }: { ruler: NonNullable<Card['ruler']> }) {
  const left = (at: number) => `${at * 100}%`;
  return (
    <span className="relative block h-[7px]" aria-hidden>
      <span className="absolute inset-x-0 top-[3px] h-px bg-line" />
      {ruler.exits.map(({ at, line }) => (
        <span
          key={line.id}
          className="absolute top-0 h-[7px] w-[3px] -translate-x-1/2"
          style={{ left: left(at), background: lineColour(line.role) }}
        />
      ))}
      <span className="absolute top-[1px] h-[5px] w-px bg-quiet" style={{ left: left(ruler.entry) }} />
      <span
        className="absolute top-0 h-[7px] w-[7px] -translate-x-1/2 rounded-full bg-text"
        style={{ left: left(ruler.last) }}
      />
    </span>
  );
}

/** The card in a sentence. */
function saidOf(c: Card): string {
  if (c.state === 'waits') return `${c.symbol}: the entry waits`;
  const result = `${usd(Math.round(c.result), true)}${c.r === null ? '' : `, ${signed(c.r, 2, 'R')}`}`;
  if (c.state === 'finished') return `${c.symbol}: ${c.side} ${c.shares} at ${avg(c.entry)}, over, ${result}`;
  const exits = c.ruler?.exits.map(({ line }) => `${line.label} ${px(line.price)}`).join(', ') ?? '';
  return [
    `${c.symbol}: ${c.side} ${c.shares} at ${avg(c.entry)}, ${result}`,
    c.bare > 0 ? `${c.bare} without a stop` : '',
    c.state === 'near stop' ? 'near its stop' : '',
    c.sleeping ? 'its stop sleeps' : '',
    exits,
  ]
    .filter((x) => x !== '')
    .join('; ');
}
