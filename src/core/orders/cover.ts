// Options that stand behind other options: a long call or put covers a short one of its underlying and right that does not outlive it.
import { instrumentOf, mostToLose, nameOf, type OptionContract, rootOf } from '../instruments/index.ts';
import type { Bared } from './refusal.ts';
import { positionOf, type Trade } from './trade.ts';

/** What accounts hold. */
interface Holdings {
  holdings: Readonly<Record<string, { account: string; symbol: string; trades: readonly Trade[] }>>;
}

interface Held {
  contract: OptionContract;
  qty: number;
}

/** Single contracts of a root and right that an account holds on one side, but for so many of one. */
function heldOf(
  b: Holdings,
  account: string,
  like: OptionContract,
  sign: 1 | -1,
  less: { symbol: string; qty: number } | null,
): Held[] {
  return Object.values(b.holdings).flatMap((h) => {
    if (h.account !== account || rootOf(h.symbol) !== like.root) return [];
    const contract = instrumentOf(h.symbol);
    const t = h.trades.find((x) => x.status === 'open');
    if (contract.kind !== 'option' || contract.right !== like.right || t?.sign !== sign) return [];
    const qty = positionOf(t) - (less?.symbol === h.symbol ? less.qty : 0);
    return qty > 0 ? [{ contract, qty }] : [];
  });
}

/** What a pair can lose a share beyond what its long side costs: the width where the short strike is the dearer one. */
const widthOf = (short: OptionContract, long: OptionContract): number =>
  Math.max(0, short.right === 'call' ? long.strike - short.strike : short.strike - long.strike);

/** For each short contract of a root and right: how many have a long one behind them, and the widths of all those together. */
function covered(
  shorts: readonly Held[],
  longs: readonly Held[],
): Map<OptionContract, { qty: number; width: number }> {
  const left = longs.map((l) => l.qty);
  const out = new Map<OptionContract, { qty: number; width: number }>();
  for (const s of shorts) {
    const fits = longs
      .map((l, i) => ({ i, l }))
      .filter(({ l }) => l.contract.expiry >= s.contract.expiry)
      .sort((a, b) => widthOf(s.contract, a.l.contract) - widthOf(s.contract, b.l.contract));
    const sum = { qty: 0, width: 0 };
    for (const { i, l } of fits) {
      const take = Math.min(left[i] as number, s.qty - sum.qty);
      left[i] = (left[i] as number) - take;
      sum.qty += take;
      sum.width += take * widthOf(s.contract, l.contract);
    }
    out.set(s.contract, sum);
  }
  return out;
}

/** What is set aside for a call that nothing stands behind, as a part of its strike (FINRA Rule 4210(f)(2)(E) asks 20 % of the underlying; from memory). */
const BARE_CALL = 0.2;

/** The most that one share's worth of an option or vertical that is held can still lose at a mark, with what the account holds behind it. */
export function lossOf(b: Holdings, account: string, symbol: string, sign: 1 | -1, mark: number): number {
  const contract = instrumentOf(symbol);
  if (contract.kind !== 'option' || sign === 1) return mostToLose(symbol, sign, mark);
  const shorts = heldOf(b, account, contract, -1, null);
  const mine = shorts.find(
    (s) => s.contract.strike === contract.strike && s.contract.expiry === contract.expiry,
  );
  const behind = mine && covered(shorts, heldOf(b, account, contract, 1, null)).get(mine.contract);
  const bare = contract.right === 'put' ? mostToLose(symbol, sign, mark) : BARE_CALL * contract.strike;
  if (!mine || !behind || behind.qty === 0) return bare;
  return (behind.width - behind.qty * mark + (mine.qty - behind.qty) * bare) / mine.qty;
}

/** Short contracts that lose what stands behind them when so many of `symbol` are sold. */
export function baredBy(b: Holdings, account: string, symbol: string, qty: number): Bared[] {
  const contract = instrumentOf(symbol);
  if (contract.kind !== 'option') return [];
  const shorts = heldOf(b, account, contract, -1, null);
  if (shorts.length === 0) return [];
  const now = covered(shorts, heldOf(b, account, contract, 1, null));
  const then = covered(shorts, heldOf(b, account, contract, 1, { symbol, qty }));
  return shorts.flatMap(({ contract: s }) => {
    const contracts = (now.get(s)?.qty ?? 0) - (then.get(s)?.qty ?? 0);
    const { strike, right } = s;
    return contracts > 0 ? [{ symbol: nameOf(s), contracts, strike, right }] : [];
  });
}
