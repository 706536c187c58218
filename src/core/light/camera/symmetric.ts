/** Symmetric positive definite matrices, row-major, in place: for the few hundred unknowns of a response. */

/** Cholesky factor L (lower), over the matrix itself; false where it isn't positive definite. */
export function factorise(matrix: Float64Array, n: number): boolean {
  for (let j = 0; j < n; j++) {
    const row = j * n;
    let diagonal = matrix[row + j];
    for (let k = 0; k < j; k++) diagonal -= matrix[row + k] * matrix[row + k];
    if (!(diagonal > 0)) return false;
    const root = Math.sqrt(diagonal);
    matrix[row + j] = root;
    let i = j + 1;
    // Four rows at a time: each sum waits for its own last term alone.
    for (; i + 3 < n; i += 4) {
      const [r0, r1, r2, r3] = [i * n, (i + 1) * n, (i + 2) * n, (i + 3) * n];
      let [s0, s1, s2, s3] = [matrix[r0 + j], matrix[r1 + j], matrix[r2 + j], matrix[r3 + j]];
      for (let k = 0; k < j; k++) {
        const one = matrix[row + k];
        s0 -= matrix[r0 + k] * one;
        s1 -= matrix[r1 + k] * one;
        s2 -= matrix[r2 + k] * one;
        s3 -= matrix[r3 + k] * one;
      }
      matrix[r0 + j] = s0 / root;
      matrix[r1 + j] = s1 / root;
      matrix[r2 + j] = s2 / root;
      matrix[r3 + j] = s3 / root;
    }
    for (; i < n; i++) {
      const other = i * n;
      let sum = matrix[other + j];
      for (let k = 0; k < j; k++) sum -= matrix[other + k] * matrix[row + k];
      matrix[other + j] = sum / root;
    }
  }
  return true;
}

/** Solves L·Lᵀ·x = b in place, from {@link factorise}. */
export function solveFactorised(factor: Float64Array, n: number, b: Float64Array): void {
  for (let i = 0; i < n; i++) {
    let sum = b[i];
    for (let k = 0; k < i; k++) sum -= factor[i * n + k] * b[k];
    b[i] = sum / factor[i * n + i];
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = b[i];
    for (let k = i + 1; k < n; k++) sum -= factor[k * n + i] * b[k];
    b[i] = sum / factor[i * n + i];
  }
}

/** The inverse's leading block and its whole diagonal, from {@link factorise}. */
export function inverseOf(
  factor: Float64Array,
  n: number,
  block: number,
): { leading: Float64Array; diagonal: Float64Array } {
  // L⁻¹ with its columns as rows, so that both factors of a sum lie side by side; (L·Lᵀ)⁻¹ = L⁻ᵀ·L⁻¹.
  const lower = new Float64Array(n * n);
  const solveColumn = (column: number, to: number) => {
    const own = column * n;
    lower[own + column] = 1 / factor[own + column];
    for (let i = column + 1; i < to; i++) {
      const row = i * n;
      let sum = 0;
      for (let k = column; k < i; k++) sum -= factor[row + k] * lower[own + k];
      lower[own + i] = sum / factor[row + i];
    }
  };
  let column = 0;
  // Four columns at a time, as in factorise: above the diagonal they are 0.
  for (; column + 3 < n; column += 4) {
    for (let c = column; c < column + 4; c++) solveColumn(c, column + 4);
    const [c0, c1, c2, c3] = [column * n, (column + 1) * n, (column + 2) * n, (column + 3) * n];
    for (let i = column + 4; i < n; i++) {
      const row = i * n;
      let [s0, s1, s2, s3] = [0, 0, 0, 0];
      for (let k = column; k < i; k++) {
        const one = factor[row + k];
        s0 -= one * lower[c0 + k];
        s1 -= one * lower[c1 + k];
        s2 -= one * lower[c2 + k];
        s3 -= one * lower[c3 + k];
      }
      const pivot = factor[row + i];
      lower[c0 + i] = s0 / pivot;
      lower[c1 + i] = s1 / pivot;
      lower[c2 + i] = s2 / pivot;
      lower[c3 + i] = s3 / pivot;
    }
  }
  for (; column < n; column++) solveColumn(column, n);
  const product = (a: number, b: number) => {
    let sum = 0;
    for (let i = Math.max(a, b); i < n; i++) sum += lower[a * n + i] * lower[b * n + i];
    return sum;
  };
  const diagonal = Float64Array.from({ length: n }, (_, k) => product(k, k));
  const leading = new Float64Array(block * block);
  for (let a = 0; a < block; a++)
    for (let b = 0; b <= a; b++) leading[a * block + b] = leading[b * block + a] = product(a, b);
  return { leading, diagonal };
}

/**
 * Takes products of three off the lower triangle of a matrix of n rows: of its element at (list[a], list[b]) the product of a's three in `left`
 * and b's in `right`.
 *
 * @param list rows and columns, rising
 */
export function takeProducts(
  matrix: Float64Array,
  n: number,
  list: Int32Array,
  left: Float64Array,
  right: Float64Array,
): void {
  let a = 0;
  // Two rows at a time share what is read of the columns.
  for (; a + 1 < list.length; a += 2) {
    const [p0, p1, p2, q0, q1, q2] = [left[3 * a], left[3 * a + 1], left[3 * a + 2], left[3 * a + 3], left[3 * a + 4], left[3 * a + 5]]; // prettier-ignore
    const [p, q] = [list[a] * n, list[a + 1] * n];
    let k = 0;
    for (let b = 0; b <= a; b++, k += 3) {
      const [column, r0, r1, r2] = [list[b], right[k], right[k + 1], right[k + 2]];
      matrix[p + column] -= p0 * r0 + p1 * r1 + p2 * r2;
      matrix[q + column] -= q0 * r0 + q1 * r1 + q2 * r2;
    }
    matrix[q + list[a + 1]] -= q0 * right[k] + q1 * right[k + 1] + q2 * right[k + 2];
  }
  if (a === list.length) return;
  const [p0, p1, p2, p] = [left[3 * a], left[3 * a + 1], left[3 * a + 2], list[a] * n];
  for (let b = 0, k = 0; b <= a; b++, k += 3)
    matrix[p + list[b]] -= p0 * right[k] + p1 * right[k + 1] + p2 * right[k + 2];
}

/** A square matrix times a column that is mostly nothing. */
export function productOf(matrix: Float64Array, column: Float64Array): Float64Array {
  const n = column.length;
  const used: number[] = [];
  for (let k = 0; k < n; k++) if (column[k] !== 0) used.push(k);
  const out = new Float64Array(n);
  for (let i = 0; i < n; i++) for (const k of used) out[i] += matrix[i * n + k] * column[k];
  return out;
}
