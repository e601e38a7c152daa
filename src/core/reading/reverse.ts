import { instrumentNamed, printTree, type TreeOf } from '../language/index.ts';
import { collar, type Intent, PLAIN_TERMS, positionOf } from '../orders/index.ts';
import { type Price, sideOf } from '../units/index.ts';
import { planOf, unstage } from './entries.ts';
import { type Basis, resolveExits } from './exits.ts';
import { factsOf } from './facts.ts';
import { viewOf } from './instruments.ts';
import { openTradeOf, type Reading, type RunContext, refuse } from './moment.ts';
import { haltWarning, shortWarnings } from './pricing.ts';
import { unwait } from './waits.ts';

/** Turns the position: out at once, and as many shares the other way once it is flat. */
export function readReverse(s: TreeOf<'reverse'>, c: RunContext, out: Reading): void {
  const v = viewOf(s.instrument, c);
  const t = openTradeOf(c, v.symbol) ?? refuse({ code: 'no position', symbol: v.symbol, verb: 'reverse' });
  out.symbol = v.symbol;
  out.addsRisk = true;
  const side = sideOf(-t.sign as 1 | -1);
  const regular = c.session === 'regular';
  const limit = regular
    ? null
    : (collar(side, v.quote, v.last, v.ticks) ??
      refuse({ code: 'unknown price', text: 'last', symbol: v.symbol }));
  const expected = ((side === 'buy' ? v.quote.ask : v.quote.bid) ??
    v.last ??
    refuse({ code: 'unknown price', text: 'last', symbol: v.symbol })) as Price;
  const qty = positionOf(t);
  const basis: Basis = { side, from: expected, held: false, view: v, c };
  const name = s.plan ?? (s.exits.length > 0 ? null : side === 'buy' ? c.planFor.long : c.planFor.short);
  const exits = name === null ? s.exits : planOf(name, c, (plan) => ({ ...s, plan }));
  const resolved = resolveExits(exits, basis, !regular, (old, instead) => ({
    ...s,
    plan: null,
    exits: exits.map((e) => (e === old ? instead : e)),
  }));
  out.facts = factsOf(basis, { qty, resolved, perShare: resolved.perShare, inQueue: false }, c);
  out.sayBack = printTree({ ...s, instrument: instrumentNamed(v.symbol), plan: null, exits: resolved.shown });
  out.about = `${side} ${qty} to close, then ${qty} to ${side === 'sell' ? 'go short' : 'go long'}${regular ? ' at market' : ''}${name === null ? '' : `, plan “${name}”`}`;
  out.warnings.push(...(side === 'sell' ? shortWarnings(v) : []), ...haltWarning(v));
  const entry: Intent = {
    ...PLAIN_TERMS,
    kind: 'entry',
    account: c.account,
    symbol: v.symbol,
    side,
    type: regular ? 'Market' : 'Limit',
    qty,
    limit,
    stop: null,
    extended: !regular,
    plan: resolved.plan,
    afterFlat: true,
    sentence: printTree(s),
  };
  unstage(v.symbol, c, out);
  unwait(v.symbol, c, out);
  out.deeds.push(
    { kind: 'intent', intent: { kind: 'flatten', account: c.account, symbol: v.symbol, limit } },
    { kind: 'intent', intent: entry },
  );
}
