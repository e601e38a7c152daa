import { instrumentOf, nameOf, type OptionContract, type Vertical } from '@/core/instruments';
import type { Trade } from '@/core/orders';

/** The sentence of a press on a bid or an ask: it takes that price; of what is held the other way it closes. */
export function sentenceAt(name: string, at: 'bid' | 'ask', held: Trade | undefined): string {
  if (held && (at === 'bid') === (held.sign === 1)) return `close all of ${name} at ${at}`;
  return at === 'ask' ? `buy 1 of ${name} at ask` : `short 1 of ${name} at bid`;
}

const NAMED = /\bof ([A-Z]{1,6} \d{4}-\d\d-\d\d \d+(?:\.\d+)?(?:\/\d+(?:\.\d+)?)? (?:call|put))\b/;

/** The option that a ticket's sentence names; null where it names none. */
export function contractIn(text: string): OptionContract | null {
  const m = NAMED.exec(text);
  const i = m ? instrumentOf(m[1] as string) : null;
  return i?.kind === 'option' ? i : null;
}

/**
 * The sentence of a vertical, from a contract that is in the ticket and another one of its expiry and right: the one in the ticket is traded as its
 * verb says. Null where the two do not make one.
 */
export function verticalWith(text: string, other: OptionContract): string | null {
  const first = contractIn(text);
  if (
    !first ||
    first.root !== other.root ||
    first.expiry !== other.expiry ||
    first.right !== other.right ||
    first.strike === other.strike
  )
    return null;
  const verb = /^\s*(?:stage )?short\b/.test(text) ? 'short' : 'buy';
  const dearFirst = first.right === 'call' ? first.strike < other.strike : first.strike > other.strike;
  const [dear, cheap] = dearFirst ? [first.strike, other.strike] : [other.strike, first.strike];
  const v: Vertical = {
    kind: 'vertical',
    root: first.root,
    expiry: first.expiry,
    right: first.right,
    dear,
    cheap,
  };
  // The sentence has the strikes in the order in which they were chosen.
  const name = dearFirst ? nameOf(v) : nameOf({ ...v, dear: cheap, cheap: dear });
  const net = (verb === 'buy') === dearFirst ? 'debit' : 'credit';
  return `${verb} 1 of ${name} at mid ${net}`;
}
