import { decodeLinear, linearTable } from '../formulas/transfer/transfer';
import { seededRandom } from '@/simulator/random';
import { centerSquare, pixelsOfRect, type Picture } from './window';
import { reducePatch } from './patchStatistics';

const LINEAR8 = linearTable(decodeLinear, 8);
const LINEAR16 = linearTable(decodeLinear, 16);
const tables = (table: Float64Array): [Float64Array, Float64Array, Float64Array] => [table, table, table];

/** A gray patch of normal noise, rounded to codes and cut at the ends. */
function noisy(mean: number, sigma: number, bitDepth: 8 | 16, size = 140, seed = 'patch'): Picture {
  const random = seededRandom(seed);
  const top = 2 ** bitDepth - 1;
  const data = bitDepth === 16 ? new Uint16Array(size * size) : new Uint8Array(size * size);
  for (let i = 0; i < data.length; i++)
    data[i] = Math.min(top, Math.max(0, Math.round(mean + sigma * random.normal())));
  return { width: size, height: size, channels: 1, bitDepth, data };
}

describe('pixels of a rectangle: centers inside [x·W, (x + width)·W)', () => {
  test('worked by hand on a frame of ten pixels', () => {
    // Centers 0.5, 1.5 … 9.5; [1.5, 4.5) takes 1.5, 2.5, 3.5.
    expect(pixelsOfRect({ x: 0.15, y: 0, width: 0.3, height: 1 }, 10, 10)).toEqual({
      x: 1,
      y: 0,
      width: 3,
      height: 10,
    });
    expect(pixelsOfRect({ x: 0, y: 0, width: 1, height: 1 }, 7, 5)).toEqual({ x: 0, y: 0, width: 7, height: 5 });
    expect(pixelsOfRect({ x: 0.11, y: 0.11, width: 0.01, height: 0.01 }, 10, 10)).toBeNull();
  });

  test('fractions that a decimal can’t hold fall on the right side', () => {
    // 0.1 · 35 − 0.5 is 3.0000000000000004 in floating point.
    expect(pixelsOfRect({ x: 0.1, y: 0, width: 0.2, height: 1 }, 35, 1)?.x).toBe(3);
  });

  test('the center square has a side of floor(0.05·W)', () => {
    expect(centerSquare({ x: 0, y: 0, width: 1200, height: 800 }, 1200)).toEqual({
      x: 570,
      y: 370,
      width: 60,
      height: 60,
    });
  });
});

describe('statistics', () => {
  test('the mean is taken on linear light, not on codes', () => {
    const data = new Uint8Array([51, 255, 51, 255]);
    const table = linearTable((value) => value ** 2, 8);
    const { mean, pixelCount, topShare, zeroShare } = reducePatch(
      { width: 2, height: 2, channels: 1, bitDepth: 8, data },
      tables(table),
    );
    expect(pixelCount).toBe(4);
    expect(topShare).toEqual([0.5, 0.5, 0.5]);
    expect(zeroShare).toEqual([0, 0, 0]);
    // Codes 0.2 and 1 square to 0.04 and 1; the mean code 0.6 would square to 0.36.
    expect(mean[0]).toBeCloseTo(0.52, 5);
  });

  test('channels are kept apart', () => {
    const data = new Uint8Array(9 * 9 * 3).map((_, i) => [10, 20, 30][i % 3]);
    const { mean } = reducePatch({ width: 9, height: 9, channels: 3, bitDepth: 8, data }, tables(LINEAR8));
    mean.forEach((light, c) => expect(light).toBeCloseTo([10, 20, 30][c] / 255, 9));
  });

  test('a mean near black is corrected for what code 0 cut off', () => {
    const mean = 400;
    const statistics = reducePatch(noisy(mean, 300, 16, 300), tables(LINEAR16));
    expect(statistics.zeroShare[0]).toBeGreaterThan(0.05);
    const plain = mean / 65535;
    expect(Math.abs(statistics.mean[0] / plain - 1)).toBeLessThan(0.01);
    // Without the correction the mean would be several percent too bright.
    expect(statistics.zeroCorrection[0]).toBeLessThan(-0.02);
  });

  test('a sensor that saturates below the top code counts as clipped', () => {
    const picture = noisy(60000, 1500, 16);
    const data = (picture.data as Uint16Array).map((code) => Math.min(code, 61000));
    expect(reducePatch({ ...picture, data }, tables(LINEAR16)).topShare[0]).toBeGreaterThan(0.1);
    expect(reducePatch(picture, tables(LINEAR16)).topShare[0]).toBeLessThan(0.001);
  });

  test('rounding: none with noise of a code, up to the whole step without noise', () => {
    expect(reducePatch(noisy(100.3, 2, 8), tables(LINEAR8)).rounding[0]).toBe(0);
    expect(reducePatch(noisy(100.3, 0.6, 8), tables(LINEAR8)).rounding[0] * 100).toBeLessThan(0.001);
    const flat = reducePatch(noisy(100, 0, 8), tables(LINEAR8)).rounding[0] * 100;
    expect(flat).toBeGreaterThan(0.2);
    expect(flat).toBeLessThan(0.5);
  });

  test('rounding covers the error of coarse codes', () => {
    for (const mean of [3.1, 3.3, 3.45, 3.6, 3.9]) {
      const statistics = reducePatch(noisy(mean, 0.15, 8, 140, `coarse ${mean}`), tables(LINEAR8));
      const error = Math.abs(statistics.mean[0] * 255 - mean);
      expect(error).toBeLessThanOrEqual(2 * statistics.rounding[0] * statistics.mean[0] * 255 + 0.01);
    }
  });

  test('8-bit codes stored in 16 bits keep their step of 257', () => {
    const eight = noisy(20, 0.1, 8);
    const sixteen: Picture = { ...eight, bitDepth: 16, data: Uint16Array.from(eight.data, (code) => code * 257) };
    const a = reducePatch(eight, tables(LINEAR8)).rounding[0];
    const b = reducePatch(sixteen, tables(LINEAR16)).rounding[0];
    expect(b / a).toBeCloseTo(1, 1);
  });
});

describe('codes of clips', () => {
  test('chroma’s step is an error that no noise averages out', () => {
    const patch = noisy(30000, 400, 16);
    const plain = reducePatch(patch, tables(LINEAR16));
    const chromaStep = [600, 200, 650] as const;
    const filmed = reducePatch({ ...patch, step: 299, chromaStep }, tables(LINEAR16));
    expect(plain.rounding).toEqual([0, 0, 0]);
    // A step spread evenly has a standard deviation of a twelfth's root; light is linear in codes here.
    chromaStep.forEach((step, c) => expect(filmed.rounding[c]).toBeCloseTo(step / Math.sqrt(12) / 30000, 4));
  });

  test('a source of coarse codes leaves their rounding, whatever the container’s depth', () => {
    const even: Picture = { ...noisy(30000, 0, 16), step: 299 };
    expect(reducePatch(even, tables(LINEAR16)).rounding[0]).toBeCloseTo(299 / Math.sqrt(12) / 30000, 4);
  });

  test('many pixels at one high code are a codec’s smoothing, not a full sensor', () => {
    const patch = noisy(30000, 900, 16);
    for (let i = 0; i < patch.data.length; i++) patch.data[i] = Math.min(31200, patch.data[i]);
    expect(reducePatch(patch, tables(LINEAR16)).topShare[0]).toBeGreaterThan(0.05);
    expect(reducePatch({ ...patch, step: 299 }, tables(LINEAR16)).topShare[0]).toBe(0);
  });
});
