import type { Alerts } from '../core/alerts/index.ts';
import type { Broker, OrderEvent } from '../core/orders/index.ts';
import type { SessionKind } from '../core/units/index.ts';

/** The trader's side of a session. The market's side is behind its port. */
export interface State {
  seq: number;
  session: SessionKind;
  broker: Broker;
  alerts: Alerts;
  /** Newest last; kept short, the log has them all. */
  events: OrderEvent[];
}
