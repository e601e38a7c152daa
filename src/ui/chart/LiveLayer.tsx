'use client';

import { memo, useRef } from 'react';
import type { Bar } from '@/core/market';
import { averageEntry } from '@/core/orders';
import { usePeeked, useSession } from '../client';
import { px } from '../format';
import { lineColour, type OrderLine, tradeOf } from '../trade/trade-view';
import { AlertLines, AwaitedPrices } from './AwaitedPrices';
import { FormingCandle } from './FormingCandle';
import { type Frame, indexAt } from './frame';
import { Marked } from './Marked';
import { OrderLines } from './OrderLines';
import type { Candle } from './useChartData';

const NO_LINES: readonly OrderLine[] = [];

interface Props {
  symbol: string | undefined;
  frame: Frame;
  width: number;
  height: number;
  /** Where the forming candle stands; null when the view is scrolled back. */
  index: number | null;
  /** Finished minutes of the candle that is forming. */
  partial: Bar | null;
  candles: readonly Candle[];
  minutes: number;
}

/** What moves with every tick, above the chart: the forming candle, the last price, order lines. */
export const LiveLayer = memo(function LiveLayer(p: Props) {
  const { symbol, frame, width, height } = p;
  const svg = useRef<SVGSVGElement>(null);
  const book = useSession((s) => s.book);
  const account = useSession((s) => s.account?.id);
  const view = tradeOf(book, symbol, account);
  const entry = view ? averageEntry(view.trade) : null;
  const priceAt = (_x: number, clientY: number) =>
    frame.priceAt(clientY - (svg.current?.getBoundingClientRect().top ?? 0));
  return (
    <svg
      ref={svg}
      width={width}
      height={height}
      className="pointer-events-none absolute inset-0"
      role="group"
      aria-label="Orders on the chart"
    >
      <FormingCandle symbol={symbol} frame={frame} index={p.index} partial={p.partial} />
      {entry !== null && (
        <Marked frame={frame} price={entry} label="entry" colour="var(--text)" dash="1 3" place={4} />
      )}
      <FillMarks frame={frame} symbol={symbol} candles={p.candles} minutes={p.minutes} />
      <AlertLines frame={frame} symbol={symbol} priceAt={priceAt} />
      <AwaitedPrices frame={frame} symbol={symbol} priceAt={priceAt} />
      <Ghosts frame={frame} symbol={symbol} />
      <OrderLines lines={view?.lines ?? NO_LINES} frame={frame} priceAt={priceAt} />
    </svg>
  );
});

/** What a key or button would do, or waits for a yes: entry, stop and targets, until it is let go. */
function Ghosts({ frame, symbol }: { frame: Frame; symbol: string | undefined }) {
  const peeked = usePeeked();
  const facts = peeked?.of === symbol && peeked?.problem === null ? peeked.facts : null;
  if (!facts) return null;
  const lines = [
    { label: `${facts.side} ${facts.qty} · ${px(facts.price)}`, price: facts.price, colour: 'var(--text)' },
    ...(facts.stop === null
      ? []
      : [{ label: `stop · ${px(facts.stop)}`, price: facts.stop, colour: lineColour('stop') }]),
    ...facts.targets.map((t, k) => ({
      label: `target ${k + 1} of ${t.shares} · ${px(t.price)}`,
      price: t.price,
      colour: lineColour('target'),
    })),
  ];
  return (
    <g data-testid="ghosts">
      {lines.map((l, k) => {
        // What lies beyond the plot stands at its edge, each at its own place.
        const { plot } = frame;
        const y = frame.y(l.price);
        const edge = y < plot.y ? plot.y : y > plot.y + plot.height ? plot.y + plot.height : null;
        return (
          <Marked
            key={l.label}
            frame={frame}
            colour={l.colour}
            price={edge === null ? l.price : frame.priceAt(edge)}
            label={edge === null ? l.label : `${edge === plot.y ? '▲' : '▼'} ${l.label}`}
            dash="7 5"
            place={edge === null ? 230 : 8 + 180 * k}
          />
        );
      })}
    </g>
  );
}

/** Fills of the symbol, each at its price below or above its candle. */
function FillMarks({
  frame,
  symbol,
  candles,
  minutes,
}: Pick<Props, 'frame' | 'symbol' | 'candles' | 'minutes'>) {
  const reviews = useSession((s) => s.book?.reviews);
  const account = useSession((s) => s.account?.id);
  const { plot } = frame;
  return reviews
    ?.filter((r) => r.symbol === symbol)
    .flatMap((r) => r.fills)
    .filter((f) => f.account === account)
    .map((f) => {
      const [x, y] = [frame.x(indexAt(candles, minutes, f.at)), frame.y(f.price)];
      if (x < plot.x || x > plot.x + plot.width || y < plot.y || y > plot.y + plot.height) return null;
      const up = f.side === 'buy';
      const tip = up ? y + 2 : y - 2;
      const base = up ? y + 11 : y - 11;
      return (
        <path
          key={f.id}
          d={`M${x} ${tip}L${x - 5} ${base}H${x + 5}Z`}
          fill={up ? 'var(--up)' : 'var(--down)'}
          stroke="var(--ground)"
        >
          <title>{`${up ? 'bought' : 'sold'} ${f.qty} at ${px(f.price)}`}</title>
        </path>
      );
    });
}
