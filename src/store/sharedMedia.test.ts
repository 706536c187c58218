/** Backups that share their media: a night costs what is new, nothing is half, what is needed stays. */
import { createHash } from 'node:crypto';
import { mkdir, mkdtemp, readdir, readFile, rm, stat, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fetchMedia, listedMedia, pruneShared, shareMedia } from './sharedMedia';

let folder: string;
let [library, shared] = ['', ''];
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-shared-'));
  [library, shared] = [join(folder, 'media'), join(folder, 'backups', 'media')];
});
afterEach(() => rm(folder, { recursive: true }));

const at = (place: string, hash: string) => join(place, hash.slice(0, 2), hash);
async function add(content: string): Promise<string> {
  const hash = createHash('sha256').update(content).digest('hex');
  await mkdir(join(library, hash.slice(0, 2)), { recursive: true });
  await writeFile(at(library, hash), content);
  return hash;
}
async function list(name: string, hashes: readonly string[]): Promise<string> {
  const path = join(folder, name);
  await writeFile(path, hashes.map((one) => `${one}\n`).join(''));
  return path;
}

test('what is there already isn’t written again, what was cut is; half files and foreign names are none', async () => {
  const [a, b] = [await add('one'), await add('two')];
  await mkdir(join(library, 'incoming'));
  await writeFile(join(library, 'incoming', 'x'), 'half');
  expect(await shareMedia(library, shared)).toEqual({ kept: [a, b].sort(), damaged: [] });
  const before = await stat(at(shared, a));
  await truncate(at(shared, b), 1);
  const c = await add('three');
  expect(await shareMedia(library, shared)).toEqual({ kept: [a, b, c].sort(), damaged: [] });
  expect((await stat(at(shared, a))).mtimeMs).toBe(before.mtimeMs);
  expect(await readFile(at(shared, b), 'utf8')).toBe('two');
  expect((await readdir(shared, { recursive: true })).filter((name) => name.endsWith('.part'))).toEqual([]);
});

test('what is damaged in the library never takes the place of a sound copy, and is told where there is none', async () => {
  const a = await add('one');
  await shareMedia(library, shared);
  await truncate(at(library, a), 1);
  const b = await add('two');
  await writeFile(at(library, b), 'owt');
  expect(await shareMedia(library, shared)).toEqual({ kept: [a], damaged: [b] });
  expect(await readFile(at(shared, a), 'utf8')).toBe('one');
  await expect(stat(at(shared, b))).rejects.toThrow();
});

test('a backup gets its own media back, each held against its hash; damage and loss are counted', async () => {
  const [a, b, c] = [await add('one'), await add('two'), await add('three')];
  await shareMedia(library, shared);
  const into = join(folder, 'restored');
  expect(await fetchMedia(shared, await list('first', [a, b]), into)).toBe(2);
  expect(await readFile(at(into, b), 'utf8')).toBe('two');
  await expect(stat(at(into, c))).rejects.toThrow();
  await writeFile(at(shared, a), 'eno');
  await rm(at(shared, c));
  await expect(fetchMedia(shared, await list('all', [a, b, c]), join(folder, 'again'))).rejects.toThrow(
    /2 of its 3 pictures are not in/,
  );
});

test('what no backup needs goes, the rest stays; a damaged list removes nothing', async () => {
  const [a, b, c] = [await add('one'), await add('two'), await add('three')];
  await shareMedia(library, shared);
  await expect(pruneShared(shared, [`${a}\n`, 'not a hash\n'])).rejects.toThrow('damaged');
  expect(await pruneShared(shared, [`${a}\n`, `${a}\n${b}\n`])).toBe(1);
  await expect(stat(at(shared, c))).rejects.toThrow();
  expect(await readFile(at(shared, b), 'utf8')).toBe('two');
  expect(listedMedia('')).toEqual([]);
});
