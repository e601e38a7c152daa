export { type Difference, differenceOf, type Figures, figuresOf, type RehearsedTrade } from './figures.ts';
export { type Bin, type Group, groupsOf, spreadOf } from './groups.ts';
export {
  EARLIEST,
  FIRST_SEED,
  type Hand,
  LATEST,
  MARKET_VERSION,
  MOST_DAYS,
  type Press,
  type RehearsalDay,
  type RehearsalSymbols,
  type RehearsalTerms,
} from './terms.ts';
