/** Everything is backed up while the application runs, restored elsewhere, and is the same row by row and byte by byte. */
import { expect, test } from '@playwright/test';
import { execFile } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readdir, readFile, rm, stat, truncate } from 'node:fs/promises';
import { join } from 'node:path';
import { Sequelize } from 'sequelize';

test.skip(!process.env.GLADE_VAR, 'needs the database of the application');
test.describe.configure({ mode: 'serial' });

const from = process.env.GLADE_VAR!;
let into = '';
let file = '';

test.beforeAll(({}, info) => {
  into = info.outputPath('restored');
  file = info.outputPath('all.tar');
});
test.afterAll(async () => {
  await glade(into, 'db', 'stop');
  await rm(into, { recursive: true, force: true });
});

const glade = (place: string, ...words: string[]) =>
  new Promise<{ code: number; words: string }>((done) => {
    execFile('bash', ['glade', ...words], { env: { ...process.env, GLADE_VAR: place } }, (error, out, err) =>
      done({ code: error ? Number(error.code) : 0, words: out + err }),
    );
  });

/** A hash of each table's rows, and of each medium. */
async function contents(place: string): Promise<Record<string, string>> {
  const { port, password } = JSON.parse(await readFile(join(place, 'database.json'), 'utf8')) as {
    port: number;
    password: string;
  };
  const database = new Sequelize('glade', 'glade', password, {
    host: '127.0.0.1',
    port,
    dialect: 'mysql',
    logging: false,
  });
  const found: Record<string, string> = {};
  const [tables] = (await database.query('SHOW TABLES')) as [Record<string, string>[], unknown];
  for (const table of tables.map((row) => Object.values(row)[0])) {
    const [rows] = await database.query(`SELECT * FROM \`${table}\``);
    found[table] = createHash('sha256').update(JSON.stringify(rows)).digest('hex');
  }
  await database.close();
  const media = join(place, 'media');
  for (const part of await readdir(media))
    if (/^[0-9a-f]{2}$/.test(part))
      for (const name of await readdir(join(media, part)))
        found[name] = createHash('sha256')
          .update(await readFile(join(media, part, name)))
          .digest('hex');
  return found;
}

test('backed up, restored elsewhere, and checked', async () => {
  const made = await glade(from, 'backup', file);
  expect(made, made.words).toMatchObject({ code: 0 });
  expect(await glade(from, 'backup', file)).toMatchObject({
    code: 1,
    words: expect.stringContaining('is there already'),
  });
  const restored = await glade(into, 'restore', file);
  expect(restored, restored.words).toMatchObject({ code: 0, words: expect.stringContaining('all is whole') });
  expect((await glade(into, 'db', 'start')).code).toBe(0);
  const [before, after] = [await contents(from), await contents(into)];
  expect(Object.keys(before).length).toBeGreaterThan(30);
  expect(after).toEqual(before);
});

test('backups without a file share their pictures, and are restored from there; a lost picture is told', async () => {
  const made = await glade(from, 'backup');
  expect(made, made.words).toMatchObject({ code: 0 });
  const folder = join(from, 'backups');
  const shared = async () => (await readdir(join(folder, 'media'), { recursive: true })).filter((name) => /[0-9a-f]{64}$/.test(name)); // prettier-ignore
  const first = await shared();
  const times = async () => Promise.all(first.map(async (name) => (await stat(join(folder, 'media', name))).mtimeMs));
  const before = await times();
  await new Promise((resolve) => setTimeout(resolve, 1100));
  expect((await glade(from, 'backup')).code).toBe(0);
  expect([await shared(), await times()]).toEqual([first, before]);
  const tars = (await readdir(folder)).filter((name) => name.startsWith('glade-') && name.endsWith('.tar'));
  expect(tars.length).toBeGreaterThan(1);
  const newest = join(folder, tars.sort().at(-1)!);
  const place = `${into}-3`;
  const restored = await glade(place, 'restore', newest);
  expect(restored, restored.words).toMatchObject({ code: 0, words: expect.stringContaining('all is whole') });
  expect((await glade(place, 'db', 'start')).code).toBe(0);
  expect(await contents(place)).toEqual(await contents(from));
  await glade(place, 'db', 'stop');
  await rm(place, { recursive: true });
  await rm(join(folder, 'media', first[0]));
  expect(await glade(place, 'restore', newest)).toMatchObject({
    code: 1,
    words: expect.stringContaining(`1 of its ${first.length} pictures are not in`),
  });
  await rm(place, { recursive: true, force: true });
});

test('nothing is written over, and no password is in it', async () => {
  expect(await glade(into, 'restore', file)).toMatchObject({
    code: 1,
    words: expect.stringContaining('nothing is written over'),
  });
  const { password, rootPassword } = JSON.parse(await readFile(join(from, 'database.json'), 'utf8')) as Record<
    string,
    string
  >;
  const content = await readFile(file);
  for (const secret of [password, rootPassword]) expect(content.includes(secret)).toBe(false);
});

test('damage is found by the check; a backup that is cut short is refused', async () => {
  const [part] = (await readdir(join(into, 'media'))).filter((name) => /^[0-9a-f]{2}$/.test(name));
  const [name] = await readdir(join(into, 'media', part));
  await truncate(join(into, 'media', part, name), 3);
  expect(await glade(into, 'check')).toMatchObject({
    code: 1,
    words: expect.stringContaining('has 3 bytes instead of'),
  });
  await truncate(file, 4_000);
  const elsewhere = `${into}-2`;
  expect(await glade(elsewhere, 'restore', file)).toMatchObject({
    code: 1,
    words: expect.stringContaining('cut short'),
  });
});
