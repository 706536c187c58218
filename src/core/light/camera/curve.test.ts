import { basisAt, etaAt, KNOT_STEP, KNOTS, priorCovariance } from './curve';
import { factorise } from './symmetric';

const atKnots = (of: (light: number) => number) => Float64Array.from({ length: KNOTS }, (_, k) => of(-KNOT_STEP * k));

test('a cubic is told exactly between knots, with its slope', () => {
  const cubic = (x: number) => 0.3 - 0.2 * x + 0.05 * x * x - 0.01 * x ** 3;
  const slope = (x: number) => -0.2 + 0.1 * x - 0.03 * x * x;
  for (const light of [-0.1, -0.7, -3.33, -8.9, -12.8]) {
    const found = etaAt(atKnots(cubic), light);
    expect(found.value).toBeCloseTo(cubic(light), 9);
    expect(found.slope).toBeCloseTo(slope(light), 9);
  }
});

test('beyond full scale and the darkest knot it goes on straight', () => {
  const line = atKnots((x) => 1 + 0.25 * x);
  expect(etaAt(line, 2).value).toBeCloseTo(1.5, 9);
  expect(etaAt(line, -15).value).toBeCloseTo(1 - 3.75, 9);
  const bent = atKnots((x) => x * x);
  const edge = etaAt(bent, 0);
  expect(etaAt(bent, 0.5).value).toBeCloseTo(edge.value + 0.5 * edge.slope, 9);
});

test('shares of the value add up to one, those of the slope to nothing', () => {
  for (const light of [0.4, -0.25, -6.1, -13.5]) {
    const { values, slopes } = basisAt(light);
    expect(values.reduce((sum, one) => sum + one, 0)).toBeCloseTo(1, 9);
    expect(slopes.reduce((sum, one) => sum + one, 0)).toBeCloseTo(0, 9);
  }
});

describe('prior', () => {
  const sigma = 0.35;
  const covariance = priorCovariance(sigma);
  const between = (a: number, b: number) =>
    covariance[a * KNOTS + a] + covariance[b * KNOTS + b] - 2 * covariance[a * KNOTS + b];

  // ∫∫ of 0.33 + 0.55·exp(−Δ²/8) + 0.12·exp(−Δ²/1.28) and of the knee, 1.5·exp(−(x² + y²)/0.98)·exp(−Δ²/0.32), by
  // scipy.integrate.dblquad.
  test.each([
    ['over half a stop far below white: by σ times that, its slope hardly varies', 6, 7, 0.24835],
    ['over six stops: by less, slopes far apart differ', 6, 18, 25.3182],
    ['the half stop below white: by half as much again, for its knee', 0, 1, 0.53139],
    ['from white down', 0, 12, 25.9858],
  ])('%s', (_, from, to, integral) => {
    expect(Math.sqrt(between(from, to)) / (sigma * Math.sqrt(integral))).toBeCloseTo(1, 2);
  });

  test('is positive definite with a hair on its diagonal, and wider all over for a larger σ', () => {
    const matrix = covariance.map((one, i) => one + (i % (KNOTS + 1) === 0 ? 1e-6 : 0));
    expect(factorise(matrix, KNOTS)).toBe(true);
    const wider = priorCovariance(2 * sigma);
    covariance.forEach((one, i) => expect(wider[i]).toBeCloseTo(4 * one, 9));
  });
});
