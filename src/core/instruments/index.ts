export {
  type Combination,
  contractOf,
  type Instrument,
  idOf,
  type OptionContract,
  type Stock,
  stock,
} from './instrument.ts';
export {
  contractsIn,
  instrumentOf,
  isOption,
  legsOf,
  mostToLose,
  multiplierOfSymbol,
  nameOf,
  occOf,
  rootOf,
  type Traded,
  ticksOf,
  type Vertical,
} from './names.ts';
