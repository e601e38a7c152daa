import { rootOf } from '../instruments/index.ts';
import { doubtOf, type Pitch } from '../options/index.ts';
import { type Price, type Side, signOf } from '../units/index.ts';
import type { Outcome } from '../venue/index.ts';
import {
  draw,
  enterStall,
  type Floorside,
  fill,
  leaveStall,
  lookLater,
  type Pit,
  pitchNow,
  type Stall,
  type Standing,
  settle,
} from './pit.ts';

/**
 * Makers look at a contract again: what they now would take of the trader's resting orders they take, at the order's own price; between two
 * looks somebody of the crowd may have come and met whoever bid or offered best.
 */
export function look(p: Pit, s: Floorside, name: string): Outcome[] {
  const st = p.stalls[name] as Stall;
  const out: Outcome[] = [];
  lookLater(p, s, st);
  const q = pitchNow(name, s);
  settle(st, s);
  if (q.ask !== null) {
    takersGo(st, s, out);
    makersTake(p, st, s, q, out);
    crowdComes(p, st, s, q, out);
  }
  if (st.orders.length === 0 && st.taken.buy + st.taken.sell < 0.5) delete p.stalls[name];
  return out;
}

/** What waited for a quote takes what is there. */
function takersGo(st: Stall, s: Floorside, out: Outcome[]): void {
  for (const o of st.orders.filter((x) => x.life === 'take')) {
    st.orders = st.orders.filter((x) => x !== o);
    out.push(...enterStall(s, st, o));
  }
}

/** A maker gives up a part of what he earns, another part each time: nearer to his price it comes soon, at what it is worth to him never. */
function makersTake(p: Pit, st: Stall, s: Floorside, q: Pitch, out: Outcome[]): void {
  const part = 0.2 + 0.8 * draw(p, st);
  for (const o of st.orders.slice()) {
    const [sign, touch, shown] = o.side === 'buy' ? [1, q.ask, q.askSize] : [-1, q.bid, q.bidSize];
    const limit = o.limit as number;
    if (touch === null || sign * (limit - q.fair) < part * Math.abs(touch - q.fair)) continue;
    const whole = sign * (limit - touch) >= 0 ? shown : shown / 2;
    const most = Math.max(1, Math.round(whole - st.taken[o.side]));
    out.push(...trade(p, st, s, o, Math.min(most, o.qty - o.filled)));
  }
}

/** Somebody trades at the best price there is: with the trader where he is alone at it, behind who was there before him. */
function crowdComes(p: Pit, st: Stall, s: Floorside, q: Pitch, out: Outcome[]): void {
  const [comes, way, many] = [draw(p, st), draw(p, st), draw(p, st)];
  const doubt = doubtOf(s.listing(rootOf(st.name)));
  // So many trades a look: in what trades much several a minute.
  if (comes >= Math.min(0.5, 0.0018 / doubt)) return;
  const side: Side = way < 0.5 ? 'buy' : 'sell';
  let left = 1 + Math.floor(many * many * 9);
  for (const o of st.orders.filter((x) => x.side !== side)) {
    const best = o.side === 'buy' ? q.bid : q.ask;
    const better = best === null ? 1 : signOf(o.side) * ((o.limit as number) - best);
    if (better < 0) continue;
    if (better === 0) {
      const passed = Math.min(left, o.ahead);
      o.ahead -= passed;
      left -= passed;
    }
    const qty = Math.min(left, o.qty - o.filled);
    left -= qty;
    out.push(...trade(p, st, s, o, qty));
  }
}

function trade(p: Pit, st: Stall, s: Floorside, o: Standing, qty: number): Outcome[] {
  if (qty <= 0) return [];
  o.filled += qty;
  st.taken[o.side] += qty;
  const told = fill(st, s, o, { price: o.limit as Price, qty, liquidity: 'added', touch: null });
  if (o.filled >= o.qty) leaveStall(p, st.name, o.id);
  return [told];
}
