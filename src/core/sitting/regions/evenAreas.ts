/** Finds even areas on a survey: rectangles over which light changes little. */
import type { Survey } from './survey';

/** A rectangle of cells with what it shows. */
export interface EvenArea {
  column: number;
  row: number;
  columns: number;
  rows: number;
  /** Mean linear luminance. */
  light: number;
  /** Largest less smallest cell over the mean. */
  range: number;
  /** Distance in log2 red/green and blue/green from the picture's commonest tone. */
  tint: number;
}

/** Neighboring cells of an even area differ by no more than this share. */
const STEP = 0.045;
/** Light over one area may change by this share: a lamp's fall, not an edge. */
const MOST_RANGE = 0.12;
const LONGEST_SHARE = 0.24;
const NARROWEST_CELLS = 4;
const LONGEST_ASPECT = 2.5;

/** Whether each cell is even with its neighbors and unclipped. */
export function evenCells({ columns, rows, light, clipped }: Survey): Uint8Array {
  const even = new Uint8Array(columns * rows);
  for (let y = 0; y < rows; y++)
    for (let x = 0; x < columns; x++) {
      const i = y * columns + x;
      const like = (j: number) => Math.abs(light[j] - light[i]) <= STEP * Math.max(light[i], light[j]);
      even[i] =
        !clipped[i] &&
        (x === 0 || like(i - 1)) &&
        (x === columns - 1 || like(i + 1)) &&
        (y === 0 || like(i - columns)) &&
        (y === rows - 1 || like(i + columns))
          ? 1
          : 0;
    }
  return even;
}

/**
 * Even areas, best first: large, by what `weigh` prefers. Areas don't overlap.
 *
 * @param weigh weight of a cell as an area's middle, 0 or more
 */
export function findEvenAreas(survey: Survey, most: number, weigh: (cell: number) => number): EvenArea[] {
  const { columns, rows } = survey;
  const even = evenCells(survey);
  const tone = commonTone(survey, even);
  const taken = new Uint8Array(columns * rows);
  const areas: EvenArea[] = [];
  while (areas.length < most) {
    const room = roomAround(even, taken, columns, rows);
    let best = -1;
    let bestScore = 0;
    for (let i = 0; i < room.length; i++) {
      if (2 * room[i] - 1 < NARROWEST_CELLS) continue;
      const score = Math.sqrt(Math.min(room[i], 0.08 * columns)) * weigh(i);
      if (score > bestScore) [best, bestScore] = [i, score];
    }
    if (best < 0) break;
    const area = grow(survey, even, taken, best, tone);
    for (let y = area.row; y < area.row + area.rows; y++)
      taken.fill(1, y * columns + area.column, y * columns + area.column + area.columns);
    areas.push(area);
  }
  return areas;
}

/** Chebyshev distance to the nearest cell that isn't free, in cells; the frame's border counts as one. */
function roomAround(even: Uint8Array, taken: Uint8Array, columns: number, rows: number): Int32Array {
  const room = new Int32Array(columns * rows);
  const at = (x: number, y: number) => (x < 0 || y < 0 || x >= columns || y >= rows ? 0 : room[y * columns + x]);
  for (let y = 0; y < rows; y++)
    for (let x = 0; x < columns; x++) {
      const i = y * columns + x;
      room[i] = even[i] && !taken[i] ? 1 + Math.min(at(x - 1, y), at(x, y - 1), at(x - 1, y - 1), at(x + 1, y - 1)) : 0;
    }
  for (let y = rows - 1; y >= 0; y--)
    for (let x = columns - 1; x >= 0; x--) {
      const i = y * columns + x;
      if (room[i] > 0)
        room[i] = Math.min(room[i], 1 + Math.min(at(x + 1, y), at(x, y + 1), at(x + 1, y + 1), at(x - 1, y + 1)));
    }
  return room;
}

/** Grows a rectangle from a cell, a row or column at a time, while it stays even; then draws it in by a cell. */
function grow(survey: Survey, even: Uint8Array, taken: Uint8Array, seed: number, tone: [number, number]): EvenArea {
  const { columns, rows, light } = survey;
  let [left, top] = [seed % columns, Math.floor(seed / columns)];
  let [right, bottom] = [left, top];
  let [low, high] = [light[seed], light[seed]];
  const tryLine = (x0: number, y0: number, x1: number, y1: number): boolean => {
    if (x0 < 0 || y0 < 0 || x1 >= columns || y1 >= rows) return false;
    let [lowest, highest] = [low, high];
    for (let y = y0; y <= y1; y++)
      for (let x = x0; x <= x1; x++) {
        const i = y * columns + x;
        if (!even[i] || taken[i]) return false;
        lowest = Math.min(lowest, light[i]);
        highest = Math.max(highest, light[i]);
      }
    if (highest - lowest > MOST_RANGE * highest) return false;
    [low, high] = [lowest, highest];
    return true;
  };
  const longest = LONGEST_SHARE * columns;
  for (let grown = true; grown;) {
    grown = false;
    const [w, h] = [right - left + 1, bottom - top + 1];
    if (w < Math.min(longest, LONGEST_ASPECT * h)) {
      if (tryLine(left - 1, top, left - 1, bottom)) [left, grown] = [left - 1, true];
      if (tryLine(right + 1, top, right + 1, bottom)) [right, grown] = [right + 1, true];
    }
    if (h < Math.min(longest, LONGEST_ASPECT * w)) {
      if (tryLine(left, top - 1, right, top - 1)) [top, grown] = [top - 1, true];
      if (tryLine(left, bottom + 1, right, bottom + 1)) [bottom, grown] = [bottom + 1, true];
    }
  }
  if (right - left > 4) [left, right] = [left + 1, right - 1];
  if (bottom - top > 4) [top, bottom] = [top + 1, bottom - 1];
  let [sum, red, blue, count] = [0, 0, 0, 0];
  for (let y = top; y <= bottom; y++)
    for (let x = left; x <= right; x++) {
      const i = y * columns + x;
      sum += light[i];
      red += survey.redness[i];
      blue += survey.blueness[i];
      count++;
    }
  return {
    column: left,
    row: top,
    columns: right - left + 1,
    rows: bottom - top + 1,
    light: sum / count,
    range: (high - low) / (sum / count),
    tint: Math.hypot(red / count - tone[0], blue / count - tone[1]),
  };
}

/** The commonest tone of even cells: gray, whatever the white balance is. */
export function commonTone({ redness, blueness }: Survey, even: Uint8Array): [number, number] {
  const median = (values: Float64Array) => {
    const kept = values.filter((_, i) => even[i] === 1).sort();
    return kept.length > 0 ? kept[kept.length >> 1] : 0;
  };
  return [median(redness), median(blueness)];
}

/** The largest connected part of the even cells, alone. */
export function largestPart(even: Uint8Array, columns: number): Uint8Array {
  const part = new Int32Array(even.length);
  let [best, bestSize, name] = [0, 0, 0];
  for (let seed = 0; seed < even.length; seed++) {
    if (!even[seed] || part[seed]) continue;
    name++;
    const queue = [seed];
    part[seed] = name;
    let size = 0;
    for (let i = queue.pop(); i !== undefined; i = queue.pop()) {
      size++;
      const x = i % columns;
      for (const j of [x > 0 ? i - 1 : -1, x < columns - 1 ? i + 1 : -1, i - columns, i + columns])
        if (j >= 0 && j < even.length && even[j] && !part[j]) {
          part[j] = name;
          queue.push(j);
        }
    }
    if (size > bestSize) [best, bestSize] = [name, size];
  }
  return Uint8Array.from(part, (one) => (best > 0 && one === best ? 1 : 0));
}
