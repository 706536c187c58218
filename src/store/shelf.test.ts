import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { NEW_RIG } from '@/core/sitting/kits/keptRig';
import { MOST_PICTURES } from '@/core/exports/report';
import {
  addToReport,
  allBenches,
  allKits,
  closeStore,
  listKits,
  listPutAway,
  putBenchAway,
  putKitAway,
  putReportAway,
  purgeDeleted,
  readKit,
  readReport,
  readRig,
  storeFile,
  storedFiles,
  writeBench,
  writeKit,
  writeReport,
  writeRig,
} from '.';
import { store } from './database';
import { freshDatabase } from './testing';

const kit = {
  id: 'kit',
  name: 'Foundry Set',
  filters: [{ id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 } }],
};

beforeAll(() => freshDatabase('glade_shelf'), 60_000);
afterAll(closeStore);

test('a bench of somebody else is taken in once under a name, put away, listed there, brought back, and goes for good after a month', async () => {
  const bench = {
    name: 'Mill Lane',
    file: 'a.csv',
    filters: [{ kit: 'K', filter: 'ND8', label: 3, figures: { strength: { value: 3.1, u95: 0.02 } } }],
  };
  const { id } = await writeBench(bench);
  expect((await allBenches()).map(({ item }) => item)).toEqual([bench]);
  await expect(writeBench(bench)).rejects.toThrow('There is a bench “Mill Lane” already');
  await expect(writeBench({ ...bench, name: '' })).rejects.toThrow('a bench needs a name');
  await expect(writeBench({ ...bench, name: 'B', filters: [] })).rejects.toThrow('there is no figure in it');
  await putBenchAway(id, true);
  expect(await allBenches()).toEqual([]);
  expect((await listPutAway()).map(({ kind, name }) => [kind, name])).toContainEqual(['bench', 'Mill Lane']);
  await putBenchAway(id, false);
  expect(await allBenches()).toHaveLength(1);
  await putBenchAway(id, true);
  await purgeDeleted(Date.now() + 31 * 86_400_000);
  await putBenchAway(id, false);
  expect(await allBenches()).toEqual([]);
});

test('a kit is kept with what only others know, and only the newest state is changed', async () => {
  const first = await writeKit({ ...kit, handmade: { by: 'somebody' } });
  expect((await readKit(first.id))?.item).toMatchObject({ name: 'Foundry Set', handmade: { by: 'somebody' } });
  const second = await writeKit({ ...kit, name: 'Renamed' }, first);
  expect(second.revision).toBe(first.revision + 1);
  await expect(writeKit({ ...kit, name: 'Too late' }, first)).rejects.toThrow('changed in another window');
  expect((await readKit(first.id))?.item.name).toBe('Renamed');
  await expect(writeKit({ ...kit, filters: [{ id: 'x', kind: 'magic' }] })).rejects.toThrow('filters 0 kind');
});

test('what is put away is not listed, and comes back', async () => {
  const { id } = await writeKit({ ...kit, name: 'Away' });
  await putKitAway(id, true);
  expect(await readKit(id)).toBeNull();
  expect((await listKits()).map((one) => one.name)).not.toContain('Away');
  expect((await allKits()).map((one) => one.name)).not.toContain('Away');
  await putKitAway(id, false);
  expect((await readKit(id))?.item.name).toBe('Away');
});

test('photos keep their files from the purge as long as the kit is there', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'glade-shelf-'));
  const path = join(folder, 'photo.png');
  await writeFile(
    path,
    await sharp({ create: { width: 20, height: 20, channels: 3, background: '#123456' } })
      .png()
      .toBuffer(),
  );
  const { sha256 } = await storeFile(path, 'photo.png');
  await rm(folder, { recursive: true });
  const photographed = {
    ...kit,
    name: 'Photographed',
    filters: [{ ...kit.filters[0], photos: [{ sha256, name: 'photo.png' }] }],
  };
  const { id } = await writeKit(photographed);
  const later = Date.now() + 31 * 86_400_000;
  await purgeDeleted(later);
  expect((await storedFiles([sha256])).has(sha256)).toBe(true);
  await store().models.ShelfKit.update({ deletedAt: new Date() }, { where: { id } });
  await purgeDeleted(later);
  expect((await storedFiles([sha256])).has(sha256)).toBe(false);
});

test('pictures of a report keep their files, of one that is put away as long as it can come back', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'glade-report-'));
  const path = join(folder, 'view.png');
  const gray = sharp({ create: { width: 20, height: 20, channels: 3, background: '#765432' } });
  await writeFile(path, await gray.png().toBuffer());
  const { sha256 } = await storeFile(path, 'view.png');
  await rm(folder, { recursive: true });
  const { id } = await writeReport({ title: 'Shown', sessions: ['s'], pictures: [{ sha256, caption: 'bare' }] });
  const later = Date.now() + 31 * 86_400_000;
  await purgeDeleted(later);
  expect((await storedFiles([sha256])).has(sha256)).toBe(true);
  await putReportAway(id, true);
  await purgeDeleted(Date.now());
  expect((await storedFiles([sha256])).has(sha256)).toBe(true);
  await purgeDeleted(later);
  await purgeDeleted(later);
  expect((await storedFiles([sha256])).has(sha256)).toBe(false);
});

test('views put into one report at the same moment are all there', async () => {
  const { id } = await writeReport({ title: 'Busy', sessions: ['s'] });
  const hashes = ['a', 'b', 'c'].map((digit) => digit.repeat(64));
  const put = (report: string, sha256: string) => addToReport(report, { pictures: [{ sha256, caption: '' }] });
  expect(await Promise.all(hashes.map((one) => put(id, one)))).toEqual([true, true, true]);
  expect((await readReport(id))?.item.pictures.map((one) => one.sha256).sort()).toEqual(hashes);
  expect(await put('00000000-0000-0000-0000-000000000000', hashes[0])).toBe(false);
  for (let i = 3; i < MOST_PICTURES; i++) await put(id, hashes[0]);
  await expect(put(id, hashes[0])).rejects.toThrow('A report holds 24 pictures');
});

test('what to carry goes into a report beside its pictures, six times at most; an empty field stays one', async () => {
  const { id } = await writeReport({ title: 'Packed', sessions: ['s'] });
  const work = { name: 'Filming', rig: '', target: 'clips', frameRate: NaN, angle: 180, interval: 2, seconds: 10, tolerance: 0.3, baseIso: 100, highestIso: 400, widest: 2.8, narrowest: 2.8, latitude: 51, longitude: -2, months: ['1'], fromHour: 7, toHour: 19, skies: ['clear'], polarizer: false } as const; // prettier-ignore
  const asked = { works: [{ ...work, months: ['1'], skies: ['clear' as const] }], from: '', owned: '', most: '' };
  expect(await addToReport(id, { carry: [asked] })).toBe(true);
  expect((await readReport(id))?.item.carry).toEqual([asked]);
  for (let i = 1; i < 6; i++) await addToReport(id, { carry: [asked] });
  await expect(addToReport(id, { carry: [asked] })).rejects.toThrow('A report answers 6 times what to carry');
});

test('rigs likewise; what is none is refused with its sentence', async () => {
  const { id } = await writeRig({ ...NEW_RIG, camera: 'Bench camera' });
  expect((await readRig(id))?.item.lenses).toHaveLength(1);
  await expect(writeRig({ ...NEW_RIG, camera: 'No lens', lenses: [] })).rejects.toThrow('A rig has at least one lens.');
});
