/** A picture reduced to a grid of small cells: enough to find what is even, what is neutral and where edges run. */
import type { Picture } from '../../reading/window';

export interface Survey {
  columns: number;
  rows: number;
  /** Pixels of a cell, each way. */
  cellPx: number;
  /** Size of the picture. */
  width: number;
  height: number;
  /** Mean linear luminance of each cell, row by row. */
  light: Float64Array;
  /** log2 of red and of blue over green. */
  redness: Float64Array;
  blueness: Float64Array;
  /** Whether a pixel of the cell is at the top code. */
  clipped: Uint8Array;
}

/** Cells across a picture; more would find smaller things than a chart has. */
const ACROSS = 240;
const SMALLEST_PX = 3;

/**
 * Surveys a whole picture.
 *
 * @param tables linear light of every code, per channel
 * @param luminance weights of R, G, B in luminance
 */
export function surveyPicture(
  { width, height, channels, bitDepth, data }: Picture,
  tables: readonly Float64Array[],
  luminance: readonly number[],
): Survey {
  const cellPx = Math.max(SMALLEST_PX, Math.round(width / ACROSS));
  const columns = Math.floor(width / cellPx);
  const rows = Math.floor(height / cellPx);
  const sums = [0, 1, 2].map(() => new Float64Array(columns * rows));
  const [reds, greens, blues] = sums;
  const [ofRed, ofGreen, ofBlue] = tables;
  const clipped = new Uint8Array(columns * rows);
  const top = 2 ** bitDepth - 1;
  const [g, b] = channels === 3 ? [1, 2] : [0, 0];
  for (let y = 0; y < rows * cellPx; y++) {
    const row = Math.floor(y / cellPx) * columns;
    let at = y * width * channels;
    for (let column = 0; column < columns; column++) {
      const cell = row + column;
      let [r, gr, bl, most] = [reds[cell], greens[cell], blues[cell], 0];
      for (const end = at + cellPx * channels; at < end; at += channels) {
        const [red, green, blue] = [data[at], data[at + g], data[at + b]];
        r += ofRed[red];
        gr += ofGreen[green];
        bl += ofBlue[blue];
        most = Math.max(most, red, green, blue);
      }
      [reds[cell], greens[cell], blues[cell]] = [r, gr, bl];
      if (most === top) clipped[cell] = 1;
    }
  }
  const count = cellPx * cellPx;
  const light = new Float64Array(columns * rows);
  const redness = new Float64Array(columns * rows);
  const blueness = new Float64Array(columns * rows);
  for (let cell = 0; cell < light.length; cell++) {
    const [red, green, blue] = sums.map((channel) => Math.max(channel[cell] / count, 1e-6));
    light[cell] = luminance[0] * red + luminance[1] * green + luminance[2] * blue;
    redness[cell] = Math.log2(red / green);
    blueness[cell] = Math.log2(blue / green);
  }
  return { columns, rows, cellPx, width, height, light, redness, blueness, clipped };
}

/** The same survey with rows and columns exchanged, so that level edges can be followed like upright ones. */
export function transposedSurvey(survey: Survey): Survey {
  const { columns, rows } = survey;
  const turn = <T extends Float64Array | Uint8Array>(values: T): T => {
    const out = values.slice() as T;
    for (let y = 0; y < rows; y++) for (let x = 0; x < columns; x++) out[x * rows + y] = values[y * columns + x];
    return out;
  };
  return {
    ...survey,
    columns: rows,
    rows: columns,
    width: survey.height,
    height: survey.width,
    light: turn(survey.light),
    redness: turn(survey.redness),
    blueness: turn(survey.blueness),
    clipped: turn(survey.clipped),
  };
}
