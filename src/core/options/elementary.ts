/**
 * Exponential, logarithm and the normal distribution from sums, products, quotients and square roots
 * alone, so that a quote that is made with them is the same to the last digit on every machine (ECMA-262
 * leaves the last digits of a machine's own exponential and logarithm to it).
 */

/** 2^k for k from −1074 to 1023. */
const POWERS = (() => {
  const p = new Float64Array(2098);
  p[1074] = 1;
  for (let k = 1; k <= 1023; k++) p[1074 + k] = (p[1074 + k - 1] as number) * 2;
  for (let k = 1; k <= 1074; k++) p[1074 - k] = (p[1074 - k + 1] as number) / 2;
  return p;
})();
const LN2_HIGH = 0.6931471803691238;
const LN2_LOW = 1.9082149292705877e-10;

/** e^x, to the last digit or the one before (the method of fdlibm: ln 2 in two parts, a rational approximation of the rest). */
export function exp(x: number): number {
  if (x > 709) return x > 709.782712893384 ? Number.POSITIVE_INFINITY : exp(x - 1) * Math.E;
  if (x < -745.13) return 0;
  if (Number.isNaN(x)) return x;
  const k = Math.floor(x * 1.4426950408889634 + 0.5);
  const hi = x - k * LN2_HIGH;
  const lo = k * LN2_LOW;
  const r = hi - lo;
  const t = r * r;
  const c =
    r -
    t *
      (0.16666666666666602 +
        t *
          (-0.0027777777777015593 +
            t * (0.00006613756321437934 + t * (-0.0000016533902205465252 + t * 4.1381367970572385e-8))));
  const y = 1 - (lo - (r * c) / (2 - c) - hi);
  // Below the normal numbers in two steps, so that only the last one rounds.
  return k < -1021
    ? y * (POWERS[1074 + k + 60] as number) * (POWERS[1074 - 60] as number)
    : y * (POWERS[1074 + k] as number);
}

const bits = new Float64Array(1);
const words = new Uint32Array(bits.buffer);

/** The natural logarithm, to the last digit or the one before (the method of fdlibm). */
export function ln(x: number): number {
  if (!(x > 0)) return x === 0 ? Number.NEGATIVE_INFINITY : Number.NaN;
  if (x === Number.POSITIVE_INFINITY) return x;
  let k = 0;
  if (x < 2.2250738585072014e-308) {
    x *= 18014398509481984;
    k = -54;
  }
  bits[0] = x;
  const high = words[1] as number;
  k += (high >>> 20) - 1023;
  // The mantissa between √½ and √2.
  const up = ((high & 0xfffff) + 0x95f64) & 0x100000;
  words[1] = (high & 0xfffff) | (up ^ 0x3ff00000);
  k += up >>> 20;
  const f = (bits[0] as number) - 1;
  const s = f / (2 + f);
  const z = s * s;
  const w = z * z;
  const r =
    w * (0.3999999999940942 + w * (0.22222198432149784 + w * 0.15313837699209373)) +
    z * (0.6666666666666735 + w * (0.2857142874366239 + w * (0.1818357216161805 + w * 0.14798198605116586)));
  const half = 0.5 * f * f;
  return k * LN2_HIGH - (half - (s * (half + r) + k * LN2_LOW) - f);
}

/**
 * e^(x²) erfc(x), for x ≥ 0 the scaled complement of the error function; relative error below 1e-15
 * (W. J. Cody, Rational Chebyshev approximations for the error function, Math. Comp. 23, 1969; from memory).
 */
function scaled(x: number): number {
  if (x < CENTRAL) return (1 - small(x)) * exp(x * x);
  if (x <= 4) {
    const above =
      (((((((2.1531153547440383e-8 * x + 0.5641884969886701) * x + 8.883149794388377) * x +
        66.11919063714163) *
        x +
        298.6351381974001) *
        x +
        881.952221241769) *
        x +
        1712.0476126340707) *
        x +
        2051.0783778260716) *
        x +
      1230.3393547979972;
    const under =
      (((((((x + 15.744926110709835) * x + 117.6939508913125) * x + 537.1811018620099) * x +
        1621.3895745666903) *
        x +
        3290.7992357334597) *
        x +
        4362.619090143247) *
        x +
        3439.3676741437216) *
        x +
      1230.3393548037495;
    return above / under;
  }
  const y = 1 / (x * x);
  const above =
    ((((0.016315387137302097 * y + 0.30532663496123236) * y + 0.36034489994980445) * y +
      0.12578172611122926) *
      y +
      0.016083785148742275) *
      y +
    0.0006587491615298378;
  const under =
    ((((y + 2.568520192289822) * y + 1.8729528499234673) * y + 0.5279051029514285) * y +
      0.06051834131244132) *
      y +
    0.0023352049762686918;
  return (0.5641895835477563 - (y * above) / under) / x;
}
/** Below this the error function itself is approximated, above it its complement. */
const CENTRAL = 0.46875;
/** erf(x) for |x| < 0.46875. */
function small(x: number): number {
  const y = x * x;
  return (
    (x *
      ((((0.18577770618460315 * y + 3.1611237438705655) * y + 113.86415415105016) * y + 377.485237685302) *
        y +
        3209.3775891384694)) /
    ((((y + 23.601290952344122) * y + 244.02463793444417) * y + 1282.6165260773723) * y + 2844.236833439171)
  );
}
/** √½ and 1/√(2π). */
const ROOT_HALF = 0.7071067811865476;
export const ROOT_2PI_INVERSE = 0.3989422804014327;

/** Density of the standard normal distribution. */
export const density = (x: number): number => ROOT_2PI_INVERSE * exp(-0.5 * x * x);

/** Distribution function of the standard normal distribution; its relative error stays below 1e-13 far into the lower tail. */
export const normal = (x: number): number => below(x, density(x));

/** normal(x) from the density there: for who has it already, and so that tails that share a density differ by no error of it. */
export function below(x: number, densityThere: number): number {
  const y = Math.abs(x) * ROOT_HALF;
  if (y < CENTRAL) return 0.5 + 0.5 * small(x * ROOT_HALF);
  const tail = 1.2533141373155003 * densityThere * scaled(y);
  return x < 0 ? tail : 1 - tail;
}

/** normal(−x) ÷ density(x), Mills's ratio, for x ≥ 0. */
export const mills = (x: number): number => 1.2533141373155003 * scaled(x * ROOT_HALF);
