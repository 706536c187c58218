/**
 * Stills decoded behind the fence: the same codes as in place; a child sees one file and nothing of ours; one that dies or lies is told.
 * Needs `npm run build:node`, as `./glade test` does it.
 */
import { execFileSync } from 'node:child_process';
import { mkdir, mkdtemp, readdir, rm, symlink, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { ChildFailed } from '../children';
import { fenceStands } from '../fence';
import { metadataHere, pixelsHere, type PixelsAsked } from './decode';
import { Decoders } from './fenced';
import { begunDecoders } from './vips';

const SIZE = { width: 90, height: 60 };
const before = process.env.GLADE_VAR;
let folder: string;
let decoders: Decoders;
let stands = false;

const at = (name: string) => join(folder, name);
/** Folders that children work in. */
const left = () => readdir(at('reading')).catch(() => []);

/** A child of another script, in a tree as the program's own is: what it says comes out as a file's metadata. */
async function childOf(script: string): Promise<Decoders> {
  const root = await mkdtemp(join(folder, 'tree-'));
  await mkdir(join(root, 'dist'));
  await symlink(join(process.cwd(), 'node_modules'), join(root, 'node_modules'));
  await writeFile(join(root, 'dist', 'child.mjs'), script);
  return new Decoders(join(root, 'dist', 'child.mjs'), 1);
}

beforeAll(async () => {
  stands = await fenceStands();
  folder = await mkdtemp(join(tmpdir(), 'glade-vips-'));
  process.env.GLADE_VAR = folder;
  decoders = new Decoders(join(process.cwd(), 'dist', 'decoder.mjs'), 2);
  const codes = Uint16Array.from({ length: 3 * SIZE.width * SIZE.height }, (_, i) => (i * 7919) % 65536);
  const deep = sharp(codes, { raw: { ...SIZE, channels: 3 } }).toColourspace('rgb16');
  await deep.tiff({ compression: 'lzw' }).toFile(at('deep.tif'));
  const flat = Uint8Array.from(codes, (code) => code >> 8);
  await sharp(flat, { raw: { ...SIZE, channels: 3 } }).withExif({ IFD0: { Make: 'Stand-in' } }).jpeg().toFile(at('a.jpg')); // prettier-ignore
  await sharp(flat, { raw: { ...SIZE, channels: 3 } })
    .png()
    .toFile(at('a.png'));
  await sharp(flat, { raw: { ...SIZE, channels: 3 } })
    .png()
    .toFile(at('cut.png'));
  await truncate(at('cut.png'), 4000);
});
afterAll(async () => {
  decoders.end();
  if (before === undefined) delete process.env.GLADE_VAR;
  else process.env.GLADE_VAR = before;
  await rm(folder, { recursive: true, force: true });
});

const PLAIN: PixelsAsked = { deep: false, removeAlpha: false };
const CASES: [string, PixelsAsked][] = [
  ['deep.tif', { ...PLAIN, deep: true, space: 'rgb16' }],
  ['deep.tif', { ...PLAIN, deep: true, space: 'rgb16', part: { x: 11, y: 7, width: 40, height: 30 } }],
  ['a.jpg', PLAIN],
  ['a.png', { ...PLAIN, size: { width: 30, height: 20, fit: 'fill', nearest: true } }],
];
test.each(CASES)('%s, asked %j: the codes are those of decoding in place', async (name, asked) => {
  if (!stands) return;
  const given = await decoders.pixels(at(name), asked);
  const here = await pixelsHere(at(name), asked);
  expect({ ...given, data: given.data.toString('hex') }).toEqual({ ...here, data: here.data.toString('hex') });
});

test('what a file says of itself comes whole, EXIF and all', async () => {
  if (!stands) return;
  const { exif, ...said } = await decoders.metadata(at('a.jpg'));
  const { exif: exifHere, ...saidHere } = await metadataHere(at('a.jpg'));
  expect(said).toEqual(saidHere);
  expect(Buffer.from(exif!).equals(exifHere!)).toBe(true);
});

test('damaged files fail in libvips’ words, and the next one is read', async () => {
  if (!stands) return;
  const why = (work: Promise<unknown>) => work.then(() => 'nothing', (error: Error) => error.message.replace(/\/\S+:\s*/g, '')); // prettier-ignore
  expect(await why(decoders.pixels(at('cut.png'), PLAIN))).toBe(await why(pixelsHere(at('cut.png'), PLAIN)));
  expect((await decoders.pixels(at('a.png'), PLAIN)).width).toBe(90);
});

test('bytes that lie in no file are read too', async () => {
  if (!stands) return;
  const bytes = await sharp(at('deep.tif')).toColourspace('rgb16').tiff({ compression: 'none' }).toBuffer();
  const { data } = await decoders.pixels(bytes, { ...PLAIN, deep: true, space: 'rgb16' });
  expect(data.equals((await pixelsHere(at('deep.tif'), { ...PLAIN, deep: true, space: 'rgb16' })).data)).toBe(true);
});

test('many at once are served by as many children as are allowed', async () => {
  if (!stands) return;
  const given = await Promise.all(Array.from({ length: 12 }, () => decoders.pixels(at('a.png'), PLAIN)));
  expect(new Set(given.map(({ data }) => data.toString('hex'))).size).toBe(1);
  const own = (await left()).filter((name) => name.startsWith(`glade-reading-${process.pid}-`));
  expect(own.length).toBeLessThanOrEqual(2);
});

test('a child sees the file it is asked about, and neither another, nor a secret, nor a network', async () => {
  if (!stands) return;
  await writeFile(at('database.json'), 'secret');
  const curious = await childOf(`
    import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
    import { connect } from 'node:net';
    const tried = (work) => { try { return String(work()); } catch (error) { return error.code; } };
    process.on('message', async ({ file }) => {
      const reached = await new Promise((done) => {
        const socket = connect(22, '127.0.0.1', () => done('reached'));
        socket.on('error', (error) => done(error.code));
      });
      process.send({ kind: 'metadata', metadata: {
        seen: readdirSync('/seen').map((name) => '/seen/' + name).join() === file,
        secret: tried(() => readFileSync(${JSON.stringify(at('database.json'))})),
        users: tried(() => readFileSync('/etc/passwd')),
        home: tried(() => readdirSync('/root')),
        written: tried(() => writeFileSync(file, 'x')),
        beside: tried(() => writeFileSync('/seen/more', 'x')),
        reached,
      } });
    });`);
  const told = await curious.metadata(at('a.png'));
  expect(told).toEqual({
    seen: true,
    secret: 'ENOENT',
    users: 'ENOENT',
    home: 'ENOENT',
    written: 'EROFS',
    beside: 'EROFS',
    reached: expect.stringMatching(/^E(CONNREFUSED|NETUNREACH)$/),
  });
  curious.end();
});

test('one that dies, and one that gives another amount than it says, are told; a later question is answered by a new one', async () => {
  if (!stands) return;
  const dying = await childOf(`process.on('message', () => process.exit(1));`);
  await expect(dying.metadata(at('a.png'))).rejects.toThrow(ChildFailed);
  await expect(dying.metadata(at('a.png'))).rejects.toThrow(ChildFailed);
  const lying = await childOf(`
    import { writeFileSync } from 'node:fs';
    process.on('message', ({ into }) => { writeFileSync(into, 'few'); process.send({ kind: 'pixels', width: 90, height: 60, channels: 3 }); });`);
  await expect(lying.pixels(at('a.png'), PLAIN)).rejects.toThrow(ChildFailed);
  const linking = await childOf(`
    import { symlinkSync } from 'node:fs';
    process.on('message', ({ into }) => { symlinkSync(${JSON.stringify(at('database.json'))}, into); process.send({ kind: 'pixels', width: 2, height: 1, channels: 3 }); });`);
  await writeFile(at('database.json'), 'secret');
  // Six bytes, as it says; but they are ours.
  await expect(linking.pixels(at('a.png'), PLAIN)).rejects.toThrow(ChildFailed);
  for (const one of [dying, lying, linking]) one.end();
});

test('a child that has served its share is replaced, and what it gave last is read before', async () => {
  if (!stands) return;
  const one = new Decoders(join(process.cwd(), 'dist', 'decoder.mjs'), 1);
  const names = new Set<string>();
  const first = (await one.pixels(at('a.png'), PLAIN)).data;
  for (let i = 0; i < 210; i++) {
    expect((await one.pixels(at('a.png'), PLAIN)).data.equals(first)).toBe(true);
    if (i % 205 === 0) for (const name of await left()) names.add(name);
  }
  expect(names.size).toBeGreaterThan(1);
  one.end();
}, 300_000);

test('children that don’t start behind the fence are told, and stills are decoded in place then', async () => {
  if (!stands) return;
  const said = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  const works = await begunDecoders(join(process.cwd(), 'dist', 'decoder.mjs'));
  expect(works).not.toBeNull();
  works!.end();
  expect(said).not.toHaveBeenCalled();
  expect(await begunDecoders(at('no-such/dist/decoder.mjs'))).toBeNull();
  expect(String(said.mock.calls[0])).toContain('decoded without a fence');
  said.mockRestore();
});

test('a picture whose child was ended by somebody else is read by the next', async () => {
  if (!stands) return;
  const once = await childOf(
    `process.on('message', () => process.send({ kind: 'metadata', metadata: { width: 1 } }));`,
  );
  expect(await once.metadata(at('a.png'))).toEqual({ width: 1 });
  // The kernel, say, for want of memory.
  execFileSync('pkill', ['-KILL', '-f', `${folder}/tree-.*/dist/child.mjs`]);
  expect(await once.metadata(at('a.png'))).toEqual({ width: 1 });
  once.end();
});

test('what programs that have ended left behind is taken away, and nothing else', async () => {
  if (!stands) return;
  const ended = Number(execFileSync(process.execPath, ['-p', 'process.pid']).toString());
  await mkdir(at(`reading/glade-reading-${ended}-abc/seen`), { recursive: true });
  await mkdir(at('reading/mine'), { recursive: true });
  jest.resetModules();
  const fresh = (await import('./fenced')) as typeof import('./fenced');
  const other = new fresh.Decoders(join(process.cwd(), 'dist', 'decoder.mjs'), 1);
  await other.metadata(at('a.png'));
  const names = await left();
  expect(names).toContain('mine');
  expect(names.filter((name) => name.includes(`-${ended}-`))).toEqual([]);
  other.end();
});
