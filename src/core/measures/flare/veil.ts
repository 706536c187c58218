/**
 * Flare: the veil that a filter lays over dark places beside a lamp, and the ghosts it adds. Definitions: formats.md; the
 * standards are ISO 9358:1994 (veiling glare) and ISO 18844 (cameras).
 */
import { upperMedian } from '../../formulas/statistics/averages';
import type { Reading } from '../../session/readings';
import type { FieldStatistics } from '../shading/field';

/** Mean luminance and its relative standard uncertainty, of one take. */
export interface Level {
  value: number;
  relativeU: number;
}

/** Black and neutral patch of the same picture. */
export interface BlackBesideNeutral {
  black: Level;
  neutral: Level;
}

export interface Ghost {
  /** Fractions of the frame. */
  x: number;
  y: number;
  /** Height over its surroundings. */
  stops: number;
  /** Half width at half height, as a fraction of the frame's width. */
  radius: number;
}

/** `veilPercent`: 100·(black/neutral filtered − black/neutral bare). Each list has at least one picture. */
export function measureVeil(filtered: readonly BlackBesideNeutral[], bare: readonly BlackBesideNeutral[]): Reading {
  const ratio = (pictures: readonly BlackBesideNeutral[]) => {
    const values = pictures.map(({ black, neutral }) => (100 * black.value) / neutral.value);
    const value = values.reduce((sum, one) => sum + one, 0) / values.length;
    const noise = pictures.reduce(
      (sum, { black, neutral }, i) => sum + (values[i] * Math.hypot(black.relativeU, neutral.relativeU)) ** 2,
      0,
    );
    const scatter =
      values.length > 1
        ? values.reduce((sum, one) => sum + (one - value) ** 2, 0) / (values.length - 1) / values.length
        : 0;
    return { value, variance: Math.max(noise / values.length ** 2, scatter) };
  };
  const [front, back] = [ratio(filtered), ratio(bare)];
  return { value: front.value - back.value, u95: 2 * Math.sqrt(front.variance + back.variance) };
}

/** A ghost stands this many times above the map's noise (formats.md), and at least this high. */
const TIMES_NOISE = 5;
const LEAST_STOPS = 0.02;

/**
 * Local maxima of the ratio map filtered/bare that stand above five times its noise, brightest first, and that map.
 *
 * @param filtered, bare grids over the whole frame; several are averaged
 */
export function findGhosts(
  filtered: readonly FieldStatistics[],
  bare: readonly FieldStatistics[],
  luminance: readonly number[],
): { ghosts: Ghost[]; map: { columns: number; rows: number; stops: number[] } } {
  const { columns, rows } = filtered[0];
  const light = (fields: readonly FieldStatistics[], i: number) =>
    fields.reduce(
      (sum, field) => sum + luminance.reduce((part, weight, c) => part + weight * field.cells[c][i], 0),
      0,
    ) / fields.length;
  const raw = Float64Array.from({ length: columns * rows }, (_, i) =>
    Math.log2(Math.max(1e-9, light(filtered, i)) / Math.max(1e-9, light(bare, i))),
  );
  // Three by three cells: a ghost is never as small as one.
  const before = Float64Array.from({ length: columns * rows }, (_, i) => light(bare, i));
  const smooth = raw.map(
    (_, i) =>
      neighbors(raw, i, columns, rows, 1).reduce((sum, value) => sum + value, 0) /
      neighbors(raw, i, columns, rows, 1).length,
  );
  const reach = Math.round(columns / 8);
  const above = smooth.map((value, i) => value - upperMedian(neighbors(smooth, i, columns, rows, reach, 3)));
  const noise = 1.4826 * upperMedian(above.map(Math.abs));
  const least = Math.max(LEAST_STOPS, TIMES_NOISE * noise);
  // Veil lifts whatever is dark more than its surroundings: that is no ghost.
  const shown = before.map((value, i) =>
    value < 0.5 * upperMedian(neighbors(before, i, columns, rows, reach, 3)) ? 0 : 1,
  );
  const found: Ghost[] = [];
  for (let i = 0; i < above.length; i++) {
    if (!shown[i] || above[i] < least || neighbors(above, i, columns, rows, 3).some((value) => value > above[i]))
      continue;
    const [x, y] = [i % columns, Math.floor(i / columns)];
    let half = 1;
    while (half < reach && ringMean(above, x, y, half, columns, rows) > above[i] / 2) half++;
    const [dx, dy] = [vertex(above, i, 1), vertex(above, i, columns)];
    found.push({ x: (x + 0.5 + dx) / columns, y: (y + 0.5 + dy) / rows, stops: above[i], radius: half / columns });
  }
  const nearDark = (i: number) => neighbors(shown, i, columns, rows, 2).includes(0);
  return {
    ghosts: found.sort((a, b) => b.stops - a.stops).slice(0, 20),
    map: thinned(
      above.map((value, i) => (nearDark(i) ? 0 : value)),
      columns,
      rows,
    ),
  };
}

/** Every second cell is enough to look at. */
function thinned(values: Float64Array, columns: number, rows: number) {
  const [w, h] = [columns >> 1, rows >> 1];
  const stops = Array.from({ length: w * h }, (_, i) => {
    const at = 2 * Math.floor(i / w) * columns + 2 * (i % w);
    return Math.round(1e3 * values[at]) / 1e3;
  });
  return { columns: w, rows: h, stops };
}

function neighbors(map: Float64Array, i: number, columns: number, rows: number, reach: number, step = 1): number[] {
  const [x0, y0] = [i % columns, Math.floor(i / columns)];
  const values: number[] = [];
  for (let y = Math.max(0, y0 - reach); y <= Math.min(rows - 1, y0 + reach); y += step)
    for (let x = Math.max(0, x0 - reach); x <= Math.min(columns - 1, x0 + reach); x += step)
      values.push(map[y * columns + x]);
  return values;
}

/** Where a parabola through a maximum and its two neighbors has its vertex, in cells from the maximum. */
function vertex(map: Float64Array, i: number, step: number): number {
  const [before, after] = [map[i - step] ?? map[i], map[i + step] ?? map[i]];
  const bend = before - 2 * map[i] + after;
  return bend < 0 ? Math.max(-0.5, Math.min(0.5, (before - after) / (2 * bend))) : 0;
}

function ringMean(map: Float64Array, x: number, y: number, radius: number, columns: number, rows: number): number {
  const values: number[] = [];
  for (const [dx, dy] of [
    [radius, 0],
    [-radius, 0],
    [0, radius],
    [0, -radius],
  ]) {
    const [px, py] = [x + dx, y + dy];
    if (px >= 0 && py >= 0 && px < columns && py < rows) values.push(map[py * columns + px]);
  }
  return values.length === 0 ? 0 : values.reduce((sum, value) => sum + value, 0) / values.length;
}
