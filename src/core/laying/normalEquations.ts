/**
 * Sums of weighted least squares over many rows (the normal equations). Written out for eight parameters: sums that stay in registers are
 * nearly five times as fast as ones in an array, and laying spends most of its time here.
 */

/** Rows of a linear model: what each leaves over and how much it counts (0 leaves it out); `parameters` derivatives a row. */
export interface Rows {
  count: number;
  parameters: number;
  derivatives: Float64Array;
  weights: Float64Array;
  residuals: Float64Array;
}

/** Adds each row's weighted residual times its derivatives to the gradient, one slot a parameter. */
export function addGradient(gradient: Float64Array, rows: Rows): void {
  const { count, parameters, derivatives, weights, residuals } = rows;
  if (parameters !== 8) {
    for (let i = 0, at = 0; i < count; i++, at += parameters) {
      const pull = weights[i] * residuals[i];
      for (let k = 0; k < parameters; k++) gradient[k] += pull * derivatives[at + k];
    }
    return;
  }
  let [g0, g1, g2, g3, g4, g5, g6, g7] = gradient;
  for (let i = 0, at = 0; i < count; i++, at += 8) {
    const pull = weights[i] * residuals[i];
    g0 += pull * derivatives[at];
    g1 += pull * derivatives[at + 1];
    g2 += pull * derivatives[at + 2];
    g3 += pull * derivatives[at + 3];
    g4 += pull * derivatives[at + 4];
    g5 += pull * derivatives[at + 5];
    g6 += pull * derivatives[at + 6];
    g7 += pull * derivatives[at + 7];
  }
  gradient.set([g0, g1, g2, g3, g4, g5, g6, g7]);
}

/** Adds each row's weighted products of derivatives to the upper half of the normal matrix, row by row. */
export function addProducts(upper: Float64Array, rows: Rows): void {
  if (rows.parameters === 8) return addProductsOfEight(upper, rows);
  const { count, parameters, derivatives, weights } = rows;
  for (let i = 0, at = 0; i < count; i++, at += parameters)
    for (let k = 0, slot = 0; k < parameters; k++) {
      const part = weights[i] * derivatives[at + k];
      for (let l = k; l < parameters; l++, slot++) upper[slot] += part * derivatives[at + l];
    }
}

// prettier-ignore
function addProductsOfEight(upper: Float64Array, { count, derivatives, weights }: Rows): void {
  let u00 = upper[0], u01 = upper[1], u02 = upper[2], u03 = upper[3], u04 = upper[4], u05 = upper[5], u06 = upper[6], u07 = upper[7];
  let u11 = upper[8], u12 = upper[9], u13 = upper[10], u14 = upper[11], u15 = upper[12], u16 = upper[13], u17 = upper[14];
  let u22 = upper[15], u23 = upper[16], u24 = upper[17], u25 = upper[18], u26 = upper[19], u27 = upper[20];
  let u33 = upper[21], u34 = upper[22], u35 = upper[23], u36 = upper[24], u37 = upper[25];
  let u44 = upper[26], u45 = upper[27], u46 = upper[28], u47 = upper[29];
  let u55 = upper[30], u56 = upper[31], u57 = upper[32];
  let u66 = upper[33], u67 = upper[34];
  let u77 = upper[35];
  for (let i = 0, at = 0; i < count; i++, at += 8) {
    const weight = weights[i];
    const d0 = derivatives[at], d1 = derivatives[at + 1], d2 = derivatives[at + 2], d3 = derivatives[at + 3], d4 = derivatives[at + 4], d5 = derivatives[at + 5], d6 = derivatives[at + 6], d7 = derivatives[at + 7];
    const p0 = weight * d0;
    u00 += p0 * d0; u01 += p0 * d1; u02 += p0 * d2; u03 += p0 * d3; u04 += p0 * d4; u05 += p0 * d5; u06 += p0 * d6; u07 += p0 * d7;
    const p1 = weight * d1;
    u11 += p1 * d1; u12 += p1 * d2; u13 += p1 * d3; u14 += p1 * d4; u15 += p1 * d5; u16 += p1 * d6; u17 += p1 * d7;
    const p2 = weight * d2;
    u22 += p2 * d2; u23 += p2 * d3; u24 += p2 * d4; u25 += p2 * d5; u26 += p2 * d6; u27 += p2 * d7;
    const p3 = weight * d3;
    u33 += p3 * d3; u34 += p3 * d4; u35 += p3 * d5; u36 += p3 * d6; u37 += p3 * d7;
    const p4 = weight * d4;
    u44 += p4 * d4; u45 += p4 * d5; u46 += p4 * d6; u47 += p4 * d7;
    const p5 = weight * d5;
    u55 += p5 * d5; u56 += p5 * d6; u57 += p5 * d7;
    const p6 = weight * d6;
    u66 += p6 * d6; u67 += p6 * d7;
    const p7 = weight * d7;
    u77 += p7 * d7;
  }
  upper.set([
    u00, u01, u02, u03, u04, u05, u06, u07,
    u11, u12, u13, u14, u15, u16, u17,
    u22, u23, u24, u25, u26, u27,
    u33, u34, u35, u36, u37,
    u44, u45, u46, u47,
    u55, u56, u57,
    u66, u67,
    u77,
  ]);
}
