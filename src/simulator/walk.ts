/** The stand-in camera before an ordinary scene: it drifts and shakes, water ripples, leaves sway, somebody walks by. */
import type { Picture } from '@/core/reading/window';
import { encodeRow } from './encode';
import {
  blurTexture,
  FRONT_ENDS,
  PAINT_BLUR,
  paintLandscape,
  REACH,
  valueNoise,
  type Landscape,
  type Texture,
} from './landscape';
import { BARE_SHUTTER_DENOMINATOR } from './plan';
import { seededRandom } from './random';
import { shading } from './shading';
import { spoiledOf } from './spoiled';
import type { BenchPlan, PlannedTake, WalkScene } from './truth';

/** From a point of the frame to the scene's, half widths: row-major 3 × 3. */
export type Pose = readonly number[];

const landscapes = new Map<string, Landscape>();
/** Landscapes are large; seldom are two of them taken in turns. */
const MOST_LANDSCAPES = 3;

type Painted = Pick<BenchPlan, 'seed' | 'width' | 'height' | 'walk'>;

const keyOf = ({ seed, width, height, walk }: Painted) => `${walk?.landscape ?? seed} ${width} ${height}`;

/** The plan's scene, painted once. */
export function landscapeOf(plan: Painted): Landscape {
  const key = keyOf(plan);
  let known = landscapes.get(key);
  if (!known) {
    if (landscapes.size >= MOST_LANDSCAPES) landscapes.delete(landscapes.keys().next().value!);
    landscapes.set(key, (known = paintLandscape(plan.walk?.landscape ?? plan.seed, plan.width, plan.height)));
  }
  return known;
}

/** Puts a scene of one's own (a photograph, say) in the place of the painted one. */
export function setLandscape(plan: Painted, landscape: Landscape): void {
  landscapes.set(keyOf(plan), landscape);
}

/** Where the camera looked when a picture of a take was shot. */
export function poseOf(plan: BenchPlan, take: PlannedTake, index: number): Pose {
  const walk = plan.walk!;
  const ownTake = seededRandom(`${plan.seed}/${take.id}/pose`);
  const ownPicture = seededRandom(`${plan.seed}/${take.id}/${index}/pose`);
  const px = 2 / plan.width;
  const along = (walk.driftPx ?? 0) * px;
  const t = index / Math.max(1, (plan.clips?.frames ?? take.repeats) - 1);
  const shake = (walk.shakePx ?? 0) * px;
  const [swayX, swayY] = swayAt(plan, take, index / (plan.clips?.framesPerSecond ?? 1));
  const dx = along * (ownTake.normal() * 0.5 + t - 0.5) + shake * ownPicture.normal() + swayX * px;
  const dy = along * ownTake.normal() * 0.3 + shake * ownPicture.normal() + swayY * px;
  const turn = (((walk.turnDegrees ?? 0) * Math.PI) / 180) * ownTake.normal();
  const scale = 1 + (walk.zoom ?? 0) * ownTake.normal();
  const tilt = (walk.tilt ?? 0) * ownTake.normal();
  const [c, s] = [scale * Math.cos(turn), scale * Math.sin(turn)];
  return [c, -s, dx, s, c, dy, tilt, 0.6 * tilt, 1];
}

/** Where a hand's sway has taken the view at a moment of a clip, pixels. */
function swayAt({ walk, seed }: BenchPlan, take: PlannedTake, seconds: number): [number, number] {
  const { sway } = walk!;
  if (!sway) return [0, 0];
  const random = seededRandom(`${seed}/${take.id}/sway`);
  // Two swings an axis, so that neither is ever quite repeated.
  const axis = () => {
    const [a, b] = [2 * Math.PI * random.uniform(), 2 * Math.PI * random.uniform()];
    const [slow, fast] = [0.8 + 0.4 * random.uniform(), 1.7 + 0.6 * random.uniform()];
    const turn = 2 * Math.PI * sway.hertz * seconds;
    return sway.px * (0.8 * Math.sin(slow * turn + a) + 0.35 * Math.sin(fast * turn + b));
  };
  const x = axis();
  return [x, axis()];
}

/** Places of a frame's way over its exposure, pixels from where it was in the middle. */
function wayOver(plan: BenchPlan, take: PlannedTake, index: number): [number, number][] {
  const { framesPerSecond, frames } = plan.clips!;
  const drift = ((plan.walk!.driftPx ?? 0) * framesPerSecond) / Math.max(1, frames - 1);
  const [x0, y0] = swayAt(plan, take, index / framesPerSecond);
  return Array.from({ length: SMEAR_PARTS }, (_, k) => {
    const off = take.shutterSeconds * ((k + 0.5) / SMEAR_PARTS - 0.5);
    const [x, y] = swayAt(plan, take, index / framesPerSecond + off);
    return [x - x0 + drift * off, y - y0];
  });
}

const SMEAR_PARTS = 33;

/** The mean of a picture moved to some places (Catmull–Rom, so that what is fine stays); edges are repeated. */
export function smearTexture(
  light: Float32Array,
  width: number,
  height: number,
  ways: readonly [number, number][],
): void {
  const reach = Math.ceil(Math.max(...ways.flat().map(Math.abs))) + 2;
  const side = 2 * reach + 1;
  const kernel = new Float64Array(side * side);
  for (const [x, y] of ways) {
    const [u, v] = [Math.floor(x), Math.floor(y)];
    weigh(x - u, 0);
    weigh(y - v, 4);
    for (let j = 0; j < 4; j++)
      for (let i = 0; i < 4; i++)
        kernel[(v - 1 + j + reach) * side + u - 1 + i + reach] += (taps[i] * taps[4 + j]) / ways.length;
  }
  const places = [...kernel.entries()].filter(([, weight]) => Math.abs(weight) > 1e-6);
  const from = light.slice();
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let [r, g, b] = [0, 0, 0];
      for (const [at, weight] of places) {
        const px = Math.min(width - 1, Math.max(0, x + (at % side) - reach));
        const py = Math.min(height - 1, Math.max(0, y + Math.floor(at / side) - reach));
        const i = 3 * (py * width + px);
        r += weight * from[i];
        g += weight * from[i + 1];
        b += weight * from[i + 2];
      }
      const o = 3 * (y * width + x);
      light[o] = Math.max(0, r);
      light[o + 1] = Math.max(0, g);
      light[o + 2] = Math.max(0, b);
    }
}

/** Stops by which the light over the scene differs at a place and picture: a cloud's shadow over a part of it. */
function shadowStops({ shadow }: WalkScene, take: PlannedTake, x: number): number {
  if (!shadow?.takes.includes(take.id)) return 0;
  return shadow.stops / (1 + Math.exp((x - shadow.edge) / 0.05));
}

/** One picture of a take, as code values. */
export function renderWalk(plan: BenchPlan, take: PlannedTake, index: number): Picture {
  const { camera, width, height } = plan;
  const walk = plan.walk!;
  const spoiled = spoiledOf(plan, take, index);
  const seen = spoiled.elsewhere ? { ...plan, walk: { ...walk, landscape: `${plan.seed}/elsewhere` } } : plan;
  const light = viewOf(plan, landscapeOf(seen), take, index);
  // What the painting isn't soft by itself, the lens and the filter are, in pixels of the picture: a view that is zoomed is no softer.
  const lens = Math.sqrt(Math.max(0, camera.blurPx ** 2 - PAINT_BLUR ** 2));
  const blur = Math.hypot(lens, (take.filter?.blurPx ?? 0) * (width / 1200));
  const [shakeX, shakeY] = spoiled.shakePx ?? [0, 0];
  blurTexture(light, width, height, 3, [Math.hypot(blur, shakeX), Math.hypot(blur, shakeY)]);
  if (walk.sway && plan.clips) smearTexture(light, width, height, wayOver(plan, take, index));
  if (spoiled.covered) light.fill(0);
  const random = seededRandom(`${plan.seed}/${take.id}/${index}/noise`);
  const flicker = (plan.lamps.flickerStops ?? 0) * seededRandom(`${plan.seed}/${take.id}/${index}`).normal();
  const exposure =
    plan.bareLevel *
    take.shutterSeconds *
    BARE_SHUTTER_DENOMINATOR *
    2 ** (take.lampStops + flicker + cloudOf(plan, take, index));
  const electrons = new Float64Array(3 * width);
  const top = 2 ** camera.bitDepth - 1;
  const data = camera.bitDepth === 16 ? new Uint16Array(light.length) : new Uint8Array(light.length);
  const stops = take.filter?.stops ?? [0, 0, 0];
  const passes = stops.map((one) => 2 ** -one);
  const { falloffStops } = camera;
  const shadeAt = shading(plan, { falloffStops, cornerStops: take.filter?.cornerStops ?? 0 });
  const noise = camera.readNoise ** 2;
  const most = camera.fullWell * 1.2;
  const gains = passes.map((one) => one * exposure * camera.fullWell);
  for (let y = 0, i = 0; y < height; y++) {
    for (let x = 0, k = 0; x < width; x++) {
      const dx = x + 0.5 - width / 2;
      const dy = y + 0.5 - height / 2;
      const shadow = walk.shadow ? 2 ** shadowStops(walk, take, dx / (width / 2)) : 1;
      const shade = shadow * shadeAt(dx * dx + dy * dy);
      for (let c = 0; c < 3; c++, i++, k++) {
        const mean = Math.min(most, light[i] * gains[c] * shade);
        electrons[k] = mean + Math.sqrt(mean + noise) * random.grain();
      }
    }
    encodeRow(camera.response, electrons, camera.fullWell, top, data, i - electrons.length);
  }
  return { width, height, channels: 3, bitDepth: camera.bitDepth, data };
}

/** Stops that a cloud takes from a picture of a take. */
function cloudOf(plan: BenchPlan, take: PlannedTake, index: number): number {
  const cloud = plan.walk?.clouds?.find((one) => one.take === take.id);
  if (!cloud) return 0;
  const t = index / Math.max(1, (plan.clips?.frames ?? take.repeats) - 1);
  return cloud.from + (cloud.to - cloud.from) * t;
}

/** cos 2δ between a take's polarizer and the light of sky and water: 1 lets all of what is polarized pass, −1 none; 0 without either. */
function swingOf({ walk, polarization }: BenchPlan, { filter, setting }: PlannedTake): number {
  if (!walk?.polarized || !filter?.polarizer) return 0;
  const off = (setting?.ringDegrees ?? 0) - filter.polarizer.axisDegrees - (polarization?.lightDegrees ?? 0);
  return Math.cos((2 * Math.PI * off) / 180);
}

/** Light of the scene over the frame, as the lens draws it. */
export function viewOf(plan: BenchPlan, landscape: Landscape, take: PlannedTake, index: number): Float32Array {
  const { width, height } = plan;
  const { back, front, water, sky } = landscape;
  const walk = plan.walk!;
  const pose = poseOf(plan, take, index);
  const out = new Float32Array(3 * width * height);
  const half = width / 2;
  // Moments of a clip follow each other; takes are minutes apart.
  const seconds = take.minute * 60 + index / (plan.clips?.framesPerSecond ?? 1);
  const ripple = valueNoise(`${plan.seed}/ripple`);
  const sway = valueNoise(`${plan.seed}/sway`);
  const wind = walk.wind ?? 0;
  const walker = walk.walker ? -0.9 + ((seconds * 0.35) % 2.2) : null;
  const rowB = 3 * back.width;
  const swing = swingOf(plan, take);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i += 3) {
      const [u, v] = [(x + 0.5 - half) / half, (y + 0.5 - height / 2) / half];
      const w = pose[6] * u + pose[7] * v + 1;
      const [sx, sy] = [(pose[0] * u + pose[1] * v + pose[2]) / w, (pose[3] * u + pose[4] * v + pose[5]) / w];
      cubic(back, sx, sy, back.light, rowB, out, i);
      if (swing !== 0) {
        const at = nearest(back, sx, sy);
        const passed =
          1 + swing * (walk.polarized!.sky * (sky?.[at] ?? 0) + walk.polarized!.water * (water?.[at] ?? 0));
        for (let c = 0; c < 3; c++) out[i + c] *= passed;
      }
      if (water && wind > 0) {
        const at = nearest(back, sx, sy);
        if (water[at] > 0) {
          const waves = 1 + 0.7 * wind * (ripple(18 * sx + 0.9 * seconds, 60 * sy + 2.1 * seconds) - 0.5);
          for (let c = 0; c < 3; c++) out[i + c] *= waves;
        }
      }
      // The tree stands on the left.
      if (front && sx < FRONT_ENDS) {
        // Nearer things move more; leaves sway by some pixels, alike over an arm's length.
        const [dx, dy] = [sx - u, sy - v];
        const parallax = walk.parallax ?? 0;
        const [fx, fy] = [sx + parallax * dx, sy + parallax * dy];
        const reach = wind * 0.006;
        const lx = fx + reach * (sway(4 * fx + seconds, 4 * fy) - 0.5);
        const ly = fy + reach * (sway(4 * fx, 4 * fy + 1.3 * seconds + 50) - 0.5);
        const at = nearest(front, lx, ly);
        if (front.cover![at] > 0.003) over(front, lx, ly, out, i);
      }
      if (walker !== null) {
        const [dx, dy] = [(sx - walker) / 0.03, (sy - 0.16) / 0.1];
        if (dx * dx + dy * dy < 1) {
          out[i] = 0.14;
          out[i + 1] = 0.06;
          out[i + 2] = 0.05;
        }
      }
    }
  return out;
}

function nearest({ width, height, density }: Texture, x: number, y: number): number {
  const px = Math.min(width - 1, Math.max(0, Math.floor((x + REACH) * density)));
  const py = Math.min(height - 1, Math.max(0, Math.floor(y * density + height / 2)));
  return py * width + px;
}

const taps = new Float64Array(8);

/** Catmull–Rom weights of a share between pixels, into four places. */
function weigh(s: number, into: number): void {
  const s2 = s * s;
  const s3 = s2 * s;
  taps[into] = (-s + 2 * s2 - s3) / 2;
  taps[into + 1] = (2 - 5 * s2 + 3 * s3) / 2;
  taps[into + 2] = (s + 4 * s2 - 3 * s3) / 2;
  taps[into + 3] = (s3 - s2) / 2;
}

function cubic(
  { width, height, density }: Texture,
  x: number,
  y: number,
  light: Float32Array,
  row: number,
  out: Float32Array,
  at: number,
): void {
  const px = Math.min(width - 3, Math.max(1, (x + REACH) * density - 0.5));
  const py = Math.min(height - 3, Math.max(1, y * density + height / 2 - 0.5));
  const [u, v] = [Math.floor(px), Math.floor(py)];
  weigh(px - u, 0);
  weigh(py - v, 4);
  let [r, g, b] = [0, 0, 0];
  for (let j = 0; j < 4; j++) {
    let from = (v - 1 + j) * row + 3 * (u - 1);
    const wy = taps[4 + j];
    for (let i = 0; i < 4; i++, from += 3) {
      const weight = wy * taps[i];
      r += weight * light[from];
      g += weight * light[from + 1];
      b += weight * light[from + 2];
    }
  }
  out[at] = Math.max(0, r);
  out[at + 1] = Math.max(0, g);
  out[at + 2] = Math.max(0, b);
}

/** Lays the nearer texture over what is there, between its pixels by straight lines. */
function over(texture: Texture, x: number, y: number, out: Float32Array, at: number): void {
  const { width, height, density, light, cover } = texture;
  const px = Math.min(width - 2, Math.max(0, (x + REACH) * density - 0.5));
  const py = Math.min(height - 2, Math.max(0, y * density + height / 2 - 0.5));
  const [u, v] = [Math.floor(px), Math.floor(py)];
  const [s, t] = [px - u, py - v];
  const i = v * width + u;
  const weights = [(1 - s) * (1 - t), s * (1 - t), (1 - s) * t, s * t];
  const places = [i, i + 1, i + width, i + width + 1];
  let covered = 0;
  for (let k = 0; k < 4; k++) covered += weights[k] * cover![places[k]];
  for (let c = 0; c < 3; c++) {
    let sum = 0;
    for (let k = 0; k < 4; k++) sum += weights[k] * light[3 * places[k] + c];
    out[at + c] = out[at + c] * (1 - covered) + sum;
  }
}
