/** Against ml-matrix: a general library of linear algebra. */
import { inverse, Matrix, solve } from 'ml-matrix';
import { seededNormals } from '../../formulas/statistics/seededNormals';
import { factorise, inverseOf, solveFactorised, takeProducts } from './symmetric';

const N = 9;

function positive(seed: number, n = N): { flat: Float64Array; matrix: Matrix } {
  const draws = seededNormals(seed);
  const root = new Matrix(Array.from({ length: n }, () => Array.from({ length: n }, () => draws())));
  const matrix = root.mmul(root.transpose()).add(Matrix.eye(n, n));
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

test.each([1, 2, 3, 4, 5, 7, 8, 12, 18])('inverses of every size, whatever is left of fours (%i)', (n) => {
  const { flat, matrix } = positive(n, n);
  expect(factorise(flat, n)).toBe(true);
  const whole = inverse(matrix);
  const { leading, diagonal } = inverseOf(flat, n, n);
  for (let i = 0; i < n; i++) expect(diagonal[i]).toBeCloseTo(whole.get(i, i), 9);
  for (let i = 0; i < n; i++) for (let j = 0; j < n; j++) expect(leading[n * i + j]).toBeCloseTo(whole.get(i, j), 9);
});

test.each<{ list: number[] }>([
  { list: [] },
  { list: [2] },
  { list: [0, 3] },
  { list: [1, 2, 4] },
  { list: [0, 2, 3, 5] },
])('products of three leave the triangle at the rows $list', ({ list }) => {
  const n = 6;
  const draws = seededNormals(7);
  const [left, right] = [0, 1].map(() => Float64Array.from({ length: 3 * list.length }, draws));
  const matrix = new Float64Array(n * n).fill(10);
  takeProducts(matrix, n, Int32Array.from(list), left, right);
  const rows = (flat: Float64Array) => list.map((_, a) => [...flat.subarray(3 * a, 3 * a + 3)]);
  const products = list.length === 0 ? null : new Matrix(rows(left)).mmul(new Matrix(rows(right)).transpose());
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) {
      const [a, b] = [list.indexOf(i), list.indexOf(j)];
      const taken = a < 0 || b < 0 || j > i ? 0 : products!.get(a, b);
      expect(matrix[i * n + j]).toBeCloseTo(10 - taken, 12);
    }
});
