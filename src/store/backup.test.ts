/** Rows written and read back are the same, whatever is in them; a newer database is left alone; damage is found. */
import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { QueryTypes } from 'sequelize';
import { describeSession } from '@/simulator/session';
import { smallBench } from '@/core/testing/worked';
import { countRows, writeRows } from './backup';
import { checkLibrary } from './checkLibrary';
import { readConfig } from './config';
import { closeStore, store } from './database';
import { mediaPath, storeStream } from './media';
import { migrate, migrationsWaiting, NewerDatabase } from './migrate';
import { createSession, editSession } from './sessions';
import { writeSetting } from './settings';
import { freshDatabase } from './testing';
import { Readable } from 'node:stream';

const [FROM, INTO] = ['glade_backup_test', 'glade_restore_test'];
/** The database's own client, as `./glade restore` has it. */
const CLIENT = 'mariadb';
const CUES = '1\n00:00:00,000 --> 00:00:01,000\n[iso: 100]\n';
const STRANGE = 'quote \' " backslash \\ line\nbreak \u0000 🎞 NULL 0x41';
let folder: string;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-backup-'));
  await freshDatabase(FROM);
});
afterAll(async () => {
  await closeStore();
  await rm(folder, { recursive: true });
});

/** All of a database's rows as text, for comparing. */
async function dumped(): Promise<Record<string, unknown[]>> {
  const { sequelize } = store();
  const all: Record<string, unknown[]> = {};
  for (const table of Object.keys(await countRows()))
    all[table] = await sequelize.query(`SELECT * FROM \`${table}\``, { type: QueryTypes.SELECT });
  return all;
}

test('rows come back as they were, to the last character', async () => {
  const { sha256 } = await storeStream(Readable.from([Buffer.from(CUES)]), 'a.srt');
  const document = describeSession(smallBench(), { id: 'kit', name: STRANGE });
  const id = await createSession({ ...document, title: 'One' }, new Map([['a.srt', sha256]]));
  // Its revisions are bytes, not text.
  await editSession(id, (old) => ({ ...old, title: STRANGE }));
  await writeSetting('weights', { a: STRANGE, b: 1e-7, c: null });
  const manifest = await writeRows(join(folder, 'rows.sql'), 'test');
  expect(manifest.rows).toEqual(await countRows());
  expect(manifest.rows).toMatchObject({ sessions: 1, session_revisions: 2 });
  const before = await dumped();

  await freshDatabase(INTO);
  const { port, user, password, host } = readConfig().database;
  execFileSync(CLIENT, ['--no-defaults', `-h${host}`, `-P${port}`, `-u${user}`, INTO], {
    input: await readFile(join(folder, 'rows.sql')),
    env: { ...process.env, MYSQL_PWD: password },
  });
  expect(await countRows()).toEqual(manifest.rows);
  expect(await dumped()).toEqual(before);
});

test('tables may be made as they were then, and brought up to date after', async () => {
  const { sequelize } = store();
  const tables = await sequelize.query<Record<string, string>>('SHOW TABLES', { type: QueryTypes.SELECT });
  await sequelize.query(`DROP DATABASE ${INTO}`);
  await sequelize.query(`CREATE DATABASE ${INTO}`);
  await closeStore();
  expect(await migrate('0001-first-tables')).toEqual(['0001-first-tables']);
  expect(await migrationsWaiting()).toEqual([
    '0002-inbox',
    '0003-shelf',
    '0004-judgement',
    '0005-revisions',
    '0006-door',
    '0007-accounts',
    '0008-benches',
    '0009-cards',
    '0010-request',
  ]);
  await migrate();
  expect(await migrationsWaiting()).toEqual([]);
  const again = await store().sequelize.query('SHOW TABLES', { type: QueryTypes.SELECT });
  expect(again).toEqual(tables);
});

test('a database of a newer program is told, and nothing of it is changed', async () => {
  await store().sequelize.query("INSERT INTO migrations (name) VALUES ('9999-from-tomorrow')");
  await expect(migrate()).rejects.toThrow(NewerDatabase);
  await expect(migrate()).rejects.toThrow(/newer Aurora Glade \(9999-from-tomorrow\); update/);
  await expect(migrationsWaiting()).rejects.toThrow(NewerDatabase);
  await store().sequelize.query("DELETE FROM migrations WHERE name = '9999-from-tomorrow'");
});

describe('the check', () => {
  const telemetry = (name: string) => Buffer.from(`${CUES}\n2\n00:00:01,000 --> 00:00:02,000\n${name}\n`);

  test('finds what is missing, cut, or changed in place', async () => {
    const stored = [];
    for (const name of ['whole', 'missing', 'cut', 'changed'])
      stored.push((await storeStream(Readable.from([telemetry(name)]), `${name}.srt`)).sha256);
    const [, missing, cut, changed] = stored;
    expect((await checkLibrary()).problems).toEqual([]);
    await rm(mediaPath(missing));
    await truncate(mediaPath(cut), 5);
    const content = await readFile(mediaPath(changed));
    content[0] ^= 1;
    await writeFile(mediaPath(changed), content);
    const { problems, media } = await checkLibrary();
    expect(media).toBeGreaterThanOrEqual(4);
    expect(problems).toHaveLength(3);
    expect(problems.join('\n')).toMatch(/is missing[^]*has 5 bytes instead of|has 5 bytes instead of[^]*is missing/);
    expect(problems.join('\n')).toContain('was changed on the disk');
    expect(problems.every((one) => one.endsWith('drop it again.'))).toBe(true);
    // Sent again they are healed.
    for (const name of ['missing', 'cut', 'changed'])
      await storeStream(Readable.from([telemetry(name)]), `${name}.srt`);
    expect((await checkLibrary()).problems).toEqual([]);
  });
});
