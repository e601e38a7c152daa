// Prices of many symbols at once, as far as they are kept of every one.
import { columnFor, type OffsetTree, ONE, type PriceTree } from '../language/index.ts';
import type { MarketView } from '../market/index.ts';
import { tickSize } from '../units/index.ts';

/** Writes a price of the first `n` symbols of `who` into `out`, in price units; not a number where it is not known. What scans cannot ask for is not known of any. */
export function fillPrice(p: PriceTree, m: MarketView, who: Int32Array, n: number, out: Float64Array): void {
  switch (p.kind) {
    case 'number':
      out.fill(p.price, 0, n);
      return;
    case 'sum':
      fillPrice(p.base, m, who, n, out);
      for (const s of p.shifts)
        for (let k = 0; k < n; k++) {
          const price = out[k] as number;
          out[k] = price + (s.kind === 'plus' ? 1 : -1) * lengthOf(s.by, price, m, who[k] as number);
        }
      return;
    case 'lower':
    case 'higher': {
      const other = new Float64Array(n);
      const pick = p.kind === 'lower' ? Math.min : Math.max;
      fillPrice(p.a, m, who, n, out);
      fillPrice(p.b, m, who, n, other);
      for (let k = 0; k < n; k++) out[k] = pick(out[k] as number, other[k] as number);
      return;
    }
    case 'foreign':
      out.fill(Number.NaN, 0, n);
      return;
    default: {
      const column = columnFor(p);
      if (column) column(m, who, n, out);
      else out.fill(Number.NaN, 0, n);
    }
  }
}

function lengthOf(o: OffsetTree, of: number, m: MarketView, i: number): number {
  switch (o.kind) {
    case 'cents':
    case 'dollars':
      return o.units;
    case 'ticks':
      return Number.isNaN(of) ? of : o.ticks * tickSize(Math.max(1, Math.round(of)));
    case 'percent':
      return (of * o.percent) / (100 * ONE);
    case 'atr':
      return o.on === null ? (o.atrs / ONE) * (m.facts.atr[i] as number) : Number.NaN;
    case 'R':
    case 'usual':
      return Number.NaN;
  }
}
