'use client';

import { useState } from 'react';
import { type Price, roundToTick, tickSize, toDollars } from '@/core/units';
import { act, ask, useSession } from '../client';
import { px } from '../format';
import { followPointer, pointed } from '../trade/drag';
import type { Frame } from './frame';
import { Marked } from './Marked';

/** Prices at which an alert waits: dragged, or moved by arrow keys, it waits at another. */
export function AlertLines({ frame, symbol, priceAt }: Waits) {
  const list = useSession((s) => s.alerts?.list);
  return list?.map((a) =>
    a.symbol === symbol && a.on.kind === 'price' && a.status === 'armed' ? (
      <Awaited
        key={a.id}
        frame={frame}
        price={a.on.price}
        label="alert"
        dash="2 4"
        place={4}
        priceAt={priceAt}
        move={async (price) => {
          if ((await act(`alert of ${symbol} at ${px(price)}`, 'tools', 'Alert')) === 'sent')
            void ask({ kind: 'alert', id: a.id, change: { kind: 'remove' } });
        }}
      />
    ) : null,
  );
}

/** Prices that an order waits for: where its sentence has the number, it can be dragged to another. */
export function AwaitedPrices({ frame, symbol, priceAt }: Waits) {
  const waiting = useSession((s) => s.waits?.waiting);
  return waiting?.flatMap((w) =>
    w.prices.map(({ symbol: of, price }) => {
      const written = w.text.split(px(price)).length === 2;
      return of === symbol ? (
        <Awaited
          key={`${w.id} ${price}`}
          frame={frame}
          price={price}
          label={`condition ${w.id}`}
          dash="1 4"
          place={110}
          faint={w.paused}
          priceAt={priceAt}
          move={
            written
              ? (to) =>
                  void act(
                    `cancel condition ${w.id}\n${w.text.replace(px(price), px(to))}`,
                    'drags',
                    `Condition ${w.id}`,
                  )
              : null
          }
        />
      ) : null;
    }),
  );
}

interface Waits {
  frame: Frame;
  symbol: string | undefined;
  priceAt(x: number, y: number): number;
}

/** A price that something waits for. */
function Awaited({
  frame,
  price,
  label,
  dash,
  place,
  faint = false,
  priceAt,
  move,
}: {
  frame: Frame;
  price: number;
  label: string;
  dash: string;
  place: number;
  faint?: boolean;
  priceAt(x: number, y: number): number;
  move: ((price: Price) => void) | null;
}) {
  const [to, setTo] = useState<Price | null>(null);
  const { plot } = frame;
  const y = frame.y(to ?? price);
  const line = (
    <Marked
      frame={frame}
      price={to ?? price}
      label={`${label}${label === 'alert' ? '' : ' ·'} ${px(to ?? price)}`}
      colour="var(--condition)"
      dash={dash}
      place={place}
      faint={faint}
    />
  );
  if (!move || y < plot.y || y > plot.y + plot.height) return line;
  const settle = (at: Price) => {
    setTo(null);
    if (at !== price) move(at);
  };
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={`${label} on the chart`}
      aria-valuenow={toDollars(price)}
      aria-valuetext={px(to ?? price)}
      className="pointer-events-auto cursor-ns-resize touch-none"
      onPointerDown={(e) => {
        e.preventDefault();
        let at = price as Price;
        followPointer(
          e,
          (ev) => {
            at = pointed(ev, priceAt);
            setTo(at);
          },
          () => settle(at),
        );
      }}
      onKeyDown={(e) => {
        const ticks = e.key === 'ArrowUp' ? 1 : e.key === 'ArrowDown' ? -1 : 0;
        if (e.key === 'Enter' && to !== null) settle(to);
        else if (e.key === 'Escape' && to !== null) setTo(null);
        else if (ticks !== 0) {
          const from = to ?? (price as Price);
          setTo(roundToTick(Math.max(1, from + ticks * tickSize(from))));
        } else return;
        e.preventDefault();
        e.stopPropagation();
      }}
    >
      <rect x={plot.x} y={y - 5} width={plot.width} height={10} fill="transparent" />
      {line}
    </g>
  );
}
