/**
 * Tables of real encoders' files: libjpeg's standard tables at qualities whose scaling is published (ITU-T T.81, annex K, and IJG's rule, from
 * memory); and what the means of its even places are off by, against the ± that is counted.
 */
import sharp from 'sharp';
import { compressionOfCodes } from '@/core/light/camera/compression';
import { seededNormals } from '@/core/formulas/statistics/seededNormals';
import { meanStepsOf } from './jpegTables';

const picture = sharp(Buffer.alloc(64 * 64 * 3, 90), { raw: { width: 64, height: 64, channels: 3 } });
const encoded = (quality: number, chromaSubsampling = '4:2:0') =>
  picture.clone().jpeg({ quality, chromaSubsampling, mozjpeg: false }).toBuffer();

/** First entries of tables K.1 and K.2 are 16 and 17; above quality 50 they are scaled by (200 − 2q) %, rounded. */
test.each([50, 75, 90, 95])('quality %i: 16 and 17 by the rule', async (quality) => {
  const scale = (200 - 2 * quality) / 100;
  const [luma, color] = [16, 17].map((one) => Math.max(1, Math.floor(one * scale + 0.5)) / 8);
  expect(meanStepsOf(await encoded(quality))).toEqual({ luma, blue: color, red: color });
});

test('color at full resolution and behind a long profile is found too', async () => {
  const file = await picture.clone().jpeg({ quality: 75, chromaSubsampling: '4:4:4' }).withIccProfile('p3').toBuffer();
  expect(meanStepsOf(file)).toEqual({ luma: 1, blue: 9 / 8, red: 9 / 8 });
});

test('a gray picture has one table', async () => {
  const gray = await picture.clone().toColourspace('b-w').jpeg({ quality: 75 }).toBuffer();
  expect(meanStepsOf(gray)).toEqual({ luma: 1, blue: 0, red: 0 });
});

test('a head that is cut short, or another file, tells nothing', async () => {
  const file = await encoded(75);
  expect(meanStepsOf(file.subarray(0, 60))).toBeNull();
  expect(meanStepsOf(Buffer.from('not a picture at all'))).toBeNull();
  expect(meanStepsOf(Buffer.alloc(0))).toBeNull();
});

describe('means of even places, written and decoded by libjpeg', () => {
  const SIDE = 48;
  /** Luminance of linear light that little contrast changes in proportion (ITU-R BT.709). */
  const WEIGHTS = [0.2126, 0.7152, 0.0722];
  const draws = seededNormals(5);

  /** Errors of a place's R, G, B and luminance in their standard uncertainties. */
  async function departures(noise: number, quality: number, monochrome: boolean): Promise<number[]> {
    const level = 30 + 180 * Math.abs(draws() % 1);
    const truth = [0, 1, 2].map(() => level + 3 * draws());
    const data = new Uint8Array(3 * SIDE * SIDE);
    for (let i = 0; i < data.length; i += 3) {
      const common = noise * draws();
      truth.forEach((one, c) => (data[i + c] = Math.round(one + (monochrome ? common : noise * draws()))));
    }
    const raw = { width: SIDE, height: SIDE, channels: 3 } as const;
    const file = await sharp(data, { raw }).jpeg({ quality, chromaSubsampling: '4:2:0', mozjpeg: false }).toBuffer();
    const decoded = await sharp(file).raw().toBuffer();
    const sums = new Float64Array(9);
    for (let i = 0; i < decoded.length; i += 3) {
      const [r, g, b] = decoded.subarray(i, i + 3);
      const luma = 0.299 * r + 0.587 * g + 0.114 * b;
      [r, g, b, luma, 0.564 * (b - luma), 0.713 * (r - luma)].forEach((one, k) => (sums[k] += one / SIDE ** 2));
      [luma, 0.564 * (b - luma), 0.713 * (r - luma)].forEach((one, k) => (sums[6 + k] += one ** 2 / SIDE ** 2));
    }
    const spread = [0, 1, 2].map((k) => Math.sqrt(Math.max(0, sums[6 + k] - sums[3 + k] ** 2)));
    const covariance = compressionOfCodes({ ...meanStepsOf(file)!, byTables: true }, spread);
    const error = truth.map((one, c) => sums[c] - one);
    const sampling = (noise / SIDE) ** 2;
    const deviation = (w: readonly number[]) =>
      Math.sqrt(
        sampling + w.reduce((sum, a, i) => sum + w.reduce((s, b, j) => s + a * b * covariance[3 * i + j], 0), 0),
      );
    return [[1, 0, 0], [0, 1, 0], [0, 0, 1], WEIGHTS].map(
      (w) => w.reduce((sum, one, c) => sum + one * error[c], 0) / deviation(w),
    );
  }

  test.each([
    [0.1, false],
    [0.6, false],
    [0.6, true],
    // Where noise is taken from colors alone, as cameras do: luma's own doesn't dither what they add.
    [2, true],
  ])('noise of %d codes, of luma alone: %s', async (noise, monochrome) => {
    const all: number[][] = [];
    for (const quality of [80, 88, 92, 96])
      for (let i = 0; i < 25; i++) all.push(await departures(noise, quality, monochrome));
    for (const k of [0, 1, 2, 3]) {
      const rms = Math.sqrt(all.reduce((sum, one) => sum + one[k] ** 2, 0) / all.length);
      expect(rms).toBeGreaterThan(0.5);
      expect(rms).toBeLessThan(1.15);
    }
  });
});
