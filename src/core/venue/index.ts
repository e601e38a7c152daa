export { type AuctionOrder, allotCross, type Cross, crossOf } from './auction.ts';
export { bandsOf, LULD, lowestShortPrice, restrictsShorts } from './bands.ts';
export {
  askSize,
  available,
  type Book,
  bestAsk,
  bestBid,
  bidSize,
  cancel,
  createBook,
  crowdAt,
  type DepthLevel,
  depth,
  type MatchSink,
  type Owner,
  openQty,
  queueAhead,
  reduce,
  submit,
  trimCrowd,
} from './book.ts';
export type {
  Execution,
  Outcome,
  Request,
  VenueCommand,
  VenueOrder,
  VenueReport,
  WireTerms,
} from './order.ts';
