/** A field patch (an evenly lit surface) reduced to means of linear light: a fine grid, the center and the corners. */
import type { Covariance } from '../../formulas/statistics/covariance';
import { reducePatch, type Triple } from '../../reading/patchStatistics';
import { cutWindow, type Picture } from '../../reading/window';

/** The grid of unevenness: columns; rows follow the field's shape (formats.md). */
export const COARSE_COLUMNS = 20;
/** Fine cells per coarse cell, each way. */
export const FINE = 5;
/** Rows of a cell from which every other one is looked at. */
const MANY_ROWS = 40;

export const SQUARES = ['center', 'topLeft', 'topRight', 'bottomLeft', 'bottomRight'] as const;
export type Square = (typeof SQUARES)[number];
export type Corner = Exclude<Square, 'center'>;
export const CORNERS = SQUARES.slice(1) as Corner[];

export interface FieldStatistics {
  width: number;
  height: number;
  columns: number;
  rows: number;
  /** Mean linear light of each fine cell, per channel. */
  cells: [Float64Array, Float64Array, Float64Array];
  squares: Record<Square, Triple>;
  /** Mean code of a square, as a share of full scale. */
  codes: Record<Square, Triple>;
  /** What rounding to codes leaves uncertain in a square's mean, relative, per channel. */
  rounding: Record<Square, Triple>;
  /** Standard deviations of single pixels of a square's luma, blue and red difference, codes of 8 bits. */
  spread: Record<Square, Triple>;
  /** What compression leaves uncertain in a square's mean, stops²; of lossy files. */
  compression?: Record<Square, Covariance>;
  /** Stops by which the light of each fine cell departs for one standard uncertainty of how the camera changes contrast place by place. */
  localDoubt?: Float64Array;
  /** Pixels in a square and in a fine cell. */
  squarePixels: number;
  cellPixels: number;
  topShare: number;
}

/** First pixel of each of `count` equal cells over `size` pixels, and the end: a pixel belongs where its center lies. */
export function cellEdges(count: number, size: number): Int32Array {
  return Int32Array.from({ length: count + 1 }, (_, i) => Math.ceil((i * size) / count - 0.5));
}

function rowOfEach(rows: number, height: number): Int32Array {
  const edges = cellEdges(rows, height);
  const rowOf = new Int32Array(height);
  for (let row = 0; row < rows; row++) rowOf.fill(row, edges[row], edges[row + 1]);
  return rowOf;
}

/**
 * Reduces a field.
 *
 * @param side of the squares in pixels: floor(0.05·W) with W the frame's width (formats.md)
 */
export function reduceField(
  window: Picture,
  tables: readonly [Float64Array, Float64Array, Float64Array],
  side: number,
): FieldStatistics {
  const { width, height, channels, data } = window;
  const columns = COARSE_COLUMNS * FINE;
  const rows = Math.max(1, Math.round((COARSE_COLUMNS * height) / width)) * FINE;
  const starts = cellEdges(columns, width);
  const rowOf = rowOfEach(rows, height);
  const sums = [0, 1, 2].map(() => new Float64Array(columns * rows)) as FieldStatistics['cells'];
  const counts = new Float64Array(columns * rows);
  const { bitDepth } = window;
  // Cells of many rows lose nothing by every other one: their noise is far below a hundredth of a stop either way.
  const stride = height / rows >= MANY_ROWS ? 2 : 1;
  let [clipped, seen] = [0, 0];
  const [red, green, blue] = tables;
  const [g, b] = channels === 3 ? [1, 2] : [0, 0];
  for (let y = 0; y < height; y += stride) {
    const row = rowOf[y] * columns;
    seen += width;
    let at = y * width * channels;
    // Sums of a cell's stretch of the row stay in registers: this loop sees every pixel of every field.
    for (let column = 0; column < columns; column++) {
      let sr = 0;
      let sg = 0;
      let sb = 0;
      const end = at + (starts[column + 1] - starts[column]) * channels;
      for (; at < end; at += channels) {
        const r = data[at];
        const gg = data[at + g];
        const bb = data[at + b];
        sr += red[r];
        sg += green[gg];
        sb += blue[bb];
        // Only the top code plus one has a bit at the bit depth; three comparisons would double this loop's time.
        clipped += ((r + 1) | (gg + 1) | (bb + 1)) >> bitDepth;
      }
      const cell = row + column;
      sums[0][cell] += sr;
      sums[1][cell] += sg;
      sums[2][cell] += sb;
      counts[cell] += starts[column + 1] - starts[column];
    }
  }
  for (const channel of sums) for (let cell = 0; cell < channel.length; cell++) channel[cell] /= counts[cell];
  const size = Math.max(1, Math.min(side, width, height));
  const [right, bottom] = [width - size, height - size];
  const places: Record<Square, [number, number]> = {
    center: [Math.floor(right / 2), Math.floor(bottom / 2)],
    topLeft: [0, 0],
    topRight: [right, 0],
    bottomLeft: [0, bottom],
    bottomRight: [right, bottom],
  };
  const reduced = SQUARES.map((square) => {
    const [x, y] = places[square];
    return [square, reducePatch(cutWindow(window, { x, y, width: size, height: size }), tables)] as const;
  });
  const squares = Object.fromEntries(reduced.map(([square, one]) => [square, one.mean])) as Record<Square, Triple>;
  const codes = Object.fromEntries(reduced.map(([square, one]) => [square, one.meanCode])) as Record<Square, Triple>;
  const rounding = Object.fromEntries(reduced.map(([square, one]) => [square, one.rounding])) as Record<Square, Triple>;
  const spread = Object.fromEntries(
    reduced.map(([square, one]) => [square, one.componentSpread ?? [0, 0, 0]]),
  ) as Record<Square, Triple>;
  return {
    width,
    height,
    columns,
    rows,
    cells: sums,
    squares,
    codes,
    rounding,
    spread,
    squarePixels: size * size,
    cellPixels: seen / (columns * rows),
    topShare: clipped / seen,
  };
}
