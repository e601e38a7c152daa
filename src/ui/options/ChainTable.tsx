'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { type KeyboardEvent, memo, useEffect, useRef } from 'react';
import { instrumentOf, isOption, legsOf, nameOf, type OptionContract } from '@/core/instruments';
import { type Order, openOf, positionOf, type Trade } from '@/core/orders';
import type { ChainRow, ChainSide, ChainSlice } from '@/worker/session/slices';
import { useSession } from '../client';
import { px } from '../format';
import { Pop } from '../primitives/Pop';
import { Tick } from '../primitives/Tick';
import { useSettings } from '../settings';
import { useTicketText } from '../trade/ticket-text';
import { CHAIN_COLUMNS, type ChainColumn, columnsOf } from './columns';
import { sentenceAt, verticalWith } from './into-ticket';

const ROW = 26;

/** What is held and what works of each contract, by its name; of verticals under both legs. */
interface Own {
  trade?: Trade;
  /** Contracts that are held through verticals, signed. */
  legs: number;
  orders: Order[];
}
function useOwn(): Map<string, Own> {
  const book = useSession((s) => s.book);
  const account = useSession((s) => s.account?.id);
  const own = new Map<string, Own>();
  const at = (symbol: string): Own => {
    const there = own.get(symbol) ?? { legs: 0, orders: [] };
    own.set(symbol, there);
    return there;
  };
  for (const t of book?.trades ?? [])
    if (t.account === account && isOption(t.symbol) && t.status === 'open') {
      const legs = legsOf(t.symbol);
      if (legs.length === 1) at(t.symbol).trade = t;
      else for (const l of legs) at(nameOf(l.contract)).legs += l.sign * t.sign * positionOf(t);
    }
  for (const o of book?.orders ?? [])
    if (o.account === account && isOption(o.symbol) && openOf(o) > 0)
      for (const l of legsOf(o.symbol)) at(nameOf(l.contract)).orders.push(o);
  return own;
}

/** Strikes from low to high, calls to the left, puts to the right, the price as a line between them. */
export function ChainTable({
  chain,
  hand,
  take,
}: {
  chain: ChainSlice;
  hand: OptionContract | null;
  take(c: OptionContract): void;
}) {
  const ids = useSettings((s) => s.chainColumns);
  const columns = columnsOf(ids);
  const own = useOwn();
  const scroll = useRef<HTMLDivElement>(null);
  const rows = chain.rows;
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 6,
  });
  const above = rows.findIndex((r) => r.strike >= chain.spot);
  const middle = above < 0 ? rows.length - 1 : above;
  // The money is in the middle when another chain comes, and nothing moves by itself from then on.
  const which = `${chain.symbol} ${chain.expiry}`;
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each chain
  useEffect(() => virtual.scrollToIndex(middle, { align: 'center' }), [which]);
  const press = (side: ChainSide, at: 'bid' | 'ask', second: boolean) => {
    const c = instrumentOf(side.name) as OptionContract;
    const { text, set } = useTicketText.getState();
    set((second ? verticalWith(text, c) : null) ?? sentenceAt(side.name, at, own.get(side.name)?.trade));
    take(c);
  };
  return (
    <div className="flex min-h-0 grow flex-col">
      <div className="flex items-end border-line border-b px-3 pb-1 text-[11.5px] text-quiet">
        <Heads columns={[...columns].reverse()} word="calls" />
        <span className="w-[112px] shrink-0 text-center">
          <Pop title="Columns of the chain" label="strike ▾" className="text-[11.5px] text-quiet underline">
            <ColumnChoice />
          </Pop>
        </span>
        <Heads columns={columns} word="puts" />
      </div>
      <div
        ref={scroll}
        className="min-h-0 grow overflow-y-auto px-3"
        role="table"
        tabIndex={-1}
        onKeyDown={walk}
        aria-label={`Chain of ${chain.symbol}, ${chain.expiry}`}
      >
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((v) => {
            const row = rows[v.index] as ChainRow;
            return (
              <div key={row.strike} className="absolute right-0 left-0" style={{ top: v.start, height: ROW }}>
                <Line
                  row={row}
                  columns={columns}
                  spot={chain.spot}
                  first={v.index === above}
                  call={markOf(own.get(row.call.name))}
                  put={markOf(own.get(row.put.name))}
                  hand={hand?.expiry === chain.expiry && hand.strike === row.strike ? hand.right : null}
                  press={press}
                />
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

function markOf(own: Own | undefined): string {
  if (!own) return '';
  const { trade, legs, orders } = own;
  const held = legs + (trade ? trade.sign * positionOf(trade) : 0);
  return `${held === 0 ? '' : `${held > 0 ? '+' : '−'}${Math.abs(held)}`}${orders.length > 0 ? '◌' : ''}`;
}

/** Arrow keys go from button to button, up and down by the same place of the row. */
function walk(e: KeyboardEvent<HTMLDivElement>): void {
  const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[e.key];
  const here = e.target as HTMLElement;
  if (!step || here.dataset.at === undefined) return;
  e.preventDefault();
  const row = here.closest('[role="row"]');
  const all = [...(row?.querySelectorAll<HTMLElement>('[data-at]') ?? [])];
  if (step[1] !== 0) return all[all.indexOf(here) + (step[1] as number)]?.focus();
  const holder = row?.parentElement;
  const next = step[0] === 1 ? holder?.nextElementSibling : holder?.previousElementSibling;
  next?.querySelectorAll<HTMLElement>('[data-at]')[all.indexOf(here)]?.focus();
}

function Heads({ columns, word }: { columns: readonly ChainColumn[]; word: string }) {
  return (
    <span className="flex grow basis-0">
      {columns.map((c) => (
        <span key={c.id} className="grow basis-0 px-1 text-right" title={`${word}: ${c.title}`}>
          {c.head}
        </span>
      ))}
    </span>
  );
}

interface LineProps {
  row: ChainRow;
  columns: readonly ChainColumn[];
  spot: number;
  /** The first strike at or above the price: the price is drawn above it. */
  first: boolean;
  call: string;
  put: string;
  hand: 'call' | 'put' | null;
  press(side: ChainSide, at: 'bid' | 'ask', second: boolean): void;
}

const shown = (row: ChainRow, columns: readonly ChainColumn[]): string =>
  columns.map((c) => `${c.show(row.call)} ${c.show(row.put)}`).join(' ');
const Line = memo(
  LineNow,
  (a, b) =>
    a.first === b.first &&
    a.call === b.call &&
    a.put === b.put &&
    a.hand === b.hand &&
    a.columns.length === b.columns.length &&
    a.spot >= a.row.strike === b.spot >= b.row.strike &&
    shown(a.row, a.columns) === shown(b.row, b.columns),
);

function LineNow({ row, columns, spot, first, call, put, hand, press }: LineProps) {
  return (
    <div
      role="row"
      tabIndex={-1}
      className={`num flex h-full items-center text-[12.5px] ${first ? 'border-focus border-t-2' : ''}`}
    >
      <Half
        side={row.call}
        columns={[...columns].reverse()}
        inside={spot > row.strike}
        held={hand === 'call'}
        press={press}
        word="call"
        strike={row.strike}
      />
      <span
        role="rowheader"
        tabIndex={-1}
        className="flex w-[112px] shrink-0 items-center justify-between bg-raised px-1 self-stretch"
      >
        <span className="w-[32px] text-[11px] text-focus" title="Calls held; ◌ an order works">
          {call}
        </span>
        <b>{px(row.strike)}</b>
        <span className="w-[32px] text-right text-[11px] text-focus" title="Puts held; ◌ an order works">
          {put}
        </span>
      </span>
      <Half
        side={row.put}
        columns={columns}
        inside={spot < row.strike}
        held={hand === 'put'}
        press={press}
        word="put"
        strike={row.strike}
      />
    </div>
  );
}

function Half({
  side,
  columns,
  inside,
  held,
  press,
  word,
  strike,
}: {
  side: ChainSide;
  columns: readonly ChainColumn[];
  inside: boolean;
  held: boolean;
  press: LineProps['press'];
  word: string;
  strike: number;
}) {
  return (
    <span
      className={`flex h-full grow basis-0 items-center ${inside ? 'bg-[color-mix(in_srgb,var(--condition)_10%,transparent)]' : ''} ${held ? 'outline outline-1 outline-focus' : ''}`}
    >
      {columns.map((c) =>
        c.id === 'bid' || c.id === 'ask' ? (
          <span key={c.id} role="cell" className="grow basis-0 px-0.5">
            <button
              type="button"
              data-at={c.id}
              className={`w-full rounded px-0.5 text-right hover:bg-raised ${c.id === 'bid' ? 'text-up' : 'text-down'}`}
              aria-label={`${c.id} ${c.show(side)} of the ${px(strike)} ${word}`}
              onClick={(e) => press(side, c.id as 'bid' | 'ask', e.shiftKey)}
            >
              {c.show(side)}
            </button>
          </span>
        ) : (
          <span key={c.id} role="cell" className="grow basis-0 px-1 text-right">
            {c.show(side)}
          </span>
        ),
      )}
    </span>
  );
}

function ColumnChoice() {
  const ids = useSettings((s) => s.chainColumns);
  const set = useSettings((s) => s.set);
  return (
    <div className="grid w-[260px] gap-1 p-3">
      {CHAIN_COLUMNS.map((c) => (
        <Tick
          key={c.id}
          on={ids.includes(c.id)}
          change={(on) => set({ chainColumns: on ? [...ids, c.id] : ids.filter((x) => x !== c.id) })}
        >
          <span title={c.title}>{c.head}</span>
        </Tick>
      ))}
    </div>
  );
}
