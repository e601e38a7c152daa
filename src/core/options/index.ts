export { american, americanGreeks, americanVolatility } from './american.ts';
export {
  european,
  europeanGreeks,
  impliedVolatility,
  type Priced,
  type Terms,
  type Way,
} from './european.ts';
