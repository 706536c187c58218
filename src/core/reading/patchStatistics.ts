/** Statistics of a window of pixels, on linear light. No pixel is dropped: that would bias the mean. */
import { componentDeviations } from '../formulas/color/luma';
import type { Covariance } from '../formulas/statistics/covariance';
import { normalQuantile } from '../formulas/statistics/distributions';
import type { Picture } from './window';

export type Triple = [number, number, number];

export interface PatchStatistics {
  pixelCount: number;
  /** Mean linear light per channel, corrected for what code 0 cut off. */
  mean: Triple;
  /** How much that correction raised or lowered the mean, relative. */
  zeroCorrection: Triple;
  /** Share of pixels at the top code (or at the level where the picture saturates below it). */
  topShare: Triple;
  /** Share of pixels at code 0. */
  zeroShare: Triple;
  /** Standard deviation of single pixels, relative to the mean: noise and whatever structure the patch has. */
  pixelSpread: Triple;
  /** Mean code value, as a share of full scale. */
  meanCode: Triple;
  /**
   * Standard uncertainty, relative, that rounding to codes leaves when noise is too small to average it out. A clip's chroma is
   * never dithered: codecs take its noise away.
   */
  rounding: Triple;
  /** Standard deviations of single pixels of luma, blue and red difference, in codes of 8 bits (ITU-T T.871); of colored pictures. */
  componentSpread?: Triple;
  /** What compression leaves uncertain, stops²; of lossy files. */
  compression?: Covariance;
  /** Means of linear light over a grid of cells, row by row, for the noise that is left after averaging. */
  cells: { columns: number; rows: number; values: [Float64Array, Float64Array, Float64Array] };
}

const GRID = 12;
const SMALLEST_CELL_PX = 3;

/**
 * Reduces a window to statistics.
 *
 * @param window code values; a gray picture counts as three equal channels
 * @param tables linear light of every code, per channel, for the window's bit depth
 */
export function reducePatch(
  window: Picture,
  tables: readonly [Float64Array, Float64Array, Float64Array],
): PatchStatistics {
  const { width, height } = window;
  const columns = Math.max(1, Math.min(GRID, Math.floor(width / SMALLEST_CELL_PX)));
  const rows = Math.max(1, Math.min(GRID, Math.floor(height / SMALLEST_CELL_PX)));
  const { histograms, sums } = countCells(window, tables, columns, rows);
  const within = codesWithin(window);
  const results = ([0, 1, 2] as const).map((channel) => ({
    ...summarise(histograms[channel], tables[channel], width * height, window, channel, within),
    cells: sums[channel],
  }));
  const pick = <K extends keyof (typeof results)[number]>(key: K) => results.map((result) => result[key]);
  return {
    pixelCount: width * height,
    mean: pick('mean') as Triple,
    zeroCorrection: pick('zeroCorrection') as Triple,
    topShare: pick('topShare') as Triple,
    zeroShare: pick('zeroShare') as Triple,
    pixelSpread: pick('pixelSpread') as Triple,
    meanCode: pick('meanCode') as Triple,
    rounding: pick('rounding') as Triple,
    ...(window.channels === 3 ? { componentSpread: componentSpread(window) } : {}),
    cells: { columns, rows, values: pick('cells') as [Float64Array, Float64Array, Float64Array] },
  };
}

/** Codes of each channel counted, and mean light of each cell, row by row, in one pass over the pixels. */
function countCells(
  { width, height, channels, data, bitDepth }: Picture,
  [red, green, blue]: readonly [Float64Array, Float64Array, Float64Array],
  columns: number,
  rows: number,
) {
  const histograms = [0, 1, 2].map(() => new Uint32Array(2 ** bitDepth));
  const sums = [0, 1, 2].map(() => new Float64Array(columns * rows));
  // The first pixel of each column of cells, and of each row; what lies at i·columns/width and beyond is the next one's.
  const [fromX, fromY] = [
    [width, columns],
    [height, rows],
  ].map(([size, cells]) => Int32Array.from({ length: cells + 1 }, (_, cell) => Math.ceil((cell * size) / cells)));
  const [codesR, codesG, codesB] = histograms;
  const [g, b] = channels === 1 ? [0, 0] : [1, 2];
  for (let row = 0; row < rows; row++)
    for (let y = fromY[row]; y < fromY[row + 1]; y++)
      for (let column = 0; column < columns; column++) {
        const cell = row * columns + column;
        let [r, gr, bl] = [sums[0][cell], sums[1][cell], sums[2][cell]];
        const end = (y * width + fromX[column + 1]) * channels;
        for (let at = (y * width + fromX[column]) * channels; at < end; at += channels) {
          const [one, two, three] = [data[at], data[at + g], data[at + b]];
          codesR[one]++;
          codesG[two]++;
          codesB[three]++;
          r += red[one];
          gr += green[two];
          bl += blue[three];
        }
        [sums[0][cell], sums[1][cell], sums[2][cell]] = [r, gr, bl];
      }
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const count = (fromY[row + 1] - fromY[row]) * (fromX[column + 1] - fromX[column]);
      for (const sum of sums) sum[row * columns + column] /= count;
    }
  return { histograms, sums };
}

/** Codes that a window's pixels lie within: of a small one of 16 bits most codes are not there, and need no look. */
function codesWithin({ width, height, channels, data, bitDepth }: Picture): readonly [number, number] {
  const top = 2 ** bitDepth - 1;
  if (width * height > top) return [0, top];
  let [low, high] = [top, 0];
  for (let i = 0; i < width * height * channels; i++) {
    if (data[i] < low) low = data[i];
    if (data[i] > high) high = data[i];
  }
  return [low, high];
}

/** Pixels of a window that tell the spread of its components, at most. */
const SPREAD_PIXELS = 10_000;

function componentSpread({ width, height, data, bitDepth }: Picture): Triple {
  const to8 = 255 / (2 ** bitDepth - 1);
  const stride = Math.max(1, Math.floor((width * height) / SPREAD_PIXELS));
  let [r, g, b, rr, gg, bb, rg, rb, gb] = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  let count = 0;
  for (let i = 0; i < width * height; i += stride, count++) {
    const red = data[3 * i];
    const green = data[3 * i + 1];
    const blue = data[3 * i + 2];
    r += red;
    g += green;
    b += blue;
    rr += red * red;
    gg += green * green;
    bb += blue * blue;
    rg += red * green;
    rb += red * blue;
    gb += green * blue;
  }
  return componentDeviations([r, g, b], [rr, gg, bb, rg, rb, gb], count).map((one) => to8 * one) as Triple;
}

function summarise(
  histogram: Uint32Array,
  table: Float64Array,
  count: number,
  { step, chromaStep }: Picture,
  channel: number,
  [from, to]: readonly [number, number],
) {
  const top = histogram.length - 1;
  let sum = 0;
  let squares = 0;
  let codeSum = 0;
  let codeSquares = 0;
  let distinct = 0;
  let highest = 0;
  for (let code = from; code <= to; code++) {
    const n = histogram[code];
    if (n === 0) continue;
    distinct++;
    highest = code;
    const light = table[code];
    sum += n * light;
    squares += n * light * light;
    codeSum += n * code;
    codeSquares += n * code * code;
  }
  const raw = sum / count;
  const variance = Math.max(0, squares / count - raw * raw);
  const meanCode = codeSum / count;
  const codeSpread = Math.sqrt(Math.max(0, codeSquares / count - meanCode * meanCode));
  // A saturated sensor may stop below the file's top code: then many pixels share the highest code that occurs
  // although the rest is spread over many codes.
  // Clips are smoothed by their codec: there many pixels share the highest code anyway.
  const plateau =
    step === undefined && distinct > 50 && histogram[highest] / count > 0.02 ? histogram[highest] / count : 0;
  const zeroShare = histogram[0] / count;
  const mean = uncensoredMean(raw, zeroShare, table);
  return {
    mean,
    zeroCorrection: mean > 0 ? (mean - raw) / mean : 0,
    topShare: Math.max(histogram[top] / count, plateau),
    zeroShare,
    pixelSpread: raw > 0 ? Math.sqrt(variance) / raw : 0,
    meanCode: meanCode / top,
    rounding: Math.hypot(
      roundingUncertainty(histogram, table, meanCode, codeSpread, count, mean, step ?? 1),
      chromaStep && mean > 0 ? (chromaStep[channel] / Math.sqrt(12) / mean) * slopeAt(table, meanCode) : 0,
    ),
  };
}

/**
 * Mean of a normal population of which everything below the threshold of code 1 was recorded as 0. Near black, half
 * of the read noise would lie below zero; a file can't hold that, and the plain mean comes out too bright.
 *
 * With z = Φ⁻¹(1 − share at zero), τ the threshold and m the recorded mean: m = (τ + zσ)Φ(z) + σφ(z), solved for σ.
 */
function uncensoredMean(recorded: number, zeroShare: number, table: Float64Array): number {
  if (zeroShare <= 0 || zeroShare > 0.5 || recorded <= 0) return recorded;
  const threshold = (table[0] + table[1]) / 2;
  const z = normalQuantile(1 - zeroShare);
  const above = 1 - zeroShare;
  const density = Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI);
  const sigma = (recorded - threshold * above) / (z * above + density);
  return sigma > 0 ? threshold + z * sigma : recorded;
}

/**
 * Relative standard uncertainty left by rounding. With Gaussian noise of σ codes the mean of rounded values departs
 * from the true mean by a sawtooth whose k-th harmonic has amplitude exp(−2π²k²σ²)/(πk) codes (Widrow & Kollár,
 * Quantization Noise, 2008, chapter 5, quoted from memory); over an unknown phase its variance is
 * Σ exp(−4π²k²σ²)/(2π²k²), which is 1/12 without noise.
 */
function roundingUncertainty(
  histogram: Uint32Array,
  table: Float64Array,
  meanCode: number,
  codeSpread: number,
  count: number,
  mean: number,
  sourceStep: number,
): number {
  const step = Math.max(codeStep(histogram), Math.round(sourceStep));
  if (codeSpread > 1.5 * step || mean <= 0) return 0;
  const sigma = noiseFromCodes(histogram, Math.round(meanCode / step) * step, step, count);
  let variance = 0;
  for (let k = 1; k <= 40; k++) variance += Math.exp(-4 * (Math.PI * k * sigma) ** 2) / (2 * (Math.PI * k) ** 2);
  return (step * Math.sqrt(variance) * slopeAt(table, meanCode)) / mean;
}

/** Light for one code more. */
function slopeAt(table: Float64Array, code: number): number {
  const at = Math.max(1, Math.min(table.length - 2, Math.round(code)));
  return (table[at + 1] - table[at - 1]) / 2;
}

/** The smallest distance between codes that occur: 257 for an 8-bit picture stored in 16 bits. */
function codeStep(histogram: Uint32Array): number {
  let last = -1;
  let step = histogram.length;
  for (let code = 0; code < histogram.length; code++) {
    if (histogram[code] === 0) continue;
    if (last >= 0) step = Math.min(step, code - last);
    if (step === 1) return 1;
    last = code;
  }
  // One code alone tells nothing about the step; in 8 bits it is 1, in 16 bits assume 8-bit origin if it fits.
  if (step === histogram.length) return histogram.length > 256 && last % 257 === 0 && last > 0 ? 257 : 1;
  return step;
}

/** Noise in steps, from the shares on either side of the commonest code (probit); an upper bound where a side is empty. */
function noiseFromCodes(histogram: Uint32Array, near: number, step: number, count: number): number {
  let mode = Math.max(0, Math.min(histogram.length - 1, near));
  for (let code = 0; code < histogram.length; code += 1) if (histogram[code] > histogram[mode]) mode = code;
  let below = 0;
  for (let code = 0; code < mode; code++) below += histogram[code];
  if (histogram[mode] === count) return 0;
  const floor = 0.5 / count;
  const under = Math.min(1 - floor, Math.max(floor, below / count));
  const upTo = Math.min(1 - floor, Math.max(floor, (below + histogram[mode]) / count));
  const distance = normalQuantile(upTo) - normalQuantile(under);
  return distance > 1e-6 ? 1 / distance : step;
}
