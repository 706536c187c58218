/**
 * An ordinary scene, made by a seed: a weir with its pond, hills and sky behind it, a bank of gravel and grass, a tree in front. Linear
 * light, white 1, as textures finer than the pictures taken of it.
 */
import { seededRandom } from './random';
import { remembered } from './remembered';

/** Places are in half widths of the frame from its center, right and down. */
export interface Texture {
  width: number;
  height: number;
  /** Pixels a half width. */
  density: number;
  /** Light, channels interleaved. */
  light: Float32Array;
  /** How much of what lies behind it covers, 0–1; all of it where there is none. */
  cover?: Float32Array;
}

export interface Landscape {
  back: Texture;
  /** What stands nearer, and moves more when the camera does. */
  front?: Texture;
  /** Share of water at a place of the back, 0–1: it ripples. */
  water?: Float32Array;
  /** Where the back is sky: 1, else 0. */
  sky?: Uint8Array;
}

/** How far textures reach beyond the frame: a camera that drifts must see something there. */
export const REACH = 1.3;
/** Nothing in front stands further right than this, half widths, wherever the camera looks. */
export const FRONT_ENDS = -0.2;
/** Texture pixels a picture's pixel. */
const FINER = 1.6;
/** How soft the painting is by itself, standard deviation in pixels of a picture: as little as its pixels can be taken without aliases. */
export const PAINT_BLUR = 0.45;

/** The same water ripples in every picture of a walk. */
const tables = remembered<Float32Array>(16 * 512 * 512);

/** Smooth noise between 0 and 1: random values on a lattice with smoothed steps between. */
export function valueNoise(seed: string, size = 512): (x: number, y: number) => number {
  const table = tables(`${seed} ${size}`, () => {
    const random = seededRandom(`noise/${seed}`);
    const made = new Float32Array(size * size);
    for (let i = 0; i < made.length; i++) made[i] = random.uniform();
    return made;
  });
  const mask = size - 1;
  return (x, y) => {
    const [u, v] = [Math.floor(x), Math.floor(y)];
    const [s, t] = [x - u, y - v];
    const [a, b] = [s * s * (3 - 2 * s), t * t * (3 - 2 * t)];
    const [top, bottom] = [(v & mask) * size, ((v + 1) & mask) * size];
    const [left, right] = [u & mask, (u + 1) & mask];
    return (
      (1 - b) * ((1 - a) * table[top + left] + a * table[top + right]) +
      b * ((1 - a) * table[bottom + left] + a * table[bottom + right])
    );
  };
}

/** Sum of noises, each twice as fine and a little weaker. */
function layered(noise: (x: number, y: number) => number, octaves: number, fall = 0.62) {
  return (x: number, y: number): number => {
    let [sum, weight, total, scale] = [0, 1, 0, 1];
    for (let i = 0; i < octaves; i++) {
      sum += weight * noise(x * scale + 17.3 * i, y * scale + 7.9 * i);
      total += weight;
      weight *= fall;
      scale *= 2.03;
    }
    return sum / total;
  };
}

const mix = (a: number, b: number, t: number) => a + (b - a) * Math.min(1, Math.max(0, t));
type Light = [number, number, number];
const mixed = (a: Light, b: Light, t: number): Light => [mix(a[0], b[0], t), mix(a[1], b[1], t), mix(a[2], b[2], t)];
const times = (light: Light, factor: number): Light => [light[0] * factor, light[1] * factor, light[2] * factor];

/**
 * @param width, height of the pictures that will be taken, pixels
 */
export function paintLandscape(seed: string, width: number, height: number): Landscape {
  const density = FINER * (width / 2);
  const aspect = height / width;
  const size = { width: Math.ceil(2 * REACH * density), height: Math.ceil(2 * REACH * aspect * density) };
  const random = seededRandom(`landscape/${seed}`);
  const coarse = layered(valueNoise(`${seed}/coarse`), 5, 0.5);
  const fine = layered(valueNoise(`${seed}/fine`), 4, 0.85);
  const horizon = -0.1 + 0.06 * (random.uniform() - 0.5);
  const shift = 40 * random.uniform();
  const stones = stoneWall(`${seed}/stones`, width);
  // A pixel of a picture, in half widths: the grain of what is painted follows it, so that every size has fine detail.
  const grain = width / 2 / 3;
  const count = size.width * size.height;
  const back: Texture = { ...size, density, light: new Float32Array(3 * count) };
  const water = new Float32Array(count);
  const sky = new Uint8Array(count);
  const lamps = Array.from({ length: 5 }, (_, i) => ({ x: -0.75 + 0.36 * i + 0.05 * random.uniform(), y: 0.03 }));
  const ridges = Float64Array.from({ length: size.width }, (_, px) => {
    const x = (px + 0.5) / density - REACH;
    return horizon - 0.05 - 0.22 * coarse(2.2 * x + shift, 3) * (0.6 + 0.4 * Math.sin(2 * x + shift));
  });
  for (let py = 0; py < size.height; py++)
    for (let px = 0; px < size.width; px++) {
      const x = (px + 0.5) / density - REACH;
      const y = (py + 0.5) / density - REACH * aspect;
      const at = py * size.width + px;
      let light: Light;
      if (y < ridges[px]) {
        sky[at] = 1;
        const clouds = Math.max(0, coarse(2.4 * x + shift, 4.5 * y + shift) - 0.5) * 3.2;
        light = mixed(mixed([0.24, 0.38, 0.66], [0.55, 0.66, 0.78], (y + 0.6) / 0.6), [0.86, 0.87, 0.88], clouds);
      } else if (y < horizon) {
        light = times([0.055, 0.085, 0.06], 0.35 + 1.3 * fine(grain * 0.55 * x, grain * 0.55 * y));
      } else if (y < 0.1) {
        const grass = fine(grain * 0.8 * x, grain * 0.5 * y);
        light = times(mixed([0.1, 0.17, 0.06], [0.2, 0.2, 0.1], 2 * coarse(4 * x, 9 * y) - 0.6), 0.35 + 1.3 * grass);
        for (const lamp of lamps) {
          const [dx, dy] = [Math.abs(x - lamp.x), y - lamp.y];
          if (dx < 0.006 && dy > -0.02 && dy < 0.07) light = [0.03, 0.03, 0.03];
          if (dx < 0.014 && dy > -0.055 && dy < -0.02) light = [0.72, 0.6, 0.36];
        }
      } else if (y < 0.19) {
        light = times([0.26, 0.245, 0.22], stones(x, y) * (0.6 + 0.8 * fine(grain * 0.6 * x + 9, grain * 0.6 * y)));
      } else if (x + 0.35 * (y - 0.3) < 0.28 - 0.1 * coarse(7 * y, 5)) {
        water[at] = 1;
        const mirrored = mixed([0.1, 0.15, 0.19], [0.03, 0.05, 0.04], 2.4 * coarse(3 * x + shift, 5 * (0.4 - y)) - 0.5);
        light = times(mirrored, 0.8 + 0.4 * fine(grain * 0.1 * x, grain * 0.4 * y));
      } else {
        const gravel = fine(grain * 0.7 * x + 3, grain * 0.7 * y + 3);
        light = times(mixed([0.24, 0.22, 0.185], [0.11, 0.15, 0.07], 3 * coarse(5 * x, 8 * y) - 1), 0.3 + 1.4 * gravel);
      }
      back.light.set(light, 3 * at);
    }
  blurTexture(back.light, size.width, size.height, 3, FINER * PAINT_BLUR);
  const front = paintTree(`${seed}/tree`, size, density, grain);
  return { back, front, water, sky };
}

/** Courses of stones with dark joints: 1 on a stone's face, less in a joint, each stone its own shade. */
function stoneWall(seed: string, width: number) {
  const shade = valueNoise(`${seed}/shade`);
  const joint = Math.max(0.0025, 3 / width);
  return (x: number, y: number): number => {
    const course = Math.floor(y / 0.03);
    const along = x / 0.07 + 0.5 * (course % 2) + 0.2 * shade(course + 0.5, 11.5);
    const stone = Math.floor(along);
    const [left, top] = [(along - stone) * 0.07, y - course * 0.03];
    if (left < joint || top < joint) return 0.35;
    return 0.7 + 0.6 * shade(stone + 0.5, course + 0.5);
  };
}

function paintTree(
  seed: string,
  { width, height }: { width: number; height: number },
  density: number,
  grain: number,
): Texture {
  const leaves = layered(valueNoise(`${seed}/leaves`), 3, 0.8);
  const crown = layered(valueNoise(`${seed}/crown`), 4);
  const light = new Float32Array(3 * width * height);
  const cover = new Float32Array(width * height);
  const aspect = height / width;
  for (let py = 0; py < height; py++)
    for (let px = 0; px < width; px++) {
      const x = (px + 0.5) / density - REACH;
      const y = (py + 0.5) / density - REACH * aspect;
      const at = py * width + px;
      if (x > FRONT_ENDS - 0.1) break;
      const [dx, dy] = [(x + 0.98) / 0.42, (y + 0.32) / 0.36];
      const inside = 1 - Math.hypot(dx, dy) + 0.9 * (crown(5 * x, 5 * y) - 0.5);
      if (inside > 0.08) {
        cover[at] = leaves(grain * 0.35 * x, grain * 0.35 * y) > 0.42 ? 1 : 0;
        const shade = 0.3 + 1.4 * leaves(grain * 0.5 * x + 5, grain * 0.5 * y + 5);
        light.set([0.055 * shade, 0.1 * shade, 0.03 * shade], 3 * at);
      } else if (Math.abs(x + 0.95 + 0.02 * Math.sin(9 * y)) < 0.035 && y > -0.2 && y < 0.45) {
        cover[at] = 1;
        const bark = 0.5 + crown(90 * x, 16 * y);
        light.set([0.07 * bark, 0.055 * bark, 0.045 * bark], 3 * at);
      }
      for (let c = 0; c < 3; c++) light[3 * at + c] *= cover[at];
    }
  // Light is kept times cover, so that both may be blurred.
  blurTexture(light, width, height, 3, FINER * PAINT_BLUR);
  blurTexture(cover, width, height, 1, FINER * PAINT_BLUR);
  return { width, height, density, light, cover };
}

/** Gaussian blur in place, separable; edges are repeated. */
export function blurTexture(
  data: Float32Array,
  width: number,
  height: number,
  channels: number,
  sigma: number | readonly [x: number, y: number],
): void {
  const [across, down] = typeof sigma === 'number' ? [sigma, sigma] : sigma;
  const row = width * channels;
  if (across >= 0.05) {
    const kernel = kernelOf(across);
    const radius = kernel.length >> 1;
    const padded = new Float32Array(row + 2 * radius * channels);
    for (let y = 0; y < height; y++) {
      const line = data.subarray(y * row, (y + 1) * row);
      if (isEmpty(line)) continue;
      padded.set(line, radius * channels);
      for (let k = 0; k < radius; k++)
        for (let c = 0; c < channels; c++) {
          padded[k * channels + c] = line[c];
          padded[row + (radius + k) * channels + c] = line[row - channels + c];
        }
      line.fill(0);
      for (let k = 0; k < kernel.length; k++) {
        const weight = kernel[k];
        const shift = k * channels;
        for (let i = 0; i < row; i++) line[i] += weight * padded[i + shift];
      }
    }
  }
  if (down < 0.05) return;
  const kernel = kernelOf(down);
  const radius = kernel.length >> 1;
  // Rows that later ones still need, as they were.
  const kept = new Map<number, Float32Array>();
  for (let y = 0; y < height; y++) {
    kept.set(y, data.slice(y * row, (y + 1) * row));
    kept.delete(y - radius - 1);
    const line = data.subarray(y * row, (y + 1) * row);
    line.fill(0);
    for (let k = -radius; k <= radius; k++) {
      const from = Math.min(height - 1, Math.max(0, y + k));
      const source = kept.get(from) ?? data.subarray(from * row, (from + 1) * row);
      const weight = kernel[k + radius];
      for (let i = 0; i < row; i++) line[i] += weight * source[i];
    }
  }
}

function isEmpty(line: Float32Array): boolean {
  for (let i = 0; i < line.length; i++) if (line[i] !== 0) return false;
  return true;
}

function kernelOf(sigma: number): Float64Array {
  // The kernel whose response is exp(−2π²σ²f²) up to half a cycle a pixel, by the midpoint rule: a narrow Gaussian that is merely sampled
  // would not be one.
  const radius = Math.ceil(Math.max(4, 3.5 * sigma));
  const steps = 256;
  const kernel = Float64Array.from({ length: 2 * radius + 1 }, (_, i) => {
    let sum = 0;
    for (let k = 0; k < steps; k++) {
      const f = (k + 0.5) / (2 * steps);
      sum += Math.exp(-2 * (Math.PI * sigma * f) ** 2) * Math.cos(2 * Math.PI * f * (i - radius));
    }
    return sum / steps;
  });
  const total = kernel.reduce((sum, value) => sum + value, 0);
  for (let i = 0; i < kernel.length; i++) kernel[i] /= total;
  return kernel;
}
