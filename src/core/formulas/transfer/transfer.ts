/**
 * Transfer functions: from a code value (as a share of full scale) to linear light.
 *
 * sRGB: IEC 61966-2-1. BT.709: inverse of the OETF of ITU-R BT.709-6. HLG and PQ: ITU-R BT.2100-2 (PQ scaled to
 * 10000 cd/m² = 1; HLG to scene light, 1 at full code). Light is relative: only ratios are ever used.
 */

/** Decodes one code value, 0–1, into relative linear light. */
export type Decode = (value: number) => number;

export const decodeLinear: Decode = (value) => value;

export const decodeSrgb: Decode = (value) => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);

export const decodeBt709: Decode = (value) =>
  value < 4.5 * 0.018 ? value / 4.5 : ((value + 0.099) / 1.099) ** (1 / 0.45);

export function decodeGamma(gamma: number): Decode {
  return (value) => Math.max(0, value) ** gamma;
}

export const decodeHlg: Decode = (value) => {
  const a = 0.17883277;
  const b = 1 - 4 * a;
  const c = 0.5 - a * Math.log(4 * a);
  return value <= 0.5 ? (value * value) / 3 : (Math.exp((value - c) / a) + b) / 12;
};

export const decodePq: Decode = (value) => {
  const m1 = 2610 / 16384;
  const m2 = (2523 / 4096) * 128;
  const c1 = 3424 / 4096;
  const c2 = (2413 / 4096) * 32;
  const c3 = (2392 / 4096) * 32;
  const power = Math.max(0, value) ** (1 / m2);
  return (Math.max(power - c1, 0) / (c2 - c3 * power)) ** (1 / m1);
};

/** Light a share of full scale of the code: a slope below this is flat. */
const FLAT = 1e-200;

/**
 * A table of (code, light) as a monotone cubic through its points.
 * Source: Fritsch & Carlson, SIAM J. Numer. Anal. 17 (1980) 238–246. Beyond the ends the last slope goes on, light
 * never below zero.
 *
 * @param points at least two, codes 0–1 strictly rising, light never falling. Throws RangeError otherwise.
 */
export function decodeCurve(points: readonly (readonly [number, number])[]): Decode {
  const count = points.length;
  if (count < 2) throw new RangeError('A response curve needs at least two points.');
  const xs = points.map((point) => point[0]);
  const ys = points.map((point) => point[1]);
  const secants: number[] = [];
  for (let i = 0; i < count - 1; i++) {
    if (!(xs[i + 1] > xs[i])) throw new RangeError(`The codes of a response curve must rise; point ${i + 2} does not.`);
    if (ys[i + 1] < ys[i]) throw new RangeError(`The light of a response curve must not fall; point ${i + 2} does.`);
    secants.push((ys[i + 1] - ys[i]) / (xs[i + 1] - xs[i]));
  }
  const slopes: number[] = new Array(count);
  slopes[0] = secants[0];
  slopes[count - 1] = secants[count - 2];
  for (let i = 1; i < count - 1; i++)
    slopes[i] = secants[i - 1] * secants[i] <= 0 ? 0 : (secants[i - 1] + secants[i]) / 2;
  for (let i = 0; i < count - 1; i++) {
    // A rise that can't be divided by is none.
    if (secants[i] < FLAT) {
      slopes[i] = 0;
      slopes[i + 1] = 0;
      continue;
    }
    const alpha = slopes[i] / secants[i];
    const beta = slopes[i + 1] / secants[i];
    const length = Math.hypot(alpha, beta);
    if (length > 3) {
      slopes[i] = (3 / length) * alpha * secants[i];
      slopes[i + 1] = (3 / length) * beta * secants[i];
    }
  }
  return (value) => {
    if (value <= xs[0]) return Math.max(0, ys[0] + slopes[0] * (value - xs[0]));
    if (value >= xs[count - 1]) return ys[count - 1] + slopes[count - 1] * (value - xs[count - 1]);
    let low = 0;
    let high = count - 1;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (xs[middle] <= value) low = middle;
      else high = middle;
    }
    const width = xs[high] - xs[low];
    const t = (value - xs[low]) / width;
    const t2 = t * t;
    const t3 = t2 * t;
    return (
      (2 * t3 - 3 * t2 + 1) * ys[low] +
      (t3 - 2 * t2 + t) * width * slopes[low] +
      (-2 * t3 + 3 * t2) * ys[high] +
      (t3 - t2) * width * slopes[high]
    );
  };
}

/**
 * Linear light of every code of a bit depth.
 *
 * Codes below 9 bits stand for a bin that is wide beside the curve's bend, so each stands for the mean light of its
 * bin rather than the light at its center: the rounding error of a noisy picture averages out exactly then. The two
 * end codes, whose bins are open, keep their centers.
 */
export function linearTable(decode: Decode, bitDepth: number): Float64Array {
  const top = 2 ** bitDepth - 1;
  const table = new Float64Array(top + 1);
  for (let code = 0; code <= top; code++) table[code] = decode(code / top);
  if (bitDepth > 8) return table;
  const mean = table.slice();
  for (let code = 1; code < top; code++) {
    // Two-point Gauss–Legendre over the bin: exact for cubics.
    const offset = 0.5 / Math.sqrt(3);
    mean[code] = (decode((code - offset) / top) + decode((code + offset) / top)) / 2;
  }
  return mean;
}
