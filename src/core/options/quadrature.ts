/** Gauss–Legendre points and weights on −1 … 1, by Newton's method on the polynomial. */
export function legendre(n: number): { x: Float64Array; w: Float64Array } {
  const x = new Float64Array(n);
  const w = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    let z = cosine((i + 0.75) / (n + 0.5));
    let slope = 1;
    for (let round = 0; round < 60; round++) {
      let [p, before] = [1, 0];
      for (let k = 1; k <= n; k++) [p, before] = [((2 * k - 1) * z * p - (k - 1) * before) / k, p];
      slope = (n * (z * p - before)) / (z * z - 1);
      z -= p / slope;
    }
    x[i] = z;
    w[i] = 2 / ((1 - z * z) * slope * slope);
  }
  return { x, w };
}

/** The n + 1 extreme points of the Chebyshev polynomial of degree n, rising from −1 to 1. */
export const chebyshevPoints = (n: number): number[] =>
  Array.from({ length: n + 1 }, (_, i) => (i === 0 ? -1 : i === n ? 1 : -cosine(i / n)));

/**
 * With which weights the values at points that lie as {@link chebyshevPoints} do (over any interval) add up to the value
 * of their polynomial at a place (barycentric form; J.-P. Berrut and L. N. Trefethen, SIAM Review 46, 2004).
 */
export function interpolation(points: readonly number[], place: number): Float64Array {
  const out = new Float64Array(points.length);
  const there = points.findIndex((p) => Math.abs(p - place) < 1e-15);
  if (there >= 0) {
    out[there] = 1;
    return out;
  }
  let all = 0;
  points.forEach((p, k) => {
    const end = k === 0 || k === points.length - 1 ? 0.5 : 1;
    out[k] = ((k % 2 === 0 ? 1 : -1) * end) / (place - p);
    all += out[k] as number;
  });
  return out.map((v) => v / all);
}

/** cos(πu), 0 ≤ u ≤ 1: the series of a sine, as the cosine of the machine need not be that of another. */
function cosine(u: number): number {
  const y = Math.PI * (0.5 - u);
  let term = y;
  let s = y;
  for (let k = 1; k < 16; k++) {
    term *= (-y * y) / (2 * k * (2 * k + 1));
    s += term;
  }
  return s;
}
