/**
 * How a take's view lies on the bare one: shift, rotation and scale by least squares on local contrast, coarse to fine
 * (Lucas & Kanade 1981; inverse compositional form of Baker & Matthews, IJCV 56 (2004) 221–255).
 */
import { median } from '../formulas/statistics/averages';
import type { Rect } from '../session/schema';
import { solveLinear } from '../formulas/statistics/leastSquares';
import { halved, localContrast, type Preview } from './preview';

/**
 * Maps a point of the bare frame to the take's frame, both in pixels from the frame's center:
 * x' = (1 + a)·x − b·y + dx, y' = b·x + (1 + a)·y + dy.
 */
export interface Pose {
  dx: number;
  dy: number;
  /** Scale less one, and rotation (radians, small angles). */
  a: number;
  b: number;
}

export interface Alignment {
  pose: Pose;
  /** Correlation of the two views' local contrast after alignment, −1 … 1. */
  correlation: number;
  /** False where the bare view has too little structure to tell anything. */
  hasStructure: boolean;
  /** True where the take shows nothing but noise, or nothing at all. */
  isBlank: boolean;
}

export const IDENTITY: Pose = { dx: 0, dy: 0, a: 0, b: 0 };

/** Widest and narrowest level of the pyramid, in cells. */
const FINEST_PX = 300;
const COARSEST_PX = 40;
const ITERATIONS = 12;
/** Relative contrast (root mean square) below which a view counts as featureless. */
const LEAST_STRUCTURE = 0.012;
/** Of a view's contrast after halving it: less is noise, which would leave a half. */
const NOISE_LEFT = 0.65;

/** A pose must take away this share of what the views differ by (one less their correlation), else nothing moved. Our own judgement. */
const CLEARLY_BETTER = 0.25;
/** Below this correlation a pose tells nothing; borders that agree by this much say that the view is the same. Our own judgement. */
const LEAST_TELLING = 0.5;
const BORDERS_AGREE = 0.25;

/**
 * Lays a take's view on the bare one. Both views are of frames of one size.
 *
 * @param changed places (fractions of the frame) whose light the filter changes by itself, glare and sky before a polarizer: they and
 *   whatever else doesn't fit have no say
 */
export function alignPreviews(bare: Preview, take: Preview, changed?: readonly Rect[]): Alignment {
  const levels: { bare: Preview; take: Preview }[] = [];
  let [b, t] = [bare, take];
  while (b.width > FINEST_PX) [b, t] = [halved(b), halved(t)];
  for (; b.width >= COARSEST_PX && b.height >= 12; b = halved(b), t = halved(t)) {
    const radius = Math.max(3, Math.round(b.width / 16));
    levels.push({ bare: localContrast(b, radius), take: localContrast(t, radius) });
  }
  // Noise is averaged down one level below the finest; structure and likeness are judged there.
  const judged = levels[Math.min(1, levels.length - 1)];
  const mask = changed && judged ? maskOf(judged.bare, changed) : undefined;
  if (!judged || rms(judged.bare, mask) < LEAST_STRUCTURE)
    return { pose: IDENTITY, correlation: 0, hasStructure: false, isBlank: false };
  let pose = IDENTITY;
  for (const level of [...levels].reverse())
    pose = refine(level.bare, level.take, pose, changed && maskOf(level.bare, changed));
  const isBlank = isNoise(judged.take, levels[Math.min(2, levels.length - 1)].take);
  const correlation = correlate(judged.bare, judged.take, pose, mask);
  if (changed) return weighPose({ pose, correlation, hasStructure: true, isBlank }, judged, mask!);
  return { pose, correlation, hasStructure: true, isBlank };
}

/**
 * Whether a pose before polarized light is to be believed. A polarizer darkens and brightens what it likes, so that borders weaken,
 * vanish or turn round; but what borders are left lie where they were. A move must bring both views and their borders nearer.
 */
function weighPose(found: Alignment, { bare, take }: { bare: Preview; take: Preview }, mask: Uint8Array): Alignment {
  const unmoved = correlate(bare, take, IDENTITY, mask);
  const borders = [borderStrength(bare), borderStrength(take)] as const;
  const [still, moved] = [IDENTITY, found.pose].map((pose) => correlate(...borders, pose));
  const better = 1 - found.correlation < (1 - CLEARLY_BETTER) * (1 - unmoved) && moved >= still;
  const judgement = better ? found : { ...found, pose: IDENTITY, correlation: unmoved };
  if (judgement.correlation >= LEAST_TELLING) return judgement;
  const nothingLeft = rms(take) < LEAST_STRUCTURE;
  return still > BORDERS_AGREE || nothingLeft ? { ...judgement, pose: IDENTITY, hasStructure: false } : judgement;
}

/** Size of the gradient of local contrast, less its mean. */
function borderStrength({ width, height, cellPx, data }: Preview): Preview {
  const out = new Float32Array(data.length);
  let sum = 0;
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      out[i] = Math.hypot(data[i + 1] - data[i - 1], data[i + width] - data[i - width]);
      sum += out[i];
    }
  const mean = sum / data.length;
  for (let i = 0; i < out.length; i++) out[i] -= mean;
  return { width, height, cellPx, data: out };
}

/** Cells that have a say: those out of reach of the places that change, whose surroundings count too. */
function maskOf({ width, height }: Preview, changed: readonly Rect[]): Uint8Array {
  const mask = new Uint8Array(width * height).fill(1);
  const reach = 2 * Math.max(3, Math.round(width / 16));
  for (const rect of changed) {
    const [dx, dy] = [0.1 * rect.width * width + reach, 0.1 * rect.height * height + reach];
    const [left, right] = [rect.x * width - dx, (rect.x + rect.width) * width + dx];
    const [top, bottom] = [rect.y * height - dy, (rect.y + rect.height) * height + dy];
    for (let y = Math.max(0, Math.floor(top)); y < Math.min(height, bottom); y++)
      mask.fill(0, y * width + Math.max(0, Math.floor(left)), y * width + Math.min(width, Math.ceil(right)));
  }
  return mask;
}

/** Tukey's biweight of a difference at a scale: 0 from five scales on. */
function biweight(difference: number, scale: number): number {
  const t = difference / (5 * scale);
  return Math.abs(t) >= 1 ? 0 : (1 - t * t) ** 2;
}

/** Halving a view halves noise, and leaves what it shows. */
function isNoise(view: Preview, halvedView: Preview): boolean {
  return rms(view) < LEAST_STRUCTURE || rms(halvedView) < NOISE_LEFT * rms(view);
}

/** Where a point of the bare frame, in pixels from its center, lies in the take's frame. */
export function applyPose({ dx, dy, a, b }: Pose, x: number, y: number): [number, number] {
  return [(1 + a) * x - b * y + dx, b * x + (1 + a) * y + dy];
}

function refine(bare: Preview, take: Preview, start: Pose, mask?: Uint8Array): Pose {
  const { width, height, cellPx } = bare;
  let pose = start;
  // The surroundings of cells near the edge are cut, so their contrast follows the frame instead of the scene.
  const edge = Math.max(2, Math.round(width / 24));
  // Gradients and the normal matrix belong to the bare view and stay.
  const normal = Array.from({ length: 4 }, () => new Array<number>(4).fill(0));
  const steepest = new Float32Array(width * height * 4);
  for (let y = edge; y < height - edge; y++)
    for (let x = edge; x < width - edge; x++) {
      const i = y * width + x;
      if (mask && !mask[i]) continue;
      const gx = (bare.data[i + 1] - bare.data[i - 1]) / (2 * cellPx);
      const gy = (bare.data[i + width] - bare.data[i - width]) / (2 * cellPx);
      const px = (x + 0.5 - width / 2) * cellPx;
      const py = (y + 0.5 - height / 2) * cellPx;
      const row = [gx, gy, gx * px + gy * py, -gx * py + gy * px];
      for (let k = 0; k < 4; k++) {
        steepest[4 * i + k] = row[k];
        for (let l = 0; l < 4; l++) normal[k][l] += row[k] * row[l];
      }
    }
  for (let round = 0; round < ITERATIONS; round++) {
    const warped = warp(take, pose, width, height);
    let [bb, bt] = [0, 0];
    for (let i = 0; i < warped.length; i++)
      if (!Number.isNaN(warped[i]) && (!mask || mask[i])) {
        bb += bare.data[i] * bare.data[i];
        bt += bare.data[i] * warped[i];
      }
    // The take's contrast may be another (its response, its noise): matched by a factor.
    const gain = bt > 0 ? bb / bt : 1;
    const right = [0, 0, 0, 0];
    // With a mask there is more that doesn't fit, which gets no say either; the normal matrix follows.
    const scale = mask ? spreadOf(warped, bare.data, gain, mask) : 0;
    const weighted = mask && normal.map((row) => row.map(() => 0));
    for (let y = edge; y < height - edge; y++)
      for (let x = edge; x < width - edge; x++) {
        const i = y * width + x;
        if (Number.isNaN(warped[i]) || (mask && !mask[i])) continue;
        const difference = Math.max(-0.5, Math.min(0.5, gain * warped[i] - bare.data[i]));
        const weight = weighted ? biweight(difference, scale) : 1;
        for (let k = 0; k < 4; k++) {
          const part = weight * steepest[4 * i + k];
          right[k] += part * difference;
          if (weighted) for (let l = 0; l < 4; l++) weighted[k][l] += part * steepest[4 * i + l];
        }
      }
    const step = solveLinear(weighted ?? normal, right);
    if (!step) return pose;
    pose = compose(pose, { dx: step[0], dy: step[1], a: step[2], b: step[3] });
    if (
      Math.abs(step[0]) + Math.abs(step[1]) < 0.002 * cellPx &&
      (Math.abs(step[2]) + Math.abs(step[3])) * width < 0.004
    )
      break;
  }
  return pose;
}

/** pose ∘ step⁻¹, to first order in the small step. */
function compose(pose: Pose, step: Pose): Pose {
  return {
    dx: pose.dx - (1 + pose.a) * step.dx + pose.b * step.dy,
    dy: pose.dy - pose.b * step.dx - (1 + pose.a) * step.dy,
    a: pose.a - step.a,
    b: pose.b - step.b,
  };
}

/** The take's view seen in the bare frame, bilinear; NaN outside. */
function warp(take: Preview, pose: Pose, width: number, height: number): Float32Array {
  const out = new Float32Array(width * height);
  const { cellPx } = take;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [px, py] = applyPose(pose, (x + 0.5 - width / 2) * cellPx, (y + 0.5 - height / 2) * cellPx);
      const tx = px / cellPx + take.width / 2 - 0.5;
      const ty = py / cellPx + take.height / 2 - 0.5;
      const x0 = Math.floor(tx);
      const y0 = Math.floor(ty);
      if (x0 < 0 || y0 < 0 || x0 + 1 >= take.width || y0 + 1 >= take.height) {
        out[y * width + x] = NaN;
        continue;
      }
      const [fx, fy] = [tx - x0, ty - y0];
      const i = y0 * take.width + x0;
      out[y * width + x] =
        (1 - fy) * ((1 - fx) * take.data[i] + fx * take.data[i + 1]) +
        fy * ((1 - fx) * take.data[i + take.width] + fx * take.data[i + take.width + 1]);
    }
  return out;
}

/** Robust spread of the differences: 1.4826 times their median size. */
function spreadOf(warped: Float32Array, bare: Float32Array, gain: number, mask: Uint8Array): number {
  const sizes: number[] = [];
  for (let i = 0; i < warped.length; i += 3)
    if (mask[i] && !Number.isNaN(warped[i])) sizes.push(Math.abs(gain * warped[i] - bare[i]));
  return Math.max(1e-4, 1.4826 * median(sizes));
}

function correlate(bare: Preview, take: Preview, pose: Pose, mask?: Uint8Array): number {
  const warped = warp(take, pose, bare.width, bare.height);
  let [bb, tt, bt] = [0, 0, 0];
  for (let i = 0; i < warped.length; i++) {
    if (Number.isNaN(warped[i]) || (mask && !mask[i])) continue;
    bb += bare.data[i] * bare.data[i];
    tt += warped[i] * warped[i];
    bt += bare.data[i] * warped[i];
  }
  return bb > 0 && tt > 0 ? bt / Math.sqrt(bb * tt) : 0;
}

function rms({ data }: Preview, mask?: Uint8Array): number {
  let [sum, count] = [0, 0];
  for (let i = 0; i < data.length; i++)
    if (!mask || mask[i]) {
      sum += data[i] * data[i];
      count++;
    }
  return count === 0 ? 0 : Math.sqrt(sum / count);
}
