import type { OrderId, WireId } from '../units/index.ts';

/**
 * The exchange's number of an order's n-th wire: odd, never used again, and it says which order it
 * belongs to, so that a report that comes late still finds it.
 */
export const wireId = (orderId: OrderId, nth: number): WireId => ((orderId * WIRES + nth) * 2 + 1) as WireId;
/** The id of the order that a wire’s number belongs to. */
export const orderOfWire = (id: WireId): OrderId => Math.floor((id - 1) / 2 / WIRES) as OrderId;
const WIRES = 2 ** 20;
