/** What a verdict shows first is there before anybody opens it, and waits while somebody shoots. */
import { mkdtemp, readdir, readFile, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Readings } from '@/core/session/readings';
import { closeStore, createSession, keptAverage, keptFrame, loadSession, readConfig, storeFile, writeSetting } from '@/store'; // prettier-ignore
import { freshDatabase } from '@/store/testing';
import { ShownAhead } from './shown';

const WHOLE = { x: 0, y: 0, width: 1, height: 1 };
let folder: string;
let id: string;
let sha256: string;

beforeAll(async () => {
  await freshDatabase('glade_shown_test');
  folder = await mkdtemp(join(tmpdir(), 'glade-shown-'));
  const path = join(folder, 'bare.png');
  await sharp({ create: { width: 90, height: 60, channels: 3, background: '#406080' } }).toFile(path);
  ({ sha256 } = await storeFile(path, 'bare.png'));
  // Of an earlier run.
  await rm(join(readConfig().renditionFolder, sha256.slice(0, 2)), { recursive: true, force: true });
  id = await createSession(
    {
      format: 'aurora-glade-session',
      version: 1,
      title: 'Walk',
      rig: { camera: 'Stand-in', response: { kind: 'srgb' } },
      kits: [{ id: 'kit', filters: [{ id: 'nd4', kind: 'nd', nominal: { ndFactor: 4 } }] }],
      scenes: [{ id: 'outdoor', kind: 'outdoor' }],
      takes: [{ id: 'bare', filter: null, scene: 'outdoor', files: ['bare.png'] }],
      patches: [],
    },
    new Map([['bare.png', sha256]]),
  );
});
afterAll(async () => {
  await closeStore();
  await rm(folder, { recursive: true, force: true });
});

const made = async () =>
  (await readdir(join(readConfig().renditionFolder, sha256.slice(0, 2))).catch(() => [])).filter((name) => name.startsWith(`${sha256}-shown-`)); // prettier-ignore
/** Readings whose one pair names these files. */
const pairing = (file: string, bareFile: string) =>
  ({ filters: [{ filter: 'nd4', ordinary: [{ scene: 'outdoor', patch: 'none', pairs: [{ file, bareFile }] }] }] }) as unknown as Readings; // prettier-ignore

test('made one by one, once, and not while a sitting is live', async () => {
  const ahead = new ShownAhead();
  const loaded = await loadSession(id);
  expect(await ahead.makeOne()).toBe(false);
  ahead.add(loaded, pairing('bare.png', 'bare.png'));
  await writeSetting('live', { session: id, wanted: 0.02, after: 0, since: '' });
  expect(await ahead.makeOne()).toBe(false);
  expect(await made()).toEqual([]);
  await writeSetting('live', null);
  expect(await ahead.makeOne()).toBe(true);
  expect(await made()).toHaveLength(1);
  expect(await ahead.makeOne()).toBe(false);
  // What the page asks for is that very file.
  const kept = (await keptFrame(loaded, 'bare.png', WHOLE))!;
  const { mtimeMs } = await stat(kept);
  expect((await sharp(await readFile(kept)).metadata()).width).toBe(90);
  await keptFrame(loaded, 'bare.png', WHOLE);
  expect((await stat(kept)).mtimeMs).toBe(mtimeMs);
  // Another part, and another curve, are pictures of their own.
  const bt709 = { ...loaded, session: { ...loaded.session, rig: { ...loaded.session.rig, response: { kind: 'bt709' as const } } } }; // prettier-ignore
  await keptFrame(loaded, 'bare.png', { ...WHOLE, width: 0.5 });
  await keptFrame(bt709, 'bare.png', WHOLE);
  expect(await made()).toHaveLength(3);
});

test('what can’t be made is passed over there, and told where it is asked for', async () => {
  const ahead = new ShownAhead();
  const loaded = await loadSession(id);
  ahead.add(loaded, pairing('gone.png', 'bare.png'));
  expect([await ahead.makeOne(), await ahead.makeOne(), await ahead.makeOne()]).toEqual([true, true, false]);
  expect(await keptFrame(loaded, 'gone.png', WHOLE)).toBeNull();
  await expect(keptFrame(loaded, 'bare.png', { x: 0.5, y: 0.5, width: 0, height: 0 })).rejects.toThrow('That rectangle holds no pixel.'); // prettier-ignore
  expect(await keptAverage(loaded, 'bare.png', 0, 0)).toBeNull();
});
