// Legs of verticals, and contracts that stand behind others, when one of them is to go alone.
import { multipleOf } from '../account/index.ts';
import { instrumentOf, legsOf, nameOf, type OptionContract } from '../instruments/index.ts';
import type { TreeOf } from '../language/index.ts';
import { accountNow, baredBy, openTrade, type Trade } from '../orders/index.ts';
import { formatMoney } from '../units/index.ts';
import { accountOf, openTradeOf, type Reading, type RunContext, refuse } from './moment.ts';

/** A leg is closed alone only on purpose: what it leaves is said, and asked about. */
export function checkAlone(
  s: TreeOf<'close'>,
  symbol: string,
  { leg, qty }: { leg: ReturnType<typeof legHeld>; qty: number },
  c: RunContext,
  out: Reading,
): void {
  const left = leg ? leg.left(qty) : leftBare(symbol, qty, c);
  if (left === null) return;
  const vertical = leg?.vertical ?? null;
  if (leg) mayStandAlone(leg.other, symbol, qty, c);
  if (!s.alone) refuse({ code: 'leg alone', leg: symbol, vertical, left }, { ...s, alone: true });
  out.warnings.push(`Leaves ${left}.`);
}

/** What would be short alone has to be a put whose strike can be set aside. */
function mayStandAlone(
  { sign, ...x }: OptionContract & { sign: 1 | -1 },
  symbol: string,
  contracts: number,
  c: RunContext,
): void {
  if (sign === 1) return;
  const have = accountNow(c.broker, c.account, (of) => c.view(of)?.last ?? null).buyingPower;
  const needs =
    x.right === 'call' ? Number.POSITIVE_INFINITY : x.strike * contracts * 100 * multipleOf(accountOf(c));
  const bared = [{ symbol: nameOf(x), contracts, strike: x.strike, right: x.right }];
  if (needs > have) refuse({ code: 'stands behind', symbol, bared, needs, have });
}

/** A contract that is held as a leg of a vertical: that trade, as the leg has it, and what closing so many of it alone leaves, in words. */
export function legHeld(
  symbol: string,
  c: RunContext,
): {
  trade: Trade;
  vertical: string;
  other: OptionContract & { sign: 1 | -1 };
  left(qty: number): string;
} | null {
  const contract = instrumentOf(symbol);
  if (contract.kind !== 'option') return null;
  for (const h of Object.values(c.broker.holdings)) {
    const t = h.account === c.account ? openTrade(h) : undefined;
    if (!t || instrumentOf(h.symbol).kind !== 'vertical') continue;
    const legs = legsOf(h.symbol);
    const k = legs.findIndex((l) => nameOf(l.contract) === symbol);
    const [own, other] = [legs[k], legs[1 - k]];
    if (!own || !other) continue;
    const sign = (t.sign * other.sign) as 1 | -1;
    return {
      trade: { ...t, symbol, sign: (t.sign * own.sign) as 1 | -1 },
      vertical: h.symbol,
      other: { ...other.contract, sign },
      left: (qty) =>
        `${qty} ${sign === 1 ? 'long' : 'short'} ${nameOf(other.contract)}${sign === 1 ? '' : bareText(other.contract, qty)}`,
    };
  }
  return null;
}

/** What short contracts lose that stands behind them, in words; null where none do. */
function leftBare(symbol: string, qty: number, c: RunContext): string | null {
  const trade = openTradeOf(c, symbol);
  const bared = trade?.sign === 1 ? baredBy(c.broker, c.account, symbol, qty) : [];
  return bared.length === 0
    ? null
    : bared.map((x) => `${x.contracts} short ${x.symbol}${bareText(x, x.contracts)}`).join(' and ');
}

const bareText = (x: { strike: number; right: 'call' | 'put' }, qty: number): string =>
  x.right === 'call'
    ? ' with nothing behind it, which no account here may hold'
    : ` with nothing behind it: ${formatMoney(x.strike * qty * 100)} to be set aside`;
