import { instrumentOf, ticksOf } from '../instruments/index.ts';
import type { Listing } from '../market/index.ts';
import { classOf, expiriesOn, isStrike } from '../options/index.ts';
import type { Ticks } from '../units/index.ts';

/** In which steps a contract's or vertical's prices go. */
export const pitTicks = (name: string, x: Listing): Ticks => ticksOf(name, classOf(x).penny);

const LISTED = new Map<string, { date: string; why: string | null; listing: Listing }>();

/** Why a contract or vertical cannot be traded on a date; null when it can. */
export function unlisted(name: string, x: Listing, date: string): string | null {
  const there = LISTED.get(name);
  if (there && there.date === date && there.listing === x) return there.why;
  const why = whyUnlisted(name, x, date);
  if (LISTED.size > 500) LISTED.clear();
  LISTED.set(name, { date, why, listing: x });
  return why;
}

function whyUnlisted(name: string, x: Listing, date: string): string | null {
  const i = instrumentOf(name);
  if (i.kind === 'stock') return `${name} is no option`;
  if (!x.options) return `${i.root} has no listed options`;
  const { weeklies, dense } = classOf(x);
  if (i.expiry < date) return `${name} has expired`;
  if (!expiriesOn(date, weeklies).includes(i.expiry) && i.expiry > date && !wasListed(i.expiry, x, date))
    return `${i.root} lists no options that expire on ${i.expiry}`;
  const strikes = i.kind === 'option' ? [i.strike] : [i.dear, i.cheap];
  if (i.kind === 'vertical' && (i.right === 'call') !== i.dear < i.cheap)
    return `${name} names its dearer strike second`;
  const odd = strikes.find((k) => !isStrike(k, dense));
  return odd === undefined ? null : `${i.root} lists no strike of ${odd / 10_000}`;
}

/** A monthly that has left the list of the quarterly cycle goes on trading. */
const wasListed = (expiry: string, x: Listing, date: string): boolean =>
  expiriesOn(date, classOf(x).weeklies).some((e) => e > expiry) && expiriesOn(expiry, true)[0] === expiry;
