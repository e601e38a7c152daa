'use client';

import { multiplierOfSymbol } from '@/core/instruments';
import { averageEntry, gainUnits, riskPerShare } from '@/core/orders';
import { toDollars } from '@/core/units';
import { useSession } from '../client';
import { px, signed } from '../format';
import { useSize } from '../primitives/useSize';
import { startDrag, stepBy } from './drag';
import { spread } from './spread';
import { lineColour, type OrderLine, type tradeOf } from './trade-view';

/** The R ruler: from the stop to the last target, the live price moving on it, exits as handles. */
export function RRuler({
  view,
  last,
}: {
  view: NonNullable<ReturnType<typeof tradeOf>>;
  last: number | null;
}) {
  const { box, width } = useSize();
  const drag = useSession((s) => s.drag);
  const { trade, lines, scopes } = view;
  const entry = averageEntry(trade);
  const scope = scopes[scopes.length - 1];
  const perShare = riskPerShare(trade, multiplierOfSymbol(trade.symbol));
  const prices = [
    ...lines.map((l) => l.price),
    ...(last === null ? [] : [last]),
    ...(entry === null ? [] : [entry]),
  ];
  if (perShare !== null && entry !== null)
    prices.push(entry - trade.sign * perShare, entry + trade.sign * perShare);
  if (prices.length === 0) return null;
  const lowest = Math.min(...prices);
  const highest = Math.max(...prices);
  const pad = Math.max((highest - lowest) * 0.09, 100);
  const [from, to] = trade.sign === 1 ? [lowest - pad, highest + pad] : [highest + pad, lowest - pad];
  const place = (p: number) => `${((p - from) / (to - from)) * 100}%`;
  const priceAt = (clientX: number) => {
    const r = box.current?.getBoundingClientRect();
    return r ? from + ((clientX - r.left) / r.width) * (to - from) : 0;
  };
  const rAt = (p: number) => (perShare && entry !== null ? (trade.sign * (p - entry)) / perShare : null);
  const after = scope?.breakevenState === 'waits' ? scope.breakeven?.after : undefined;
  const breakevenAt =
    !after || after.kind === 'target' || entry === null
      ? null
      : entry +
        trade.sign * gainUnits(after, perShare, scope?.basis.qty ?? 1, multiplierOfSymbol(trade.symbol));
  const perPixel = width / (to - from);
  const shown = lines.map((l) => (drag?.orderId === l.id ? drag.price : l.price));
  // Two that stand near each other are read beside each other.
  const labels = spread(
    lines.map((l, k) => ({
      at: ((shown[k] ?? 0) - from) * perPixel,
      size: labelOf(l, shown[k] ?? 0).length * 7.3,
    })),
    width,
  );
  const marks = perShare && entry !== null ? wholeRs(entry, perShare, trade.sign, from, to) : [];
  return (
    <div ref={box} className="relative mt-1 h-[58px] select-none" aria-label="R ruler" role="group">
      <div className="absolute inset-x-0 top-[30px] h-[3px] bg-line" />
      {entry !== null && last !== null && (
        <div
          className="absolute top-[28px] h-[7px] opacity-60"
          style={{
            left: `min(${place(entry)}, ${place(last)})`,
            width: `max(${place(last)} - ${place(entry)}, ${place(entry)} - ${place(last)})`,
            background: trade.sign * (last - entry) >= 0 ? 'var(--up)' : 'var(--down)',
          }}
        />
      )}
      {marks.map((m) => (
        <span
          key={m.r}
          className="num absolute top-[34px] -translate-x-1/2 text-[12px] text-quiet"
          style={{ left: place(m.price) }}
        >
          {m.r === 0 ? 'entry' : signed(m.r, 0, 'R')}
        </span>
      ))}
      {lines.map((l, k) => (
        <Handle
          key={l.id}
          line={l}
          price={shown[k] ?? l.price}
          left={place(shown[k] ?? l.price)}
          aside={(labels[k] ?? 0) - ((shown[k] ?? l.price) - from) * perPixel}
          r={rAt(shown[k] ?? l.price)}
          priceAt={priceAt}
        />
      ))}
      {breakevenAt !== null && (
        <span
          className="num pointer-events-none absolute top-[17px] -translate-x-1/2 text-[12px] leading-3 text-quiet"
          style={{ left: place(breakevenAt) }}
        >
          to breakeven ▾
        </span>
      )}
      {last !== null && (
        <span
          className="pointer-events-none absolute top-[16px] h-[30px] w-[3px] -translate-x-1/2 bg-text"
          style={{ left: place(last) }}
        />
      )}
    </div>
  );
}

const labelOf = (line: OrderLine, price: number): string => `${line.label} ${line.open} · ${px(price)}`;

function Handle({
  line,
  price,
  left,
  aside,
  r,
  priceAt,
}: {
  line: OrderLine;
  price: number;
  left: string;
  /** How far its label stands beside it, in pixels. */
  aside: number;
  r: number | null;
  priceAt: (x: number) => number;
}) {
  return (
    <button
      type="button"
      role="slider"
      aria-label={`${line.label} of ${line.open}`}
      aria-valuenow={toDollars(price)}
      aria-valuetext={`${px(price)}${r === null ? '' : `, ${signed(r, 2, ' R')}`}`}
      className="absolute top-0 flex -translate-x-1/2 cursor-ew-resize touch-none flex-col items-center"
      style={{ left, color: lineColour(line.role) }}
      onPointerDown={(e) => startDrag(e, line, priceAt)}
      onKeyDown={(e) => {
        if (e.key === 'ArrowRight' || e.key === 'ArrowUp') stepBy(line, 1);
        else if (e.key === 'ArrowLeft' || e.key === 'ArrowDown') stepBy(line, -1);
        else return;
        e.preventDefault();
      }}
    >
      <span
        className="num text-[12px] leading-4 whitespace-nowrap"
        style={{ transform: `translateX(${aside.toFixed(0)}px)` }}
      >
        {labelOf(line, price)}
      </span>
      <span
        className="h-[24px] w-[5px] rounded-sm"
        style={{
          background: line.sleeping || line.pending ? 'transparent' : lineColour(line.role),
          border: `1px ${line.pending ? 'dotted' : 'solid'} ${lineColour(line.role)}`,
        }}
      />
    </button>
  );
}

function wholeRs(
  entry: number,
  perShare: number,
  sign: number,
  from: number,
  to: number,
): { r: number; price: number }[] {
  const out: { r: number; price: number }[] = [];
  const [lo, hi] = [Math.min(from, to), Math.max(from, to)];
  for (let r = -6; r <= 20; r++) {
    const price = entry + sign * r * perShare;
    if (price >= lo && price <= hi) out.push({ r, price });
  }
  return out;
}
