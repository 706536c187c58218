/** Seeded randomness: the same seed gives the same pictures on every machine. */

export interface Random {
  /** Uniform in [0, 1). */
  uniform(): number;
  /** Standard normal. */
  normal(): number;
  /** Standard normal from a table of 65536 quantiles, several times faster: for the noise of pixels, of which there are millions. */
  grain(): number;
  /** Photon count with this mean. */
  poisson(mean: number): number;
  /** Makes mean electrons into counted ones, in place: photon noise and read noise; bright pixels draw both at once, as one grain. */
  count(electrons: Float64Array, readNoise: number): void;
}

/** sfc32 (small fast counter), seeded from text. */
export function seededRandom(seed: string): Random {
  let [a, b, c, d] = hash128(seed);
  const next = () => {
    const t = (((a + b) | 0) + d) | 0;
    d = (d + 1) | 0;
    a = b ^ (b >>> 9);
    b = (c + (c << 3)) | 0;
    c = (c << 21) | (c >>> 11);
    c = (c + t) | 0;
    return (t >>> 0) / 4294967296;
  };
  for (let i = 0; i < 15; i++) next();
  let spare: number | null = null;
  // Marsaglia's polar method.
  const normal = () => {
    if (spare !== null) {
      const value = spare;
      spare = null;
      return value;
    }
    let u: number;
    let v: number;
    let s: number;
    do {
      u = 2 * next() - 1;
      v = 2 * next() - 1;
      s = u * u + v * v;
    } while (s >= 1 || s === 0);
    const factor = Math.sqrt((-2 * Math.log(s)) / s);
    spare = v * factor;
    return u * factor;
  };
  const grains = quantiles();
  const grain = () => grains[(next() * 65536) | 0];
  const poisson = (mean: number) => {
    if (mean <= 0) return 0;
    // Above this a rounded normal is indistinguishable for pictures, and hundreds of times faster.
    if (mean > 60) return Math.max(0, Math.round(mean + Math.sqrt(mean) * normal()));
    const limit = Math.exp(-mean);
    let count = -1;
    let product = 1;
    do {
      count++;
      product *= next();
    } while (product > limit);
    return count;
  };
  const count = (electrons: Float64Array, readNoise: number) => {
    const noise = readNoise * readNoise;
    // The generator's state in variables of the loop's own, three times as fast as through `next`; the same numbers in the same order.
    let [p, q, r, s] = [a | 0, b | 0, c | 0, d | 0];
    for (let i = 0; i < electrons.length; i++) {
      const mean = electrons[i];
      if (mean > 60) {
        const t = (((p + q) | 0) + s) | 0;
        s = (s + 1) | 0;
        p = q ^ (q >>> 9);
        q = (r + (r << 3)) | 0;
        r = (((r << 21) | (r >>> 11)) + t) | 0;
        electrons[i] = mean + Math.sqrt(mean + noise) * grains[t >>> 16];
      } else {
        [a, b, c, d] = [p, q, r, s];
        electrons[i] = poisson(mean) + readNoise * normal();
        [p, q, r, s] = [a, b, c, d];
      }
    }
    [a, b, c, d] = [p, q, r, s];
  };
  return { uniform: next, normal, grain, poisson, count };
}

let table: Float64Array | null = null;

/** Quantiles of the standard normal at (i + ½)/65536, by walking along its integral (trapezoids of 1/20000). */
function quantiles(): Float64Array {
  if (table) return table;
  table = new Float64Array(65536);
  const step = 1 / 20000;
  const density = (x: number) => Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI);
  // What lies below −5 is 2.87e−7, less than the first quantile.
  let [x, below] = [-5, 2.866516e-7];
  for (let i = 0; i < 65536; i++) {
    const wanted = (i + 0.5) / 65536;
    while (below < wanted) {
      below += ((density(x) + density(x + step)) / 2) * step;
      x += step;
    }
    table[i] = x - step / 2;
  }
  return table;
}

function hash128(text: string): [number, number, number, number] {
  let [h1, h2, h3, h4] = [1779033703, 3144134277, 1013904242, 2773480762];
  for (let i = 0; i < text.length; i++) {
    const k = text.charCodeAt(i);
    h1 = h2 ^ Math.imul(h1 ^ k, 597399067);
    h2 = h3 ^ Math.imul(h2 ^ k, 2869860233);
    h3 = h4 ^ Math.imul(h3 ^ k, 951274213);
    h4 = h1 ^ Math.imul(h4 ^ k, 2716044179);
  }
  return [h1 >>> 0, h2 >>> 0, h3 >>> 0, h4 >>> 0];
}
