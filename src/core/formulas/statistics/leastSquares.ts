/** Linear least squares for a handful of unknowns (normal equations, pivoted elimination). */

/**
 * Solves A·x = b. `null` where A is singular.
 *
 * @param matrix n rows of n numbers; not changed
 */
export function solveLinear(matrix: readonly (readonly number[])[], right: readonly number[]): number[] | null {
  const n = right.length;
  const rows = matrix.map((row, i) => [...row, right[i]]);
  for (let column = 0; column < n; column++) {
    let pivot = column;
    for (let row = column + 1; row < n; row++)
      if (Math.abs(rows[row][column]) > Math.abs(rows[pivot][column])) pivot = row;
    if (Math.abs(rows[pivot][column]) < 1e-300) return null;
    [rows[column], rows[pivot]] = [rows[pivot], rows[column]];
    for (let row = column + 1; row < n; row++) {
      const factor = rows[row][column] / rows[column][column];
      if (factor === 0) continue;
      for (let k = column; k <= n; k++) rows[row][k] -= factor * rows[column][k];
    }
  }
  const x = new Array<number>(n).fill(0);
  for (let row = n - 1; row >= 0; row--) {
    let sum = rows[row][n];
    for (let k = row + 1; k < n; k++) sum -= rows[row][k] * x[k];
    x[row] = sum / rows[row][row];
  }
  return x;
}

/** Coefficients that minimise Σ w (y − Σ c_k basis_k)². `null` where the basis can't be told apart. */
export function fitLinear(
  basis: readonly (readonly number[])[],
  y: ArrayLike<number>,
  weights?: ArrayLike<number>,
): number[] | null {
  const n = basis.length;
  const normal = Array.from({ length: n }, () => new Array<number>(n).fill(0));
  const right = new Array<number>(n).fill(0);
  for (let i = 0; i < y.length; i++) {
    const w = weights ? weights[i] : 1;
    for (let a = 0; a < n; a++) {
      right[a] += w * basis[a][i] * y[i];
      for (let b = 0; b <= a; b++) normal[a][b] += w * basis[a][i] * basis[b][i];
    }
  }
  for (let a = 0; a < n; a++) for (let b = a + 1; b < n; b++) normal[a][b] = normal[b][a];
  return solveLinear(normal, right);
}
