// Which option or vertical a sentence means now: days and deltas become a listed contract.
import {
  instrumentOf,
  isOption,
  nameOf,
  type OptionContract,
  rootOf,
  type Vertical,
} from '../instruments/index.ts';
import { type InstrumentTree, instrumentNamed, type TreeOf } from '../language/index.ts';
import type { SymbolView } from '../market/index.ts';
import {
  type ChainMoment,
  classOf,
  expiriesOn,
  fairGreeks,
  strikesAround,
  strikesListed,
} from '../options/index.ts';
import { openTrade } from '../orders/index.ts';
import { daysBetween, type Price, price } from '../units/index.ts';
import { Refused, type RunContext, refuse } from './moment.ts';

type OptionTree = TreeOf<'option'>;

/** What a sentence's `of …` comes to: the name that is traded, and whether the sentence's first strike is the cheaper one, so that buying it sells the name. */
export interface Meant {
  name: string;
  turned: boolean;
  /** With its strikes in the order of the sentence. */
  shown: InstrumentTree;
  /** What days that are not listed were taken for. */
  taken: string | null;
}

/** A strike farther from the price than this part of it is asked about. */
const FAR = 0.25;

/** Whether an option depends on the moment: days, deltas, at the money. */
const isRelative = (o: OptionTree): boolean =>
  o.expiry.kind === 'expires in' || o.strike.kind !== 'strike at' || o.other?.kind === 'wide';

/** What a sentence names, with its root filled in and what is relative left so. */
export const withRoot = (of: InstrumentTree, focus: string | null): InstrumentTree =>
  of.kind === 'option' && of.root === null && focus !== null ? { ...of, root: rootOf(focus) } : of;

/** What is meant by an instrument of a sentence. A plain symbol is itself. */
export function meantBy(of: InstrumentTree, c: RunContext, closing: boolean): Meant {
  if (of.kind === 'stock') return { name: of.symbol, turned: false, shown: of, taken: null };
  const root = of.root ?? (c.focus === null ? refuse({ code: 'no focus' }) : rootOf(c.focus));
  if (closing && isRelative(of)) return heldOf(root, of, c);
  const m = c.chain(root);
  if (m === null) return refuse({ code: 'no contract', because: `${root} has no listed options` });
  const expiry = expiryOf(of, m);
  const first = strikeOf(of, expiry, m);
  if (!closing) farStrike(root, first, m, of.strike);
  const { right } = of;
  const taken = of.expiry.kind === 'expires in' ? daysTaken(of.expiry.days, expiry, m) : null;
  const contract = {
    ...of,
    root,
    expiry: { kind: 'expires on', date: expiry },
    strike: strikeAt(first),
  } as const;
  if (of.other === null)
    return {
      name: nameOf({ kind: 'option', root, expiry, right, strike: first }),
      turned: false,
      shown: contract,
      taken,
    };
  const out = right === 'call' ? 1 : -1;
  const second =
    of.other.kind === 'over'
      ? price(of.other.strike)
      : nearest(
          strikesOf(expiry, m).filter((k) => out * (k - first) > 0),
          first + out * of.other.width,
        );
  if (second === null || second === first)
    return refuse({ code: 'no contract', because: `${root} lists no second strike for this vertical` });
  const turned = right === 'call' ? first > second : first < second;
  const [dear, cheap] = turned ? [second, first] : [first, second];
  return {
    name: nameOf({ kind: 'vertical', root, expiry, right, dear, cheap }),
    turned,
    shown: { ...contract, other: { kind: 'over', strike: second } },
    taken,
  };
}

const strikeAt = (strike: Price) => ({ kind: 'strike at', strike }) as const;

/** What is held of a root that a text can mean whose days, delta or place are those of what is held: exactly one, or it is asked which. */
function heldOf(root: string, o: OptionTree, c: RunContext): Meant {
  const kin = Object.values(c.broker.holdings).flatMap((h) => {
    if (h.account !== c.account || !isOption(h.symbol) || !openTrade(h)) return [];
    const i = instrumentOf(h.symbol);
    const fits =
      i.kind !== 'stock' &&
      i.root === root &&
      i.right === o.right &&
      (i.kind === 'vertical') === (o.other !== null);
    return fits ? [{ name: h.symbol, own: i }] : [];
  });
  const held = kin.filter(({ own }) => isAsWritten(own, o)).map(({ name }) => name);
  const [only] = held;
  if (held.length !== 1 || only === undefined) {
    const others = kin.map(({ name }) => name);
    return refuse({ code: 'which contract', root, right: o.right, vertical: o.other !== null, held, others });
  }
  return { name: only, turned: false, shown: instrumentNamed(only), taken: null };
}

/** Expiries stand a week apart: so many days off is nearer than half of that. */
const NEAR = 3;

/** What days come to where none of the expiries is near, with the one on the other side. */
function daysTaken(days: number, expiry: string, m: ChainMoment): string | null {
  const { date, listing } = m.under;
  const to = (e: string) => daysBetween(date, e);
  const got = to(expiry);
  if (Math.abs(got - days) <= NEAR) return null;
  const others = expiriesOn(date, classOf(listing).weeklies)
    .map(to)
    .filter((d) => (got > days ? d < days : d > days));
  const other = got > days ? Math.max(...others) : Math.min(...others);
  return `No expiry is ${days} days away: this one is in ${got} days${Number.isFinite(other) ? `, the one ${got > days ? 'before' : 'after'} it in ${other}` : ''}.`;
}

/** Whether the date and the strikes that a text writes out are those of a contract. */
function isAsWritten(own: OptionContract | Vertical, o: OptionTree): boolean {
  const strikes: readonly number[] = own.kind === 'option' ? [own.strike] : [own.dear, own.cheap];
  const written = [
    ...(o.strike.kind === 'strike at' ? [o.strike.strike] : []),
    ...(o.other?.kind === 'over' ? [o.other.strike] : []),
  ];
  const date = o.expiry.kind === 'expires on' ? o.expiry.date : own.expiry;
  return own.expiry === date && written.every((k) => strikes.includes(k));
}

function expiryOf(o: OptionTree, m: ChainMoment): string {
  const { date, listing } = m.under;
  if (o.expiry.kind === 'expires on') return o.expiry.date;
  const days = o.expiry.days;
  const away = (e: string) => Math.abs(daysBetween(date, e) - days);
  return expiriesOn(date, classOf(listing).weeklies).reduce((a, b) => (away(b) < away(a) ? b : a));
}

/** The strikes that are listed for an expiry, rising. */
const strikesOf = (expiry: string, m: ChainMoment): Price[] =>
  strikesListed(m.under.listing, m.under.date, expiry);

const nearest = (list: readonly Price[], to: number): Price | null =>
  list.length === 0 ? null : list.reduce((a, b) => (Math.abs(b - to) < Math.abs(a - to) ? b : a));

function strikeOf(o: OptionTree, expiry: string, m: ChainMoment): Price {
  const s = o.strike;
  if (s.kind === 'strike at') return price(s.strike);
  const all = strikesOf(expiry, m);
  const atMoney = nearest(all, m.spot) as Price;
  if (s.kind === 'strike at the money') return atMoney;
  const out = o.right === 'call' ? 1 : -1;
  if (s.kind === 'strike out') {
    const beyond = all.filter((k) => out * (k - m.spot) > 0);
    return (
      (out === 1 ? beyond : beyond.reverse())[s.out - 1] ??
      refuse({
        code: 'no contract',
        because: `${m.under.listing.symbol} lists fewer than ${s.out} strikes out of the money`,
      })
    );
  }
  const contract = (strike: Price): OptionContract => ({
    kind: 'option',
    root: m.under.listing.symbol,
    expiry,
    right: o.right,
    strike,
  });
  const off = (k: Price) => Math.abs(Math.abs(fairGreeks(contract(k), m).delta) - s.delta / 100);
  return all.reduce((a, b) => (off(b) < off(a) ? b : a));
}

/** A written strike far from the price is more likely a slip than meant. */
function farStrike(root: string, strike: Price, m: ChainMoment, s: OptionTree['strike']): void {
  if (s.kind !== 'strike at' || Math.abs(strike / m.spot - 1) <= FAR) return;
  const near = strikesAround(m.spot, 0.1, classOf(m.under.listing).dense);
  // One that is listed among the first strikes is near enough, whatever it is in percent.
  if (near.includes(strike)) return;
  refuse({ code: 'far strike', root, strike, spot: Math.round(m.spot) as Price });
}

/** The view of what a sentence names, of a name, or of the focus. `closing`: days and deltas mean what is held. */
export function viewOf(of: InstrumentTree | string | null, c: RunContext, closing = true): SymbolView {
  const named = of ?? c.focus ?? refuse({ code: 'no focus' });
  const wanted = meantBy(typeof named === 'string' ? instrumentNamed(named) : named, c, closing).name;
  const because = isOption(wanted) ? c.unlisted(wanted) : null;
  if (because !== null) refuse({ code: 'no contract', because });
  return c.view(wanted) ?? refuse({ code: 'unknown symbol', symbol: wanted });
}

/** The contract or vertical that a text such as `VULPN 45 days 30 delta 5 wide put` comes to now; null where there is none. */
export function contractNow(text: string, c: RunContext): string | null {
  try {
    return meantBy(instrumentNamed(text), c, false).name;
  } catch (e) {
    if (e instanceof Refused) return null;
    throw e;
  }
}
