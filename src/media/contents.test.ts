/** Copies among a session's files: told by their bytes, and never measured as if they were pictures of their own. */
import { copyFile, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { measureSession } from '@/core/measure';
import { parseSession } from '@/core/session/parse';
import { writeSession } from '@/simulator/files';
import { randomPlan } from '@/simulator/randomBench';
import { contentsOf } from './contents';
import { folderSource } from './folder';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'glade-contents-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

async function file(name: string, bytes: Uint8Array): Promise<string> {
  const path = join(folder, name);
  await writeFile(path, bytes);
  return path;
}

test('the same bytes have the same word, whatever the name; one byte more, less or other has another', async () => {
  const bytes = new Uint8Array(400_000).map((_, i) => (i * i) % 251);
  const changed = (at: number) => bytes.map((one, i) => (i === at ? one ^ 1 : one));
  // Bytes that no sample of begin, middle and end sees, too.
  const [a, copy, first, between, last] = await Promise.all(
    [bytes, bytes, changed(0), changed(120_000), changed(399_999)].map((one, i) => file(`${i}.bin`, one)),
  );
  const longer = await file('longer.bin', new Uint8Array([...bytes, 0]));
  const empty = await file('empty.bin', new Uint8Array());
  const words = await contentsOf([a, copy, first, between, last, longer, empty, join(folder, 'gone.bin')]);
  expect(words.get(a)).toBe(words.get(copy));
  expect(new Set(words.values()).size).toBe(6);
  expect(words.has(join(folder, 'gone.bin'))).toBe(false);
});

describe('measured', () => {
  const drawn = randomPlan('copies', { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 2 });
  const plan = { ...drawn, width: 360, height: 240, filters: drawn.filters.slice(0, 2) };
  const place = () => join(folder, 'session');
  type Document = { takes: { id: string; filter: string | null; files: string[] }[] };
  let document: Document;

  beforeAll(async () => {
    await writeSession(plan, { id: 'kit' }, place());
    document = JSON.parse(await readFile(join(place(), 'session.glade.json'), 'utf8')) as Document;
  }, 300_000);

  async function measured(change: (session: Document) => Promise<void>) {
    const changed = structuredClone(document);
    await change(changed);
    return measureSession(parseSession(changed), folderSource(place()), { createdAt: '', generator: '' });
  }
  const takeOf = (session: Document, filter: string | null) => session.takes.find((one) => one.filter === filter)!;
  const [first, other] = plan.filters;

  test('a filter whose only pictures are copies of bare ones has no strength, and the reason is told', async () => {
    const readings = await measured(async (session) => {
      const bare = takeOf(session, null).files;
      for (const one of session.takes.filter(({ filter }) => filter === first.id)) one.files = [`copy-${one.id}.tif`];
      for (const one of session.takes.filter(({ filter }) => filter === first.id))
        await copyFile(join(place(), bare[0]), join(place(), one.files[0]));
    });
    const [spoiled, sound] = [first, other].map(({ id }) => readings.filters.find((one) => one.filter === id)!);
    expect(spoiled.density).toBeUndefined();
    expect(spoiled.faults.map(({ code }) => code)).toContain('same-picture');
    expect(sound.density).toBeDefined();
  });

  test('a copy as a repeat changes no figure and no ±', async () => {
    const plain = await measured(async () => undefined);
    const copied = await measured(async (session) => {
      const [name] = takeOf(session, first.id).files;
      await copyFile(join(place(), name), join(place(), 'again.tif'));
      takeOf(session, first.id).files.push('again.tif');
    });
    const density = (readings: typeof plain) => readings.filters.find((one) => one.filter === first.id)!.density;
    expect(density(copied)).toEqual(density(plain));
    const told = copied.filters
      .find((one) => one.filter === first.id)!
      .faults.find(({ code }) => code === 'same-picture');
    expect(told).toMatchObject({ severity: 'warning', message: expect.stringContaining('again.tif') });
  });
});
