export { american, americanGreeks, americanVolatility } from './american.ts';
export { classOf, expiriesOn, isStrike, type OptionClass, strikesAround } from './contracts.ts';
export {
  european,
  europeanGreeks,
  impliedVolatility,
  type Priced,
  type Terms,
  type Way,
} from './european.ts';
export { impliedFacts, impliedOn, impliedYear } from './implied-level.ts';
export { contractGreeks, insideProbability, type Measured, strikesListed } from './measures.ts';
export { type Pitch, pitchOf } from './net.ts';
export { type Outlook, outlookOf, worthAt } from './outlook.ts';
export {
  type ChainMoment,
  chainMoment,
  fairGreeks,
  interestOf,
  makersQuote,
  marketYearsLeft,
  termsOf,
  type Underlying,
  yearsLeft,
} from './quotes.ts';
export { newsDates, newsMove, usualVolatility } from './reports.ts';
export {
  doubtOf,
  RATE,
  type Surface,
  surfaceOf,
  varianceUntil,
  volatilityAt,
  YEAR_DAYS,
} from './surface.ts';
