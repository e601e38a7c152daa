// Student's t: how far a mean may be from what it seems, given how few results there are.

/** Logarithm of the gamma function for x > 0 (Stirling's series after a shift; NIST Digital Library of Mathematical Functions, 5.11.1 and 5.5.1). */
function lnGamma(x: number): number {
  let shift = 0;
  let z = x;
  for (; z < 10; z++) shift += Math.log(z);
  const z2 = 1 / (z * z);
  const series = (1 / 12 - z2 * (1 / 360 - z2 * (1 / 1260 - z2 * (1 / 1680)))) / z;
  return (z - 0.5) * Math.log(z) - z + 0.5 * Math.log(2 * Math.PI) + series - shift;
}

/** Regularized incomplete beta function by its continued fraction (the same library, 8.17.22; evaluated after Lentz). */
function betaPart(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  if (x > (a + 1) / (a + b + 2)) return 1 - betaPart(1 - x, b, a);
  const front = Math.exp(
    lnGamma(a + b) - lnGamma(a) - lnGamma(b) + a * Math.log(x) + b * Math.log(1 - x) - Math.log(a),
  );
  let [c, d] = [1, 1 / Math.max(1e-300, 1 - ((a + b) * x) / (a + 1))];
  let f = d;
  for (let m = 1; m < 500; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / (1 + even * d);
    c = 1 + even / c;
    f *= c * d;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / (1 + odd * d);
    c = 1 + odd / c;
    f *= c * d;
    if (Math.abs(c * d - 1) < 1e-15) break;
  }
  return front * f;
}

/** How probably Student's t with so many degrees of freedom is below a value (the same library, 8.17 with x = ν/(ν + t²)). */
export function studentBelow(t: number, freedom: number): number {
  const tail = 0.5 * betaPart(freedom / (freedom + t * t), freedom / 2, 0.5);
  return t > 0 ? 1 - tail : tail;
}

const KNOWN = new Map<string, number>();
/** The value that Student's t is below with a probability; `freedom` from 1 on, need not be whole. */
export function studentQuantile(probability: number, freedom: number): number {
  if (probability < 0.5) return -studentQuantile(1 - probability, freedom);
  const key = `${probability} ${freedom}`;
  const known = KNOWN.get(key);
  if (known !== undefined) return known;
  let [low, high] = [0, 1];
  while (studentBelow(high, freedom) < probability && high < 1e12) high *= 2;
  for (let k = 0; k < 200 && high - low > 1e-13 * high; k++) {
    const middle = (low + high) / 2;
    if (studentBelow(middle, freedom) < probability) low = middle;
    else high = middle;
  }
  KNOWN.set(key, high);
  return high;
}
