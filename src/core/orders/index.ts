export { createBroker, liveOrders, profitOf, stepBroker, watches } from './broker.ts';
export { type Broker, type BrokerContext, type BrokerInput, collar, type Effects } from './draft.ts';
export { allot, openOfGroup, stopPriceOf, wantedExits } from './exits.ts';
export {
  averageEntry,
  type Distance,
  EXEC_TYPES,
  type ExecType,
  type ExitGroup,
  type ExitPlan,
  type Fill,
  type Intent,
  isLive,
  ORD_STATUSES,
  ORDER_TYPES,
  type Order,
  type OrderEvent,
  type OrderType,
  type OrdStatus,
  openOf,
  type Place,
  positionOf,
  type Role,
  type Trade,
  type TradeStatus,
  type VenueCommand,
} from './types.ts';
