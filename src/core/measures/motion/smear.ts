/**
 * How long the shutter was open, told by the pictures alone: frames of one clip that show the same and moved differently differ in how they
 * are smeared, along their ways and not across. Cross spectra of two frames hold what both saw and neither's noise; their size is that of
 * the scene times both frames' transfer, which along a way p(t) is the mean of exp(−2πi u·p(t)) over the exposure (measuring.md, section 7).
 */
import { PhasePlane } from '../../formulas/spectra/phase';
import { sincAt } from '../../formulas/spectra/sinc';
import { transform2d } from '../../formulas/spectra/transform';
import type { Reading } from '../../session/readings';
import { mean } from '../../formulas/statistics/averages';
import { solveLinear } from '../../formulas/statistics/leastSquares';
import { shiftBetween, pyramidOfFrame, type GrayFrame, type Shift } from './flow';

export interface SmearFrame {
  /** Light at the picture's own pixels; frames of one group are of one size. */
  frame: GrayFrame;
  /** Where the view has moved to, pixels, at a share of the time between two frames from this one's moment (−0.5 to 0.5). */
  way: (share: number) => readonly [number, number];
}

/** Directions over half a turn, and frequencies, cycles/pixel. */
const DIRECTIONS = 8;
const RADII = { from: 0.05, step: 0.03, count: 8 };
const BINS = DIRECTIONS * RADII.count;
const LEAST_BINS = BINS / 4;
const TILES = { large: { size: 128, most: 20 }, small: { size: 64, most: 48 } };
/** Bins in which frames share less than this of their power are noise. */
const LEAST_COHERENCE = 0.5;
/** Up to here, cycles/pixel, tiles must be alike as far as this: else leaves, water or somebody moved. */
const COARSE = 0.12;
const LEAST_LIKENESS = 0.9;
/** Places of the way over an exposure. */
const PARTS = 9;
/** Of a transfer below this only noise is left. */
const LEAST_TRANSFER = 0.05;
/** Bins in which every frame's transfer is above this, once that is known, and how often it is asked. */
const CLEAR_TRANSFER = 0.35;
const ROUNDS = 3;
export const LEAST_GROUPS = 3;
/** What the method leaves uncertain besides what groups differ by (95 %), a share: seen over simulated clips. */
const SHARE = 0.07;
/** Shares of the time between two frames that are tried. */
const STEP = 0.02;

/** Cross power of each two frames of a group by bins, and the middle of each bin. */
interface GroupSpectra {
  ways: SmearFrame['way'][];
  bins: { fx: number; fy: number; weight: number; pairs: { i: number; j: number; log: number }[] }[];
}

/** The transfer of a way over an exposure at a frequency, 0–1. */
export function transferOf(way: SmearFrame['way'], share: number, fx: number, fy: number): number {
  return transferAt(placesOf(way, share), fx, fy);
}

const placesOf = (way: SmearFrame['way'], share: number) =>
  Array.from({ length: PARTS }, (_, k) => way(share * ((k + 0.5) / PARTS - 0.5)));

function transferAt(places: readonly (readonly [number, number])[], fx: number, fy: number): number {
  let [re, im] = [0, 0];
  for (const [x, y] of places) {
    const turn = 2 * Math.PI * (fx * x + fy * y);
    re += Math.cos(turn);
    im += Math.sin(turn);
  }
  return Math.hypot(re, im) / PARTS;
}

/**
 * The share of the time between two frames that the shutter was open, 0–1, with its u95; `null` where the clip moves too little or too
 * evenly, or isn't textured enough, for blur to tell.
 *
 * @param groups some frames each, near in time, that moved as differently as the clip has it
 */
export function openShare(groups: readonly (readonly SmearFrame[])[]): Reading | null {
  let spectra = groups.flatMap((group) => spectraOf(group) ?? []);
  const shares = Array.from({ length: Math.round(1 / STEP) + 1 }, (_, k) => k * STEP);
  let costs: number[][] = [];
  // Where a frame's transfer is nearly nothing, its logarithm says little but noise: which bins these are is known once the share is.
  for (let round = 0; round < ROUNDS; round++) {
    if (round > 0) {
      const share = lowest(shares, summedOf(costs, -1));
      spectra = spectra.flatMap((one) => {
        const bins = one.bins.filter(({ fx, fy }) =>
          one.ways.every((way) => transferOf(way, share, fx, fy) > CLEAR_TRANSFER),
        );
        return bins.length >= LEAST_BINS ? [{ ...one, bins }] : [];
      });
    }
    if (spectra.length < LEAST_GROUPS) return null;
    // Each group says what it says as surely as it fits: its rest over what can be told apart is its variance.
    costs = spectra.map((one) => {
      const raw = shares.map((share) => costOf(one, share));
      const freedom = Math.max(1, one.bins.length * (one.ways.length - 1) - one.ways.length - 1);
      const variance = Math.max(Math.min(...raw) / freedom, 1e-12);
      return raw.map((cost) => cost / variance);
    });
  }
  const total = summedOf(costs, -1);
  const value = lowest(shares, total);
  // How far off the rest grows by four, 95 % of a normal distribution; and how much the answer hangs on single groups (the jackknife).
  const least = Math.min(...total);
  const within = shares.filter((_, k) => total[k] < least + 4);
  const width = Math.max(value - within[0], within[within.length - 1] - value, STEP / 2);
  const others = spectra.map((_, g) => lowest(shares, summedOf(costs, g)));
  const n = others.length;
  const middle = mean(others);
  const variance = ((n - 1) / n) * others.reduce((sum, one) => sum + (one - middle) ** 2, 0);
  return { value, u95: Math.hypot(Math.max(width, 2.4 * Math.sqrt(variance)), SHARE * value) };
}

/** The groups' costs together, one left out. */
function summedOf(costs: readonly (readonly number[])[], without: number): number[] {
  return (costs[0] ?? []).map((_, k) => costs.reduce((sum, cost, g) => sum + (g === without ? 0 : cost[k]), 0));
}

/** Where a curve is lowest, between its points by a parabola. */
function lowest(at: readonly number[], values: readonly number[]): number {
  const k = values.indexOf(Math.min(...values));
  if (k <= 0 || k >= values.length - 1) return at[k];
  const [a, b, c] = [values[k - 1], values[k], values[k + 1]];
  const bend = a - 2 * b + c;
  return at[k] + (bend > 0 ? (STEP * (a - c)) / (2 * bend) : 0);
}

/**
 * What is left of a group's cross powers when smearing over a share of the time is taken out; the scene's own spectrum and a softness of
 * each frame's (focus, codec), alike in all directions, are fitted away.
 */
function costOf({ ways, bins }: GroupSpectra, share: number): number {
  const n = ways.length;
  const normal = Array.from({ length: n }, (_, i) => Array.from({ length: n }, (_, j) => (i === j ? 1e-6 : 0)));
  const right = new Array<number>(n).fill(0);
  let rest = 0;
  const places = ways.map((way) => placesOf(way, share));
  for (const { fx, fy, weight, pairs } of bins) {
    const logs = places.map((one) => Math.log(Math.max(LEAST_TRANSFER, transferAt(one, fx, fy))));
    const left = pairs.map(({ i, j, log }) => log - logs[i] - logs[j]);
    const level = left.reduce((a, b) => a + b, 0) / left.length;
    const rho = fx * fx + fy * fy;
    const softness = new Array<number>(n).fill(0);
    for (const { i, j } of pairs) {
      softness[i] += rho / pairs.length;
      softness[j] += rho / pairs.length;
    }
    pairs.forEach(({ i, j }, at) => {
      const y = left[at] - level;
      const row = softness.map((one, k) => (k === i || k === j ? rho : 0) - one);
      rest += weight * y * y;
      for (let a = 0; a < n; a++) {
        right[a] += weight * row[a] * y;
        for (let b = 0; b < n; b++) normal[a][b] += weight * row[a] * row[b];
      }
    });
  }
  const found = solveLinear(normal, right);
  return found ? rest - found.reduce((sum, one, k) => sum + one * right[k], 0) : rest;
}

function spectraOf(group: readonly SmearFrame[]): GroupSpectra | null {
  const [reference] = group;
  const first = pyramidOfFrame(reference.frame);
  const laid = group.map((one, i) =>
    i === 0 ? { dx: 0, dy: 0, rotation: 0 } : shiftBetween(first, pyramidOfFrame(one.frame)),
  );
  if (laid.some((one) => one === null) || group.length < 3) return null;
  const { width, height } = reference.frame;
  const { size, most } = Math.min(width, height) >= 3 * TILES.large.size ? TILES.large : TILES.small;
  const tiles = tilesOf(reference.frame, size, most).flatMap((corner) => {
    const spectra = tileOf(group, laid as Shift[], corner, size);
    return spectra ? [spectra] : [];
  });
  if (tiles.length < 3) return null;
  return binned(tiles, group, size);
}

/** Corners of the most textured tiles. */
function tilesOf({ width, height, data }: GrayFrame, size: number, most: number): [number, number][] {
  const found: { corner: [number, number]; texture: number }[] = [];
  for (let top = 8; top + size < height - 8; top += 0.75 * size)
    for (let left = 8; left + size < width - 8; left += 0.75 * size) {
      const [x0, y0] = [Math.round(left), Math.round(top)];
      let [sum, mean, n] = [0, 0, 0];
      for (let y = y0; y < y0 + size; y += 2)
        for (let x = x0; x < x0 + size; x += 2) {
          const a = data[y * width + x];
          sum += (a - data[y * width + x + 2]) ** 2 + (a - data[(y + 2) * width + x]) ** 2;
          mean += a;
          n++;
        }
      if (mean > 0) found.push({ corner: [x0, y0], texture: sum / n / (mean / n) ** 2 });
    }
  return found
    .sort((a, b) => b.texture - a.texture)
    .slice(0, most)
    .map(({ corner }) => corner);
}

/** Spectra of a place in all frames, complex, laid on the first; `null` where one doesn't show it. */
function tileOf(
  group: readonly SmearFrame[],
  laid: readonly Shift[],
  [left, top]: readonly [number, number],
  size: number,
): Float64Array[] | null {
  const { width, height } = group[0].frame;
  const [middleX, middleY] = [(width - 1) / 2, (height - 1) / 2];
  const hann = Float64Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / size));
  const spectra: Float64Array[] = [];
  for (const [k, { frame }] of group.entries()) {
    const { dx, dy, rotation } = laid[k];
    const [cos, sin] = [Math.cos(rotation), Math.sin(rotation)];
    const data = new Float64Array(2 * size * size);
    let mean = 0;
    for (let y = 0; y < size; y++)
      for (let x = 0; x < size; x++) {
        const [u, v] = [left + x - middleX, top + y - middleY];
        const value = sincAt(frame, cos * u - sin * v + middleX + dx, sin * u + cos * v + middleY + dy);
        if (value !== value) return null;
        data[2 * (y * size + x)] = value;
        mean += value / size / size;
      }
    if (!(mean > 0)) return null;
    for (let y = 0; y < size; y++)
      for (let x = 0; x < size; x++) {
        const at = 2 * (y * size + x);
        data[at] = hann[x] * hann[y] * (data[at] / mean - 1);
      }
    transform2d(data, size);
    // What moves by itself here: its shift is taken out, and what isn't the same is left out.
    if (k > 0 && !settle(spectra[0], data, size)) return null;
    spectra.push(data);
  }
  return spectra;
}

/** Turns a spectrum by the shift that is left to another one; false where the two don't show the same. */
function settle(first: Float64Array, other: Float64Array, size: number): boolean {
  const each = (visit: (fx: number, fy: number, at: number) => void) => {
    for (let y = -size / 2; y < size / 2; y++)
      for (let x = -size / 2; x < size / 2; x++)
        visit(x / size, y / size, 2 * (((y + size) % size) * size + ((x + size) % size)));
  };
  const plane = new PhasePlane();
  let [shared, own, others] = [0, 0, 0];
  each((fx, fy, at) => {
    const f = Math.hypot(fx, fy);
    if (f > COARSE || f === 0) return;
    const re = first[at] * other[at] + first[at + 1] * other[at + 1];
    const im = first[at] * other[at + 1] - first[at + 1] * other[at];
    plane.add(fx, fy, re, im);
    shared += re;
    own += first[at] ** 2 + first[at + 1] ** 2;
    others += other[at] ** 2 + other[at + 1] ** 2;
  });
  if (!(shared > LEAST_LIKENESS * Math.sqrt(own * others))) return false;
  const slope = plane.slope();
  if (!slope) return false;
  const [sx, sy] = slope;
  each((fx, fy, at) => {
    const [cos, sin] = [Math.cos(sx * fx + sy * fy), Math.sin(sx * fx + sy * fy)];
    const [re, im] = [other[at], other[at + 1]];
    other[at] = re * cos + im * sin;
    other[at + 1] = im * cos - re * sin;
  });
  return true;
}

function binned(tiles: readonly Float64Array[][], group: readonly SmearFrame[], size: number): GroupSpectra | null {
  const n = group.length;
  const cross = Array.from({ length: n * n }, () => new Float64Array(BINS));
  const [sumX, sumY, counts] = [new Float64Array(BINS), new Float64Array(BINS), new Float64Array(BINS)];
  for (let fy = -size / 2 + 1; fy < size / 2; fy++)
    for (let fx = 0; fx < size / 2; fx++) {
      if (fx === 0 && fy <= 0) continue;
      const radius = Math.floor((Math.hypot(fx, fy) / size - RADII.from) / RADII.step);
      if (radius < 0 || radius >= RADII.count) continue;
      const turn = (Math.atan2(fy, fx) / Math.PI + 0.5) * DIRECTIONS;
      const bin = radius * DIRECTIONS + Math.min(DIRECTIONS - 1, Math.floor(turn));
      sumX[bin] += fx / size;
      sumY[bin] += fy / size;
      counts[bin]++;
      const at = 2 * (((fy + size) % size) * size + fx);
      for (const spectra of tiles)
        for (let i = 0; i < n; i++)
          for (let j = i; j < n; j++) {
            const a = spectra[i];
            const b = spectra[j];
            cross[i * n + j][bin] += a[at] * b[at] + a[at + 1] * b[at + 1];
          }
    }
  // Whether frequencies are more than noise is asked of all directions together: smeared ones mustn't be left out for being smeared.
  const likeness = Array.from({ length: RADII.count }, (_, ring) => {
    let [shared, own] = [0, 0];
    for (let bin = ring * DIRECTIONS; bin < (ring + 1) * DIRECTIONS; bin++)
      for (let i = 0; i < n; i++)
        for (let j = i + 1; j < n; j++) {
          shared += cross[i * n + j][bin];
          own += Math.sqrt(cross[i * n + i][bin] * cross[j * n + j][bin]);
        }
    return shared / own;
  });
  const bins = Array.from({ length: BINS }, (_, bin) => bin).flatMap((bin) => {
    const alike = likeness[Math.floor(bin / DIRECTIONS)];
    if (!(alike > LEAST_COHERENCE) || counts[bin] === 0) return [];
    const pairs: GroupSpectra['bins'][number]['pairs'] = [];
    for (let i = 0; i < n; i++)
      for (let j = i + 1; j < n; j++) {
        const shared = cross[i * n + j][bin];
        if (!(shared > 0)) return [];
        pairs.push({ i, j, log: Math.log(shared) });
      }
    const weight = (counts[bin] * alike * alike) / (1.02 - alike * alike);
    return [{ fx: sumX[bin] / counts[bin], fy: sumY[bin] / counts[bin], weight, pairs }];
  });
  return bins.length >= LEAST_BINS ? { ways: group.map(({ way }) => way), bins } : null;
}
