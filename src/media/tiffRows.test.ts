import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { openStill, readStillAgain } from './stills';
import { readWindows } from '@/core/reading/source';
import { readTiffRows } from './tiffRows';

const [WIDTH, HEIGHT] = [640, 480];
let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-rows-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** Codes that tell their place, so that a row too far would show. */
const codes = Uint16Array.from({ length: WIDTH * HEIGHT * 3 }, (_, i) => (i * 7919) % 65536);
const sixteen = () => sharp(codes, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } }).toColourspace('rgb16');

test.each(['lzw', 'deflate', 'none'] as const)(
  'strips of a 16-bit TIFF, %s: the same codes as from the whole',
  async (compression) => {
    const path = join(folder, `${compression}.tif`);
    await sixteen().tiff({ compression, predictor: 'horizontal' }).toFile(path);
    const rects = [
      { x: 10, y: 100, width: 50, height: 40 },
      { x: 0, y: 470, width: 640, height: 10 },
      { x: 600, y: 0, width: 40, height: 480 },
    ];
    const { windows } = await readWindows(openStill(path, 'x.tif'), () => rects);
    expect(await readStillAgain(path, 'x.tif', rects)).toEqual(windows);
    const rows = await readTiffRows(path, 100, 140);
    expect(rows!.rows).toBeLessThan(HEIGHT);
    expect(rows!.firstRow).toBeLessThanOrEqual(100);
  },
);

test('tiles, other orientations, PNG and JPEG give the same codes too', async () => {
  const rects = [{ x: 33, y: 210, width: 64, height: 50 }];
  const make: [string, (path: string) => Promise<unknown>][] = [
    ['tiles.tif', (path) => sixteen().tiff({ tile: true, compression: 'deflate' }).toFile(path)],
    ['turned.tif', (path) => sixteen().withMetadata({ orientation: 6 }).tiff({ compression: 'lzw' }).toFile(path)],
    ['plain.png', (path) => sixteen().png().toFile(path)],
    [
      'lossy.jpg',
      (path) =>
        sharp(
          Uint8Array.from(codes, (code) => code >> 8),
          { raw: { width: WIDTH, height: HEIGHT, channels: 3 } },
        )
          .jpeg()
          .toFile(path),
    ],
  ];
  for (const [name, write] of make) {
    const path = join(folder, name);
    await write(path);
    const { windows } = await readWindows(openStill(path, name), () => rects);
    expect(await readStillAgain(path, name, rects)).toEqual(windows);
  }
});
