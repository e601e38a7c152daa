export {
  type Combination,
  contractOf,
  type Instrument,
  idOf,
  multiplierOf,
  type OptionContract,
  type Stock,
  stock,
  tickOf,
} from './instrument.ts';
