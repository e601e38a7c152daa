'use client';

import type { PointerEvent as ReactPointerEvent } from 'react';
import { formatPrice, type Price, roundToTick, tickSize } from '@/core/units';
import { act, say, useSession } from '../session';
import { useSettings } from '../settings';
import type { OrderLine } from './trade-view';

/** Follows the pointer with a price until it is let go of, in whichever window it is. */
export function followPointer(
  e: ReactPointerEvent,
  priceAt: (clientX: number, clientY: number) => number,
  moved: (price: Price) => void,
  done: (price: Price) => void,
): void {
  const window = e.currentTarget.ownerDocument.defaultView ?? globalThis.window;
  const at = (ev: PointerEvent) => roundToTick(Math.max(1, priceAt(ev.clientX, ev.clientY)));
  let gone = false;
  const move = (ev: PointerEvent) => {
    gone = true;
    moved(at(ev));
  };
  const end = (ev: PointerEvent) => {
    window.removeEventListener('pointermove', move);
    window.removeEventListener('pointerup', end);
    window.removeEventListener('pointercancel', end);
    // Pressed and let go of on the spot: nothing is to move.
    if (gone) done(at(ev));
  };
  window.addEventListener('pointermove', move);
  window.addEventListener('pointerup', end);
  window.addEventListener('pointercancel', end);
}

/** Follows the pointer with an order's price, then asks for the exact price, or applies it at once. */
export function startDrag(
  e: ReactPointerEvent,
  line: OrderLine,
  priceAt: (clientX: number, clientY: number) => number,
): void {
  e.preventDefault();
  followPointer(
    e,
    priceAt,
    (price) => useSession.setState({ drag: { orderId: line.id, price } }),
    () => {
      const { drag } = useSession.getState();
      if (drag?.orderId === line.id) propose(line, drag.price);
    },
  );
}

/** Arrow keys move an order's price by a tick; Enter then sends it from the strip. */
export function stepBy(line: OrderLine, ticks: number): void {
  const { drag } = useSession.getState();
  const from = (drag?.orderId === line.id ? drag.price : line.price) as Price;
  const price = roundToTick(Math.max(1, from + ticks * tickSize(from)));
  useSession.setState({ drag: { orderId: line.id, price } });
  say({ kind: 'moving', orderId: line.id, price, label: `${line.label} of ${line.open}` });
}

function propose(line: OrderLine, price: Price): void {
  if (price === line.price) return useSession.setState({ drag: null });
  if (useSettings.getState().confirm.drags === 'always')
    return say({ kind: 'moving', orderId: line.id, price, label: `${line.label} of ${line.open}` });
  void act(`move order ${line.id} to ${formatPrice(price)}`, 'drags', line.label).then(() =>
    useSession.setState({ drag: null }),
  );
}
