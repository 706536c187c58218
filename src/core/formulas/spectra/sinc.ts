/** Values between the pixels of a grid that keep what is fine: for spectra. */

/** Interpolation between pixels: eight taps of a sinc under a Kaiser window, for 64 places between two pixels. */
const TAPS = 8;
const PHASES = 64;

const kernels = kernelTable();

function kernelTable(): Float64Array {
  const bessel = (x: number) => {
    let [sum, term] = [1, 1];
    for (let k = 1; k < 25; k++) {
      term *= (x / (2 * k)) ** 2;
      sum += term;
    }
    return sum;
  };
  const beta = 5;
  const table = new Float64Array((PHASES + 1) * TAPS);
  for (let phase = 0; phase <= PHASES; phase++) {
    let total = 0;
    for (let k = 0; k < TAPS; k++) {
      const x = k - TAPS / 2 + 1 - phase / PHASES;
      const sinc = x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
      const at = x / (TAPS / 2);
      const value = Math.abs(at) >= 1 ? 0 : (sinc * bessel(beta * Math.sqrt(1 - at * at))) / bessel(beta);
      table[phase * TAPS + k] = value;
      total += value;
    }
    for (let k = 0; k < TAPS; k++) table[phase * TAPS + k] /= total;
  }
  return table;
}

/** What lies between the pixels of a grid, up to its finest detail; NaN too near to the edge. `x`, `y` count from the middle of the first pixel. */
export function sincAt(
  { width, height, data }: { width: number; height: number; data: Float32Array | Uint16Array },
  x: number,
  y: number,
): number {
  const u = Math.floor(x);
  const v = Math.floor(y);
  const first = TAPS / 2 - 1;
  if (!(u >= first && v >= first && u + TAPS / 2 < width && v + TAPS / 2 < height)) return NaN;
  const px = Math.round((x - u) * PHASES) * TAPS;
  const py = Math.round((y - v) * PHASES) * TAPS;
  let sum = 0;
  for (let j = 0; j < TAPS; j++) {
    const wy = kernels[py + j];
    if (wy === 0) continue;
    let at = (v - first + j) * width + u - first;
    let row = 0;
    for (let i = 0; i < TAPS; i++, at++) row += kernels[px + i] * data[at];
    sum += wy * row;
  }
  return sum;
}
