import { paintLandscape, REACH, type Landscape } from '@/simulator/landscape';
import { seededRandom } from '@/simulator/random';
import { apartPx, NO_MOVE, similarity, type Homography } from '../formulas/geometry/homography';
import { layOn, prepareLay } from './lay';
import { applyHomography, composeHomographies, homographyOf, invertHomography } from '../formulas/geometry/homography';

interface Look {
  pose: Homography;
  /** Light against the bare picture's. */
  gain?: number;
  /** Photo-electrons of white, for the noise; none when left out. */
  fullWell?: number;
  seed?: string;
  width?: number;
  /** As an eight-bit file in sRGB's curve keeps it. */
  eightBit?: boolean;
  /** Points a pixel's area is looked at, each way: of a zoomed picture a single one would show what no pixel resolves. */
  points?: number;
}

/** Light that an eight-bit code of sRGB's curve (IEC 61966-2-1) stands for, nearest to some light. */
function coded(light: number): number {
  const signal = light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055;
  const v = Math.round(255 * Math.min(1, Math.max(0, signal))) / 255;
  return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
}

/** Luminance that a camera sees of a landscape's back. */
function look({ back }: Landscape, { pose, gain = 1, fullWell, seed = '', width = 400, eightBit, points = 1 }: Look) {
  const height = Math.round((width * 9) / 16);
  const random = seededRandom(seed);
  const out = new Float32Array(width * height);
  // Green alone: luminance enough for laying.
  const lightAt = (x: number, y: number) => {
    const [u, v] = applyHomography(pose, (2 * x) / width - 1, (2 * y - height) / width);
    const px = Math.min(back.width - 2, Math.max(0, (u + REACH) * back.density - 0.5));
    const py = Math.min(back.height - 2, Math.max(0, v * back.density + back.height / 2 - 0.5));
    const [i, j] = [Math.floor(px), Math.floor(py)];
    const [s, t] = [px - i, py - j];
    const k = 3 * (j * back.width + i) + 1;
    const below = k + 3 * back.width;
    const { light } = back;
    return (1 - t) * ((1 - s) * light[k] + s * light[k + 3]) + t * ((1 - s) * light[below] + s * light[below + 3]);
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let value = 0;
      for (let j = 0; j < points; j++)
        for (let i = 0; i < points; i++) value += lightAt(x + (i + 0.5) / points, y + (j + 0.5) / points);
      value *= gain / points ** 2;
      const seen = fullWell
        ? Math.round(value * fullWell + Math.sqrt(value * fullWell + 9) * random.grain()) / fullWell
        : value;
      out[y * width + x] = eightBit ? coded(seen) : seen;
    }
  return prepareLay(() => out, width, height, 1);
}

const scenes = ['one', 'two', 'three'].map((seed) => paintLandscape(`lay-${seed}`, 400, 225));

test('homographies: composed, turned round, found through points', () => {
  const h: Homography = [1.02, -0.03, 0.05, 0.01, 0.98, -0.02, 0.004, -0.003, 1];
  const [u, v] = applyHomography(invertHomography(h), ...applyHomography(h, 0.4, -0.3));
  expect([u, v]).toEqual([expect.closeTo(0.4, 9), expect.closeTo(-0.3, 9)]);
  expect(apartPx(composeHomographies(h, invertHomography(h)), NO_MOVE, 1920, 1080)).toBeLessThan(1e-9);
  const points = [[-1, -0.5], [1, -0.5], [1, 0.5], [-1, 0.5], [0.2, 0.1]] as const; // prettier-ignore
  const found = homographyOf(points.map(([x, y]) => [x, y, ...applyHomography(h, x, y)]))!;
  expect(apartPx(found, h, 1920, 1080)).toBeLessThan(1e-3);
});

test.each([
  ['a shift of some pixels is laid within 0.05 px', similarity(1, 0, 0.03, -0.02), 1],
  ['a turn of two degrees and a zoom of 3 % is laid within 0.05 px', similarity(1.03, 0.035, 0.01, 0.02), 1],
  ['a perspective is laid within 0.05 px', [1, 0, 0.01, 0, 1, 0, 0.006, -0.004, 1], 1],
  ['a far shift, for which corners are needed is laid within 0.05 px', similarity(1, 0, 0.35, -0.05), 1],
  ['a turn of 12 degrees and a zoom of a sixth is laid within 0.05 px', similarity(1.17, 0.21, -0.05, 0.03), 1],
  ['ten stops darker is laid within 0.05 px', similarity(1.01, 0.01, 0.02, 0.01), 2 ** -10],
] as [string, Homography, number][])('%s', (_, pose, gain) => {
  // 16 bits hold 64 codes of a white ten stops down; noise is a large sensor's.
  const points = gain === 1 ? 3 : 1;
  const bare = look(scenes[0], { pose: NO_MOVE, fullWell: 60000, seed: 'bare', points });
  const take = look(scenes[0], { pose, gain, fullWell: 60000, seed: 'take', points });
  const result = layOn(take, bare);
  if (!('laid' in result)) throw new Error(result.words);
  // The take's point lies where its pose says, for bare's pose is none.
  // Ten stops down noise is as strong as the scene's contrast: its own uncertainty says how far that goes.
  const { homography, errorPx } = result.laid;
  expect(apartPx(homography, pose, 400, 225)).toBeLessThan(gain === 1 ? 0.05 : Math.max(0.05, 2.5 * errorPx));
  expect(errorPx).toBeLessThan(0.15);
});

test.each([2, 4, 6])('in eight bits, %s stops darker: laid within 0.1 px or its own uncertainty', (stops) => {
  const pose = similarity(1.01, 0.01, 0.02, 0.01);
  const bare = look(scenes[0], { pose: NO_MOVE, fullWell: 15000, seed: 'bare', eightBit: true });
  const take = look(scenes[0], { pose, gain: 2 ** -stops, fullWell: 15000, seed: 'take', eightBit: true });
  const result = layOn(take, bare);
  // Six stops leave 40 codes to what was white, of sRGB's 255: enough for this one.
  if (!('laid' in result)) throw new Error(result.words);
  const { homography, errorPx } = result.laid;
  expect(apartPx(homography, pose, 400, 225)).toBeLessThan(Math.max(0.1, 2.5 * errorPx));
});

const PAIRS = Number(process.env.GLADE_PAIRS ?? 45);

test('many pairs (300 with GLADE_PAIRS=300), a third of them of different views: none is paired wrongly, and of the rest few are refused', () => {
  const random = seededRandom('pairs');
  let [wrong, refused, same] = [0, 0, 0];
  const worst: number[] = [];
  for (let i = 0; i < PAIRS; i++) {
    const scene = i % scenes.length;
    const pose = similarity(1 + 0.04 * random.normal(), 0.03 * random.normal(), 0.05 * random.normal(), 0.03 * random.normal()); // prettier-ignore
    const other = i % 3 === 0;
    // Another place, or the same landscape with the camera turned right away from it.
    const elsewhere = random.uniform() < 0.7 ? scenes[(scene + 1 + (i % 2)) % scenes.length] : null;
    const turned = similarity(1, Math.PI * (0.4 + 0.2 * random.uniform()), 0.2, 0);
    const gain = 2 ** (-6 * random.uniform());
    const bare = look(scenes[scene], { pose: NO_MOVE, fullWell: 40000, seed: `${i}/bare`, width: 160 });
    const take = look(other ? (elsewhere ?? scenes[scene]) : scenes[scene], {
      pose: other && !elsewhere ? turned : pose,
      gain,
      fullWell: 40000,
      seed: `${i}/take`,
      width: 160,
    });
    const result = layOn(take, bare);
    const truth = other ? (elsewhere ? null : turned) : pose;
    if (!other) same++;
    if (!('laid' in result)) {
      if (!other) refused++;
      continue;
    }
    const off = truth === null ? Infinity : apartPx(result.laid.homography, truth, 160, 90);
    // Laid is laid rightly, even where a turned camera was found out.
    if (off > 1) wrong++;
    else if (!other) worst.push(off);
  }
  expect(wrong).toBe(0);
  expect(refused).toBeLessThan(0.05 * same);
  worst.sort((a, b) => a - b);
  // Of a picture 160 pixels wide, at up to six stops less light.
  expect(worst[worst.length >> 1]).toBeLessThan(0.1);
  expect(worst[Math.floor(0.9 * worst.length)]).toBeLessThan(0.3);
});

test('what shows nothing is refused with a sentence', () => {
  const even = prepareLay(() => new Float32Array(240 * 135).fill(0.4), 240, 135, 1);
  const bare = look(scenes[1], { pose: NO_MOVE, width: 160 });
  expect(layOn(even, bare)).toEqual({ words: 'there is too little to see in it that could be laid on anything' });
  expect(layOn(look(scenes[2], { pose: NO_MOVE, width: 160 }), bare)).toEqual({
    words: 'the two do not show the same view',
  });
});
