/** Small gray views of pictures, for telling how the camera moved. */
import type { Picture } from '../reading/window';

/** Mean code values (R + 2G + B)/4 as shares of full scale, on a coarse grid over the whole upright frame. */
export interface Preview {
  width: number;
  height: number;
  /** Pixels of the frame per cell. */
  cellPx: number;
  data: Float32Array;
}

/** Cells across; enough to tell a hundredth of a percent of the frame's width. */
const ACROSS = 480;
/** Pixels looked at in a cell, each way: more would only take longer. */
const SAMPLES = 3;

/** A view of a whole picture. */
export function previewOf(picture: Picture): Preview {
  const { channels, data, bitDepth } = picture;
  const cellPx = Math.max(1, picture.width / ACROSS);
  const width = Math.floor(picture.width / cellPx);
  const height = Math.floor(picture.height / cellPx);
  const out = new Float32Array(width * height);
  const top = 2 ** bitDepth - 1;
  const steps = Math.min(SAMPLES, Math.ceil(cellPx));
  const placesOf = (cells: number) =>
    Int32Array.from({ length: cells * steps }, (_, i) =>
      Math.floor(Math.floor(i / steps) * cellPx + (((i % steps) + 0.5) * cellPx) / steps),
    );
  const [xs, ys] = [placesOf(width), placesOf(height)];
  const scale = 1 / (top * steps * steps * (channels === 3 ? 4 : 1));
  const offsets = xs.map((x) => x * channels);
  const sumsOf = channels === 3 ? addColors : addGrays;
  for (let y = 0; y < height; y++) {
    const own = out.subarray(y * width, (y + 1) * width);
    for (let j = y * steps; j < (y + 1) * steps; j++)
      sumsOf(own, data, ys[j] * picture.width * channels, offsets, steps);
    for (let x = 0; x < width; x++) own[x] *= scale;
  }
  return { width, height, cellPx, data: out };
}

/** Adds R + 2G + B of the places along a row of pixels to their cells, `steps` places each. */
function addColors(cells: Float32Array, data: Picture['data'], row: number, offsets: Int32Array, steps: number): void {
  for (let x = 0, i = 0; x < cells.length; x++) {
    let sum = 0;
    for (const end = i + steps; i < end; i++) {
      const at = row + offsets[i];
      sum += data[at] + 2 * data[at + 1] + data[at + 2];
    }
    cells[x] += sum;
  }
}

/** The same of a gray picture. */
function addGrays(cells: Float32Array, data: Picture['data'], row: number, offsets: Int32Array, steps: number): void {
  for (let x = 0, i = 0; x < cells.length; x++) {
    let sum = 0;
    for (const end = i + steps; i < end; i++) sum += data[row + offsets[i]];
    cells[x] += sum;
  }
}

/** Half the size each way, by averaging. */
export function halved({ width, height, cellPx, data }: Preview): Preview {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const at = 2 * y * width + 2 * x;
      out[y * w + x] = (data[at] + data[at + 1] + data[at + width] + data[at + width + 1]) / 4;
    }
  return { width: w, height: h, cellPx: 2 * cellPx, data: out };
}

/**
 * Local contrast: how far each cell lies above its surroundings, relative to them. Neither exposure nor the fall of
 * light across the frame leaves a trace in it.
 */
export function localContrast({ width, height, cellPx, data }: Preview, radius: number): Preview {
  const smooth = boxBlur(boxBlur(data, width, height, radius), width, height, radius);
  let mean = 0;
  for (const value of data) mean += value / data.length;
  const out = new Float32Array(data.length);
  for (let i = 0; i < data.length; i++) out[i] = (data[i] - smooth[i]) / (smooth[i] + 0.02 * mean + 1e-6);
  return { width, height, cellPx, data: out };
}

export function boxBlur(data: Float32Array, width: number, height: number, radius: number): Float32Array {
  const rows = new Float32Array(data.length);
  const out = new Float32Array(data.length);
  for (let y = 0; y < height; y++) slideLine(data, rows, y * width, 1, width, radius);
  for (let x = 0; x < width; x++) slideLine(rows, out, x, width, height, radius);
  return out;
}

/** Running mean along a line; the window shrinks at the ends. */
function slideLine(
  source: Float32Array,
  target: Float32Array,
  start: number,
  stride: number,
  count: number,
  radius: number,
): void {
  let sum = 0;
  let inside = 0;
  for (let i = 0; i < Math.min(radius, count); i++, inside++) sum += source[start + i * stride];
  for (let i = 0; i < count; i++) {
    if (i + radius < count) {
      sum += source[start + (i + radius) * stride];
      inside++;
    }
    if (i - radius - 1 >= 0) {
      sum -= source[start + (i - radius - 1) * stride];
      inside--;
    }
    target[start + i * stride] = sum / inside;
  }
}
