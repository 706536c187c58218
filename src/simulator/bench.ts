/**
 * The stand-in bench: renders chart and flat-field pictures with a known truth. It shares no code with the measures
 * but types, so that an error in one can't hide in the other.
 */
import type { Picture, PixelRect } from '@/core/reading/window';
import { encodeRow } from './encode';
import { seededRandom } from './random';
import { remembered } from './remembered';
import { passingThrough, type Passing } from './glass';
import { BARE_SHUTTER_DENOMINATOR } from './plan';
import { shading } from './shading';
import { spoiledOf } from './spoiled';
import { renderWalk } from './walk';
import { degreeAt, headingOf, polarizedScene } from './polarized';
import type { BenchPlan, PlannedTake, Polarization, SimulatedScene, TrueFilter } from './truth';

/** A part of the chart: a rectangle turned by an angle, with its reflectance per channel. */
interface ChartPart {
  centerX: number;
  centerY: number;
  halfWidth: number;
  halfHeight: number;
  angle: number;
  reflectance: [number, number, number];
}

/** Slanted dark squares: two beside the card, one in each corner. Places and half sides in fractions of the width. */
const SQUARES = [
  { name: 'left', x: 0.26, y: 0.5, half: 0.096 },
  { name: 'right', x: 0.74, y: 0.5, half: 0.096 },
  { name: 'top-left', x: 0.07, y: 0.12, half: 0.042 },
  { name: 'top-right', x: 0.93, y: 0.12, half: 0.042 },
  { name: 'bottom-left', x: 0.07, y: 0.88, half: 0.042 },
  { name: 'bottom-right', x: 0.93, y: 0.88, half: 0.042 },
];

/** Where the squares' edges can be measured: an upright and a level one each, in fractions of the frame. */
export function edgeRects(
  width: number,
  height: number,
): { id: string; rect: { x: number; y: number; width: number; height: number } }[] {
  return SQUARES.flatMap(({ name, x, y, half }) => {
    const room = half * 0.75;
    const long = half * 1.5;
    const inner = x < 0.5 ? 1 : -1;
    const down = y < 0.5 ? 1 : -1;
    const upright = {
      x: x + inner * half - room / 2,
      y: y - (long * width) / height / 2,
      width: room,
      height: (long * width) / height,
    };
    const level = {
      x: x - long / 2,
      y: y + (down * half * width) / height - (room * width) / height / 2,
      width: long,
      height: (room * width) / height,
    };
    return [
      { id: `${name}-upright`, rect: upright },
      { id: `${name}-level`, rect: level },
    ];
  });
}

/** Where the flare scene's black trap and gray card can be measured. */
export const FLARE_RECTS = {
  black: { x: 0.42, y: 0.42, width: 0.12, height: 0.16 },
  neutral: { x: 0.72, y: 0.42, width: 0.12, height: 0.16 },
};

/** A gray wall with a black trap in the middle and a card; the lamp stands just outside, on the left. */
function flareScene(light: Float64Array, frame: { width: number; height: number }, window: PixelRect): Float64Array {
  for (let y = 0, i = 0; y < window.height; y++)
    for (let x = 0; x < window.width; x++, i += 3) {
      const [fx, fy] = [(window.x + x + 0.5) / frame.width, (window.y + y + 0.5) / frame.height];
      const inside = (rect: { x: number; y: number; width: number; height: number }) =>
        Math.abs(fx - rect.x - rect.width / 2) < rect.width * 0.6 &&
        Math.abs(fy - rect.y - rect.height / 2) < rect.height * 0.6;
      const tone = inside(FLARE_RECTS.black) ? 0.004 : inside(FLARE_RECTS.neutral) ? 0.5 : 0.25;
      for (let c = 0; c < 3; c++) light[i + c] = tone;
    }
  return light;
}

const BACKGROUND: [number, number, number] = [0.32, 0.32, 0.32];

/** The chart: a gray card in the middle, slanted dark squares around it and in the corners, a row of colors. */
function chartParts(width: number, height: number): ChartPart[] {
  const parts: ChartPart[] = [];
  const square = (x: number, y: number, size: number, degrees: number, tone: number) =>
    parts.push({
      centerX: x * width,
      centerY: y * height,
      halfWidth: size * width,
      halfHeight: size * width,
      angle: (degrees * Math.PI) / 180,
      reflectance: [tone, tone, tone],
    });
  parts.push({
    centerX: 0.5 * width,
    centerY: 0.5 * height,
    halfWidth: 0.09 * width,
    halfHeight: 0.16 * height,
    angle: 0,
    reflectance: [0.45, 0.45, 0.45],
  });
  for (const { x, y, half } of SQUARES) square(x, y, half, 5.2, 0.05);
  const colors: [number, number, number][] = [
    [0.5, 0.12, 0.1],
    [0.42, 0.36, 0.08],
    [0.14, 0.32, 0.12],
    [0.1, 0.3, 0.38],
    [0.12, 0.14, 0.42],
    [0.4, 0.14, 0.32],
  ];
  colors.forEach((reflectance, i) =>
    parts.push({
      centerX: (0.3 + 0.08 * i) * width,
      centerY: 0.14 * height,
      halfWidth: 0.034 * width,
      halfHeight: 0.055 * height,
      angle: 0,
      reflectance,
    }),
  );
  [0.7, 0.5, 0.36, 0.22, 0.12, 0.05].forEach((tone, i) =>
    parts.push({
      centerX: (0.3 + 0.08 * i) * width,
      centerY: 0.86 * height,
      halfWidth: 0.034 * width,
      halfHeight: 0.055 * height,
      angle: 0,
      reflectance: [tone, tone, tone],
    }),
  );
  return parts;
}

/** Where the chart's gray card can be measured, in fractions of the frame. */
export const NEUTRAL_RECT = { x: 0.433, y: 0.37, width: 0.134, height: 0.26 };

/** erf by Abramowitz & Stegun 7.1.26, absolute error below 1.5e−7: well under a code of 16 bits at an edge. */
function erf(x: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(x));
  const y =
    1 -
    ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t * Math.exp(-x * x);
  return x < 0 ? -y : y;
}

/** Share of a blurred slab −half…half at a distance u from its middle. */
function slab(u: number, half: number, sigma: number): number {
  return 0.5 * (erf((u + half) / (sigma * Math.SQRT2)) - erf((u - half) / (sigma * Math.SQRT2)));
}

/**
 * Scene light per channel for a window, before exposure: white = 1. A Gaussian blur of a turned rectangle
 * is the product of two blurred slabs, so edges are exact; pixels are integrated by 3 × 3 points near an edge.
 */
function sceneLight(
  scene: SimulatedScene,
  frame: { width: number; height: number },
  window: PixelRect,
  blurAt: (radius: number) => Blur,
  moved: readonly [number, number] = [0, 0],
): Float64Array {
  const blank = () => new Float64Array(window.width * window.height * 3);
  if (scene === 'flat' || scene === 'flat-long') return blank().fill(0.6);
  if (scene === 'flare') return flareScene(blank(), frame, window);
  const { x, y, width, height } = window;
  const blurs = [0, 0.5, 1].map(blurAt);
  return charts(JSON.stringify([frame.width, frame.height, x, y, width, height, blurs, moved]), () =>
    chartLight(blank(), frame, window, blurAt, moved),
  );
}

/** Charts rendered lately: 128 MB. */
const charts = remembered(2 ** 24);

function chartLight(
  light: Float64Array,
  frame: { width: number; height: number },
  window: PixelRect,
  blurAt: (radius: number) => Blur,
  [right, down]: readonly [number, number],
): Float64Array {
  for (let i = 0; i < light.length; i += 3) for (let c = 0; c < 3; c++) light[i + c] = BACKGROUND[c];
  const half = Math.hypot(frame.width, frame.height) / 2;
  for (const part of chartParts(frame.width, frame.height)) {
    const radius = Math.hypot(part.centerX - frame.width / 2, part.centerY - frame.height / 2) / half;
    const moved = { ...part, centerX: part.centerX + right, centerY: part.centerY + down };
    addPart(light, moved, window, blurAt(radius));
  }
  return light;
}

const UNPOLARIZED: Polarization = { lightDegrees: 0, degree: 0 };
const POLARIZED_SCENES: readonly SimulatedScene[] = ['screen', 'water', 'sky', 'turn'];

/** How a picture's light is polarized: on a turn each heading has a degree of its own. */
function polarizationOf(
  { polarization = UNPOLARIZED, turn }: BenchPlan,
  take: PlannedTake,
  index: number,
): Polarization {
  if (take.scene !== 'turn' || !turn) return polarization;
  return { ...polarization, degree: degreeAt(turn, headingOf(index, turn.pictures)) };
}

/** A scene's light, unpolarized and (where there is any) polarized. */
function litScene(
  { polarization = UNPOLARIZED, ...plan }: BenchPlan,
  scene: SimulatedScene,
  window: PixelRect,
  blurAt: (radius: number) => Blur,
  moved?: readonly [number, number],
): { plain: Float64Array; polarized: Float64Array | null } {
  if (POLARIZED_SCENES.includes(scene)) return polarizedScene(scene, polarization, plan, window);
  const plain = sceneLight(scene, plan, window, blurAt, moved);
  const { bench = 0 } = polarization;
  if (bench === 0) return { plain, polarized: null };
  return { plain: scaled(plain, 1 - bench), polarized: scaled(plain, bench) };
}

/** A loop of its own: a callback a value takes eight times as long. */
function scaled(light: Float64Array, by: number): Float64Array {
  const out = new Float64Array(light.length);
  for (let i = 0; i < out.length; i++) out[i] = light[i] * by;
  return out;
}

/** Standard deviations of the blur along x and y, pixels. */
type Blur = readonly [number, number];

function addPart(light: Float64Array, part: ChartPart, window: PixelRect, sigma: Blur): void {
  const reach = 4 * Math.max(...sigma) + 1.5;
  const cos = Math.cos(part.angle);
  const sin = Math.sin(part.angle);
  const spanX = part.halfWidth * Math.abs(cos) + part.halfHeight * Math.abs(sin) + reach;
  const spanY = part.halfWidth * Math.abs(sin) + part.halfHeight * Math.abs(cos) + reach;
  const [left, right] = within(part.centerX - window.x, spanX, window.width);
  const [top, bottom] = within(part.centerY - window.y, spanY, window.height);
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) {
      const dx = window.x + x + 0.5 - part.centerX;
      const dy = window.y + y + 0.5 - part.centerY;
      const u = dx * cos + dy * sin;
      const v = -dx * sin + dy * cos;
      const du = Math.abs(u) - part.halfWidth;
      const dv = Math.abs(v) - part.halfHeight;
      if (du > reach || dv > reach) continue;
      const share = du < -reach && dv < -reach ? 1 : pixelShare(u, v, cos, sin, part, sigma);
      const at = (y * window.width + x) * 3;
      for (let c = 0; c < 3; c++) light[at + c] += share * (part.reflectance[c] - BACKGROUND[c]);
    }
}

function within(center: number, span: number, size: number): [number, number] {
  return [Math.max(0, Math.floor(center - span)), Math.min(size, Math.ceil(center + span))];
}

const GAUSS = [-Math.sqrt(0.6) / 2, 0, Math.sqrt(0.6) / 2];
const GAUSS_WEIGHTS = [5 / 18, 8 / 18, 5 / 18];

function pixelShare(u: number, v: number, cos: number, sin: number, part: ChartPart, sigma: Blur): number {
  let share = 0;
  for (let i = 0; i < 3; i++)
    for (let j = 0; j < 3; j++) {
      const pu = u + GAUSS[i] * cos + GAUSS[j] * sin;
      const pv = v - GAUSS[i] * sin + GAUSS[j] * cos;
      share +=
        GAUSS_WEIGHTS[i] * GAUSS_WEIGHTS[j] * slab(pu, part.halfWidth, sigma[0]) * slab(pv, part.halfHeight, sigma[1]);
    }
  return share;
}

/** Light that the lens (a little) and the filter scatter from the lamp. */
function strayLight(filter: TrueFilter | null, x: number, y: number, aspect: number): number {
  let light = 0.002 + (filter?.veil ?? 0);
  for (const ghost of filter?.ghosts ?? [])
    light +=
      ghost.level * Math.exp(-((x - ghost.x) ** 2 + ((y - ghost.y) * aspect) ** 2) / (2 * (ghost.radius / 1.18) ** 2));
  return light;
}

/**
 * One exposure of a take, as code values.
 *
 * @param index which repeat; each has noise and flicker of its own
 * @param window part of the frame to render; the whole frame when left out
 */
export function renderTake(plan: BenchPlan, asked: PlannedTake, index: number, window?: PixelRect): Picture {
  if (asked.scene === 'outdoor') return cutWindow(renderWalk(plan, asked, index), window);
  const spoiled = spoiledOf(plan, asked, index);
  const other = plan.filters.find(({ id }) => id === spoiled.otherFilter);
  const turned = spoiled.otherMark === undefined ? asked : { ...asked, setting: { mark: spoiled.otherMark } };
  const take = other ? { ...turned, filter: other } : turned;
  const { camera, width, height } = plan;
  const part = window ?? { x: 0, y: 0, width, height };
  const flicker = (plan.lamps.flickerStops ?? 0) * seededRandom(`${plan.seed}/${take.id}/${index}`).normal();
  // Windows of one picture must not share their noise: a fit over many would take it for the camera's response.
  const random = seededRandom(`${plan.seed}/${take.id}/${index}/${part.x},${part.y}`);
  const bareSeconds = 1 / BARE_SHUTTER_DENOMINATOR;
  const gains = (spoiled.gainStops ?? [0, 0, 0]).map((one) => 2 ** one);
  const stops = take.lampStops + flicker + (spoiled.exposureStops ?? 0);
  const exposure = spoiled.covered ? 0 : plan.bareLevel * (take.shutterSeconds / bareSeconds) * 2 ** stops;
  const scale = width / 1200;
  const sigma = Math.max(0.05, Math.hypot(camera.blurPx, (take.filter?.blurPx ?? 0) * scale));
  const focus = spoiled.focusPx ?? { center: 0, corner: 0 };
  const blurAt = (radius: number): Blur => {
    const defocus = focus.center + (focus.corner - focus.center) * radius ** 2;
    const [x, y] = spoiled.shakePx ?? [0, 0];
    return [Math.hypot(sigma, defocus, x), Math.hypot(sigma, defocus, y)];
  };
  const polarization = polarizationOf(plan, take, index);
  const { plain: light, polarized } = litScene({ ...plan, polarization }, take.scene, part, blurAt, spoiled.movedPx);
  const top = 2 ** camera.bitDepth - 1;
  const data = camera.bitDepth === 16 ? new Uint16Array(light.length) : new Uint8Array(light.length);
  const passing: Passing = { plain: [1, 1, 1], polarized: [1, 1, 1] };
  const pass = passingThrough(take.filter, take.setting, polarization.lightDegrees);
  // Only what changes over the frame is asked for at every pixel.
  const varies = Boolean(take.filter?.variable ?? take.filter?.graduation);
  pass(0, 0, passing);
  const isFlare = take.scene === 'flare';
  const electrons = new Float64Array(3 * part.width);
  const most = camera.fullWell * 1.2;
  // At the long end lens and filter see less of their rims.
  const field = take.scene === 'flat-long' ? 0.6 : 1;
  const { cornerStops = 0, hotSpot } = take.filter ?? {};
  const shadeAt = shading(plan, { falloffStops: camera.falloffStops, cornerStops, hotSpot, field });
  const full = exposure * camera.fullWell;
  for (let y = 0, i = 0; y < part.height; y++) {
    const dy = part.y + y + 0.5 - height / 2;
    for (let x = 0, k = 0; x < part.width; x++) {
      const dx = part.x + x + 0.5 - width / 2;
      if (varies) pass(dx / height, dy / height, passing);
      const { plain, polarized: through } = passing;
      const shaded = full * shadeAt(dx * dx + dy * dy);
      const added = isFlare ? strayLight(take.filter, dx / width + 0.5, dy / height + 0.5, height / width) : 0;
      for (let c = 0; c < 3; c++, i++, k++) {
        const crossed = polarized ? polarized[i] * through[c] : 0;
        const mean = ((light[i] + added) * plain[c] + crossed) * shaded * gains[c];
        electrons[k] = mean < most ? mean : most;
      }
    }
    random.count(electrons, camera.readNoise);
    encodeRow(camera.response, electrons, camera.fullWell, top, data, i - electrons.length);
  }
  return { width: part.width, height: part.height, channels: 3, bitDepth: camera.bitDepth, data };
}

function cutWindow(picture: Picture, window?: PixelRect): Picture {
  if (!window || (window.width === picture.width && window.height === picture.height)) return picture;
  const { data } = picture;
  const out =
    data instanceof Uint16Array
      ? new Uint16Array(3 * window.width * window.height)
      : new Uint8Array(3 * window.width * window.height);
  for (let y = 0; y < window.height; y++) {
    const from = 3 * ((window.y + y) * picture.width + window.x);
    out.set(data.subarray(from, from + 3 * window.width), 3 * y * window.width);
  }
  return { ...picture, width: window.width, height: window.height, data: out };
}
