'use client';

import { memo, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { isLive, positionOf } from '@/core/orders';
import { type Price, roundToTick } from '@/core/units';
import { pointedNow } from '../chart/pointed-now';
import { pointedSentence } from '../chart/pointing';
import { act, useLive, useSession } from '../client';
import { count, px } from '../format';
import { Auction, Bound, Halted } from '../panels/halts';
import { PrintList, PrintsHead } from '../panels/Prints';
import { useSize } from '../primitives/useSize';
import { startDrag, stepBy } from '../trade/drag';
import { lineColour, linesOf, type OrderLine, tradeOf } from '../trade/trade-view';
import { type LadderRow, ladderRows, strayed } from './rows';

const ROW = 19;
/** How far the book is told: enough for the tallest screen. */
const LEVELS = 80;
const PARTS = [
  ['all', 'all'],
  ['half', '½'],
  ['third', '⅓'],
  ['quarter', '¼'],
] as const;
const NO_ORDERS: never[] = [];

/**
 * The ladder: a row a tick. A press on the bid side buys there with the plan of longs, one on the ask side shorts,
 * or closes a part of what is held; own orders are dragged to another price.
 */
export function Ladder() {
  const focus = useSession((s) => s.focus);
  const book = useLive<'depth'>({ kind: 'depth', levels: LEVELS, contract: null });
  const depth = useSession((s) => (book?.symbol === s.focus?.symbol ? book : null));
  const orders = useSession((s) => s.book?.orders) ?? NO_ORDERS;
  const account = useSession((s) => s.account?.id);
  const scopes = useSession((s) => s.book?.scopes) ?? NO_ORDERS;
  const trade = useSession((s) => tradeOf(s.book, s.focus?.symbol, s.account?.id)?.trade);
  const ahead = useSession((s) => s.marks?.ahead);
  const drag = useSession((s) => s.drag);
  const [part, setPart] = useState<(typeof PARTS)[number][0]>('all');
  const [centre, setCentre] = useState<{ symbol: string; price: Price } | null>(null);
  const over = useRef(false);
  const now = useRef<RowProps['press']>(() => {});
  const pressNow = useCallback<RowProps['press']>((price, side) => now.current(price, side), []);
  const { box, height } = useSize();
  const symbol = focus?.symbol;
  const own = useMemo(
    () =>
      linesOf(
        orders.filter((o) => o.symbol === symbol && o.account === account && isLive(o)),
        scopes,
      ).map((l) => (drag?.orderId === l.id ? { ...l, price: drag.price } : l)),
    [orders, scopes, symbol, account, drag],
  );
  const { bid = null, ask: offer = null } = focus?.quote ?? {};
  const middle =
    bid !== null && offer !== null
      ? roundToTick((bid + offer) / 2)
      : (bid ?? offer ?? focus?.last ?? focus?.instrument.priorClose ?? null);
  const rowsFit = Math.max(9, Math.floor(height / ROW));
  const at = centre?.symbol === symbol ? centre?.price : undefined;
  const rows = useMemo(
    () =>
      at === undefined
        ? []
        : ladderRows(at, rowsFit, { bids: depth?.bids ?? [], asks: depth?.asks ?? [] }, own),
    [at, rowsFit, depth, own],
  );
  const toCentre = () =>
    symbol !== undefined && middle !== null && setCentre({ symbol, price: middle as Price });
  useEffect(() => {
    if (symbol === undefined || middle === null) return;
    // Under the pointer nothing moves; another symbol begins at its middle.
    if (at === undefined || (!over.current && strayed(rows, middle)))
      setCentre({ symbol, price: middle as Price });
  }, [symbol, middle, at, rows]);
  if (!focus) return <section className="panel h-full p-3 text-quiet">The ladder follows the focus.</section>;
  const held = trade?.status === 'open' ? trade : null;
  const widest = Math.max(1, ...rows.map((r) => Math.max(r.bid, r.ask)));
  const press = (price: Price, side: 'bid' | 'ask') => {
    const sells = side === 'ask';
    const closes = held && (held.sign === 1) === sells;
    const what = sells ? 'short' : 'buy';
    const text = closes
      ? `close ${part} at ${px(price)}${pointedNow(symbol, what).regular ? '' : ' extended'}`
      : pointedSentence(what, price, pointedNow(symbol, what));
    void act(text, 'buttons', 'Ladder');
  };
  // Rows are drawn again only when they change: what they call is always of this moment.
  now.current = press;
  const priceAt = (_x: number, y: number) => {
    const top = box.current?.getBoundingClientRect().top ?? 0;
    const row = rows[Math.max(0, Math.min(rows.length - 1, Math.floor((y - top) / ROW)))];
    return row?.price ?? focus.last ?? 0;
  };
  return (
    <section className="panel flex h-full min-h-0 flex-col overflow-hidden px-2 py-1.5" aria-label="Ladder">
      <div className="flex items-center gap-1.5 text-[13px]">
        <h2 className="heading">Ladder</h2>
        <Bound focus={focus} />
        <button
          type="button"
          className="btn ml-auto px-1.5 py-0"
          title="Best prices in the middle (Home, with the focus in the ladder)"
          onClick={toCentre}
        >
          centre
        </button>
      </div>
      {/* One height, with and without something held: the rows below stay where they are. */}
      <div
        className="flex h-[26px] items-center gap-1 text-[12px]"
        role="group"
        aria-label="What a press closes"
      >
        {held ? (
          <>
            <span className={`num font-bold ${held.sign === 1 ? 'text-up' : 'text-down'}`}>
              {held.sign === 1 ? '+' : '−'}
              {positionOf(held)}
            </span>
            {PARTS.map(([p, sign]) => (
              <button
                key={p}
                type="button"
                className="btn px-1 py-0"
                aria-pressed={part === p}
                aria-label={`A press closes: ${p}`}
                onClick={() => setPart(p)}
              >
                {sign}
              </button>
            ))}
            <button
              type="button"
              className="btn ml-auto px-1 py-0 font-semibold"
              onClick={() => void act('flatten', 'buttons', 'Ladder')}
            >
              flatten
            </button>
          </>
        ) : (
          <span className="text-quiet">left buys, right shorts, with its plan</span>
        )}
      </div>
      {focus.halt && <Halted halt={focus.halt} status={focus.status} />}
      <Auction focus={focus} />
      <div
        ref={box}
        className="relative min-h-[171px] grow-[3] overflow-hidden"
        role="group"
        aria-label={`Prices of ${symbol}`}
        onPointerEnter={() => {
          over.current = true;
        }}
        onPointerLeave={() => {
          over.current = false;
        }}
        onKeyDown={(e) => {
          if (e.key === 'Home') {
            e.preventDefault();
            toCentre();
          }
          const way = e.key === 'ArrowUp' ? -1 : e.key === 'ArrowDown' ? 1 : 0;
          if (way === 0 || (e.target as Element).closest('[role=slider]')) return;
          e.preventDefault();
          moveFocus(e.currentTarget, e.target as HTMLElement, way);
        }}
      >
        {rows.map((r) => (
          <Row
            key={r.price}
            row={r}
            widest={widest}
            best={r.price === bid ? 'bid' : r.price === offer ? 'ask' : ''}
            last={r.price === focus.last}
            ahead={ahead}
            press={pressNow}
            priceAt={priceAt}
          />
        ))}
      </div>
      <PrintsHead focus={focus} />
      <div className="flex h-[110px] min-h-0 flex-col overflow-hidden">
        <PrintList focus={focus} />
      </div>
    </section>
  );
}

/** The same button a row above or below. */
function moveFocus(box: HTMLElement, from: HTMLElement, way: number): void {
  const side = from.dataset.side;
  const all = [...box.querySelectorAll<HTMLElement>(`[data-side="${side}"]`)];
  all[all.indexOf(from) + way]?.focus();
}

interface RowProps {
  row: LadderRow;
  widest: number;
  best: 'bid' | 'ask' | '';
  last: boolean;
  ahead: Readonly<Record<number, number>> | undefined;
  press(price: Price, side: 'bid' | 'ask'): void;
  priceAt(x: number, y: number): number;
}

const same = (a: RowProps, b: RowProps): boolean =>
  a.row.price === b.row.price &&
  a.row.bid === b.row.bid &&
  a.row.ask === b.row.ask &&
  a.widest === b.widest &&
  a.best === b.best &&
  a.last === b.last &&
  a.row.own.length === 0 &&
  b.row.own.length === 0;

/** A price: shares bid at the left, asked at the right, own orders at their side. Drawn again only when it changes. */
const Row = memo(function Row(p: RowProps) {
  const { row: r, widest, best, last } = p;
  const side = (at: 'bid' | 'ask') => {
    const qty = r[at];
    return (
      <button
        type="button"
        data-side={at}
        tabIndex={best === at ? 0 : -1}
        className="relative h-full w-full overflow-hidden text-right hover:bg-raised focus-visible:bg-raised"
        aria-label={`${at === 'bid' ? 'Bid' : 'Ask'} side at ${px(r.price)}, ${count(qty)} shares`}
        onClick={() => p.press(r.price, at)}
      >
        <span
          className={`absolute inset-y-[2px] ${at === 'bid' ? 'right-0 bg-up' : 'left-0 bg-down'} opacity-25`}
          style={{ width: `${(qty / widest) * 100}%` }}
        />
        <span className={`relative px-1.5 ${at === 'ask' ? 'float-left' : ''}`}>
          {qty > 0 ? count(qty) : ''}
        </span>
      </button>
    );
  };
  return (
    <div
      className={`num grid grid-cols-[1fr_60px_1fr] text-[13px] leading-[19px] ${last ? 'bg-raised' : ''}`}
      style={{ height: ROW }}
    >
      <span className="relative">
        {side('bid')}
        {r.own
          .filter((l) => l.side === 'buy')
          .map((l) => (
            <Own key={l.id} line={l} ahead={p.ahead?.[l.id]} priceAt={p.priceAt} at="left-0" />
          ))}
      </span>
      <span
        className={`border-x border-line text-center ${best === 'bid' ? 'font-bold text-up' : best === 'ask' ? 'font-bold text-down' : ''}`}
      >
        {px(r.price)}
      </span>
      <span className="relative">
        {side('ask')}
        {r.own
          .filter((l) => l.side === 'sell')
          .map((l) => (
            <Own key={l.id} line={l} ahead={p.ahead?.[l.id]} priceAt={p.priceAt} at="right-0" />
          ))}
      </span>
    </div>
  );
}, same);

/** An own order: its shares, and how many stand before them; dragged, or moved by arrow keys, to another price. */
function Own({
  line,
  ahead,
  priceAt,
  at,
}: {
  line: OrderLine;
  ahead: number | undefined;
  priceAt(x: number, y: number): number;
  at: string;
}) {
  return (
    <span
      role="slider"
      tabIndex={0}
      aria-label={`${line.label} of ${line.open} on the ladder`}
      aria-valuenow={line.price / 10_000}
      aria-valuetext={px(line.price)}
      className={`absolute inset-y-[1px] ${at} z-[1] cursor-ns-resize touch-none border bg-panel px-1 text-[12px] leading-[15px] whitespace-nowrap`}
      style={{ color: lineColour(line.role), borderColor: lineColour(line.role) }}
      title={`${line.label} of ${line.open}${ahead ? `, ${count(ahead)} ahead` : ''}`}
      onPointerDown={(e) => startDrag(e, line, priceAt)}
      onKeyDown={(e) => {
        if (e.key === 'Delete') {
          e.preventDefault();
          void act(`cancel order ${line.id}`, 'buttons', 'Ladder');
        }
        if (e.key !== 'ArrowUp' && e.key !== 'ArrowDown') return;
        e.preventDefault();
        e.stopPropagation();
        stepBy(line, e.key === 'ArrowUp' ? 1 : -1);
      }}
    >
      {line.open}
      {ahead ? <span className="text-quiet"> +{count(ahead)}</span> : ''}
    </span>
  );
}
