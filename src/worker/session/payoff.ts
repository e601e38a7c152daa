// What may come of the option or vertical that a ticket names, as lines over its underlying's price.
import { isOption, rootOf } from '../../core/instruments/index.ts';
import { outlookOf, worthAt } from '../../core/options/index.ts';
import type { Engine } from '../../session/engine.ts';
import { chainOf } from '../../session/moment.ts';
import { peekedAt } from './peeked.ts';
import type { PayoffSlice } from './slices.ts';

const POINTS = 61;
/** Changes of the price, in percent, and of implied volatility, in points, for which a table shows what becomes of it. */
const MOVES = [-10, -5, 0, 5, 10];
const SHIFTS = [-10, 0, 10];

/** The lines of a sentence that opens an option or a vertical; null for any other. */
export function payoffSlice(e: Engine, text: string, focus: string): PayoffSlice | null {
  const { facts, of: name, addsRisk } = peekedAt(e, text, focus);
  if (!facts || !addsRisk || !isOption(name)) return null;
  const m = chainOf(e, rootOf(name));
  const o = m && outlookOf(name, facts.side === 'buy' ? 1 : -1, facts.price, m);
  if (!m || !o || o.years <= 0) return null;
  const move = m.spot * Math.sqrt(o.years) * (o.legs[0]?.volatility ?? 0.5);
  const strikes = o.legs.map((l) => l.strike);
  const from = Math.max(m.spot * 0.05, Math.min(m.spot - 2 * move, ...strikes.map((k) => k * 0.94)));
  const to = Math.max(m.spot + 2 * move, ...strikes.map((k) => k * 1.06));
  const each = facts.qty * 100 * o.sign;
  const at = (spot: number, years: number, more = 0): number =>
    Math.round((each * (worthAt(o.legs, spot, Math.max(1e-9, years), more) - o.paid)) / 100) / 100;
  return {
    name,
    sign: o.sign,
    spot: m.spot,
    expected: [m.spot - move, m.spot + move],
    even: o.even,
    days: Math.round(o.years * 365),
    // With the strikes among them, so that its corners are where they are.
    lines: [...Array.from({ length: POINTS }, (_, k) => from + ((to - from) * k) / (POINTS - 1)), ...strikes]
      .sort((a, b) => a - b)
      .map((spot) => ({
        spot,
        now: at(spot, o.years),
        half: at(spot, o.years / 2),
        end: at(spot, 0),
      })),
    grid: {
      moves: MOVES,
      shifts: SHIFTS,
      values: SHIFTS.map((points) =>
        MOVES.map((percent) => at(m.spot * (1 + percent / 100), o.years, points / 100)),
      ),
    },
  };
}
