// Source: the package pure-rand 8.4.2, xoroshiro128plus.
import { xoroshiro128plusFromState } from 'pure-rand/generator/xoroshiro128plus';
import { createRandom, ln, nextInt, normal } from '@/core/sim/random';

test('our generator gives the same numbers as the library from the same state', () => {
  for (let seed = 0; seed < 20; seed++) {
    const ours = createRandom(seed, 'check');
    const [s0l, s0h, s1l, s1h] = ours as unknown as [number, number, number, number];
    const theirs = xoroshiro128plusFromState([s0h, s0l, s1h, s1l]);
    for (let i = 0; i < 2_000; i++) expect(nextInt(ours)).toBe(theirs.next() | 0);
  }
});

test('the logarithm made of basic arithmetic agrees with Math.log', () => {
  for (let x = 1e-9; x < 1e9; x *= 1.37) expect(ln(x)).toBeCloseTo(Math.log(x), 9);
});

test('normal draws have the moments of the normal distribution (mean 0, variance 1, kurtosis 3)', () => {
  const r = createRandom(11, 'moments');
  const draws = Array.from({ length: 60_000 }, () => normal(r));
  const moment = (k: number) => draws.reduce((a, x) => a + x ** k, 0) / draws.length;
  expect(moment(1)).toBeCloseTo(0, 1);
  expect(moment(2)).toBeCloseTo(1, 1);
  expect(Math.abs(moment(4) - 3)).toBeLessThan(0.15);
});
