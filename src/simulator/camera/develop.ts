/**
 * A stand-in camera's processing: from a picture of linear light to the codes that it writes. Works on whole pictures: what it does
 * to a place depends on what lies around it.
 */
import type { Picture } from '@/core/reading/window';
import { encoder } from '../encode';
import { seededRandom } from '../random';
import { styled, type CameraProfile } from './profile';

/** From the sensor's channels to the session's: rows add up to one, so that gray stays gray. */
const MATRIX = [1.6, -0.45, -0.15, -0.25, 1.5, -0.25, 0.02, -0.5, 1.48] as const;
/** Its inverse, by hand (adjugate over determinant). */
const INVERSE = inverse(MATRIX);

type Planes = [Float64Array, Float64Array, Float64Array];

export interface Frame {
  width: number;
  height: number;
  planes: Planes;
}

/**
 * Develops a picture of linear light.
 *
 * @param falloffStops of the lens in the corners, by which its shading gain goes
 * @param seed of what varies from picture to picture
 * @param bitDepth of the codes: 8 as pictures are written, 16 for an encoder of clips to round
 */
export function develop(
  linear: Picture,
  profile: CameraProfile,
  falloffStops: number,
  seed: string,
  bitDepth: 8 | 16 = 8,
): Picture {
  const frame = planesOf(linear);
  if (profile.mosaic) throughMosaic(frame);
  balance(frame, profile.wanderingBalance, seed);
  makeUpForFalloff(frame, profile.shadingGain * falloffStops);
  const encode = encoder(profile.filmed ? 'bt709' : 'srgb');
  for (const plane of frame.planes) for (let i = 0; i < plane.length; i++) plane[i] = encode(plane[i]);
  if (profile.noiseReduction > 0) reduceNoise(frame, profile.noiseReduction);
  applyTone(frame, profile);
  if (profile.sharpening > 0) sharpen(frame, profile.sharpening, profile.sharpeningRadius);
  return codesOf(frame, bitDepth);
}

function planesOf({ width, height, data, bitDepth }: Picture): Frame {
  const top = 2 ** bitDepth - 1;
  const planes = [0, 1, 2].map((c) => {
    const plane = new Float64Array(width * height);
    for (let i = 0; i < plane.length; i++) plane[i] = data[3 * i + c] / top;
    return plane;
  });
  return { width, height, planes: planes as Planes };
}

function codesOf({ width, height, planes }: Frame, bitDepth: 8 | 16): Picture {
  const top = 2 ** bitDepth - 1;
  const data = bitDepth === 8 ? new Uint8Array(3 * width * height) : new Uint16Array(3 * width * height);
  for (let i = 0; i < width * height; i++)
    for (let c = 0; c < 3; c++) data[3 * i + c] = Math.round(top * Math.min(1, Math.max(0, planes[c][i])));
  return { width, height, channels: 3, bitDepth, data };
}

function mixed(frame: Frame, matrix: readonly number[]): void {
  const [r, g, b] = frame.planes;
  for (let i = 0; i < r.length; i++) {
    const [x, y, z] = [r[i], g[i], b[i]];
    r[i] = matrix[0] * x + matrix[1] * y + matrix[2] * z;
    g[i] = matrix[3] * x + matrix[4] * y + matrix[5] * z;
    b[i] = matrix[6] * x + matrix[7] * y + matrix[8] * z;
  }
}

function inverse(m: readonly number[]): number[] {
  const [a, b, c, d, e, f, g, h, i] = m;
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  return [e * i - f * h, c * h - b * i, b * f - c * e, f * g - d * i, a * i - c * g, c * d - a * f, d * h - e * g, b * g - a * h, a * e - b * d].map((v) => v / det); // prettier-ignore
}

/** Each pixel keeps one channel (R G / G B: as many as its odd coordinates); the others are means of their neighbors. Clips where the sensor is full. */
function throughMosaic(frame: Frame): void {
  mixed(frame, INVERSE);
  const { width, height, planes } = frame;
  const filled = planes.map((plane) => Float64Array.from(plane)) as Planes;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const here = (x & 1) + (y & 1);
      const [top, bottom] = [Math.max(0, y - 1), Math.min(height - 1, y + 1)];
      const [left, right] = [Math.max(0, x - 1), Math.min(width - 1, x + 1)];
      for (let c = 0; c < 3; c++) {
        if (c === here) continue;
        const plane = planes[c];
        let [sum, count] = [0, 0];
        for (let ny = top; ny <= bottom; ny++)
          for (let nx = left; nx <= right; nx++)
            if ((nx & 1) + (ny & 1) === c) {
              sum += plane[ny * width + nx];
              count++;
            }
        filled[c][y * width + x] = sum / count;
      }
    }
  frame.planes = filled;
  mixed(frame, MATRIX);
}

function balance({ planes }: Frame, deviation: number, seed: string): void {
  if (deviation === 0) return;
  const random = seededRandom(`${seed}/balance`);
  const [red, blue] = [2 ** (deviation * random.normal()), 2 ** (deviation * random.normal())];
  for (let i = 0; i < planes[0].length; i++) {
    planes[0][i] *= red;
    planes[2][i] *= blue;
  }
}

function makeUpForFalloff({ width, height, planes }: Frame, stops: number): void {
  if (stops === 0) return;
  const half2 = (width * width + height * height) / 4;
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const [dx, dy] = [x + 0.5 - width / 2, y + 0.5 - height / 2];
      const gain = Math.exp((Math.LN2 * stops * (dx * dx + dy * dy)) / half2);
      planes[0][i] *= gain;
      planes[1][i] *= gain;
      planes[2][i] *= gain;
    }
}

/** Codes drawn to their neighborhood's where they differ little: stronger in the dark, where noise is large. */
function reduceNoise({ width, height, planes }: Frame, strength: number): void {
  for (const plane of planes) {
    const smooth = blurred(plane, width, height, 1);
    for (let i = 0; i < plane.length; i++) {
      const apart = plane[i] - smooth[i];
      const share = apart / (0.015 + 0.02 * (1 - smooth[i]));
      const kept = 1 / (1 + share * share);
      plane[i] -= strength * (1 - 0.4 * smooth[i]) * kept * apart;
    }
  }
}

function applyTone({ width, height, planes }: Frame, { style, automaticTone, localTone }: CameraProfile): void {
  const exponent = automaticTone === 0 ? 1 : 1 + automaticTone * (Math.log2(Math.max(medianLight(planes), 1e-4)) + 3);
  planes.forEach((plane, c) => {
    // Straight lines between 4096 steps lie within a tenth of a code of 8 bits.
    const table = Float64Array.from({ length: 4098 }, (_, i) => styled(style, (i / 4096) ** exponent, c));
    for (let i = 0; i < plane.length; i++) {
      const at = Math.min(1, Math.max(0, plane[i])) * 4096;
      const step = Math.floor(at);
      plane[i] = table[step] + (at - step) * (table[step + 1] - table[step]);
    }
  });
  if (localTone === 0) return;
  const shown = lumaOf(planes);
  const around = blurred(shown, width, height, width / 25);
  for (let i = 0; i < shown.length; i++) {
    const apart = Math.max(-0.8, Math.min(0.8, shown[i] / Math.max(around[i], 0.02) - 1));
    const gain = 1 + localTone * apart * 4 * shown[i] * (1 - Math.min(1, shown[i]));
    for (const plane of planes) plane[i] *= gain;
  }
}

/** Light of the picture's middle code. */
function medianLight(planes: Planes): number {
  const luma = lumaOf(planes);
  const median = luma.sort()[luma.length >> 1];
  return median <= 0.04045 ? median / 12.92 : ((median + 0.055) / 1.055) ** 2.4;
}

function lumaOf([r, g, b]: Planes): Float64Array {
  const luma = new Float64Array(r.length);
  for (let i = 0; i < luma.length; i++) luma[i] = 0.299 * r[i] + 0.587 * g[i] + 0.114 * b[i];
  return luma;
}

function sharpen({ width, height, planes }: Frame, share: number, radius: number): void {
  const luma = lumaOf(planes);
  const smooth = blurred(luma, width, height, radius);
  for (const plane of planes) for (let i = 0; i < plane.length; i++) plane[i] += share * (luma[i] - smooth[i]);
}

/** Gaussian blur, rows then columns; wide ones by three running means (within a few percent of one). */
export function blurred(plane: Float64Array, width: number, height: number, sigma: number): Float64Array {
  if (sigma > 3) {
    // Three means of this many pixels have the variance of one Gaussian: 3·(n² − 1)/12 = σ².
    const size = 2 * Math.round((Math.sqrt(4 * sigma * sigma + 1) - 1) / 2) + 1;
    let done = plane;
    for (let round = 0; round < 3; round++)
      done = runningMean(runningMean(done, width, height, size, 1), height, width, size, width);
    return done;
  }
  const reach = Math.ceil(3.5 * sigma);
  const kernel = Float64Array.from({ length: 2 * reach + 1 }, (_, i) =>
    Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)),
  );
  const total = kernel.reduce((sum, one) => sum + one, 0);
  const along = (from: Float64Array, step: number, count: number, lineStep: number, lines: number) => {
    const out = new Float64Array(from.length);
    // A line with its ends repeated, so that no tap has to ask where it is.
    const padded = new Float64Array(count + 2 * reach);
    for (let line = 0; line < lines; line++) {
      const start = line * lineStep;
      for (let i = 0; i < count; i++) padded[i + reach] = from[start + i * step];
      padded.fill(padded[reach], 0, reach);
      padded.fill(padded[count + reach - 1], count + reach);
      for (let i = 0; i < count; i++) {
        let sum = 0;
        for (let k = 0; k < kernel.length; k++) sum += kernel[k] * padded[i + k];
        out[start + i * step] = sum / total;
      }
    }
    return out;
  };
  return along(along(plane, 1, width, width, height), width, height, 1, width);
}

/** Running mean along one direction; `step` 1 for rows, the width for columns. Edges repeat. */
function runningMean(plane: Float64Array, count: number, lines: number, size: number, step: number): Float64Array {
  const out = new Float64Array(plane.length);
  const half = size >> 1;
  const lineStep = step === 1 ? count : 1;
  for (let line = 0; line < lines; line++) {
    const at = (i: number) => plane[line * lineStep + (i < 0 ? 0 : i < count ? i : count - 1) * step];
    let sum = 0;
    for (let i = -half; i <= half; i++) sum += at(i);
    for (let i = 0; i < count; i++) {
      out[line * lineStep + i * step] = sum / size;
      sum += at(i + half + 1) - at(i - half);
    }
  }
  return out;
}
