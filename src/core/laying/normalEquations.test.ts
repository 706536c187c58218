/** The sums against plain matrix products of a general library. */
import { Matrix } from 'ml-matrix';
import { seededUniforms } from '../formulas/statistics/seededNormals';
import { addGradient, addProducts, type Rows } from './normalEquations';

function drawn(parameters: number, count: number): Rows {
  const next = seededUniforms(parameters);
  const values = (n: number) => Float64Array.from({ length: n }, () => next() - 0.5);
  // Every third row has no say.
  const weights = values(count).map((one, i) => (i % 3 === 0 ? 0 : one + 0.5));
  return { count, parameters, derivatives: values(count * parameters), weights, residuals: values(count) };
}

test.each([4, 8])('JᵀWJ and JᵀWr of %d parameters, onto what is there', (parameters) => {
  const rows = drawn(parameters, 500);
  const J = Matrix.from1DArray(500, parameters, rows.derivatives);
  const W = Matrix.diag(Array.from(rows.weights));
  const products = J.transpose().mmul(W).mmul(J);
  const pulls = J.transpose().mmul(W).mmul(Matrix.columnVector(rows.residuals));
  const upper = new Float64Array((parameters * (parameters + 1)) / 2).fill(7);
  const gradient = new Float64Array(parameters).fill(3);
  addProducts(upper, rows);
  addGradient(gradient, rows);
  for (let k = 0, slot = 0; k < parameters; k++) {
    expect(gradient[k] - 3).toBeCloseTo(pulls.get(k, 0), 10);
    for (let l = k; l < parameters; l++, slot++) expect(upper[slot] - 7).toBeCloseTo(products.get(k, l), 10);
  }
});
