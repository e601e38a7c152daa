export { reviewTrade, type TradeReview } from './trade.ts';
