import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import sharp from 'sharp';
import type { UnreadablePicture } from '@/core/reading/facts';
import { readWindows } from '@/core/reading/source';
import { heifFactsOf, isHeifHead } from './heif';
import { inspectStill, openStill, readStillAgain, stillInSmall } from './stills';

const run = promisify(execFile);
const WIDTH = 160;
const HEIGHT = 96;

/** Fields of even gray: what a lossy coder keeps of them is their mean. */
const FIELDS = [0.05, 0.3, 0.5, 0.7, 1];

let folder: string;
const at = (name: string) => join(folder, name);

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-heif-test-'));
  const codes = new Uint16Array(WIDTH * HEIGHT * 3);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++)
      codes.fill(
        Math.round(65535 * FIELDS[Math.floor((x * FIELDS.length) / WIDTH)]),
        3 * (y * WIDTH + x),
        3 * (y * WIDTH + x) + 3,
      );
  const image = () => sharp(codes, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } }).toColourspace('rgb16');
  await image().png().toFile(at('deep.png'));
  await image()
    .toColourspace('srgb')
    .withExif({
      IFD0: { Make: 'Bench', Model: 'One', Orientation: '6' },
      IFD2: { ExposureTime: '1/250', FNumber: '8/1', ISOSpeedRatings: '200', LensModel: 'Bench 50 mm' },
    })
    .jpeg({ quality: 100, chromaSubsampling: '4:4:4' })
    .toFile(at('plain.jpg'));
  // Debian's own encoder writes what is read.
  await run('heif-enc', ['-q', '95', '-o', at('plain.heic'), at('plain.jpg')]);
  await run('heif-enc', ['-q', '95', '-b', '10', '-o', at('deep.heic'), at('deep.png')]);
}, 60_000);
afterAll(() => rm(folder, { recursive: true, force: true }));

const whole = ({ width, height }: { width: number; height: number }) => [{ x: 0, y: 0, width, height }];

/** Green codes at the fields' middles along the row or column in the middle, as shares of full scale. */
function fieldsOf({
  width,
  height,
  data,
  bitDepth,
}: {
  width: number;
  height: number;
  data: ArrayLike<number>;
  bitDepth: number;
}) {
  const along = Math.max(width, height);
  return FIELDS.map((_, i) => {
    const place = Math.floor(((i + 0.5) * along) / FIELDS.length);
    const [x, y] = width > height ? [place, height >> 1] : [width >> 1, place];
    return data[3 * (y * width + x) + 1] / (2 ** bitDepth - 1);
  });
}

async function reasonOf(path: string, name = path): Promise<string> {
  return inspectStill(path, name).then(
    () => 'it was read',
    (error) => (error as UnreadablePicture).reason,
  );
}

test('8 bits: facts of its EXIF, codes as they were written, full white at the top', async () => {
  const { facts, windows } = await readWindows(openStill(at('plain.heic'), 'plain.heic'), whole);
  expect(facts).toMatchObject({
    bitDepth: 8,
    channels: 3,
    exposure: { shutterSeconds: 1 / 250, fNumber: 8, iso: 200 },
  });
  expect(facts.lens).toBe('Bench 50 mm');
  expect(facts.encoding.settings).toMatchObject({ make: 'Bench', model: 'One' });
  expect(facts.compression!.luma).toBeGreaterThan(1);
  fieldsOf(windows[0]).forEach((share, i) => expect(Math.abs(share - FIELDS[i])).toBeLessThan(2.5 / 255));
  expect(fieldsOf(windows[0]).at(-1)).toBe(1);
});

test('the container turns the picture: EXIF’s word of it is not followed a second time', async () => {
  // The encoder keeps EXIF's orientation and turns nothing, so the picture lies as it is stored.
  const { facts, windows } = await readWindows(openStill(at('plain.heic'), 'plain.heic'), whole);
  expect([facts.width, facts.height]).toEqual([WIDTH, HEIGHT]);
  expect([windows[0].width, windows[0].height]).toEqual([WIDTH, HEIGHT]);
  expect(await stillInSmall(at('plain.heic'), 80)).toMatchObject({ width: 80, height: 48 });
});

test('10 bits: finer than eight, full white is the top code of sixteen', async () => {
  const { facts, windows } = await readWindows(openStill(at('deep.heic'), 'deep.heic'), whole);
  expect(facts.bitDepth).toBe(16);
  const shares = fieldsOf(windows[0]);
  shares.forEach((share, i) => expect(Math.abs(share - FIELDS[i])).toBeLessThan(2.5 / 1023));
  expect(shares.at(-1)).toBe(1);
});

test('a part that is read again is the part of the whole', async () => {
  const rect = { x: 33, y: 7, width: 50, height: 20 };
  const { windows } = await readWindows(openStill(at('deep.heic'), 'deep.heic'), () => [rect]);
  const [again] = await readStillAgain(at('deep.heic'), 'deep.heic', [rect]);
  expect([...again.data]).toEqual([...windows[0].data]);
});

test('AVIF and WebP: codes, losses, and a lossless one has none', async () => {
  const plain = sharp(at('plain.jpg'));
  await plain
    .clone()
    .withExif({ IFD2: { ExposureTime: '1/60' } })
    .avif({ quality: 95, chromaSubsampling: '4:4:4' })
    .toFile(at('a.avif'));
  await plain
    .clone()
    .withExif({ IFD2: { ExposureTime: '1/60' } })
    .webp({ quality: 95 })
    .toFile(at('a.webp'));
  await plain.clone().webp({ lossless: true }).toFile(at('exact.webp'));
  for (const name of ['a.avif', 'a.webp']) {
    const { facts, windows } = await readWindows(openStill(at(name), name), whole);
    expect(facts.exposure.shutterSeconds).toBe(1 / 60);
    expect(facts.compression!.luma).toBeGreaterThan(1);
    fieldsOf(windows[0]).forEach((share, i) => expect(Math.abs(share - FIELDS[i])).toBeLessThan(3.5 / 255));
  }
  const { facts } = await inspectStill(at('exact.webp'), 'exact.webp');
  expect(facts.compression).toBeUndefined();
});

test('files that are cut, damaged or something else are told', async () => {
  // Decoders show what there is of it and say nothing.
  for (const name of ['plain.heic', 'a.avif', 'a.webp']) {
    const bytes = await readFile(at(name));
    for (const share of [0.5, 0.9]) {
      await writeFile(at(`cut-${name}`), bytes.subarray(0, Math.floor(share * bytes.length)));
      expect([name, share, await reasonOf(at(`cut-${name}`))]).toEqual([
        name,
        share,
        'the file is cut short or damaged.',
      ]);
    }
  }
  // Notes that a phone puts behind the last box are none of its business.
  await writeFile(
    at('notes.heic'),
    Buffer.concat([await readFile(at('plain.heic')), Buffer.from('NOTE of the maker')]),
  );
  expect(await reasonOf(at('notes.heic'))).toBe('it was read');
  await writeFile(at('renamed.jpg'), await readFile(at('plain.heic')));
  expect(await reasonOf(at('renamed.jpg'), 'renamed.jpg')).toMatch(/says JPEG.*is HEIF/);
  await writeFile(
    at('empty.heic'),
    Buffer.concat([Buffer.from('\0\0\0\x18ftypheic\0\0\0\0mif1heic', 'latin1'), Buffer.alloc(200)]),
  );
  expect(await reasonOf(at('empty.heic'))).not.toBe('it was read');
  // Damage within the coded pixels must end in a sentence or in a picture, never in an ended process.
  const bytes = await readFile(at('plain.heic'));
  for (let k = 1; k < 4; k++)
    bytes.fill(0xa5, Math.floor((bytes.length * k) / 4), Math.floor((bytes.length * k) / 4) + 20);
  await writeFile(at('hurt.heic'), bytes);
  expect((await reasonOf(at('hurt.heic'))).length).toBeGreaterThan(5);
});

describe('color tags', () => {
  const box = (name: string, ...parts: Buffer[]) => {
    const body = Buffer.concat(parts);
    const head = Buffer.alloc(8);
    head.writeUInt32BE(8 + body.length);
    head.write(name, 4, 'latin1');
    return Buffer.concat([head, body]);
  };
  const bytes = (...values: number[]) => Buffer.from(values);
  const full = bytes(0, 0, 0, 0);
  const nclx = (primaries: number, transfer: number) =>
    box('colr', Buffer.from('nclx'), bytes(0, primaries, 0, transfer, 0, 9, 0x80));
  /** Two color tags; the primary item, number 2, has the second. */
  const file = (extra: Buffer = Buffer.alloc(0)) =>
    Buffer.concat([
      box('ftyp', Buffer.from('heic\0\0\0\0mif1heic', 'latin1')),
      box(
        'meta',
        full,
        box('pitm', full, bytes(0, 2)),
        extra,
        box(
          'iprp',
          box('ipco', nclx(1, 13), nclx(9, 16)),
          box('ipma', full, bytes(0, 0, 0, 2), bytes(0, 1, 1, 0x81), bytes(0, 2, 1, 0x82)),
        ),
      ),
    ]);

  test('the primary picture’s counts: PQ in BT.2020, as cameras write it (ITU-T H.273: 16, 9)', () => {
    expect(isHeifHead(file())).toBe(true);
    expect(heifFactsOf(file())).toMatchObject({
      encoding: { transfer: 'pq', profile: 'primaries bt2020' },
      gainMap: false,
    });
  });

  test('a gain map among the pictures is seen', () => {
    const type = Buffer.from('urn:com:someone:photo:aux:hdrgainmap\0');
    expect(heifFactsOf(file(box('auxC', full, type))).gainMap).toBe(true);
  });

  test('boxes cut or looping give what could be read', () => {
    const bytesOf = file();
    for (let end = 0; end <= bytesOf.length; end += 3)
      expect(() => heifFactsOf(bytesOf.subarray(0, end))).not.toThrow();
    expect(heifFactsOf(Buffer.alloc(64)).encoding).toBeNull();
  });
});
