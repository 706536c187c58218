import { createWriteStream } from 'node:fs';
import { mkdtemp, readFile, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import yazl from 'yazl';
import { BundleError, packBundle, SESSION_FILE, unpackBundle } from './bundle';

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

test('a zip bomb stops at its budget', async () => {
  const zip = new yazl.ZipFile();
  zip.addBuffer(Buffer.alloc(120e6), 'zeros.tif');
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(join(folder, 'bomb.zip')));
  await expect(unpackBundle(join(folder, 'bomb.zip'), join(folder, 'out'))).rejects.toThrow(
    'more than there is room for',
  );
}, 600_000);
