import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { diskMemory, forgetOtherBuilds } from './memory';

let folder: string;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-memory-'));
});
afterEach(() => rm(folder, { recursive: true, force: true }));

test('keeps plain data, typed arrays and maps, and tells what it doesn’t know', async () => {
  const memory = diskMemory('a', folder);
  const value = { cells: new Float64Array([1, 2.5]), windows: new Map([['x', { mean: [0.1] }]]) };
  await memory.keep('picture/1', value);
  expect(await memory.recall('picture/1')).toEqual(value);
  expect(await memory.recall('picture/2')).toBeUndefined();
  expect(await diskMemory('b', folder).recall('picture/1')).toBeUndefined();
});

test('a damaged entry counts as forgotten, a folder that can’t be written as full', async () => {
  const memory = diskMemory('a', folder);
  await memory.keep('picture/1', { a: 1 });
  const [part] = await readdir(join(folder, 'a'));
  const [file] = await readdir(join(folder, 'a', part));
  await writeFile(join(folder, 'a', part, file), 'nonsense');
  expect(await memory.recall('picture/1')).toBeUndefined();
  await writeFile(join(folder, 'blocked'), '');
  await diskMemory('blocked', folder).keep('picture/1', { a: 1 });
  expect(await diskMemory('blocked', folder).recall('picture/1')).toBeUndefined();
});

test('other builds are forgotten', async () => {
  await diskMemory('old', folder).keep('x', 1);
  await diskMemory('new', folder).keep('x', 2);
  await forgetOtherBuilds('new', folder);
  expect(await readdir(folder)).toEqual(['new']);
});
