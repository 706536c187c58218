/**
 * What a picture looks like in a few numbers, taken once when it arrives: enough to lay it on its take and to see before measuring
 * what will spoil it. Figures are never made from these.
 */
import { mean } from '../../formulas/statistics/averages';
import type { Picture } from '../../reading/window';

/** Cells of the maps, across and down. */
export const LOOK_COLUMNS = 24;
export const LOOK_ROWS = 16;
export const VIEW_COLUMNS = 48;
export const VIEW_ROWS = 32;
const BINS = 256;
const MILLION = 1e6;
/** Share of the steepest neighbors that speak of detail: edges, not grain. */
const STEEPEST = 0.995;

export interface Look {
  /** Parts of a million of the pixels in each of 256 equal steps of the code range: R, G, B. */
  histogram: [number[], number[], number[]];
  /** Shares of pixels with a channel at the top code, and with a channel at code 0. */
  top: number;
  zero: number;
  /** Percent of pixels with a channel at the top code, cell by cell, {@link LOOK_COLUMNS} × {@link LOOK_ROWS}, row by row. */
  topCells: number[];
  /** How steep the steepest neighbors are, across and down, relative to their brightness. */
  detail: { x: number; y: number };
  /** A view of {@link VIEW_COLUMNS} × {@link VIEW_ROWS} mean codes, 0–255, row by row. */
  view: number[];
}

/**
 * @param picture exact codes of the whole upright frame, or of every nth row and column of it
 */
export function lookOf(picture: Picture): Look {
  const { width, height, channels, data, bitDepth } = picture;
  const shift = bitDepth - 8;
  const full = 2 ** bitDepth - 1;
  const counts = [new Uint32Array(BINS), new Uint32Array(BINS), new Uint32Array(BINS)];
  const tops = new Uint32Array(LOOK_COLUMNS * LOOK_ROWS);
  const cells = new Uint32Array(LOOK_COLUMNS * LOOK_ROWS);
  const sums = new Float64Array(VIEW_COLUMNS * VIEW_ROWS);
  const pixels = new Uint32Array(VIEW_COLUMNS * VIEW_ROWS);
  let [topCount, zeroCount] = [0, 0];
  const [g, b] = channels === 3 ? [1, 2] : [0, 0];
  const columnOf = (count: number) => Int32Array.from({ length: width }, (_, x) => Math.floor((x * count) / width));
  const [lookColumn, viewColumn] = [columnOf(LOOK_COLUMNS), columnOf(VIEW_COLUMNS)];
  for (let y = 0, at = 0; y < height; y++) {
    const lookRow = Math.floor((y * LOOK_ROWS) / height) * LOOK_COLUMNS;
    const viewRow = Math.floor((y * VIEW_ROWS) / height) * VIEW_COLUMNS;
    for (let x = 0; x < width; x++, at += channels) {
      const [red, green, blue] = [data[at], data[at + g], data[at + b]];
      counts[0][red >> shift]++;
      counts[1][green >> shift]++;
      counts[2][blue >> shift]++;
      const cell = lookRow + lookColumn[x];
      cells[cell]++;
      if (red === full || green === full || blue === full) {
        topCount++;
        tops[cell]++;
      }
      if (red === 0 || green === 0 || blue === 0) zeroCount++;
      const view = viewRow + viewColumn[x];
      sums[view] += red + 2 * green + blue;
      pixels[view]++;
    }
  }
  const count = width * height;
  const histogram = counts.map((bins) => Array.from(bins, (n) => Math.round((MILLION * n) / count)));
  return {
    histogram: histogram as Look['histogram'],
    top: topCount / count,
    zero: zeroCount / count,
    topCells: Array.from(tops, (n, i) => Math.round((100 * n) / Math.max(1, cells[i]))),
    detail: { x: steepness(picture, 1, 0), y: steepness(picture, 0, 1) },
    view: Array.from(sums, (sum, i) => Math.round((255 * sum) / (4 * full * Math.max(1, pixels[i])))),
  };
}

/** The 99.5th of a hundred of the green differences to the next pixel, over the two's brightness. */
function steepness({ width, height, channels, data, bitDepth }: Picture, dx: number, dy: number): number {
  const g = channels === 3 ? 1 : 0;
  const floor = 0.02 * 2 ** bitDepth;
  const bins = new Uint32Array(1001);
  let count = 0;
  for (let y = 0; y < height - dy; y++)
    for (let x = 0; x < width - dx; x++) {
      const here = data[(y * width + x) * channels + g];
      const there = data[((y + dy) * width + x + dx) * channels + g];
      bins[Math.round((1000 * Math.abs(here - there)) / (here + there + floor))]++;
      count++;
    }
  let seen = 0;
  return bins.findIndex((n) => (seen += n) >= STEEPEST * count) / 1000;
}

/**
 * Mean linear light of R, G, B, 0–1.
 *
 * @param decode from a code as a share of the range to linear light, a channel each
 */
export function lightOf(look: Look, decode: readonly ((code: number) => number)[], bitDepth: 8 | 16): number[] {
  return look.histogram.map((bins, c) => {
    let sum = 0;
    for (let i = 0; i < BINS; i++)
      if (bins[i] > 0) sum += bins[i] * decode[c](bitDepth === 8 ? i / 255 : (i + 0.5) / BINS);
    return Math.max(0, sum / MILLION);
  });
}

/**
 * How alike two views are, −1 to 1: the correlation of their logarithms, so that neither exposure nor a filter's strength
 * matters. Even surfaces have nothing to compare: `null`.
 */
export function likeness(a: Look, b: Look): number | null {
  const [first, second] = [relief(a), relief(b)];
  const power = (values: number[]) => values.reduce((sum, value) => sum + value * value, 0);
  const [pa, pb] = [power(first), power(second)];
  const least = FLAT ** 2 * first.length;
  if (pa < least || pb < least) return pa < least && pb < least ? null : 0;
  return first.reduce((sum, value, i) => sum + value * second[i], 0) / Math.sqrt(pa * pb);
}

/** Relief below this, in log2 of codes, is that of an even surface with its falloff. */
const FLAT = 0.12;

/** Whether a picture shows an even surface. */
export function isEven(look: Look): boolean {
  const values = relief(look);
  return Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / values.length) < FLAT;
}

/** log2 of the view without its plane and its mean fall to the corners. */
function relief({ view }: Look): number[] {
  const logs = view.map((code) => Math.log2(code + 2));
  const basis = BASIS;
  const out = [...logs];
  for (const shape of basis) {
    const share = out.reduce((sum, value, i) => sum + value * shape[i], 0);
    for (let i = 0; i < out.length; i++) out[i] -= share * shape[i];
  }
  return out;
}

/** Orthonormal shapes over the view: 1, x, y, and the square of the radius. */
const BASIS = orthonormal([() => 1, (x) => x, (_, y) => y, (x, y) => x * x + y * y]);

function orthonormal(shapes: ((x: number, y: number) => number)[]): number[][] {
  const found: number[][] = [];
  for (const shape of shapes) {
    const values: number[] = [];
    for (let y = 0; y < VIEW_ROWS; y++)
      for (let x = 0; x < VIEW_COLUMNS; x++)
        values.push(shape((x + 0.5) / VIEW_COLUMNS - 0.5, (y + 0.5) / VIEW_ROWS - 0.5));
    for (const known of found) {
      const share = values.reduce((sum, value, i) => sum + value * known[i], 0);
      for (let i = 0; i < values.length; i++) values[i] -= share * known[i];
    }
    const length = Math.sqrt(values.reduce((sum, value) => sum + value * value, 0));
    found.push(values.map((value) => value / length));
  }
  return found;
}

/** One moment of a clip. */
export interface Moment {
  seconds: number;
  /** Mean linear light of R, G, B by the file's own encoding, 0–1. */
  light: number[];
  top: number;
  detail: { x: number; y: number };
}

/** A clip's look: that of all moments together, and each moment's light for the graph over time. */
export interface ClipLook extends Look {
  moments: Moment[];
}

/** Joins looks of a clip's frames; maps keep the worst of each cell. */
export function joinLooks(looks: readonly Look[]): Look {
  const meanOf = (pick: (look: Look) => number) => mean(looks.map(pick));
  const middle = looks[looks.length >> 1];
  return {
    histogram: [0, 1, 2].map((c) =>
      Array.from({ length: BINS }, (_, i) => Math.round(meanOf((look) => look.histogram[c][i]))),
    ) as Look['histogram'],
    top: meanOf((look) => look.top),
    zero: meanOf((look) => look.zero),
    topCells: middle.topCells.map((_, i) => Math.max(...looks.map((look) => look.topCells[i]))),
    detail: { x: meanOf((look) => look.detail.x), y: meanOf((look) => look.detail.y) },
    view: middle.view,
  };
}

/** Mean of green, in 256 steps of the code range. */
export const meanCode = ({ histogram }: Pick<Look, 'histogram'>): number =>
  histogram[1].reduce((sum, parts, step) => sum + (parts * step) / MILLION, 0);
