import { combine } from './budget';
import { coverageFactor, normalCdf, normalQuantile, studentTwoSided } from './distributions';
import { excess, outer, propagate, commonMode, diagonal } from './covariance';
import { fitLinear, solveLinear } from './leastSquares';
import { weightedMean } from './means';

describe('distributions', () => {
  // GUM (JCGM 100:2008) table G.2: t for 95.45 % and 99 %.
  test.each([
    [1, 13.97, 63.66],
    [2, 4.53, 9.92],
    [5, 2.65, 4.03],
    [10, 2.28, 3.17],
    [20, 2.13, 2.85],
    [50, 2.05, 2.68],
    [Infinity, 2, 2.576],
  ])('ν = %d: %d and %d', (freedom, t95, t99) => {
    expect(coverageFactor(freedom)).toBeCloseTo(t95, 2);
    expect(studentTwoSided(0.01, freedom)).toBeCloseTo(t99, 2);
  });

  test('normal quantiles (standard tables)', () => {
    expect(normalQuantile(0.975)).toBeCloseTo(1.959964, 6);
    expect(normalQuantile(0.001)).toBeCloseTo(-3.090232, 6);
    expect(normalCdf(1)).toBeCloseTo(0.8413447, 7);
    expect(normalCdf(-6)).toBeCloseTo(9.8659e-10, 13);
  });
});

test('GUM annex H.1, end gauge: u_c = 32 nm, ν_eff = 16, U99 = 93 nm', () => {
  const { u, degreesOfFreedom } = combine([
    { source: 'standard', u: 25, degreesOfFreedom: 18 },
    { source: 'difference', u: 9.7, degreesOfFreedom: 25.6 },
    { source: 'expansion', u: 2.9, degreesOfFreedom: 50 },
    { source: 'temperature', u: 16.6, degreesOfFreedom: 2 },
  ]);
  expect(Math.round(u)).toBe(32);
  expect(Math.floor(degreesOfFreedom)).toBe(16);
  expect(Math.round(studentTwoSided(0.01, Math.floor(degreesOfFreedom)) * u)).toBe(93);
});

test('budget lines are shares of the variance, the largest first', () => {
  const { lines, u95 } = combine([
    { source: 'small', u: 3, degreesOfFreedom: Infinity },
    { source: 'large', u: 4, degreesOfFreedom: Infinity },
    { source: 'none', u: 0, degreesOfFreedom: 1 },
  ]);
  expect(lines.map((line) => line.source)).toEqual(['large', 'small']);
  expect(lines[0].share).toBeCloseTo(0.64, 12);
  expect(u95).toBeCloseTo(10, 3);
});

describe('weighted mean', () => {
  test('worked by hand: 10 ± 1 and 12 ± 2', () => {
    const { value, weights, birgeRatio } = weightedMean([10, 12], [1, 2]);
    expect(value).toBeCloseTo(10.4, 12);
    expect(weights[0]).toBeCloseTo(0.8, 12);
    // χ² = 0.16 + 0.64 = 0.8 with one degree of freedom.
    expect(birgeRatio).toBeCloseTo(Math.sqrt(0.8), 12);
  });

  test('results without uncertainty share the weight', () => {
    expect(weightedMean([1, 3, 100], [0, 0, 1]).value).toBe(2);
    expect(weightedMean([5], [1])).toMatchObject({ value: 5, birgeRatio: 0 });
  });
});

describe('covariance', () => {
  test('a common error cancels in a difference, independent ones add', () => {
    expect(propagate(commonMode(0.1), [1, -1, 0])).toBeCloseTo(0, 15);
    expect(propagate(diagonal([0.3, 0.4, 0]), [1, 1, 0])).toBeCloseTo(0.25, 12);
    expect(propagate(outer([1, 2, 3]), [1, 1, 1])).toBeCloseTo(36, 12);
  });

  test('what is beyond noise stays positive', () => {
    const none = excess(diagonal([0.1, 0.1, 0.1]), diagonal([0.2, 0.2, 0.2]));
    expect([...none]).toEqual(new Array(9).fill(0));
    expect(propagate(excess(commonMode(0.2), diagonal([0, 0, 0])), [1 / 3, 1 / 3, 1 / 3])).toBeCloseTo(0.04, 12);
  });
});

test('least squares', () => {
  expect(
    solveLinear(
      [
        [0, 2],
        [1, 1],
      ],
      [4, 5],
    ),
  ).toEqual([3, 2]);
  expect(
    solveLinear(
      [
        [1, 1],
        [2, 2],
      ],
      [1, 2],
    ),
  ).toBeNull();
  const x = [0, 1, 2, 3];
  const fit = fitLinear([x.map(() => 1), x], [1, 3, 5, 7]);
  expect(fit![0]).toBeCloseTo(1, 12);
  expect(fit![1]).toBeCloseTo(2, 12);
});
