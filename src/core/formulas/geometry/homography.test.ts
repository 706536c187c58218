/** Homographies against worked matrices, and against ml-matrix where a general library can tell. */
import fc from 'fast-check';
import { inverse, Matrix } from 'ml-matrix';
import { turned, wayBetween } from './angles';
import {
  apartPx,
  applyHomography,
  composeHomographies,
  homographyOf,
  invertHomography,
  NO_MOVE,
  similarity,
  similarityOf,
  type Homography,
  type PointPair,
} from './homography';

/** A strong one: turned, sheared, with perspective. */
const STRONG: Homography = [1.1, -0.2, 0.05, 0.15, 0.95, -0.08, 0.06, -0.04, 1];
const CORNERS = [
  [-1, -0.6],
  [1, -0.6],
  [1, 0.6],
  [-1, 0.6],
  [0.2, 0.1],
] as const;
const matrixOf = (h: Homography) => new Matrix([h.slice(0, 3), h.slice(3, 6), h.slice(6, 9)].map((row) => [...row]));
const entriesOf = (matrix: Matrix) => matrix.to1DArray().map((value) => value / matrix.get(2, 2));

describe('angles that come round', () => {
  test.each([
    [370, 360, 10],
    [-10, 360, 350],
    [360, 360, 0],
    [-190, 180, 170],
    [0, 180, 0],
  ])('%d° in a period of %d° is %d°', (degrees, period, expected) => {
    expect(turned(degrees, period)).toBeCloseTo(expected, 12);
  });

  test.each([
    [350, 10, 360, 20],
    [10, 350, 360, -20],
    [0, 180, 360, 180],
    [180, 0, 360, 180],
    [170, 5, 180, 15],
    [5, 170, 180, -15],
    [0, 90, 180, 90],
  ])('from %d° to %d° in %d° it is %d°', (from, to, period, way) => {
    expect(wayBetween(from, to, period)).toBeCloseTo(way, 12);
  });
});

describe('one homography', () => {
  test('moves points by the fraction of its rows', () => {
    expect(applyHomography(NO_MOVE, 0.3, -0.7)).toEqual([0.3, -0.7]);
    const [x, y] = applyHomography(STRONG, 0.5, 0.25);
    // By hand: (0.55 − 0.05 + 0.05, 0.075 + 0.2375 − 0.08) over 0.03 − 0.01 + 1.
    expect(x).toBeCloseTo(0.55 / 1.02, 12);
    expect(y).toBeCloseTo(0.2325 / 1.02, 12);
  });

  test('goes back by its inverse, which a general library gives too', () => {
    const back = invertHomography(STRONG);
    entriesOf(inverse(matrixOf(STRONG))).forEach((value, i) => expect(back[i]).toBeCloseTo(value, 12));
    for (const [x, y] of CORNERS) {
      const [u, v] = applyHomography(back, ...applyHomography(STRONG, x, y));
      expect(u).toBeCloseTo(x, 12);
      expect(v).toBeCloseTo(y, 12);
    }
  });

  test('after another is their product', () => {
    const turn = similarity(1.05, 0.1, 0.02, -0.03);
    const both = composeHomographies(STRONG, turn);
    entriesOf(matrixOf(STRONG).mmul(matrixOf(turn))).forEach((value, i) => expect(both[i]).toBeCloseTo(value, 12));
    const [x, y] = applyHomography(both, 0.4, -0.2);
    const [u, v] = applyHomography(STRONG, ...applyHomography(turn, 0.4, -0.2));
    expect([x, y]).toEqual([expect.closeTo(u, 12), expect.closeTo(v, 12)]);
  });

  test('a similarity turns clockwise as seen, since y goes down', () => {
    const [x, y] = applyHomography(similarity(2, Math.PI / 2, 0.1, 0.2), 1, 0);
    expect(x).toBeCloseTo(0.1, 12);
    expect(y).toBeCloseTo(2.2, 12);
  });
});

describe('from pairs of points', () => {
  const pairsOf = (h: Homography): PointPair[] => CORNERS.map(([x, y]) => [x, y, ...applyHomography(h, x, y)]);

  test('two tell a similarity', () => {
    const truth = similarity(0.93, -0.21, 0.04, 0.11);
    const [first, second] = pairsOf(truth);
    similarityOf(first, second)!.forEach((value, i) => expect(value).toBeCloseTo(truth[i], 12));
    expect(similarityOf(first, [first[0], first[1], 0.5, 0.5])).toBeNull();
  });

  test('four tell a homography, more are fitted', () => {
    homographyOf(pairsOf(STRONG))!.forEach((value, i) => expect(value).toBeCloseTo(STRONG[i], 6));
    homographyOf(pairsOf(STRONG).slice(0, 4))!.forEach((value, i) => expect(value).toBeCloseTo(STRONG[i], 6));
  });

  test('any small one comes back (property)', () => {
    const small = fc.double({ min: -0.05, max: 0.05, noNaN: true });
    fc.assert(
      fc.property(fc.tuple(small, small, small, small, small, small, small, small), (d) => {
        const truth: Homography = [1 + d[0], d[1], d[2], d[3], 1 + d[4], d[5], d[6], d[7], 1];
        expect(apartPx(homographyOf(pairsOf(truth))!, truth, 1200, 720)).toBeLessThan(1e-3);
      }),
      { numRuns: 50 },
    );
  });
});

test('how far two lie apart is in pixels of the width', () => {
  expect(apartPx(NO_MOVE, NO_MOVE, 1000, 600)).toBe(0);
  // A shift by 0.01 half widths is 5 pixels of 1000, everywhere.
  expect(apartPx(NO_MOVE, similarity(1, 0, 0.01, 0), 1000, 600)).toBeCloseTo(5, 9);
  expect(apartPx(NO_MOVE, similarity(1, 0, 0, -0.02), 1000, 600)).toBeCloseTo(10, 9);
  // A scale of 1 + s moves a place by s times its distance: the root mean square over a five by five grid.
  const places = [-1, -0.5, 0, 0.5, 1];
  const squares = places.flatMap((i) => places.map((j) => (0.95 * i) ** 2 + (0.95 * 0.6 * j) ** 2));
  const expected = 0.01 * Math.sqrt(squares.reduce((sum, one) => sum + one, 0) / 25) * 500;
  expect(apartPx(NO_MOVE, similarity(1.01, 0, 0, 0), 1000, 600)).toBeCloseTo(expected, 9);
});
