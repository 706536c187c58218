/** What measures ask of a patch, and how windows are reduced. */
import type { Decoding } from '../light/decoding';
import type { MeasuredPatch } from './asked';
import type { PictureFacts } from './facts';
import { reduceOpened } from './opened';
import { reduceWindow, requestsOf } from './requests';
import type { OpenPicture } from './source';
import type { Picture } from './window';

const FACTS = { width: 400, height: 200, channels: 3, bitDepth: 8 } as PictureFacts;
const LINEAR = Float64Array.from({ length: 256 }, (_, code) => code / 255);
const DECODING: Decoding = {
  tables: [LINEAR, LINEAR, LINEAR],
  conversion: null,
  luminance: [0.2126, 0.7152, 0.0722],
  name: 'linear',
};
const patch = (role: MeasuredPatch['role'], rect = { x: 0.25, y: 0.25, width: 0.5, height: 0.5 }): MeasuredPatch => ({
  id: role,
  scene: 'chart',
  role,
  rect,
});
const SAME = { kind: 'same' } as const;
const kinds = (one: MeasuredPatch) => requestsOf([one], FACTS, SAME).map(({ kind, pixels }) => [kind, pixels]);

describe('requests', () => {
  const whole = { x: 100, y: 50, width: 200, height: 100 };
  // Five hundredths of 400 pixels, in the middle of the patch.
  const center = { x: 190, y: 90, width: 20, height: 20 };

  test.each(['neutral', 'color', 'glare', 'reference', 'sky', 'black'] as const)('%s: its level', (role) =>
    expect(kinds(patch(role))).toEqual([['level', whole]]),
  );
  test.each(['frame', 'middle'] as const)('%s: the level of its center square', (role) =>
    expect(kinds(patch(role))).toEqual([['level', center]]),
  );
  test('field: its center’s level, and all of it', () =>
    expect(kinds(patch('field'))).toEqual([
      ['level', center],
      ['field', whole],
    ]));
  test('edge: itself, by luma where that is kept apart', () =>
    expect(kinds(patch('edge'))).toEqual([['edge', { ...whole, luma: true }]]));

  test('a patch follows a picture that moved; a wall doesn’t', () => {
    const moved = { kind: 'moved', pose: { dx: 8, dy: -6, a: 0, b: 0 } } as const;
    const of = (role: MeasuredPatch['role']) => requestsOf([patch(role)], FACTS, moved)[0].pixels;
    expect(of('neutral')).toEqual({ ...whole, x: 108, y: 44 });
    expect(of('field')).toEqual(center);
  });

  test('a patch that holds no pixel’s center is one pixel, inside the frame', () => {
    const tiny = patch('neutral', { x: 0.9999, y: 0.9999, width: 0.0001, height: 0.0001 });
    expect(kinds(tiny)).toEqual([['level', { x: 399, y: 199, width: 1, height: 1 }]]);
  });
});

const picture = (codes: number[], width: number): Picture => ({
  width,
  height: codes.length / 3 / width,
  channels: 3,
  bitDepth: 8,
  data: Uint8Array.from(codes),
});

describe('reductions', () => {
  const pixels = { x: 0, y: 0, width: 2, height: 1 };
  const window = picture([51, 102, 0, 102, 204, 255], 2);

  test('a level is the mean of light; top and zero are counted by channel', () => {
    const { level } = reduceWindow(window, { patch: patch('neutral'), kind: 'level', pixels }, 400, DECODING);
    expect(level!.mean[0]).toBeCloseTo(0.3, 9);
    expect(level!.mean[1]).toBeCloseTo(0.6, 9);
    expect(level!.topShare).toEqual([0, 0, 0.5]);
    expect(level!.zeroShare).toEqual([0, 0, 0.5]);
  });

  test('primaries are converted after averaging', () => {
    const swapped: Decoding = { ...DECODING, conversion: [0, 1, 0, 1, 0, 0, 0, 0, 1] as never };
    const { level } = reduceWindow(window, { patch: patch('neutral'), kind: 'level', pixels }, 400, swapped);
    expect(level!.mean[0]).toBeCloseTo(0.6, 9);
    expect(level!.mean[1]).toBeCloseTo(0.3, 9);
    expect(level!.cells.values[0][0]).toBeCloseTo(0.6, 9);
  });

  test('an edge tells its codes, and why it can’t be used', () => {
    const steps = Array.from({ length: 100 }, (_, i) => (i < 50 ? [10, 20, 30] : [200, 220, 255])).flat();
    const { edge } = reduceWindow(picture(steps, 10), { patch: patch('edge'), kind: 'edge', pixels }, 400, DECODING);
    expect(edge!.codeStep).toBe(200);
    expect(edge!.topShare).toBeCloseTo(0.5, 9);
    expect('refused' in edge!.result).toBe(true);
  });

  test('codes are handed on as they are', () =>
    expect(reduceWindow(window, { patch: patch('neutral'), kind: 'codes', pixels }, 400, DECODING).codes).toBe(window));
});

describe('the second pass', () => {
  const plan = { requests: [{ patch: patch('neutral'), kind: 'level' as const, pixels: { x: 0, y: 0, width: 2, height: 1 } }], decoding: DECODING }; // prettier-ignore
  const open = (change: Partial<OpenPicture> = {}): OpenPicture => ({
    facts: FACTS,
    preview: null,
    windows: async (rects) => rects.map(() => picture([51, 51, 51, 51, 51, 51], 2)),
    close: () => undefined,
    ...change,
  });

  test('is done here, or where the pixels are', async () => {
    expect((await reduceOpened(open(), plan))[0].level!.mean[0]).toBeCloseTo(0.2, 9);
    const elsewhere = await reduceOpened(open({ reduce: async () => [{ codes: picture([1, 2, 3], 1) }] }), plan);
    expect(elsewhere[0].codes!.width).toBe(1);
  });
});
