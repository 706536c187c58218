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
    for (let i = j + 1; i < n; i++) {
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
  // Rows of L⁻¹, column by column; (L·Lᵀ)⁻¹ = L⁻ᵀ·L⁻¹.
  const lower = new Float64Array(n * n);
  for (let column = 0; column < n; column++) {
    lower[column * n + column] = 1 / factor[column * n + column];
    for (let i = column + 1; i < n; i++) {
      let sum = 0;
      for (let k = column; k < i; k++) sum -= factor[i * n + k] * lower[k * n + column];
      lower[i * n + column] = sum / factor[i * n + i];
    }
  }
  const diagonal = new Float64Array(n);
  for (let i = 0; i < n; i++) for (let k = 0; k <= i; k++) diagonal[k] += lower[i * n + k] ** 2;
  const leading = new Float64Array(block * block);
  for (let i = 0; i < n; i++)
    for (let a = 0; a < Math.min(block, i + 1); a++) {
      const factorA = lower[i * n + a];
      for (let b = 0; b < Math.min(block, i + 1); b++) leading[a * block + b] += factorA * lower[i * n + b];
    }
  return { leading, diagonal };
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
