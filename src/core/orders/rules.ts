// What moves by itself: stops that are touched, breakeven, trails. Every automatic move goes through `ratchet`.

import { costsFor, tableOn, totalOf } from '../account/index.ts';
import { contractsIn, multiplierOfSymbol } from '../instruments/index.ts';
import { touched, trailLevel, trailOn } from '../triggers/index.ts';
import { type Price, roundToTick, type Sign, sideOf } from '../units/index.ts';
import { admitOrder } from './admit.ts';
import { changeLeg, end, opposite, say, toWork, worksIn } from './changes.ts';
import { accountIds, type BrokerContext, type Holding, holdingOf } from './desk.ts';
import { type Gain, openOfScope, type Scope } from './exit-plan.ts';
import { exitPrice, legPrice } from './exits.ts';
import { isHeldBack, isStaying, type Order, openOf } from './order.ts';
import type { Why } from './refusal.ts';
import { type BrokerStep, type HoldingStep, workOn } from './step.ts';
import { positionOf, type Trade } from './trade.ts';

/** Whether a price of its symbol concerns nothing of a holding: looked at before anything is copied, since most prices do not. */
// biome-ignore lint/complexity/noExcessiveCognitiveComplexity: asked at every price of every symbol
export function isQuiet(h: Holding, c: BrokerContext): boolean {
  const last = c.last(h.symbol);
  for (const o of h.orders) {
    if (isHeldBack(o)) return false;
    if (
      o.phase.k === 'armed' &&
      touched(
        o.side === 'buy' ? 'up' : 'down',
        o.stop as Price,
        o.on === 'last' ? last : c.quote(o.symbol)[o.on],
      )
    )
      return false;
  }
  if (last === null) return true;
  for (const t of h.trades)
    if (
      t.status === 'open' &&
      (t.sign * (last - (t.best ?? last)) > 0 || t.sign * (last - (t.worst ?? last)) < 0)
    )
      return false;
  for (const s of h.scopes) {
    if (s.breakevenState === 'due' || s.trail?.on || s.outFailed) return false;
    if (s.basis.qty === 0) continue;
    const after = s.breakevenState === 'waits' ? s.breakeven?.after : undefined;
    if (after && after.kind !== 'target' && gainReached(s, after, last)) return false;
    if (
      s.trail &&
      (s.trail.after === null || (s.trail.after.kind !== 'target' && gainReached(s, s.trail.after, last)))
    )
      return false;
  }
  return true;
}

/** A symbol has traded, or its quote has changed. Holdings that nothing of it concerns stay as they are. */
export function onPrice(d: BrokerStep, symbol: string): void {
  const last = d.context.last(symbol);
  for (const account of accountIds(d.accounts)) {
    const h = holdingOf(d.before, account, symbol);
    if (isQuiet(h, d.context)) continue;
    const w = workOn(d, account, symbol);
    if (last !== null) excursion(w, last);
    for (const o of w.orders) if (isTouched(w, o)) go(w, o);
    if (last !== null) for (const s of w.scopes) watchGain(w, s, last);
    runRules(w);
    // What found nobody when it was to go is tried again with each price.
    if (w.scopes.some((s) => s.outFailed)) w.decideAnew();
  }
}

function excursion(w: HoldingStep, last: Price): void {
  for (const t of w.trades) {
    if (t.status !== 'open') continue;
    const better = t.best === null || t.sign * (last - t.best) > 0;
    const worse = t.worst === null || t.sign * (last - t.worst) < 0;
    if (better || worse) w.putTrade({ ...t, best: better ? last : t.best, worst: worse ? last : t.worst });
  }
}

const seenOf = (d: BrokerStep, o: Order): Price | null =>
  o.on === 'last' ? d.context.last(o.symbol) : d.context.quote(o.symbol)[o.on];

function isTouched(w: HoldingStep, o: Order): boolean {
  if (o.phase.k !== 'armed' || o.stop === null || !worksIn(o, w.step.context.session)) return false;
  if (!touched(o.side === 'buy' ? 'up' : 'down', o.stop, seenOf(w.step, o))) return false;
  if (o.role === 'entry') return true;
  // While a flatten, or what has to be out by now, holds every share, a stop has nothing to sell; it stays armed in case that fails.
  const t = w.trades.find((x) => x.id === o.tradeId && x.status === 'open');
  const flat = w.orders
    .filter((x) => (x.flat || (x.role === 'close' && x.scopeId !== null)) && isStaying(x))
    .reduce((a, x) => a + openOf(x), 0);
  return t !== undefined && positionOf(t) > flat;
}

/** A stop goes to work. An entry's is asked about once more: the guards may have become narrower since it was taken. */
function go(w: HoldingStep, o: Order): void {
  const refused = o.role === 'entry' ? admitOrder(w.step, o) : null;
  if (refused) {
    const why: Why = { guard: refused };
    const ended = w.putOrder({ ...o, phase: { k: 'ended', status: 'Rejected', why } });
    say(w, ended, { exec: 'Rejected', kind: 'rejected', why, bare: 0 });
    return;
  }
  const gone = w.putOrder({ ...o, phase: toWork(w.step) });
  const other = opposite(w, o);
  if (other && isStaying(other)) end(w, other, 'Canceled', 'pair');
  say(w, gone, {
    exec: 'TriggeredOrActivatedBySystem',
    kind: 'triggered',
    on: o.on,
    seen: seenOf(w.step, o) as Price,
    stop: o.stop as Price,
  });
}

const gainReached = (s: Scope, after: Gain, last: Price): boolean => {
  const { qty, notional } = s.basis;
  if (after.kind === 'in all')
    return s.sign * (last * qty - notional) * multiplierOfSymbol(s.symbol) >= after.money;
  return s.sign * (last - exitPrice(s, after, notional / qty, 1)) >= 0;
};

/** A trail that waits for no gain begins with its first shares, at the last price that is known: none of them stands bare until the next print. */
function startTrail(w: HoldingStep, s: Scope): Scope {
  if (!s.trail || s.trail.on || s.trail.after !== null || s.basis.qty === 0) return s;
  const from = w.step.context.last(s.symbol) ?? s.basis.notional / s.basis.qty;
  return w.putScope({ ...s, trail: { ...s.trail, on: true, state: trailOn(s.trail.state, s.sign, from) } });
}

/** Breakeven and trail begin when their gain is touched. */
function watchGain(w: HoldingStep, s: Scope, last: Price): void {
  if (s.basis.qty === 0 || openOfScope(s) === 0) return;
  let next = s;
  const after = s.breakeven?.after;
  if (s.breakevenState === 'waits' && after && after.kind !== 'target' && gainReached(s, after, last))
    next = { ...next, breakevenState: 'due' };
  if (s.trail) {
    const on =
      s.trail.on ||
      s.trail.after === null ||
      (s.trail.after.kind !== 'target' && gainReached(s, s.trail.after, last));
    const state = on ? trailOn(s.trail.state, s.sign, last) : s.trail.state;
    if (on !== s.trail.on || state !== s.trail.state) next = { ...next, trail: { ...s.trail, on, state } };
  }
  if (next !== s) w.putScope(next);
}

/** Moves stops as the rules of their scopes ask, as far as they may go now. */
export function runRules(w: HoldingStep): void {
  for (const { id } of w.scopes) {
    let s = w.scopes.find((x) => x.id === id) as Scope;
    if (openOfScope(s) <= 0) continue;
    s = startTrail(w, s);
    if (s.breakevenState === 'due') s = toBreakeven(w, s);
    if (!s.trail?.on) continue;
    const level = trailLevel(s.trail.state, s.sign, (minutes) => w.step.context.candle(s.symbol, minutes));
    if (level === null) continue;
    for (const i of stopsOf(s))
      s = ratchet(
        w,
        s,
        i,
        roundToTick(Math.max(1, level), s.sign === 1 ? 'down' : 'up', s.ticks),
        'trail',
      ).scope;
  }
}

const stopsOf = (s: Scope): number[] =>
  s.legs.flatMap((l, i) => (l.kind === 'stop' && !l.dropped ? [i] : []));

/** Costs a share of the way in, as they were, and of the way out, as the table has them; in price units. */
function roundTrip(w: HoldingStep, t: Trade): number {
  const { fees } = w.step.accounts[w.account] as BrokerStep['accounts'][string];
  const out = costsFor(tableOn(fees, w.step.context.date), {
    side: sideOf(-t.sign as Sign),
    shares: t.entered,
    notional: t.entryNotional * w.multiplier,
    added: 0,
    contracts: t.entered * contractsIn(t.symbol),
  });
  return (totalOf(t.costs) + totalOf(out)) / (t.entered * w.multiplier);
}

/** To the average entry, or beyond it by the costs of the way in and out; rounded so that it never loses. */
function toBreakeven(w: HoldingStep, s: Scope): Scope {
  const t = w.trades.find((x) => x.id === s.tradeId);
  if (!t || t.entered === 0) return s;
  const average = s.basis.notional / s.basis.qty;
  const at = (units: number) =>
    roundToTick(Math.max(1, average + s.sign * units), s.sign === 1 ? 'up' : 'down', s.ticks);
  const costs = s.breakeven?.plusCosts ? roundTrip(w, t) : 0;
  let next = s;
  let done = true;
  for (const i of stopsOf(s)) {
    const whole = ratchet(w, next, i, at(costs), 'breakeven');
    next = whole.scope;
    if (whole.stands) continue;
    // Where the costs put it through the market it stands at the entry for now, and goes on once the market lets it.
    next = ratchet(w, next, i, at(0), 'breakeven').scope;
    done = false;
  }
  return done ? w.putScope({ ...next, breakevenState: 'done' }) : next;
}

/**
 * The one door for automatic moves of a stop: it only tightens, stands on a tick, and never goes
 * where the market would trigger it at once.
 * @returns the scope, and whether the stop stands at `to` or closer now.
 */
function ratchet(
  w: HoldingStep,
  s: Scope,
  index: number,
  to: Price,
  why: Why,
): { scope: Scope; stands: boolean } {
  const now = legPrice(s, index);
  const leg = s.legs[index];
  if (now !== null && s.sign * (to - now) <= 0) {
    // Where it stands is where it is placed: an average that changes later does not take it back.
    return { scope: leg?.moved === null ? changeLeg(w, s, index, { moved: now }) : s, stands: true };
  }
  const seen =
    leg?.on === 'bid' || leg?.on === 'ask'
      ? w.step.context.quote(s.symbol)[leg.on]
      : w.step.context.last(s.symbol);
  if (seen === null || s.sign * (seen - to) <= 0) return { scope: s, stands: false };
  w.step.moved.set(`${s.id} ${index}`, why);
  const began = now === null ? { began: to } : {};
  return { scope: changeLeg(w, s, index, { moved: to, ...began }), stands: true };
}

/** The side on which exits of a scope trade. */
export const exitSide = (s: Pick<Scope, 'sign'>) => sideOf(-s.sign as 1 | -1);
