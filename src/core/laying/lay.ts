/**
 * Lays one picture of an ordinary scene on another: corners to start, then least squares on local contrast of log light (Lucas & Kanade
 * 1981; inverse compositional form of Baker & Matthews, IJCV 56 (2004) 221–255), coarse to fine, robustly, to a homography. Exposure and
 * the fall of light over the frame leave no trace in local contrast. What doesn't fit is told, never forced.
 */
import { cubicAt } from '../formulas/spectra/cubic';
import { featuresOf, similarityBetween, type Corner } from './features';
import { applyHomography, composeHomographies, NO_MOVE, type Homography } from '../formulas/geometry/homography';
import { boxBlur, halved, type Preview } from './preview';
import { refine } from './refine';

/** A picture made ready for laying: local contrast at several sizes, finest first. */
export interface LayView {
  levels: Preview[];
  /** Corners of a middle size, found when they are asked for. */
  corners: () => readonly Corner[];
  /** Linear light at the finest size, no unit; made again when it is asked for. */
  light: () => Float32Array;
}

export interface Laid {
  /** From the first picture's points to the second's. */
  homography: Homography;
  /** Standard uncertainty of where points land, root mean square over the frame, pixels of a frame of the first's full width. */
  errorPx: number;
  /** Share of the blocks with something to see in which both show the same. */
  agreement: number;
  /** Correlation of local contrast over all of both. */
  correlation: number;
  /** Share of the first frame that the second shows. */
  overlap: number;
  /** Per block of the first frame: correlation, or null where there is nothing to see or nothing of the second. */
  blocks: (number | null)[];
}

export type LayResult = { laid: Laid } | { words: string };

export const BLOCKS_ACROSS = 12;
export const BLOCKS_DOWN = 8;
const SMALLEST_PX = 50;
/** Light below this share of the mean tells little and is held down. */
const FLOOR = 0.02;
/** Blocks show the same from this correlation on. */
const BLOCK_LIKE = 0.45;
/** Least share of agreeing blocks, least number of them, least overlap. Our own judgement. */
const LEAST_AGREEMENT = 0.56;
const FEWEST_BLOCKS = 5;
const LEAST_OVERLAP = 0.25;
/** Below this share in the coarse a place is given up. */
const HOPELESS = 0.3;
/** Share of agreeing blocks from which no other way needs to be tried. */
const CLEARLY = 0.8;
/** Two looks from nearly one place differ in perspective by less than this, per half width: what bends further is forced. */
const MOST_PERSPECTIVE = 0.03;
/** Root mean square of local contrast (stops) below which a block has nothing to see. */
const LEAST_CONTRAST = 0.03;
/** Turned (radians) or zoomed by more than this, surroundings that are squares of each picture's own differ too much. */
const ASKEW = 0.02;
/** Laid worse than this, pixels, isn't laid. */
const WORST_ERROR = 1;

/**
 * @param luminance gives linear light of a picture, no unit
 */
export function prepareLay(luminance: () => Float32Array, width: number, height: number, cellPx: number): LayView {
  let light: Preview = { width, height, cellPx, data: luminance() };
  const levels: Preview[] = [];
  for (; light.width >= SMALLEST_PX && light.height >= 24; light = halved(light)) levels.push(contrastOf(light));
  let corners: Corner[] | null = null;
  const middle = levels.find((level) => level.width <= 500) ?? levels[levels.length - 1];
  return { levels, corners: () => (corners ??= middle ? featuresOf(middle) : []), light: luminance };
}

/**
 * Log light above its surroundings, stops.
 *
 * @param inside 1 where there is light, 0 where there is none: left out, and out of the surroundings of the rest
 */
function contrastOf({ width, height, cellPx, data }: Preview, inside?: Float32Array): Preview {
  const radius = Math.max(3, Math.round(width / 20));
  const smoothed = (of: Float32Array) => boxBlur(boxBlur(of, width, height, radius), width, height, radius);
  let [sum, count] = [0, 0];
  for (let i = 0; i < data.length; i++)
    if (!inside || inside[i]) {
      sum += data[i];
      count++;
    }
  const floor = (FLOOR * sum) / Math.max(1, count) + 1e-9;
  const log = new Float32Array(data.length);
  for (let i = 0; i < data.length; i++) log[i] = !inside || inside[i] ? Math.log2(Math.max(0, data[i]) + floor) : 0;
  const smooth = smoothed(log);
  const share = inside && smoothed(inside);
  for (let i = 0; i < log.length; i++) log[i] -= share ? smooth[i] / Math.max(1e-6, share[i]) : smooth[i];
  return { width, height, cellPx, data: log };
}

/** Lays the second picture on the first: as if nothing had moved to begin with, by corners where that leads nowhere. */
export function layOn(first: LayView, second: LayView): LayResult {
  if (first.levels.length === 0 || second.levels.length === 0)
    return { words: 'the pictures are too small to be laid on each other' };
  const near = tryFrom(first, second, NO_MOVE, true);
  if (near && isSound(near) && near.agreement > CLEARLY) return { laid: squared(first, second, near) };
  const found = similarityBetween(first.corners(), second.corners());
  const far = found && tryFrom(first, second, found, false);
  const best = [near, far].filter((one) => one !== null).sort((a, b) => b.agreement - a.agreement)[0];
  if (best && isSound(best)) return { laid: squared(first, second, best) };
  const bare = likenessOf(first.levels, NO_MOVE, first.levels).blocks.filter((one) => one !== null).length;
  if (bare < FEWEST_BLOCKS) return { words: 'there is too little to see in it that could be laid on anything' };
  if (best && best.overlap < LEAST_OVERLAP) return { words: 'the two show hardly anything in common' };
  return { words: 'the two do not show the same view' };
}

/**
 * Lays a turned or zoomed picture once more, as it lies on the first: what surrounds a point is a square in both, of one size, only then.
 */
function squared(first: LayView, second: LayView, laid: Laid): Laid {
  const [h0, h1, h2, h3, h4, h5, h6, h7] = laid.homography;
  const isUpright = Math.abs(h1 - h3) < 2 * ASKEW && Math.abs(h0 + h4 - 2) < 2 * ASKEW;
  if (isUpright) return laid;
  const { width, height, cellPx } = first.levels[0];
  const { width: acrossSecond, height: downSecond } = second.levels[0];
  const seen = { width: acrossSecond, height: downSecond, data: second.light() };
  const [half, halfSecond] = [width / 2, acrossSecond / 2];
  const carried = new Float32Array(width * height);
  const inside = new Float32Array(width * height);
  for (let j = 0, i = 0; j < height; j++) {
    const y = (j + 0.5 - height / 2) / half;
    for (let k = 0; k < width; k++, i++) {
      const x = (k + 0.5 - half) / half;
      const scale = halfSecond / (h6 * x + h7 * y + 1);
      const value = cubicAt(
        seen,
        (h0 * x + h1 * y + h2) * scale + halfSecond - 0.5,
        (h3 * x + h4 * y + h5) * scale + downSecond / 2 - 0.5,
      );
      if (value !== value) continue;
      carried[i] = value;
      inside[i] = 1;
    }
  }
  const own = contrastOf({ width, height, cellPx, data: first.light() }, inside);
  const other = contrastOf({ width, height, cellPx, data: carried }, inside);
  for (let i = 0; i < inside.length; i++) if (!inside[i]) other.data[i] = NaN;
  const found = refine(own, other, NO_MOVE, 8, 'finest');
  if (!found) return laid;
  const again = {
    ...laid,
    homography: composeHomographies(laid.homography, found.homography),
    errorPx: found.error * half * cellPx,
  };
  return isSound(again) ? again : laid;
}

function isSound({ agreement, overlap, errorPx, blocks, homography }: Laid): boolean {
  const seen = blocks.filter((one) => one !== null && one > BLOCK_LIKE).length;
  const scale = Math.sqrt(Math.abs(homography[0] * homography[4] - homography[1] * homography[3]));
  return (
    agreement >= LEAST_AGREEMENT &&
    seen >= FEWEST_BLOCKS &&
    overlap >= LEAST_OVERLAP &&
    errorPx < WORST_ERROR &&
    Math.hypot(homography[6], homography[7]) < MOST_PERSPECTIVE &&
    scale > 0.4 &&
    scale < 2.5
  );
}

function tryFrom(first: LayView, second: LayView, start: Homography, fromCoarse: boolean): Laid | null {
  let homography = start;
  let error = Infinity;
  const count = Math.min(first.levels.length, second.levels.length);
  const from = fromCoarse
    ? count - 1
    : Math.max(
        0,
        first.levels.findIndex((level) => level.width <= 260),
      );
  for (let level = Math.min(count - 1, from < 0 ? count - 1 : from); level >= 0; level--) {
    const [a, b] = [first.levels[level], second.levels[level]];
    const found = refine(a, b, homography, a.width > 150 ? 8 : 4, level === 0 ? 'finest' : 'coarser');
    if (!found) return null;
    // A level that loses its hold (noise, at the finest) leaves what the coarser one found.
    if (!found.homography.every(Number.isFinite)) return null;
    homography = found.homography;
    error = found.error * (a.width / 2) * a.cellPx;
    // What has nothing in common in the coarse needn't be looked at finely.
    if (level > 0 && level === judgedLevel(first.levels)) {
      const { blocks, correlation } = likenessOf(first.levels, homography, second.levels);
      const share = agreementOf(blocks);
      if (share < HOPELESS) return { homography, errorPx: Infinity, agreement: share, correlation, overlap: 1, blocks };
    }
  }
  const { blocks, correlation } = likenessOf(first.levels, homography, second.levels);
  return {
    homography,
    errorPx: error,
    agreement: agreementOf(blocks),
    correlation,
    overlap: overlapOf(homography, first.levels[0].height / first.levels[0].width),
    blocks,
  };
}

/** Of the blocks with something to see, those in which both show the same. */
function agreementOf(blocks: readonly (number | null)[]): number {
  const seen = blocks.filter((one) => one !== null);
  return seen.length === 0 ? 0 : seen.filter((one) => one > BLOCK_LIKE).length / seen.length;
}

/** Noise is averaged down where likeness is judged. */
function judgedLevel(levels: readonly Preview[]): number {
  const at = levels.findIndex((level) => level.width <= 260);
  return at < 0 ? levels.length - 1 : at;
}

function overlapOf(h: Homography, aspect: number): number {
  let inside = 0;
  for (let j = 0; j < 12; j++)
    for (let i = 0; i < 12; i++) {
      const [u, v] = applyHomography(h, (i + 0.5) / 6 - 1, ((j + 0.5) / 6 - 1) * aspect);
      if (Math.abs(u) <= 1 && Math.abs(v) <= aspect) inside++;
    }
  return inside / 144;
}

/** Likeness of the two, block by block of the first frame and over all of it. */
function likenessOf(
  firsts: readonly Preview[],
  h: Homography,
  seconds: readonly Preview[],
): { blocks: (number | null)[]; correlation: number } {
  const level = Math.min(judgedLevel(firsts), seconds.length - 1);
  const [first, second] = [firsts[level], seconds[level]];
  const { width, height, data } = first;
  const half = width / 2;
  const count = BLOCKS_ACROSS * BLOCKS_DOWN;
  const [n, sa, sb, saa, sbb, sab, all] = Array.from({ length: 7 }, () => new Float64Array(count));
  const blockOfColumn = Int32Array.from({ length: width }, (_, x) => Math.floor((x * BLOCKS_ACROSS) / width));
  for (let py = 0; py < height; py++) {
    const y = (py + 0.5 - height / 2) / half;
    const row = Math.floor((py * BLOCKS_DOWN) / height) * BLOCKS_ACROSS;
    for (let px = 0; px < width; px++) {
      const x = (px + 0.5 - half) / half;
      const scale = half / (h[6] * x + h[7] * y + 1);
      const u = (h[0] * x + h[1] * y + h[2]) * scale + half - 0.5;
      const v = (h[3] * x + h[4] * y + h[5]) * scale + height / 2 - 0.5;
      const block = row + blockOfColumn[px];
      all[block]++;
      const b = cubicAt(second, u, v);
      if (b !== b) continue;
      const a = data[py * width + px];
      n[block]++;
      sa[block] += a;
      sb[block] += b;
      saa[block] += a * a;
      sbb[block] += b * b;
      sab[block] += a * b;
    }
  }
  const total = (sums: Float64Array) => sums.reduce((sum, one) => sum + one, 0);
  const power = total(saa) * total(sbb);
  return {
    correlation: power > 0 ? total(sab) / Math.sqrt(power) : 0,
    blocks: Array.from(n, (seen, i) => {
      if (seen < 0.6 * all[i]) return null;
      const va = saa[i] / seen - (sa[i] / seen) ** 2;
      const vb = sbb[i] / seen - (sb[i] / seen) ** 2;
      if (!(Math.max(va, vb) > LEAST_CONTRAST ** 2)) return null;
      return (sab[i] / seen - (sa[i] / seen) * (sb[i] / seen)) / Math.sqrt(Math.max(va * vb, 1e-18));
    }),
  };
}
