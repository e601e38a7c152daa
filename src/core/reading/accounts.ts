// Sentences about accounts: which is in use, shares to be borrowed.
import { nearestName, printTree, type Statement, type TreeOf } from '../language/index.ts';
import { accountNow } from '../orders/index.ts';
import { type AccountId, CENT, formatMoney, money } from '../units/index.ts';
import { viewOf } from './instruments.ts';
import { type accountOf, type Reading, type RunContext, refuse } from './moment.ts';

function accountNamed(name: string, c: RunContext, fix: (name: string) => Statement): AccountId {
  const all = Object.values(c.broker.accounts);
  const found = all.find((a) => a.rules.name.toLowerCase() === name.toLowerCase());
  if (found) return found.id;
  const have = all.map((a) => a.rules.name);
  const like = have.filter((x) => x.toLowerCase().includes(name.toLowerCase()));
  const nearest = like.length === 1 ? (like[0] as string) : nearestName(name, have);
  return refuse(
    { code: 'no account', name, nearest, have },
    (nearest ? [nearest] : have.slice(0, 3)).map(fix),
  );
}

/** The moment as a sentence sees it that names its account. */
export function inAccount(s: Statement, c: RunContext): RunContext {
  if (s.kind === 'when') {
    // What waits acts in the account that its first order names.
    const first = s.actions.find((a) => 'life' in a && a.life.some((l) => l.kind === 'account'));
    return first ? inAccount(first, c) : c;
  }
  const life = 'life' in s ? s.life : [];
  const named = life.find((l) => l.kind === 'account');
  if (!named) return c;
  const to = (name: string): Statement =>
    ({ ...s, life: life.map((l) => (l === named ? { ...l, name } : l)) }) as Statement;
  const account = accountNamed(named.name, c, to);
  return account === c.account ? c : c.in(account);
}

/** Lets sentences act in another account from now on. */
export function readUseAccount(s: TreeOf<'use account'>, c: RunContext, out: Reading): void {
  const account = accountNamed(s.name, c, (name) => ({ ...s, name }));
  const { rules } = c.broker.accounts[account] as ReturnType<typeof accountOf>;
  const { buyingPower } = accountNow(c.broker, account, (x) => c.view(x)?.last ?? null);
  out.sayBack = printTree({ ...s, name: rules.name });
  out.about =
    account === c.account
      ? 'it is in use already'
      : `${rules.kind === 'cash' ? 'settled cash' : 'buying power'} ${formatMoney(buyingPower)}`;
  out.deeds.push({ kind: 'use account', account });
}

/** Shares to be sold short are set aside for the day; the fee is said before. */
export function readLocate(s: TreeOf<'locate'>, c: RunContext, out: Reading): void {
  const v = viewOf(s.symbol, c);
  out.symbol = v.symbol;
  out.addsRisk = true;
  const { perShare, available } = c.locate(v.symbol);
  out.sayBack = printTree({ ...s, symbol: v.symbol });
  out.about = `${Number((perShare / CENT).toFixed(2))}c a share, ${formatMoney(money(Math.round(perShare * s.shares)))} for the day; a lender has ${available}`;
  out.deeds.push({
    kind: 'intent',
    intent: { kind: 'locate', account: c.account, symbol: v.symbol, shares: s.shares },
  });
}
