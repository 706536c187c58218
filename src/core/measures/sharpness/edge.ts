/**
 * Sharpness from one slanted edge: the spatial frequency response after ISO 12233:2017 (e-SFR) on linear luminance. It departs from the standard
 * in its window: a Tukey window with a flat inner half, where the 2017 edition has a Hamming window, which would cut off a filter's haze.
 *
 * Edge line by centroids of the derivative along rows, with a window, iterated once; pixels projected along the true angle
 * into four bins a pixel of the edge's normal; central difference, Tukey window, |FFT|, corrected for the difference and the
 * bins; noise power measured in the bins and subtracted.
 */
import { mean } from '../../formulas/statistics/averages';
import FFT from 'fft.js';
import { fitLinear } from '../../formulas/statistics/leastSquares';

/** Linear luminance of a window, row by row. */
export interface LumaWindow {
  width: number;
  height: number;
  data: Float64Array;
}

export interface EdgeResponse {
  /** First frequency where the response falls to one half, and to a fifth, cycles/pixel. */
  mtf50: number;
  mtf20: number;
  /** Standard uncertainty of mtf50 from noise. */
  u: number;
  /** Response at 0, 1/64, … 1 cycles/pixel. */
  curve: number[];
  angleDegrees: number;
  /** (bright − dark)/(bright + dark). */
  contrast: number;
  /** Step of the edge over the noise of single pixels. */
  contrastToNoise: number;
  lengthPx: number;
  /** Which way the edge runs: up and down, or left to right. Blur across it is what it measures. */
  runs: 'upright' | 'level';
}

/** Why an edge can't be used, as the end of a sentence. */
export interface RefusedEdge {
  refused: string;
}

const BINS_PER_PIXEL = 4;
const LEAST_LENGTH_PX = 40;
const ANGLES = [2, 15] as const;
const LEAST_CONTRAST = 0.2;
/** Of the step: a change this large far from the edge is another edge, not haze. Our own judgement. */
const SECOND_EDGE = 0.2;
const STEPS = 64;
/** A stretch this many times wider than the slope promises is a response that noise has bent. Our own judgement. */
const FLAT_RATIO = 1.5;

/** Measures one edge, running roughly up and down or left to right through the window. */
export function measureEdge(window: LumaWindow): EdgeResponse | RefusedEdge {
  const level = runsAcross(window);
  const upright = level ? transposed(window) : window;
  const { width, height, data } = upright;
  if (height < LEAST_LENGTH_PX || width < 16)
    return { refused: `the edge is only ${height} pixels long; ${LEAST_LENGTH_PX} are needed` };
  const rough = columnStep(upright);
  if (rough.contrast < LEAST_CONTRAST && contrastInside(upright) > LEAST_CONTRAST)
    return { refused: 'two edges run through it, one up and one down' };
  if (rough.contrast < LEAST_CONTRAST)
    return { refused: `its contrast of ${(100 * rough.contrast).toFixed(0)} % is below ${100 * LEAST_CONTRAST} %` };
  const line = fitLine(upright, rough.bright > rough.dark ? rough.sign : 0);
  if (typeof line === 'string') return { refused: line };
  const angleDegrees = Math.abs((Math.atan(line.slope) * 180) / Math.PI);
  if (angleDegrees < ANGLES[0] || angleDegrees > ANGLES[1])
    return { refused: `its angle of ${angleDegrees.toFixed(1)}° is outside ${ANGLES[0]}–${ANGLES[1]}°` };
  flattenLight(upright, line);
  const response = respond(data, width, height, line, angleDegrees);
  return 'refused' in response ? response : { ...response, runs: level ? 'level' : 'upright' };
}

function transposed({ width, height, data }: LumaWindow): LumaWindow {
  const out = new Float64Array(data.length);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) out[x * height + y] = data[y * width + x];
  return { width: height, height: width, data: out };
}

/** Whether light changes more from row to row than from column to column. */
function runsAcross({ width, height, data }: LumaWindow): boolean {
  const columns = new Float64Array(width);
  const rows = new Float64Array(height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      columns[x] += data[y * width + x];
      rows[y] += data[y * width + x];
    }
  const range = (values: Float64Array) => Math.max(...values) - Math.min(...values);
  return range(rows) / width > range(columns) / height;
}

/** The step between the left and the right fifth. */
function columnStep({ width, height, data }: LumaWindow) {
  const fifth = Math.max(2, Math.floor(width / 5));
  let [left, right] = [0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < fifth; x++) {
      left += data[y * width + x] / (fifth * height);
      right += data[y * width + width - 1 - x] / (fifth * height);
    }
  const [dark, bright] = left < right ? [left, right] : [right, left];
  return {
    dark,
    bright,
    sign: Math.sign(right - left),
    contrast: bright > 0 ? (bright - Math.max(0, dark)) / (bright + Math.max(0, dark)) : 0,
  };
}

/** Contrast between the brightest and the darkest tenth of the columns: a bar shows here, not between the sides. */
function contrastInside({ width, height, data }: LumaWindow): number {
  const columns = new Float64Array(width);
  for (let i = 0; i < data.length; i++) columns[i % width] += data[i] / height;
  const sorted = columns.sort();
  const [dark, bright] = [mean(sorted.subarray(0, width / 10)), mean(sorted.subarray(width - width / 10))];
  return bright > 0 ? (bright - Math.max(0, dark)) / (bright + Math.max(0, dark)) : 0;
}

interface Line {
  /** x of the edge at row y is offset + slope·y. */
  offset: number;
  slope: number;
  sign: number;
}

/** Centroids of the derivative a row, a line through them, twice; a string says why there is none. */
function fitLine({ width, height, data }: LumaWindow, sign: number): Line | string {
  // The derivative over four pixels, summed over bands of rows, stands clear of noise where single rows don't.
  const band = Math.max(1, Math.floor(height / 40));
  const bands = Array.from({ length: Math.floor(height / band) }, (_, i) => slopesOf(data, width, i * band, band));
  const rowsOf = (line: Line | null, half: number) => {
    const ys: number[] = [];
    const xs: number[] = [];
    for (const [i, slopes] of bands.entries()) {
      const middle = i * band + (band - 1) / 2;
      const center = line ? line.offset + line.slope * middle : null;
      let [mass, moment] = [0, 0];
      for (let x = 1; x < width - 1; x++) {
        const distance = center === null ? (x - (width - 1) / 2) / (width / 2) : (x - center) / half;
        if (Math.abs(distance) >= 1) continue;
        const weight = slopes[x] * sign * (0.54 + 0.46 * Math.cos(Math.PI * distance));
        mass += weight;
        moment += weight * x;
      }
      if (mass > 0) {
        ys.push(middle);
        xs.push(moment / mass);
      }
    }
    return { ys, xs };
  };
  let line: Line | null = null;
  let spread = 0;
  for (const half of [width / 2, Math.max(8, width / 4), Math.max(6, width / 8)]) {
    const { ys, xs } = rowsOf(line, half);
    if (ys.length < 8) return 'no edge runs through it';
    let keep = ys.map((_, i) => i);
    let fit: number[] | null = null;
    for (let round = 0; round < 3; round++) {
      fit = fitLinear(
        [keep.map(() => 1), keep.map((i) => ys[i])],
        keep.map((i) => xs[i]),
      );
      if (!fit) return 'no edge runs through it';
      const [offset, slope] = fit;
      const off = (i: number) => Math.abs(xs[i] - offset - slope * ys[i]);
      spread = Math.sqrt(keep.reduce((sum, i) => sum + off(i) ** 2, 0) / keep.length);
      const next = keep.filter((i) => off(i) <= Math.max(0.3, 2.5 * spread));
      if (next.length === keep.length || next.length < 8) break;
      keep = next;
    }
    line = { offset: fit![0], slope: fit![1], sign };
  }
  if (spread > 1.5) return `it is not one straight edge (its points lie ${spread.toFixed(1)} pixels off a line)`;
  const ends = [line!.offset, line!.offset + line!.slope * (height - 1)];
  if (ends.some((x) => x < 3 || x > width - 4)) return 'the edge leaves the patch at its side';
  return line!;
}

/** Differences of the pixels on both sides, summed over some rows, by column; 0 at both ends. */
function slopesOf(data: Float64Array, width: number, from: number, rows: number): Float64Array {
  const slopes = new Float64Array(width);
  for (let y = from; y < from + rows; y++) {
    const row = y * width;
    for (let x = 1; x < width - 1; x++) slopes[x] += data[row + x + 1] - data[row + x - 1];
  }
  return slopes;
}

/** Divides out a plane of light fitted to the bright side (a chart is never lit quite evenly). */
function flattenLight({ width, height, data }: LumaWindow, line: Line): void {
  const basis: number[][] = [[], [], []];
  const values: number[] = [];
  const clear = Math.max(6, width / 6);
  for (let y = 0; y < height; y += 2)
    for (let x = 0; x < width; x += 2) {
      const side = (x - line.offset - line.slope * y) * line.sign;
      if (side < clear) continue;
      basis[0].push(1);
      basis[1].push(x / width - 0.5);
      basis[2].push(y / height - 0.5);
      values.push(data[y * width + x]);
    }
  const plane = values.length > 60 ? fitLinear(basis, values) : null;
  if (!plane || !(plane[0] > 0)) return;
  const [a, b, c] = plane.map((value) => value / plane[0]);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const light = a + b * (x / width - 0.5) + c * (y / height - 0.5);
      if (light > 0.3) data[y * width + x] /= light;
    }
}

function respond(
  data: Float64Array,
  width: number,
  height: number,
  line: Line,
  angleDegrees: number,
): Omit<EdgeResponse, 'runs'> | RefusedEdge {
  const cos = Math.cos(Math.atan(line.slope));
  // As wide as every row allows, so that the haze at an edge's foot is kept.
  const reachOf = (y: number) => Math.min(line.offset + line.slope * y, width - 1 - line.offset - line.slope * y);
  const reach = Math.floor(Math.min(reachOf(0), reachOf(height - 1)) * cos) - 1;
  if (reach < 6) return { refused: 'there is too little room beside the edge' };
  const count = 2 * reach * BINS_PER_PIXEL;
  const sums = new Float64Array(count);
  const squares = new Float64Array(count);
  const numbers = new Float64Array(count);
  const places = new Float64Array(count);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const distance = (x - line.offset - line.slope * y) * cos;
      const bin = Math.floor((distance + reach) * BINS_PER_PIXEL);
      if (bin < 0 || bin >= count) continue;
      const value = data[y * width + x];
      sums[bin] += value;
      squares[bin] += value * value;
      places[bin] += (distance + reach) * BINS_PER_PIXEL - bin - 0.5;
      numbers[bin]++;
    }
  const spread = new Float64Array(count);
  const variance = new Float64Array(count);
  for (let bin = 0; bin < count; bin++) {
    if (numbers[bin] < 2) return { refused: 'the edge is too short for its angle: bins stay empty' };
    spread[bin] = sums[bin] / numbers[bin];
    variance[bin] = Math.max(0, squares[bin] / numbers[bin] - spread[bin] ** 2) / (numbers[bin] - 1);
  }
  centerBins(spread, places, numbers);
  // Beside the edge light changes inside a bin; noise there is taken from the nearer flat side.
  const flat = Math.min(Math.floor(count / 6), 8 * BINS_PER_PIXEL);
  const sides = [mean(variance.subarray(0, flat)), mean(variance.subarray(count - flat))];
  for (let bin = flat; bin < count - flat; bin++) variance[bin] = bin < count / 2 ? sides[0] : sides[1];
  const second = secondEdge(spread, flat, Math.sqrt(Math.max(...sides)));
  if (second) return { refused: second };
  const [low, high] = [mean(spread.subarray(0, flat)), mean(spread.subarray(count - flat))].sort((a, b) => a - b);
  const perBin = mean(numbers);
  const noise = Math.sqrt(Math.max(1e-300, Math.max(...sides) * perBin));
  const transform = transformEdge(spread, variance);
  const mtf50 = crossing(transform.response, 0.5);
  if (mtf50 === null) return { refused: 'its response never falls to one half' };
  return {
    mtf50: mtf50.at,
    mtf20: crossing(transform.response, 0.2)?.at ?? transform.response[transform.response.length - 1].f,
    u: crossingU(transform.response, mtf50, transform.uAt(mtf50.at)),
    curve: Array.from({ length: STEPS + 1 }, (_, i) => transform.at(i / STEPS)),
    angleDegrees,
    contrast: high > 0 ? (high - Math.max(0, low)) / (high + Math.max(0, low)) : 0,
    contrastToNoise: (high - low) / noise,
    lengthPx: height,
  };
}

/** A side that isn't flat in its outer half holds another edge; a sentence's end, or `null`. */
function secondEdge(spread: Float64Array, flat: number, noise: number): string | null {
  const ends = [mean(spread.subarray(0, flat)), mean(spread.subarray(spread.length - flat))];
  const step = Math.abs(ends[1] - ends[0]);
  const width = BINS_PER_PIXEL;
  const quarter = Math.floor(spread.length / 4);
  for (const [from, to, level] of [
    [0, quarter, ends[0]],
    [spread.length - quarter, spread.length, ends[1]],
  ])
    for (let bin = from; bin + width <= to; bin += width) {
      const off = Math.abs(mean(spread.subarray(bin, bin + width)) - level);
      if (off > SECOND_EDGE * step && off > (6 * noise) / Math.sqrt(width)) return 'a second edge runs through it';
    }
  return null;
}

/** Pixels don't fill a bin evenly: each bin's mean is moved along the edge's slope to the bin's center. */
function centerBins(spread: Float64Array, places: Float64Array, numbers: Float64Array): void {
  const raw = spread.slice();
  const place = places.map((sum, bin) => bin + sum / numbers[bin]);
  for (let bin = 1; bin < spread.length - 1; bin++)
    spread[bin] -= ((raw[bin + 1] - raw[bin - 1]) / (place[bin + 1] - place[bin - 1])) * (place[bin] - bin);
}

/** Line spread by central difference, Tukey window with a flat inner half, response with the noise power taken off. */
function transformEdge(spread: Float64Array, variance: Float64Array) {
  const count = spread.length;
  let size = 1024;
  while (size < 4 * count) size *= 2;
  const fft = new FFT(size);
  const input = new Array<number>(size).fill(0);
  let windowedVariance = 0;
  for (let i = 1; i < count - 1; i++) {
    const at = Math.abs((2 * i) / (count - 1) - 1);
    const weight = at <= 0.5 ? 1 : 0.5 * (1 + Math.cos(2 * Math.PI * (at - 0.5)));
    input[i] = ((spread[i + 1] - spread[i - 1]) / 2) * weight;
    windowedVariance += weight * weight * variance[i];
  }
  const output = fft.createComplexArray() as number[];
  fft.realTransform(output, input);
  const direct = Math.abs(output[0]);
  const correction = (f: number) => sinc(f / 2) * sinc(f / 4);
  const noisePower = (f: number) => windowedVariance * Math.sin((Math.PI * f) / 2) ** 2;
  const response: { f: number; value: number }[] = [];
  for (let k = 0; k <= size / BINS_PER_PIXEL; k++) {
    const f = (k * BINS_PER_PIXEL) / size;
    const power = output[2 * k] ** 2 + output[2 * k + 1] ** 2 - noisePower(f);
    response.push({ f, value: Math.sqrt(Math.max(0, power)) / direct / correction(f) });
  }
  return {
    response,
    at(f: number): number {
      const k = Math.min(response.length - 2, Math.floor((f * size) / BINS_PER_PIXEL));
      const t = (f * size) / BINS_PER_PIXEL - k;
      return response[k].value + t * (response[k + 1].value - response[k].value);
    },
    /** Half of the noise power lies in the phase of the response, half across it. */
    uAt: (f: number) => Math.sqrt(noisePower(f) / 2) / direct / correction(f),
  };
}

/** First crossing of a level, with the slope there taken over a wider stretch, since noise bends it in the small. */
function crossing(response: { f: number; value: number }[], level: number): { at: number; slope: number } | null {
  for (let k = 1; k < response.length; k++) {
    const [a, b] = [response[k - 1], response[k]];
    if (b.value > level) continue;
    const at = a.f + ((a.value - level) / (a.value - b.value)) * (b.f - a.f);
    const reach = Math.max(2, Math.round(0.02 / (b.f - a.f)));
    const [from, to] = [response[Math.max(0, k - reach)], response[Math.min(response.length - 1, k + reach)]];
    return { at, slope: (to.value - from.value) / (to.f - from.f) };
  }
  return null;
}

/**
 * Standard uncertainty of the half's frequency. Where noise bends the response flat near the half, the slope alone would promise
 * too much: then the stretch between the crossings of the half more and less one standard uncertainty counts.
 */
function crossingU(
  response: { f: number; value: number }[],
  { at, slope }: { at: number; slope: number },
  u: number,
): number {
  const bySlope = u / Math.max(1e-6, Math.abs(slope));
  const [first, last] = [crossing(response, 0.5 + u)?.at ?? at, crossing(response, 0.5 - u)?.at ?? 1];
  const byStretch = (last - first) / 2;
  return byStretch > FLAT_RATIO * bySlope ? byStretch : bySlope;
}

function sinc(x: number): number {
  return x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
}
