// A plan whose exits are moved by hand: the same text with another distance in it.
import { type Exit, type OffsetTree, ONE } from '../language/index.ts';
import { CENT, tickSize } from '../units/index.ts';

type Measured = { price: number; atr: number | null; perShare: number | null };

/** A distance of so many price units, in the unit that it was written in; `usual` becomes cents. */
function inUnitsOf(old: OffsetTree, units: number, m: Measured): OffsetTree {
  const least = tickSize(Math.max(1, Math.round(m.price)) as never);
  const cents = (): OffsetTree => ({
    kind: 'cents',
    units: Math.max(least, Math.round(units / least) * least),
  });
  const parts = (of: number, step: number): number =>
    Math.max(step, Math.round((units / of) * (ONE / step)) * step);
  switch (old.kind) {
    case 'R':
      return m.perShare === null ? cents() : { kind: 'R', r: parts(m.perShare, ONE / 10) };
    case 'percent':
      return { kind: 'percent', percent: parts(m.price / 100, ONE / 10) };
    case 'atr':
      return m.atr === null || old.on !== null ? cents() : { ...old, atrs: parts(m.atr, ONE / 20) };
    case 'ticks':
      return { kind: 'ticks', ticks: Math.max(1, Math.round(units / least)) };
    case 'dollars':
      return { kind: 'dollars', units: Math.max(CENT, Math.round(units / CENT) * CENT) };
    default:
      return cents();
  }
}

/** The exits with one of them at another distance, in price units a share from the entry; unchanged where it has none. */
export function movedExit(exits: readonly Exit[], line: number, units: number, m: Measured): Exit[] {
  return exits.map((e, k) => {
    if (k !== line) return e;
    if ((e.kind === 'stop exit' || e.kind === 'target exit') && e.place.kind === 'away') {
      const by = inUnitsOf(e.place.by, Math.abs(units), m);
      return { ...e, place: { ...e.place, by } } as Exit;
    }
    if (e.kind === 'breakeven' && e.after.kind !== 'after target')
      return { ...e, after: inUnitsOf(e.after as OffsetTree, Math.abs(units), m) } as Exit;
    if (e.kind === 'trail' && e.after !== null && e.after.kind !== 'after target')
      return { ...e, after: inUnitsOf(e.after as OffsetTree, Math.abs(units), m) } as Exit;
    return e;
  });
}
