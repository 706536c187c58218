/** Against ml-matrix: a general library of linear algebra. */
import { inverse, Matrix, solve } from 'ml-matrix';
import { seededNormals } from '../../formulas/statistics/seededNormals';
import { factorise, inverseOf, solveFactorised } from './symmetric';

const N = 9;

function positive(seed: number): { flat: Float64Array; matrix: Matrix } {
  const draws = seededNormals(seed);
  const root = new Matrix(Array.from({ length: N }, () => Array.from({ length: N }, () => draws())));
  const matrix = root.mmul(root.transpose()).add(Matrix.eye(N, N));
  return { matrix, flat: Float64Array.from(matrix.to1DArray()) };
}

test.each([1, 2, 3])('solutions and inverses are the library’s (%i)', (seed) => {
  const { flat, matrix } = positive(seed);
  const b = Float64Array.from({ length: N }, (_, i) => Math.sin(i + seed));
  const wanted = solve(matrix, Matrix.columnVector([...b])).to1DArray();
  expect(factorise(flat, N)).toBe(true);
  solveFactorised(flat, N, b);
  wanted.forEach((one, i) => expect(b[i]).toBeCloseTo(one, 9));
  const whole = inverse(matrix);
  const { leading, diagonal } = inverseOf(flat, N, 4);
  for (let i = 0; i < N; i++) expect(diagonal[i]).toBeCloseTo(whole.get(i, i), 9);
  for (let i = 0; i < 4; i++) for (let j = 0; j < 4; j++) expect(leading[4 * i + j]).toBeCloseTo(whole.get(i, j), 9);
});

test('only the lower half is read', () => {
  const { flat, matrix } = positive(4);
  const half = flat.map((one, i) => (i % N > Math.floor(i / N) ? NaN : one));
  expect(factorise(half, N)).toBe(true);
  const { diagonal } = inverseOf(half, N, 0);
  expect(diagonal[0]).toBeCloseTo(inverse(matrix).get(0, 0), 9);
});

test('a matrix that isn’t positive definite is refused', () => {
  expect(factorise(Float64Array.of(1, 2, 2, 1), 2)).toBe(false);
  expect(factorise(Float64Array.of(NaN), 1)).toBe(false);
});
