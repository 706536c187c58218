/** Distributions against published tables and against properties that define them. */
import fc from 'fast-check';
import { combine, expand, reading } from './budget';
import { accumulate, commonMode, diagonal, excess, outer, propagate, scaled, zeroCovariance } from './covariance';
import { coverageFactor, normalCdf, normalQuantile, studentTwoSided } from './distributions';
import { fitLinear, solveLinear } from './leastSquares';
import { weightedMean } from './means';
import { Matrix, solve } from 'ml-matrix';
import { seededNormals, seededUniforms } from './seededNormals';

/** JCGM 100:2008, table G.2: ν, and t for 68.27, 90, 95, 95.45, 99 and 99.73 %. */
const G2: readonly (readonly [number, number, number, number, number, number, number])[] = [
  [1, 1.84, 6.31, 12.71, 13.97, 63.66, 235.8],
  [2, 1.32, 2.92, 4.3, 4.53, 9.92, 19.21],
  [3, 1.2, 2.35, 3.18, 3.31, 5.84, 9.22],
  [4, 1.14, 2.13, 2.78, 2.87, 4.6, 6.62],
  [5, 1.11, 2.02, 2.57, 2.65, 4.03, 5.51],
  [6, 1.09, 1.94, 2.45, 2.52, 3.71, 4.9],
  [7, 1.08, 1.89, 2.36, 2.43, 3.5, 4.53],
  [8, 1.07, 1.86, 2.31, 2.37, 3.36, 4.28],
  [9, 1.06, 1.83, 2.26, 2.32, 3.25, 4.09],
  [10, 1.05, 1.81, 2.23, 2.28, 3.17, 3.96],
  [11, 1.05, 1.8, 2.2, 2.25, 3.11, 3.85],
  [12, 1.04, 1.78, 2.18, 2.23, 3.05, 3.76],
  [13, 1.04, 1.77, 2.16, 2.21, 3.01, 3.69],
  [14, 1.04, 1.76, 2.14, 2.2, 2.98, 3.64],
  [15, 1.03, 1.75, 2.13, 2.18, 2.95, 3.59],
  [16, 1.03, 1.75, 2.12, 2.17, 2.92, 3.54],
  [17, 1.03, 1.74, 2.11, 2.16, 2.9, 3.51],
  [18, 1.03, 1.73, 2.1, 2.15, 2.88, 3.48],
  [19, 1.03, 1.73, 2.09, 2.14, 2.86, 3.45],
  [20, 1.03, 1.72, 2.09, 2.13, 2.85, 3.42],
  [25, 1.02, 1.71, 2.06, 2.11, 2.79, 3.33],
  [30, 1.02, 1.7, 2.04, 2.09, 2.75, 3.27],
  [35, 1.01, 1.7, 2.03, 2.07, 2.72, 3.23],
  [40, 1.01, 1.68, 2.02, 2.06, 2.7, 3.2],
  [45, 1.01, 1.68, 2.01, 2.06, 2.69, 3.18],
  [50, 1.01, 1.68, 2.01, 2.05, 2.68, 3.16],
  [100, 1.005, 1.66, 1.984, 2.025, 2.626, 3.077],
];

describe.each(G2)('GUM table G.2, ν = %d', (freedom, one, ninety, ninetyFive, two, ninetyNine, three) => {
  // The table is rounded; two of its entries (90 % at 35, 68.27 % at 1) are cut or rounded otherwise, by less than 0.011.
  test.each([
    [0.6827, one],
    [0.9, ninety],
    [0.95, ninetyFive],
    [0.99, ninetyNine],
    [0.9973, three],
  ])('%d', (coverage, t) => {
    const close = t > 100 ? 0.1 : 0.0115;
    expect(Math.abs(studentTwoSided(1 - coverage, freedom) - t)).toBeLessThan(close);
  });

  test('95.45 %, which is the coverage factor', () => {
    expect(Math.abs(coverageFactor(freedom) - two)).toBeLessThan(0.0115);
  });
});

describe('the ends', () => {
  test('without end, and beyond a million, Student’s distribution is the normal one', () => {
    expect(coverageFactor(Infinity)).toBeCloseTo(2, 9);
    expect(coverageFactor(1e7)).toBeCloseTo(2, 9);
    expect(coverageFactor(NaN)).toBeCloseTo(2, 9);
    expect(coverageFactor(1e5)).toBeCloseTo(2, 3);
  });

  test('fewer than one degree of freedom count as one', () => {
    expect(coverageFactor(0.2)).toBe(coverageFactor(1));
    expect(coverageFactor(1)).toBeGreaterThan(13.9);
  });

  test('quantiles at and beyond 0 and 1', () => {
    expect(normalQuantile(0)).toBe(-Infinity);
    expect(normalQuantile(-0.1)).toBe(-Infinity);
    expect(normalQuantile(1)).toBe(Infinity);
    expect(normalQuantile(1.5)).toBe(Infinity);
  });

  test('between whole degrees of freedom it lies between', () => {
    expect(coverageFactor(4.5)).toBeLessThan(coverageFactor(4));
    expect(coverageFactor(4.5)).toBeGreaterThan(coverageFactor(5));
  });
});

test.each([
  // Standard normal table.
  [0.5, 0],
  [0.8413447461, 1],
  [0.9772498681, 2],
  [0.998650102, 3],
  [0.99, 2.326347874],
  [0.999, 3.0902323062],
  [0.025, -1.9599639845],
])('the normal quantile of %d is %d, and back', (p, x) => {
  expect(normalQuantile(p)).toBeCloseTo(x, 7);
  expect(normalCdf(x)).toBeCloseTo(p, 9);
});

test('quantile and distribution undo each other (property)', () => {
  fc.assert(
    fc.property(fc.double({ min: -5, max: 5, noNaN: true }), (x) => {
      expect(normalQuantile(normalCdf(x))).toBeCloseTo(x, 6);
      expect(normalCdf(x) + normalCdf(-x)).toBeCloseTo(1, 12);
    }),
  );
});

describe('budgets', () => {
  test('Welch–Satterthwaite by hand: 3 with 4 and 4 with 9 degrees of freedom', () => {
    const { u, degreesOfFreedom, u95, lines } = combine([
      { source: 'a', u: 3, degreesOfFreedom: 4 },
      { source: 'b', u: 4, degreesOfFreedom: 9 },
    ]);
    expect(u).toBeCloseTo(5, 12);
    expect(degreesOfFreedom).toBeCloseTo(625 / (81 / 4 + 256 / 9), 9);
    expect(u95).toBeCloseTo(5 * coverageFactor(625 / (81 / 4 + 256 / 9)), 9);
    expect(lines.map(({ source, share, degreesOfFreedom: freedom }) => [source, share, freedom])).toEqual([
      ['b', 0.64, 9],
      ['a', 0.36, 4],
    ]);
  });

  test('nothing uncertain is no line and no ±', () => {
    const none = combine([{ source: 'none', u: 0, degreesOfFreedom: Infinity }]);
    expect(none).toEqual({ u: 0, u95: 0, degreesOfFreedom: Infinity, lines: [] });
  });

  test('sizes that no sample gave have no degrees of freedom to show', () => {
    const [line] = combine([{ source: 'resolution', u: 1, degreesOfFreedom: Infinity, channels: [1, 2, 3] }]).lines;
    expect(line).toEqual({ source: 'resolution', u: 1, share: 1, degreesOfFreedom: null, channels: [1, 2, 3] });
  });

  test('three channels reach a figure by its gradient', () => {
    const expanded = expand(
      [
        { source: 'noise', covariance: diagonal([0.3, 0.4, 0]), degreesOfFreedom: Infinity },
        { source: 'repeats', covariance: commonMode(0.1), degreesOfFreedom: 3 },
      ],
      [1, 0.5, 0.25],
    );
    // (0.3)² + (0.2)² = 0.13; (0.1 · 1.75)² = 0.030625.
    expect(expanded.u).toBeCloseTo(Math.sqrt(0.13 + 0.030625), 12);
    expect(expanded.lines[0]).toMatchObject({ source: 'noise', channels: [0.3, 0.4, 0] });
    expect(expanded.lines[1].channels).toEqual([
      expect.closeTo(0.1, 12),
      expect.closeTo(0.1, 12),
      expect.closeTo(0.1, 12),
    ]);
    expect(reading(1.5, expanded)).toEqual({ value: 1.5, u95: expanded.u95 });
  });
});

describe('covariances', () => {
  test('add up in proportion, and leave what they are made of', () => {
    const first = diagonal([1, 2, 3]);
    const sum = accumulate(zeroCovariance(), first, 0.5);
    expect([...sum]).toEqual([0.5, 0, 0, 0, 2, 0, 0, 0, 4.5]);
    expect([...accumulate(sum, outer([1, 1, 1]))]).toEqual([1.5, 1, 1, 1, 3, 1, 1, 1, 5.5]);
    expect([...scaled(first, 2)]).toEqual([2, 0, 0, 0, 8, 0, 0, 0, 18]);
    expect([...first]).toEqual([1, 0, 0, 0, 4, 0, 0, 0, 9]);
  });

  test('the law of propagation is gᵀ C g, never below 0', () => {
    const c = accumulate(diagonal([0.2, 0.1, 0.3]), outer([0.1, -0.2, 0.05]));
    const g = [0.3, 0.6, 0.1];
    const matrix = new Matrix([0, 1, 2].map((i) => [0, 1, 2].map((j) => c[3 * i + j])));
    const column = Matrix.columnVector(g);
    expect(propagate(c, g)).toBeCloseTo(column.transpose().mmul(matrix).mmul(column).get(0, 0), 14);
    expect(propagate(scaled(commonMode(1), -1), [1, 0, 0])).toBe(0);
  });

  test('what is beyond expectation is a common part and one of each channel', () => {
    const sample = accumulate(diagonal([0.3, 0.3, 0.3]), commonMode(0.2));
    const beyond = excess(sample, diagonal([0.1, 0.1, 0.1]));
    // 0.04 in common; 0.09 − 0.01 of each channel's own.
    expect(beyond[1]).toBeCloseTo(0.04, 12);
    expect(beyond[0]).toBeCloseTo(0.12, 12);
    expect(beyond[8]).toBeCloseTo(0.12, 12);
  });

  test('channels that stray against each other have nothing in common', () => {
    const sample = outer([0.2, -0.2, 0]);
    const beyond = excess(sample, zeroCovariance());
    expect(beyond[1]).toBe(0);
    expect(beyond[4]).toBeCloseTo((0.04 + 0.04) / 3, 12);
  });
});

describe('least squares', () => {
  test('larger systems agree with a general library', () => {
    const a = [0, 1, 2, 3, 4].map((i) => [0, 1, 2, 3, 4].map((j) => Math.sin(3 * i + 7 * j) + (i === j ? 2 : 0)));
    const b = [1, -2, 0.5, 4, 0];
    const expected = solve(new Matrix(a), Matrix.columnVector(b)).to1DArray();
    solveLinear(a, b)!.forEach((value, i) => expect(value).toBeCloseTo(expected[i], 12));
  });

  test('leaves its arguments as they are', () => {
    const a = [
      [0, 2],
      [1, 1],
    ];
    solveLinear(a, [4, 5]);
    expect(a).toEqual([
      [0, 2],
      [1, 1],
    ]);
  });

  test('weights count: a point without weight says nothing', () => {
    const x = [0, 1, 2, 3];
    const fit = fitLinear([x.map(() => 1), x], [1, 3, 5, 100], [1, 1, 1, 0])!;
    expect(fit[0]).toBeCloseTo(1, 12);
    expect(fit[1]).toBeCloseTo(2, 12);
    // Twice the weight is the point twice.
    const heavy = fitLinear([x.map(() => 1), x], [1, 3, 5, 8], [1, 1, 1, 2])!;
    const twice = fitLinear(
      [
        [1, 1, 1, 1, 1],
        [...x, 3],
      ],
      [1, 3, 5, 8, 8],
    )!;
    heavy.forEach((value, i) => expect(value).toBeCloseTo(twice[i], 12));
  });

  test('a basis that can’t be told apart gives none', () => {
    expect(
      fitLinear(
        [
          [1, 1, 1],
          [2, 2, 2],
        ],
        [1, 2, 3],
      ),
    ).toBeNull();
  });
});

test('a weighted mean: three results, Birge’s ratio by hand', () => {
  const { value, weights, birgeRatio } = weightedMean([1, 2, 4], [1, 0.5, 1]);
  expect(weights).toEqual([expect.closeTo(1 / 6, 12), expect.closeTo(4 / 6, 12), expect.closeTo(1 / 6, 12)]);
  expect(value).toBeCloseTo(13 / 6, 12);
  // χ² = (7/6)² + (1/3)² + (11/6)², two degrees of freedom.
  expect(birgeRatio).toBeCloseTo(Math.sqrt(((7 / 6) ** 2 + (1 / 3) ** 2 + (11 / 6) ** 2) / 2), 12);
});

describe('seeded numbers', () => {
  test('the same seed gives the same, another one others, all between 0 and 1', () => {
    const [first, same, other] = [seededUniforms(7), seededUniforms(7), seededUniforms(8)];
    const draw = (source: () => number) => Array.from({ length: 200 }, source);
    const list = draw(first);
    expect(draw(same)).toEqual(list);
    expect(draw(other)).not.toEqual(list);
    expect(Math.min(...list)).toBeGreaterThan(0);
    expect(Math.max(...list)).toBeLessThan(1);
  });

  test('uniforms are even, normals have mean 0 and variance 1, and tails as they should', () => {
    const n = 20_000;
    const uniform = seededUniforms(1);
    const tenths = new Array<number>(10).fill(0);
    for (let i = 0; i < n; i++) tenths[Math.floor(10 * uniform())]++;
    // χ² with nine degrees of freedom stays below 27.9 in 999 of 1000.
    expect(tenths.reduce((sum, count) => sum + (count - n / 10) ** 2 / (n / 10), 0)).toBeLessThan(27.9);
    const normal = seededNormals(2);
    const list = Array.from({ length: n }, normal);
    const mean = list.reduce((sum, one) => sum + one, 0) / n;
    expect(Math.abs(mean)).toBeLessThan(4 / Math.sqrt(n));
    expect(list.reduce((sum, one) => sum + one * one, 0) / n).toBeCloseTo(1, 1);
    expect(list.filter((one) => Math.abs(one) > 1.959964).length / n).toBeCloseTo(0.05, 2);
  });
});
