/** Stored sessions as a source: what changed on the disk is told at its take, and measured when it is sent again. */
import { open, mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { measureSession } from '@/core/measure';
import { writeSession } from '@/simulator/files';
import { randomPlan } from '@/simulator/randomBench';
import { closeStore, createSession, damageOf, loadSession, mediaPath, storeFile, visibleDamageOf } from '@/store';
import { freshDatabase } from '@/store/testing';
import { storedSource } from './source';

const drawn = randomPlan('source', { protocol: 'matched', bitDepth: 8, drift: 0, bend: 0, flicker: 0, repeats: 1 });
const plan = { ...drawn, width: 300, height: 200, filters: drawn.filters.slice(0, 2) };
let folder: string;
let id: string;
const files = new Map<string, string>();

beforeAll(async () => {
  await freshDatabase('glade_source_test');
  folder = await mkdtemp(join(tmpdir(), 'glade-source-'));
  for (const name of await writeSession(plan, { id: 'kit' }, folder))
    files.set(name, (await storeFile(join(folder, name), name)).sha256);
  id = await createSession(JSON.parse(await readFile(join(folder, 'session.glade.json'), 'utf8')), files);
}, 120_000);
afterAll(async () => {
  await closeStore();
  await rm(folder, { recursive: true, force: true });
});

async function measured() {
  const loaded = await loadSession(id);
  return measureSession(loaded.session, storedSource(loaded.files), { createdAt: '', generator: '' });
}

/** One byte in the middle of the picture's values: it can be read as before. */
async function spoil(path: string): Promise<void> {
  const file = await open(path, 'r+');
  const { size } = await file.stat();
  const byte = Buffer.alloc(1);
  await file.read(byte, 0, 1, size >> 1);
  await file.write(Buffer.from([byte[0] ^ 0x40]), 0, 1, size >> 1);
  await file.close();
}

test('a byte that turned on the disk, a cut, a loss: each is told, never measured, and healed by being sent again', async () => {
  const sound = await measured();
  expect(sound.filters.every(({ density }) => density !== undefined)).toBe(true);
  const name = (await readdir(folder)).find((one) => one.includes('chart-f0'))!;
  const sha256 = files.get(name)!;
  const path = mediaPath(sha256);
  const bytes = (await readFile(path)).length;
  const damages: [string, () => Promise<unknown>, string | null][] = [
    ['damaged on the disk since; drop it again.', () => spoil(path), null],
    ['damaged on the disk since; drop it again.', () => open(path, 'r+').then((file) => file.truncate(bytes >> 1).then(() => file.close())), 'damaged on the disk since; drop it again'], // prettier-ignore
    ['gone from the disk since; drop it again.', () => rm(path), 'gone from the disk since; drop it again'],
  ];
  for (const [words, damage, glance] of damages) {
    expect(await damageOf(sha256)).toBeNull();
    await damage();
    expect(await damageOf(sha256)).toContain(words);
    expect(await visibleDamageOf({ sha256, bytes })).toBe(glance);
    const { filters } = await measured();
    const [first, second] = filters;
    expect(first.density).toBeUndefined();
    expect(first.faults.map(({ message }) => message).join(' ')).toContain(words);
    expect(second.density?.stops.value).toBeCloseTo(sound.filters[1].density!.stops.value, 6);
    expect((await storeFile(join(folder, name), name)).sha256).toBe(sha256);
    expect((await measured()).filters[0].density).toEqual(sound.filters[0].density);
  }
}, 120_000);
