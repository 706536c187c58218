import { execFile } from 'node:child_process';
import { mkdir, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import sharp from 'sharp';
import type { UnreadablePicture } from '@/core/reading/facts';
import { readWindows } from '@/core/reading/source';
import { isJxlHead, jxlBoxesOf } from './jxl';
import { inspectStill, openStill, readStillAgain, stillInSmall } from './stills';

const run = promisify(execFile);
const [WIDTH, HEIGHT] = [160, 96];
const EXIF = {
  IFD0: { Make: 'Bench', Model: 'One', Orientation: '6' },
  IFD2: { ExposureTime: '1/250', FNumber: '8/1', ISOSpeedRatings: '200' },
};

let folder: string;
const at = (name: string) => join(folder, name);
const whole = ({ width, height }: { width: number; height: number }) => [{ x: 0, y: 0, width, height }];
const reasonOf = (name: string) =>
  inspectStill(at(name), name).then(
    () => 'it was read',
    (error) => (error as UnreadablePicture).reason,
  );

/** A slope of codes, each twice as far apart as codes of 12 bits. */
const codes = Uint16Array.from({ length: WIDTH * HEIGHT * 3 }, (_, i) => 32 * (Math.floor(i / 3) % 2000));

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-jxl-test-'));
  // A place of its own for what decoders leave.
  await mkdir(at('passing'));
  process.env.TMPDIR = at('passing');
  await sharp(codes, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
    .toColourspace('rgb16')
    .png()
    .toFile(at('deep.png'));
  await sharp(at('deep.png'))
    .toColourspace('srgb')
    .withExif(EXIF)
    .withMetadata({ orientation: 6 })
    .jpeg({ quality: 90 })
    .toFile(at('plain.jpg'));
  // Debian's own encoder writes what is read.
  await run('cjxl', [at('deep.png'), at('exact.jxl'), '-d', '0']);
  await run('cjxl', [at('deep.png'), at('lossy.jxl'), '-d', '1']);
  await run('cjxl', [at('plain.jpg'), at('packed.jxl')]);
}, 60_000);
afterAll(() => rm(folder, { recursive: true, force: true }));

test('without loss: the codes of 16 bits that were written, and no losses told', async () => {
  const { facts, windows } = await readWindows(openStill(at('exact.jxl'), 'exact.jxl'), whole);
  expect(facts).toMatchObject({ width: WIDTH, height: HEIGHT, bitDepth: 16, channels: 3 });
  expect(facts.compression).toBeUndefined();
  expect(facts.encoding.transfer).toBe('srgb');
  expect([...windows[0].data]).toEqual([...codes]);
});

test('with losses: told as coarse', async () => {
  const { facts } = await inspectStill(at('lossy.jxl'), 'lossy.jxl');
  expect(facts.bitDepth).toBe(16);
  expect(facts.compression!.luma).toBeGreaterThan(1);
});

test('a JPEG that was packed is that JPEG: its pixels, its EXIF, its quantizers, turned once', async () => {
  const { facts, windows } = await readWindows(openStill(at('packed.jxl'), 'packed.jxl'), whole);
  const original = await readWindows(openStill(at('plain.jpg'), 'plain.jpg'), whole);
  expect(facts).toEqual(original.facts);
  expect(facts).toMatchObject({ width: HEIGHT, height: WIDTH, exposure: { shutterSeconds: 1 / 250, fNumber: 8 } });
  expect([...windows[0].data]).toEqual([...original.windows[0].data]);
});

test('a part read again, and the picture in small', async () => {
  const rect = { x: 33, y: 7, width: 50, height: 20 };
  const { windows } = await readWindows(openStill(at('exact.jxl'), 'exact.jxl'), () => [rect]);
  const [again] = await readStillAgain(at('exact.jxl'), 'exact.jxl', [rect]);
  expect([...again.data]).toEqual([...windows[0].data]);
  expect(await stillInSmall(at('packed.jxl'), 80)).toMatchObject({ width: 48, height: 80 });
});

test('cut, hurt or renamed ones are told, and nothing is left lying about', async () => {
  for (const name of ['exact.jxl', 'lossy.jxl', 'packed.jxl']) {
    const bytes = await readFile(at(name));
    for (const share of [0.3, 0.9]) {
      await writeFile(at(`cut-${name}`), bytes.subarray(0, Math.floor(share * bytes.length)));
      expect([name, share, await reasonOf(`cut-${name}`)]).toEqual([name, share, 'the file is cut short or damaged.']);
    }
    bytes.fill(0xa5, Math.floor(0.6 * bytes.length), Math.floor(0.6 * bytes.length) + 20);
    await writeFile(at(`hurt-${name}`), bytes);
    expect((await reasonOf(`hurt-${name}`)).length).toBeGreaterThan(5);
  }
  await writeFile(at('renamed.jpg'), await readFile(at('lossy.jxl')));
  expect(await reasonOf('renamed.jpg')).toMatch(/says JPEG.*is JXL/);
  expect(await readdir(at('passing'))).toEqual([]);
});

describe('boxes', () => {
  const box = (name: string, body: Buffer) => {
    const head = Buffer.alloc(8);
    head.writeUInt32BE(8 + body.length);
    head.write(name, 4, 'latin1');
    return Buffer.concat([head, body]);
  };
  const START = box('JXL ', Buffer.from([0x0d, 0x0a, 0x87, 0x0a]));
  const TIFF = Buffer.from('II*\0');

  test('both kinds of file are known by their first bytes (18181-2, 9.1)', () => {
    expect(isJxlHead(START)).toBe(true);
    expect(isJxlHead(Buffer.from([0xff, 0x0a, 0]))).toBe(true);
    expect(isJxlHead(Buffer.from([0xff, 0xd8, 0xff]))).toBe(false);
  });

  test('EXIF lies behind its offset, with other boxes before it', () => {
    const exif = Buffer.concat([Buffer.from([0, 0, 0, 2, 9, 9]), TIFF]);
    expect(jxlBoxesOf(Buffer.concat([START, box('ftyp', Buffer.alloc(12)), box('Exif', exif)])).exif).toEqual(TIFF);
  });

  test('a gain map is told', async () => {
    expect(jxlBoxesOf(Buffer.concat([START, box('jhgm', Buffer.alloc(9))])).gainMap).toBe(true);
    const packed = await readFile(at('packed.jxl'));
    await writeFile(at('gain.jxl'), Buffer.concat([packed.subarray(0, 12), packed.subarray(12, 32), box('jhgm', Buffer.alloc(9)), packed.subarray(32)])); // prettier-ignore
    expect((await inspectStill(at('gain.jxl'), 'gain.jxl')).facts.gainMap).toBe(true);
    expect((await inspectStill(at('packed.jxl'), 'packed.jxl')).facts.gainMap).toBeUndefined();
  });

  test('boxes without an end, of nonsense sizes or with packed rubbish tell nothing', () => {
    const none = { exif: Buffer.alloc(0), isJpeg: false, gainMap: false };
    const rubbish = box('brob', Buffer.from('Exif nothing of the kind'));
    for (const tail of [rubbish, Buffer.from([0, 0, 0, 3, 1, 1, 1, 1]), Buffer.from([0, 0, 0, 1, 0x45])])
      expect(jxlBoxesOf(Buffer.concat([START, tail]))).toEqual(none);
    expect(jxlBoxesOf(Buffer.from([0xff, 0x0a]))).toEqual(none);
  });
});
