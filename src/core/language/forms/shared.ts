// Parts that several forms have in common.
import { flag, many, maybe } from '../grammar.ts';
import { oneOf, PLAN_NAME, SYMBOL } from '../leaves/names.ts';
import { PART_OF_PLAN } from '../leaves/parts.ts';

/** Of a symbol. */
export const OF = maybe('symbol', SYMBOL, 'of');
/** Of a stock, an option or a vertical. */
export const ANY = maybe('instrument', 'instrument', 'of');
export const STAGED = flag('staged', 'stage');
export const LIFE = many('life', 'life', 'once each');
export const EXITS = many('exits', 'exit', 'lines');
export const CHAIN = many('chain', 'chained', 'lines');
export const PLAN = maybe('plan', PLAN_NAME, 'with plan');
export const FOR = maybe('part', PART_OF_PLAN, 'for');
export const UP_DOWN = oneOf('up or down', 'word', 'up', 'down');
/** What a stop looks at. */
export const SEEN = oneOf('what triggers it: bid, ask or last', 'word', 'bid', 'ask', 'last');
