/** What a place adds to the equations, against products of whole matrices by ml-matrix: a general library of linear algebra. */
import { Matrix } from 'ml-matrix';
import { basisAt, KNOTS } from './curve';
import { onesIn, PlaceTerms } from './terms';

/** Covariance's inverse: symmetric, channels bound to each other. */
const WEIGHT = Float64Array.of(5, 1, 0.5, 1, 4, -1, 0.5, -1, 3);
const N = 4 * KNOTS + 4;
const LIGHTS = [-1.3, -2.9, -6.2];

/** Of the common curve all knots between the darkest and the brightest channel count as touched. */
function isBetween(i: number): boolean {
  const firsts = LIGHTS.map((light) => basisAt(light).first);
  return i >= Math.min(...firsts) && i < Math.max(...firsts) + 4;
}

test('products and right sides are those of the whole matrices, in the lower triangle', () => {
  const terms = new PlaceTerms();
  LIGHTS.forEach((light, c) => {
    terms.bases[c] = basisAt(light);
    terms.residual[c] = 0.1 * (c + 1);
    terms.slopes[c] = 1 + 0.2 * c;
  });
  terms.addCurves();
  terms.addAll(N - 3, (c) => c + 0.5);
  terms.addOne(N - 1, 2, -4);
  // The same rows by hand: at each light the shares of four knots, in the common curve and in the channel's own.
  const rows = LIGHTS.map((light, c) => {
    const row = new Array<number>(N).fill(0);
    const { first, values } = basisAt(light);
    values.forEach((value, k) => {
      row[first + k] += value;
      row[(c + 1) * KNOTS + first + k] += value;
    });
    row[N - 3] = c + 0.5;
    if (c === 2) row[N - 1] = -4;
    return row;
  });
  const [jacobian, weight] = [new Matrix(rows), Matrix.from1DArray(3, 3, [...WEIGHT])];
  const residual = Matrix.columnVector([0.1, 0.2, 0.3]);
  const slopes = Matrix.diag([1, 1.2, 1.4]);
  const sums = {
    normal: new Float64Array(N * N),
    right: new Float64Array(N),
    cross: new Float64Array(3 * N),
    touched: new Uint8Array(N),
    rest: new Float64Array(3),
    block: new Float64Array(9),
  };
  const misfit = terms.add(WEIGHT, N, sums);
  const weighted = jacobian.transpose().mmul(weight);
  const normal = weighted.mmul(jacobian);
  for (let i = 0; i < N; i++)
    for (let j = 0; j < N; j++) expect(sums.normal[i * N + j]).toBeCloseTo(j <= i ? normal.get(i, j) : 0, 10);
  const equal = (found: Float64Array, wanted: Matrix) => {
    const list = wanted.to1DArray();
    expect(found).toHaveLength(list.length);
    list.forEach((one, i) => expect(found[i]).toBeCloseTo(one, 10));
  };
  equal(sums.right, weighted.mmul(residual));
  equal(sums.cross, weighted.mmul(slopes));
  equal(sums.block, slopes.mmul(weight).mmul(slopes));
  equal(sums.rest, slopes.mmul(weight).mmul(residual));
  expect(misfit).toBeCloseTo(residual.transpose().mmul(weight).mmul(residual).get(0, 0), 12);
  const touched = rows[0].flatMap((_, i) => (isBetween(i) || rows.some((row) => row[i] !== 0) ? [i] : []));
  expect([...onesIn(sums.touched)]).toEqual(touched);
});
