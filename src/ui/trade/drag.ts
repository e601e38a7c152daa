'use client';

import type { PointerEvent as ReactPointerEvent } from 'react';
import { formatPrice, type Price, roundToTick, tickSize } from '@/core/units';
import { act, showMove, useSession } from '../client';
import { useSettings } from '../settings';
import type { OrderLine } from './trade-view';

/** Follows the pointer until it is let go of, in whichever window it is; pressed and let go of on the spot moves nothing. */
export function followPointer(
  e: ReactPointerEvent,
  moved: (e: PointerEvent) => void,
  done: () => void,
): void {
  const window = e.currentTarget.ownerDocument.defaultView ?? globalThis.window;
  let gone = false;
  const move = (ev: PointerEvent) => {
    gone = true;
    moved(ev);
  };
  const end = () => {
    window.removeEventListener('pointermove', move);
    window.removeEventListener('pointerup', end);
    window.removeEventListener('pointercancel', end);
    if (gone) done();
  };
  window.addEventListener('pointermove', move);
  window.addEventListener('pointerup', end);
  window.addEventListener('pointercancel', end);
}

/** The price under the pointer, on a tick. */
export const pointed = (e: PointerEvent, priceAt: (clientX: number, clientY: number) => number): Price =>
  roundToTick(Math.max(1, priceAt(e.clientX, e.clientY)));

/** Follows the pointer with an order's price, then asks for the exact price, or applies it at once. */
export function startDrag(
  e: ReactPointerEvent,
  line: OrderLine,
  priceAt: (clientX: number, clientY: number) => number,
): void {
  e.preventDefault();
  followPointer(
    e,
    (ev) => useSession.setState({ drag: { orderId: line.id, price: pointed(ev, priceAt) } }),
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
  showMove({ orderId: line.id, price, label: `${line.label} of ${line.open}` });
}

function propose(line: OrderLine, price: Price): void {
  if (price === line.price) return useSession.setState({ drag: null });
  if (useSettings.getState().confirm.drags === 'always')
    return showMove({ orderId: line.id, price, label: `${line.label} of ${line.open}` });
  void act(`move order ${line.id} to ${formatPrice(price)}`, 'drags', line.label).then(() =>
    useSession.setState({ drag: null }),
  );
}
