import { decode as decodePng, encode as encodePng } from 'fast-png';
import { mkdtemp, readFile, rm, symlink, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { crc32, deflateSync } from 'node:zlib';
import sharp from 'sharp';
import type { Picture } from '@/core/reading/window';
import { UnreadablePicture } from '@/core/reading/facts';
import { seededRandom } from '@/simulator/random';
import { writePicture } from '@/simulator/files';
import { folderSource } from './folder';
import { storedRect, upright } from './orientation';
import { readWindows } from '@/core/reading/source';
import { inspectStill, openStill } from './stills';

let folder: string;
beforeAll(async () => (folder = await mkdtemp(join(tmpdir(), 'glade-stills-'))));
afterAll(() => rm(folder, { recursive: true, force: true }));

/** A picture of random codes, the ends included. */
function picture(bitDepth: 8 | 16, width = 61, height = 47, channels: 1 | 3 = 3): Picture {
  const random = seededRandom(`picture ${bitDepth} ${channels}`);
  const size = width * height * channels;
  const data = bitDepth === 16 ? new Uint16Array(size) : new Uint8Array(size);
  for (let i = 0; i < size; i++) data[i] = Math.floor(random.uniform() * 2 ** bitDepth);
  data[0] = 0;
  data[1] = 2 ** bitDepth - 1;
  return { width, height, channels, bitDepth, data };
}

const whole = ({ width, height }: { width: number; height: number }) => [{ x: 0, y: 0, width, height }];

async function reason(path: string, name = path): Promise<string> {
  return readWindows(openStill(path, name), whole).then(
    () => 'it was read',
    (error) => (error as UnreadablePicture).reason,
  );
}

describe('exact code values', () => {
  test.each<[8 | 16, 'tif' | 'png', 1 | 3]>([
    [16, 'tif', 3],
    [8, 'tif', 3],
    [16, 'png', 3],
    [8, 'png', 3],
    [16, 'tif', 1],
    [8, 'png', 1],
  ])('%d-bit %s with %d channels', async (bitDepth, ending, channels) => {
    const original = picture(bitDepth, 61, 47, channels);
    const path = join(folder, `exact-${bitDepth}-${channels}.${ending}`);
    await writePicture(original, path);
    const { facts, windows } = await readWindows(openStill(path, path), whole);
    expect(facts).toMatchObject({ width: 61, height: 47, bitDepth, channels });
    expect([...windows[0].data]).toEqual([...original.data]);
  });

  test('16-bit PNG agrees with another reader (fast-png), and ours reads another writer’s', async () => {
    const original = picture(16);
    const ours = join(folder, 'ours.png');
    await writePicture(original, ours);
    expect([...decodePng(await readFile(ours)).data]).toEqual([...original.data]);
    const theirs = join(folder, 'theirs.png');
    await writeFile(
      theirs,
      encodePng({ width: 61, height: 47, data: original.data as Uint16Array, depth: 16, channels: 3 }),
    );
    expect([...(await readWindows(openStill(theirs, theirs), whole)).windows[0].data]).toEqual([...original.data]);
  });

  test('an embedded profile is told, the code values stay', async () => {
    const original = picture(8);
    const path = join(folder, 'p3.png');
    await sharp(original.data, { raw: { width: 61, height: 47, channels: 3 } })
      .png()
      .withIccProfile('p3', { attach: true })
      .toFile(path);
    const plain = decodePng(await readFile(path)).data;
    const { facts, windows } = await readWindows(openStill(path, path), whole);
    expect([...windows[0].data]).toEqual([...plain]);
    expect(facts.encoding.transfer).toBe('srgb');
    expect(facts.encoding.profile).toMatch(/P3/);
    // Display P3's luminance row (SMPTE EG 432-1).
    expect(facts.encoding.toXyz![4]).toBeCloseTo(0.6917, 2);
  });

  test('alpha is left off', async () => {
    const path = join(folder, 'alpha.png');
    await sharp({ create: { width: 8, height: 8, channels: 4, background: { r: 10, g: 20, b: 30, alpha: 0.5 } } })
      .png()
      .toFile(path);
    const { facts, windows } = await readWindows(openStill(path, path), whole);
    expect(facts.channels).toBe(3);
    expect([...windows[0].data.slice(0, 3)]).toEqual([10, 20, 30]);
  });
});

describe('orientation', () => {
  test.each([1, 2, 3, 4, 5, 6, 7, 8])('EXIF %d: windows of the upright frame', async (orientation) => {
    const original = picture(8, 40, 30);
    const path = join(folder, `turned-${orientation}.tif`);
    await sharp(original.data, { raw: { width: 40, height: 30, channels: 3 } })
      .withMetadata({ orientation })
      .tiff({ compression: 'lzw' })
      .toFile(path);
    // libvips turns whole pictures: an independent reference for windows.
    const { data, info } = await sharp(path).autoOrient().raw().toBuffer({ resolveWithObject: true });
    const rect = { x: 5, y: 3, width: 12, height: 9 };
    const { facts, windows } = await readWindows(openStill(path, path), () => [rect]);
    expect([facts.width, facts.height]).toEqual([info.width, info.height]);
    for (let y = 0; y < rect.height; y++)
      for (let x = 0; x < rect.width; x++)
        expect(windows[0].data[(y * rect.width + x) * 3]).toBe(data[((rect.y + y) * info.width + rect.x + x) * 3]);
  });

  test('a rectangle there and back', () => {
    expect(storedRect(6, { x: 0, y: 0, width: 2, height: 3 }, 10, 20)).toEqual({ x: 0, y: 18, width: 3, height: 2 });
    const one = picture(8, 3, 2);
    expect(upright(one, 1)).toBe(one);
  });
});

describe('what a file says of itself', () => {
  test('EXIF exposure, time and color space', async () => {
    const path = join(folder, 'exif.jpg');
    await sharp({ create: { width: 16, height: 16, channels: 3, background: '#808080' } })
      .withExif({
        IFD2: {
          ExposureTime: '1/2000',
          FNumber: '28/10',
          ISOSpeedRatings: '100',
          DateTimeOriginal: '2026:05:14 09:02:00',
          OffsetTimeOriginal: '+02:00',
          ColorSpace: '1',
        },
      })
      .jpeg()
      .toFile(path);
    const { facts } = await inspectStill(path, 'exif.jpg');
    expect(facts.exposure).toEqual({ shutterSeconds: 1 / 2000, fNumber: 2.8, iso: 100 });
    expect(Date.parse(facts.capturedAt!)).toBe(Date.parse('2026-05-14T07:02:00Z'));
    expect(facts.encoding).toMatchObject({ transfer: 'srgb', source: 'EXIF color space' });
  });

  test('XMP speaks where EXIF is silent', async () => {
    const path = join(folder, 'xmp.jpg');
    const exif = 'http://ns.adobe.com/exif/1.0/';
    const rdf = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#';
    const xmp = `<?xpacket begin="" id="W5M0MpCehiHzreSzNTczkc9d"?><x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="${rdf}"><rdf:Description rdf:about="" xmlns:exif="${exif}" exif:ExposureTime="1/2000" exif:FNumber="28/10" exif:DateTimeOriginal="2026-05-14T09:02:00+02:00"><exif:ISOSpeedRatings><rdf:Seq><rdf:li>100</rdf:li></rdf:Seq></exif:ISOSpeedRatings></rdf:Description></rdf:RDF></x:xmpmeta><?xpacket end="w"?>`;
    await sharp({ create: { width: 16, height: 16, channels: 3, background: '#808080' } })
      .withXmp(xmp)
      .jpeg()
      .toFile(path);
    const { facts } = await inspectStill(path, 'xmp.jpg');
    expect(facts.exposure).toEqual({ shutterSeconds: 1 / 2000, fNumber: 2.8, iso: 100 });
    expect(Date.parse(facts.capturedAt!)).toBe(Date.parse('2026-05-14T07:02:00Z'));
  });

  test('a plain file says nothing, and no guess is made', async () => {
    const path = join(folder, 'plain.png');
    await writePicture(picture(8), path);
    expect((await inspectStill(path, 'plain.png')).facts).toMatchObject({
      exposure: {},
      capturedAt: null,
      encoding: { transfer: null },
    });
  });
});

describe('bad files get a sentence', () => {
  test('missing, empty, not a picture, mislabelled', async () => {
    expect(await reason(join(folder, 'none.tif'))).toBe('there is no such file.');
    await writeFile(join(folder, 'empty.tif'), '');
    expect(await reason(join(folder, 'empty.tif'))).toBe('the file is empty.');
    await writeFile(join(folder, 'text.tif'), 'this is no picture at all');
    expect(await reason(join(folder, 'text.tif'))).toBe(
      'it is no picture of a kind that is read (TIFF, PNG, JPEG, WebP, HEIC, AVIF, JPEG XL).',
    );
    await writePicture(picture(8), join(folder, 'really.png'));
    await writeFile(join(folder, 'claims.tif'), await readFile(join(folder, 'really.png')));
    expect(await reason(join(folder, 'claims.tif'))).toContain('its name says TIFF, its content is PNG');
  });

  test.each(['tif', 'png', 'jpg'])('cut short: %s', async (ending) => {
    const path = join(folder, `cut.${ending}`);
    const big = picture(8, 400, 300);
    await sharp(big.data, { raw: { width: 400, height: 300, channels: 3 } }).toFile(path);
    await truncate(path, 60_000);
    // Even where the patch lies above the cut.
    await expect(readWindows(openStill(path, path), () => [{ x: 0, y: 0, width: 10, height: 10 }])).rejects.toThrow(
      UnreadablePicture,
    );
    await expect(inspectStill(path, path)).rejects.toThrow(/cut short|can’t be decoded/);
  });

  test('a bomb is refused before it is decoded', async () => {
    const path = join(folder, 'bomb.png');
    // What it claims is enough: its 1.2 GB of pixels are never written or read (PNG, ISO/IEC 15948, 5.3 and 11.2).
    const chunk = (name: string, body: Buffer) => {
      const named = Buffer.concat([Buffer.from(name, 'latin1'), body]);
      const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
      length.writeUInt32BE(body.length);
      sum.writeUInt32BE(crc32(named));
      return Buffer.concat([length, named, sum]);
    };
    const header = Buffer.from([0, 0, 0, 0, 0, 0, 0, 0, 8, 2, 0, 0, 0]);
    header.writeUInt32BE(20_000, 0);
    header.writeUInt32BE(20_000, 4);
    const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10]);
    const pixels = chunk('IDAT', deflateSync(Buffer.alloc(60_001)));
    await writeFile(path, Buffer.concat([signature, chunk('IHDR', header), pixels, chunk('IEND', Buffer.alloc(0))]));
    expect(await reason(path)).toContain('400 megapixels are more than');
  });

  test('flipped bits never crash the reader', async () => {
    const random = seededRandom('bits');
    const path = join(folder, 'whole.png');
    await writePicture(picture(8, 120, 90), path);
    const good = await readFile(path);
    for (let i = 0; i < 40; i++) {
      const bad = Buffer.from(good);
      for (let k = 0; k < 8; k++)
        bad[Math.floor(random.uniform() * bad.length)] ^= 1 << Math.floor(random.uniform() * 8);
      const target = join(folder, 'flipped.png');
      await writeFile(target, bad);
      await readWindows(openStill(target, 'flipped.png'), whole).catch((error) =>
        expect(error).toBeInstanceOf(UnreadablePicture),
      );
    }
  });

  test('a link that leaves the session’s folder is not followed', async () => {
    const inside = await mkdtemp(join(folder, 'inside-'));
    await writePicture(picture(8), join(folder, 'outside.png'));
    await symlink(join(folder, 'outside.png'), join(inside, 'link.png'));
    await expect(folderSource(inside).open('link.png')).rejects.toThrow('outside the session’s folder');
  });
});
