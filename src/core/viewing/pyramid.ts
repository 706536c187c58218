/** How a picture's tiles of linear light lie in a file: own pixels first, then each level half as large as the one before. */

/** Side of a tile, pixels. */
export const TILE = 256;

export interface PyramidLevel {
  width: number;
  height: number;
  columns: number;
  rows: number;
  /** Of its first tile in the file, bytes. */
  offset: number;
}

export interface Pyramid {
  width: number;
  height: number;
  channels: 1 | 3;
  /** Own pixels first, each half as large as the one before. */
  levels: PyramidLevel[];
  /** Linear light at the top code and at the code above which the camera's noise is worth looking at, per channel. */
  top: number[];
  dark: number[];
}

/**
 * What levels a picture of some size has, down to one of a single tile.
 *
 * @param from where the first tile lies in the file, bytes
 */
export function levelsOf(width: number, height: number, channels: 1 | 3, from: number): PyramidLevel[] {
  const levels: PyramidLevel[] = [];
  let offset = from;
  for (let [w, h] = [width, height]; ; [w, h] = [Math.ceil(w / 2), Math.ceil(h / 2)]) {
    const [columns, rows] = [Math.ceil(w / TILE), Math.ceil(h / TILE)];
    levels.push({ width: w, height: h, columns, rows, offset });
    offset += columns * rows * TILE * TILE * channels * 2;
    if (columns === 1 && rows === 1) return levels;
  }
}

/** Seconds of a clip that are sent together, to be played. */
export const REEL_SECONDS = 2;
