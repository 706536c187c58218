/** The few distribution functions that budgets need. */

/**
 * Quantile of the standard normal distribution.
 * Source: Acklam's rational approximation, refined by one step of Halley's method; relative error below 1e−12.
 */
export function normalQuantile(p: number): number {
  if (!(p > 0 && p < 1)) return p <= 0 ? -Infinity : Infinity;
  const a = [
    -3.969683028665376e1, 2.209460984245205e2, -2.759285104469687e2, 1.38357751867269e2, -3.066479806614716e1,
    2.506628277459239,
  ];
  const b = [
    -5.447609879822406e1, 1.615858368580409e2, -1.556989798598866e2, 6.680131188771972e1, -1.328068155288572e1,
  ];
  const c = [
    -7.784894002430293e-3, -3.223964580411365e-1, -2.400758277161838, -2.549732539343734, 4.374664141464968,
    2.938163982698783,
  ];
  const d = [7.784695709041462e-3, 3.224671290700398e-1, 2.445134137142996, 3.754408661907416];
  const tail = 0.02425;
  let x: number;
  if (p < tail || p > 1 - tail) {
    const q = Math.sqrt(-2 * Math.log(p < tail ? p : 1 - p));
    x =
      (((((c[0] * q + c[1]) * q + c[2]) * q + c[3]) * q + c[4]) * q + c[5]) /
      ((((d[0] * q + d[1]) * q + d[2]) * q + d[3]) * q + 1);
    if (p > 1 - tail) x = -x;
  } else {
    const q = p - 0.5;
    const r = q * q;
    x =
      ((((((a[0] * r + a[1]) * r + a[2]) * r + a[3]) * r + a[4]) * r + a[5]) * q) /
      (((((b[0] * r + b[1]) * r + b[2]) * r + b[3]) * r + b[4]) * r + 1);
  }
  const error = normalCdf(x) - p;
  const step = error * Math.sqrt(2 * Math.PI) * Math.exp((x * x) / 2);
  return x - step / (1 + (x * step) / 2);
}

/** Cumulative standard normal distribution, absolute error below 1e−13 (series near 0, continued fraction in the tails). */
export function normalCdf(x: number): number {
  const z = Math.abs(x);
  let tail: number;
  if (z < 3) {
    let term = z;
    let sum = z;
    for (let n = 1; n < 100 && Math.abs(term) > 1e-17; n++) {
      term *= (z * z) / (2 * n + 1);
      sum += term;
    }
    tail = 0.5 - (sum * Math.exp((-z * z) / 2)) / Math.sqrt(2 * Math.PI);
  } else {
    let fraction = z;
    for (let n = 80; n >= 1; n--) fraction = z + n / fraction;
    tail = Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI) / fraction;
  }
  return x > 0 ? 1 - tail : tail;
}

/** Coverage probability of ±2 standard deviations of a normal distribution. */
const TWO_SIGMA = 0.9544997361036416;

/**
 * Coverage factor for the coverage that k = 2 has under a normal distribution (95.45 %), at a number of degrees of
 * freedom: the Student quantile of JCGM 100:2008, table G.2, column 95.45 % (e.g. 10 → 2.28, 5 → 2.65, 20 → 2.13). Found by bisection on the
 * exact tail, which is a regularized incomplete beta function (DLMF 8.17.22).
 */
export function coverageFactor(degreesOfFreedom: number): number {
  return studentTwoSided(1 - TWO_SIGMA, degreesOfFreedom);
}

/** |t| that is exceeded with probability `p` (two-sided), at ν degrees of freedom (ν ≥ 1). */
export function studentTwoSided(p: number, degreesOfFreedom: number): number {
  const n = degreesOfFreedom;
  if (!Number.isFinite(n) || n > 1e6) return normalQuantile(1 - p / 2);
  if (n < 1) return studentTwoSided(p, 1);
  // Bisection on the exact tail keeps this right for every ν, which matters at 1–4.
  let low = 0;
  let high = 1e4;
  for (let i = 0; i < 200 && high - low > 1e-10 * (1 + low); i++) {
    const middle = (low + high) / 2;
    if (studentTail(middle, n) > p) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** P(|T| > t) by the regularized incomplete beta function I_{ν/(ν+t²)}(ν/2, 1/2). */
function studentTail(t: number, n: number): number {
  return incompleteBeta(n / (n + t * t), n / 2, 0.5);
}

/** Regularized incomplete beta function by Lentz's continued fraction (DLMF 8.17.22). */
function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  if (x > (a + 1) / (a + b + 2)) return 1 - incompleteBeta(1 - x, b, a);
  const front = Math.exp(a * Math.log(x) + b * Math.log(1 - x) + logGamma(a + b) - logGamma(a) - logGamma(b)) / a;
  const tiny = 1e-300;
  let c = 1;
  let d = 1 / Math.max(tiny, 1 - ((a + b) * x) / (a + 1));
  let result = d;
  for (let m = 1; m < 300; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / nonzero(1 + even * d);
    c = nonzero(1 + even / c);
    result *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / nonzero(1 + odd * d);
    c = nonzero(1 + odd / c);
    const factor = d * c;
    result *= factor;
    if (Math.abs(factor - 1) < 1e-15) break;
  }
  return front * result;
}

function nonzero(value: number): number {
  return Math.abs(value) < 1e-300 ? 1e-300 : value;
}

/** ln Γ by Lanczos' approximation (g = 7, nine terms). */
function logGamma(z: number): number {
  const terms = [
    0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059,
    12.507343278686905, -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
  ];
  if (z < 0.5) return Math.log(Math.PI / Math.sin(Math.PI * z)) - logGamma(1 - z);
  let sum = terms[0];
  for (let i = 1; i < 9; i++) sum += terms[i] / (z - 1 + i);
  const t = z + 6.5;
  return 0.5 * Math.log(2 * Math.PI) + (z - 0.5) * Math.log(t) - t + Math.log(sum);
}
