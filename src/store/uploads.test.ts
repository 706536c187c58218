/** Uploads and the files that wait, against a real database and folder. */
import { createHash, randomUUID } from 'node:crypto';
import { access, copyFile, mkdir, mkdtemp, readFile, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writePicture } from '@/simulator/files';
import { addToInbox, clearInbox, listInbox, MediaError, mediaPath, purgeUploads, takeUpload, uploadFolder } from '.';
import { closeStore } from './database';
import { freshDatabase } from './testing';

const before = process.env.GLADE_VAR;
let folder: string;
let picture: Buffer;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-uploads-'));
  await copyFile(join(before ?? 'var', 'database.json'), join(folder, 'database.json'));
  process.env.GLADE_VAR = folder;
  await freshDatabase('glade_uploads_test');
  await mkdir(uploadFolder(), { recursive: true });
  const data = new Uint8Array(60 * 40 * 3).map((_, i) => i % 200);
  await writePicture({ width: 60, height: 40, channels: 3, bitDepth: 8, data }, join(folder, 'a.png'));
  picture = await readFile(join(folder, 'a.png'));
}, 600_000);

afterAll(async () => {
  await closeStore();
  process.env.GLADE_VAR = before;
  await rm(folder, { recursive: true, force: true });
});

/** What the tus server leaves of an upload. */
async function arrived(content: Buffer, size = content.length, filename = 'bare.png'): Promise<string> {
  const id = randomUUID();
  await writeFile(join(uploadFolder(), id), content);
  await writeFile(join(uploadFolder(), `${id}.json`), JSON.stringify({ id, size, metadata: { filename } }));
  return id;
}

test('a complete upload is stored under its hash with facts and look, and asked twice gives one answer', async () => {
  const id = await arrived(picture);
  const stored = await takeUpload(id);
  expect(stored).toMatchObject({ name: 'bare.png', bytes: picture.length, facts: { readable: true } });
  expect(stored.sha256).toBe(createHash('sha256').update(picture).digest('hex'));
  expect(await readFile(mediaPath(stored.sha256))).toEqual(picture);
  expect(stored.facts.readable && stored.facts.look?.histogram[0].length).toBe(256);
  expect(await takeUpload(id)).toEqual(stored);
  await expect(access(join(uploadFolder(), id))).rejects.toThrow('ENOENT');
});

test('the same content again is stored once', async () => {
  const [one, two] = await Promise.all([arrived(picture), arrived(picture, picture.length, 'again.png')]);
  const [first, second] = await Promise.all([takeUpload(one), takeUpload(two)]);
  expect(first.sha256).toBe(second.sha256);
  expect((await stat(mediaPath(first.sha256))).nlink).toBe(1);
});

test('a crash between filing and answering loses nothing', async () => {
  const id = await arrived(picture);
  const keep = await readFile(join(uploadFolder(), `${id}.json`));
  await takeUpload(id);
  // As if the note of it had not been written yet.
  await rm(join(uploadFolder(), `${id}.taken`));
  await writeFile(join(uploadFolder(), id), picture);
  await writeFile(join(uploadFolder(), `${id}.json`), keep);
  expect(await takeUpload(id)).toMatchObject({ facts: { readable: true } });
});

test('what isn’t complete, known or an upload at all gets a sentence', async () => {
  const cut = await arrived(picture.subarray(0, 100), picture.length);
  await expect(takeUpload(cut)).rejects.toThrow(`bare.png has not arrived whole yet (100 of ${picture.length} bytes).`);
  await expect(takeUpload(randomUUID())).rejects.toThrow(MediaError);
  await expect(takeUpload('../../database')).rejects.toThrow('That is not an upload.');
});

test('telemetry is read when it arrives, its equal cues joined', async () => {
  const cue = (second: number, iso: number) =>
    `${second + 1}\n00:00:0${second},000 --> 00:00:0${second + 1},000\n[iso: ${iso}] [shutter: 1/240.0]\n`;
  const text = [cue(0, 100), cue(1, 100), cue(2, 200)].join('\n');
  const { facts } = await takeUpload(await arrived(Buffer.from(text), text.length, 'run.srt'));
  expect(!facts.readable && facts.telemetry?.map(({ from, to, exposure }) => [from, to, exposure.iso])).toEqual([
    [0, 2, 100],
    [2, 3, 200],
  ]);
});

test('files wait once each, until they are laid or put away', async () => {
  const { sha256 } = await takeUpload(await arrived(picture));
  await addToInbox('card/bare.png', sha256, 'drop');
  await addToInbox('card/bare.png', sha256, 'watch');
  expect((await listInbox()).map(({ path, source }) => [path, source])).toEqual([['card/bare.png', 'drop']]);
  await clearInbox([sha256]);
  expect(await listInbox()).toEqual([]);
});

test('uploads that nobody went on with go after a week', async () => {
  const [old, fresh] = await Promise.all([arrived(picture), arrived(picture)]);
  const week = (Date.now() - 8 * 86_400_000) / 1000;
  await utimes(join(uploadFolder(), old), week, week);
  await purgeUploads();
  await expect(access(join(uploadFolder(), old))).rejects.toThrow('ENOENT');
  await access(join(uploadFolder(), fresh));
});
