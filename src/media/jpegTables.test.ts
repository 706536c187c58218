/** Tables of real encoders' files: libjpeg's standard tables at qualities whose scaling is published (ITU-T T.81, annex K, and IJG's rule, from memory). */
import sharp from 'sharp';
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
