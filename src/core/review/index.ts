export { type TradeReview, reviewTrade } from './trade.ts';
