// What scans cannot know: they look at every symbol, and only at what is kept of every one.
import { columnFor, isOfTrade } from './named-prices.ts';
import { kindsIn, printTree } from './print.ts';
import type { Finding } from './problems.ts';
import type { Condition, ReferenceTree, Tree } from './tree.ts';

/** What of a condition a scan cannot look at, each with the reason. */
export function scanFindings(x: Condition): Finding[] {
  const because = unknown(x);
  if (because !== null) return [{ code: 'not in a scan', at: x, found: printTree(x), because, fixes: [] }];
  return Object.values(x)
    .flatMap((v) => (Array.isArray(v) ? v : [v]))
    .filter((v): v is Condition => typeof v === 'object' && v !== null && 'kind' in v)
    .flatMap(scanFindings);
}

const isReference = (x: Tree): x is ReferenceTree => kindsIn('reference').has(x.kind);

function unknown(x: Tree): string | null {
  switch (x.kind) {
    case 'gain is':
      return NOT_YOURS;
    case 'foreign':
      return EACH;
    case 'R':
    case 'usual':
      return NOT_YOURS;
    case 'atr':
      return x.on === null ? null : NO_CANDLES;
    case 'price crosses':
      if (x.symbol !== null) return EACH;
      return x.left.kind === 'last' ? null : 'it knows how “last” has moved, and no other price';
    case 'named level':
    case 'cursor':
      return 'that is of one symbol';
    case 'compare':
    case 'between':
    case 'is':
    case 'flag':
    case 'price is':
    case 'price between':
      return x.symbol === null ? null : EACH;
    default:
      if (!isReference(x) || columnFor(x) !== null) return null;
      return isOfTrade(x) ? NOT_YOURS : NO_CANDLES;
  }
}
const NO_CANDLES = 'it keeps no candles of each';
const NOT_YOURS = 'it knows nothing of your trades';
const EACH = 'it speaks of each by itself';
