export {
  type Broker, type BrokerContext, type BrokerInput, type Effects, collar, createBroker, liveOrders, profitOf, stepBroker, watches,
} from './broker.ts';
export { allot, openOfGroup, stopPriceOf, wantedExits } from './exits.ts';
export {
  type Distance, type ExecType, type ExitGroup, type ExitPlan, type Fill, type Intent, type OrdStatus, type Order, type OrderEvent, type OrderType, type Place,
  type Role, type Trade, type TradeStatus, type VenueCommand, averageEntry, isLive, openOf, positionOf,
} from './types.ts';
