import { createWriteStream } from 'node:fs';
import { mkdtemp, readFile, readdir, rm, stat, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import yazl from 'yazl';
import { BundleError, packBundle, readSessionFile, SESSION_FILE, unpackBundle } from './bundle';

let folder: string;
beforeEach(async () => (folder = await mkdtemp(join(tmpdir(), 'glade-bundle-'))));
afterEach(() => rm(folder, { recursive: true, force: true }));

async function pack(name: string): Promise<string> {
  await writeFile(join(folder, 'a.tif'), 'picture');
  const path = join(folder, name);
  await pipeline(
    packBundle('{"title":"x"}', [{ name: 'sub/a.tif', path: join(folder, 'a.tif') }]),
    createWriteStream(path),
  );
  return path;
}

test('a bundle comes back as it went', async () => {
  const names = await unpackBundle(await pack('one.zip'), join(folder, 'out'));
  expect(names.sort()).toEqual([SESSION_FILE, 'sub/a.tif']);
  expect(await readFile(join(folder, 'out/sub/a.tif'), 'utf8')).toBe('picture');
});

test('equal sessions give equal bundles, byte for byte', async () => {
  expect(await readFile(await pack('one.zip'))).toEqual(await readFile(await pack('two.zip')));
});

test('names that leave the bundle are refused and nothing stays', async () => {
  const good = await readFile(await pack('good.zip'));
  const bad = Buffer.from(good.toString('latin1').replaceAll('sub/a.tif', '../../a.t'), 'latin1');
  await writeFile(join(folder, 'bad.zip'), bad);
  await expect(unpackBundle(join(folder, 'bad.zip'), join(folder, 'out'))).rejects.toThrow(BundleError);
  expect(await readdir(folder)).not.toContain('out');
});

test('what is no zip gets a sentence', async () => {
  await writeFile(join(folder, 'text.zip'), 'not a zip');
  await expect(unpackBundle(join(folder, 'text.zip'), join(folder, 'out'))).rejects.toThrow('isn’t a zip archive');
});

test('a session file that no session needs is refused as it streams', async () => {
  const zip = new yazl.ZipFile();
  // 160 MB in a few hundred kB.
  for (const [name, bytes] of [['large.tif', 1000], [SESSION_FILE, 160e6]] as const) zip.addBuffer(Buffer.alloc(bytes, ' '), name); // prettier-ignore
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(join(folder, 'long.zip')));
  await expect(unpackBundle(join(folder, 'long.zip'), join(folder, 'long'))).rejects.toThrow(
    new BundleError('session.glade.json: it is larger than 150 MB, the most that is read.'),
  );
  await expect(stat(join(folder, 'long'))).rejects.toThrow('ENOENT');
}, 600_000);

test('the same of a file that lies on the disk; one that can’t be read is told too', async () => {
  const path = join(folder, SESSION_FILE);
  await writeFile(path, '{}');
  expect(await readSessionFile(path)).toBe('{}');
  await truncate(path, 151e6);
  await expect(readSessionFile(path)).rejects.toThrow('session: it is larger than 150 MB, the most that is read');
  await expect(readSessionFile(folder)).rejects.toThrow('session: the file can’t be read (EISDIR)');
});

test('a zip bomb stops at its budget', async () => {
  const zip = new yazl.ZipFile();
  zip.addBuffer(Buffer.alloc(120e6), 'zeros.tif');
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(join(folder, 'bomb.zip')));
  await expect(unpackBundle(join(folder, 'bomb.zip'), join(folder, 'out'))).rejects.toThrow(
    'more than there is room for',
  );
}, 600_000);
