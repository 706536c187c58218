/** The stand-in camera by closed forms and general libraries: what each step does to light that is known. */
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import exifr from 'exifr';
import sharp from 'sharp';
import { randomPlan } from '../randomBench';
import { blurred, develop } from './develop';
import { CAMERA_CLASSES, drawProfile, PLAIN_PROFILE, styled, type CameraProfile } from './profile';
import { extraTakes, shootSession } from './shoot';

const [WIDTH, HEIGHT] = [64, 48];

function flat(light: (x: number, c: number) => number) {
  const data = new Uint16Array(3 * WIDTH * HEIGHT);
  for (let i = 0; i < WIDTH * HEIGHT; i++)
    for (let c = 0; c < 3; c++) data[3 * i + c] = Math.round(65535 * light(i % WIDTH, c));
  return { width: WIDTH, height: HEIGHT, channels: 3 as const, bitDepth: 16 as const, data };
}

const codesOf = (profile: Partial<CameraProfile>, light: (x: number, c: number) => number, falloff = 0) =>
  develop(flat(light), { ...PLAIN_PROFILE, ...profile }, falloff, 'seed').data;
const middle = 3 * ((HEIGHT / 2) * WIDTH + WIDTH / 2);

test('a plain camera writes the standard curve: 0.2140 of light is code 127 or 128 (IEC 61966-2-1)', () => {
  expect([127, 128]).toContain(codesOf({}, () => 0.214)[middle]);
  expect(codesOf({}, () => 1)[middle]).toBe(255);
  expect(codesOf({}, () => 0)[middle]).toBe(0);
});

test('the mosaic and its matrix leave an even surface as it is, colored or not', () => {
  const plain = codesOf({}, (_, c) => [0.3, 0.2, 0.25][c]);
  const mosaic = codesOf({ mosaic: true }, (_, c) => [0.3, 0.2, 0.25][c]);
  for (let c = 0; c < 3; c++) expect(Math.abs(mosaic[middle + c] - plain[middle + c])).toBeLessThanOrEqual(1);
});

test('shading gain brightens corners by its share of the falloff', () => {
  const codes = codesOf({ shadingGain: 0.5 }, () => 0.1, 1);
  const light = (code: number) => ((code / 255 + 0.055) / 1.055) ** 2.4;
  expect(Math.log2(light(codes[0]) / light(codes[middle]))).toBeCloseTo(0.5, 1);
});

test('sharpening overshoots at an edge and leaves flat ground', () => {
  const edge = (x: number) => (x < 32 ? 0.1 : 0.4);
  const [plain, sharp] = [codesOf({}, edge), codesOf({ sharpening: 1 }, edge)];
  const at = (x: number) => 3 * ((HEIGHT / 2) * WIDTH + x);
  expect(sharp[at(32)]).toBeGreaterThan(plain[at(32)] + 10);
  expect(sharp[at(31)]).toBeLessThan(plain[at(31)] - 10);
  expect(sharp[at(50)]).toBe(plain[at(50)]);
});

test('automatic tone draws a dark picture by another curve, local tone lifts what is brighter than its surroundings', () => {
  const [fixed, adapted] = [codesOf({}, () => 0.02), codesOf({ automaticTone: 0.1 }, () => 0.02)];
  expect(adapted[middle]).toBeGreaterThan(fixed[middle]);
  expect(codesOf({ automaticTone: 0.1 }, () => 0.125)[middle]).toBe(codesOf({}, () => 0.125)[middle]);
  const spot = (x: number) => (Math.abs(x - 32) < 4 ? 0.3 : 0.1);
  expect(codesOf({ localTone: 0.3 }, spot)[middle]).toBeGreaterThan(codesOf({}, spot)[middle] + 2);
});

test('a white balance that wanders turns red and blue, not green, and otherwise in another picture', () => {
  const [plain, one] = [codesOf({}, () => 0.2), codesOf({ wanderingBalance: 0.3 }, () => 0.2)];
  expect(one[middle + 1]).toBe(plain[middle + 1]);
  expect(one[middle]).not.toBe(plain[middle]);
  const other = develop(
    flat(() => 0.2),
    { ...PLAIN_PROFILE, wanderingBalance: 0.3 },
    0,
    'another',
  ).data;
  expect([other[middle], other[middle + 2]]).not.toEqual([one[middle], one[middle + 2]]);
});

test('styles rise from black to white', () => {
  for (let i = 0; i < 40; i++) {
    const { style } = drawProfile(`style ${i}`, 'curve');
    for (let c = 0; c < 3; c++) {
      const codes = Array.from({ length: 101 }, (_, k) => styled(style, k / 100, c));
      expect(codes[0]).toBeCloseTo(style.lift, 9);
      expect(codes[100]).toBeCloseTo(1, 9);
      codes.slice(1).forEach((code, k) => expect(code).toBeGreaterThan(codes[k]));
    }
  }
});

test('classes switch on one thing after the other, and a seed gives one camera', () => {
  const drawn = CAMERA_CLASSES.map((kind) => drawProfile('one', kind));
  expect(drawn.map(({ jpeg }) => jpeg !== undefined)).toEqual([false, true, true, true]);
  expect(drawn.map(({ localTone }) => localTone !== 0)).toEqual([false, false, true, false]);
  expect(drawn.map(({ automaticTone }) => automaticTone !== 0)).toEqual([false, false, false, true]);
  expect(drawProfile('one', 'local')).toEqual(drawn[2]);
});

test('a blurred step is the normal distribution’s (closed form): 0.1587 of it one deviation before', () => {
  const plane = Float64Array.from({ length: WIDTH * HEIGHT }, (_, i) => (i % WIDTH < 32 ? 0 : 1));
  const row = (HEIGHT / 2) * WIDTH;
  // Pixels stand for their middles: x = 29.5 lies 2 before the step's middle at 31.5.
  const narrow = blurred(plane, WIDTH, HEIGHT, 2);
  expect((narrow[row + 29] + narrow[row + 30]) / 2).toBeCloseTo(0.1587, 2);
  // Wide ones are three running means: nearly one.
  const wide = blurred(plane, WIDTH, HEIGHT, 5);
  expect((wide[row + 26] + wide[row + 27]) / 2).toBeCloseTo(0.1587, 1);
  expect((wide[row + 31] + wide[row + 32]) / 2).toBeCloseTo(0.5, 6);
});

test('files tell sRGB and nothing of the style; two more bare pictures are a stop and three darker', async () => {
  const plan = {
    ...randomPlan('shoot', { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 1 }),
    width: 120,
    height: 80,
  };
  const folder = await mkdtemp(join(tmpdir(), 'camera-'));
  try {
    await shootSession(plan, drawProfile('shoot', 'processed'), folder, [1, 3]);
    const session = JSON.parse(await readFile(join(folder, 'session.glade.json'), 'utf8')) as {
      rig: { response: { kind: string } };
      takes: { role?: string; files: string[] }[];
    };
    expect(session.rig.response).toEqual({ kind: 'file' });
    const extras = session.takes.filter(({ role }) => role === 'bracket');
    expect(extras).toHaveLength(2);
    const tags = (await exifr.parse(join(folder, extras[0].files[0]), {
      reviveValues: false,
      translateValues: false,
    })) as { ColorSpace: number };
    expect(tags.ColorSpace).toBe(1);
    const mean = async (file: string) => (await sharp(join(folder, file)).stats()).channels[1].mean;
    const bare = session.takes.find(({ role, files }) => role === undefined && files[0].includes('bare'))!;
    const levels = await Promise.all([bare.files[0], extras[0].files[0], extras[1].files[0]].map(mean));
    expect(levels[0]).toBeGreaterThan(levels[1]);
    expect(levels[1]).toBeGreaterThan(levels[2]);
  } finally {
    await rm(folder, { recursive: true });
  }
  const takes = extraTakes(plan, [1, 3]);
  expect(Math.log2(takes[0].shutterSeconds / takes[1].shutterSeconds)).toBeCloseTo(2, 9);
});
