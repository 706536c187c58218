/** Lists of sessions by their cards: made when wanted, made again when something changed, complete before anything is looked for by them. */
import type { KeptKit } from '@/core/sitting/kits/keptKit';
import { boundsOf, DEFAULT_BANDS } from '@/core/judging/rating/bands';
import { smallBench } from '@/core/testing/worked';
import type { Readings } from '@/core/session/readings';
import { claimJob, finishJob, requestMeasure } from '@/jobs/queue';
import { describeSession } from '@/simulator/session';
import { EVERYTHING } from '@/stages/home/listed';
import {
  closeStore,
  createSession,
  deleteSession,
  editSession,
  readCards,
  restoreSession,
  writeKit,
  writeSetting,
} from '@/store';
import { store } from '@/store/database';
import { freshDatabase } from '@/store/testing';
import { homeList } from './homeList';
import { shelfKits } from './shelfView';

beforeAll(() => freshDatabase('glade_session_cards'));
afterAll(closeStore);

const KIT = { id: 'kit', name: 'Foundry Set' };
const make = (title: string, more: object = {}) =>
  createSession({ ...describeSession(smallBench(), KIT), title, ...more }, new Map());
const titles = async (wanted: Partial<typeof EVERYTHING> = {}) =>
  (await homeList(100, { ...EVERYTHING, ...wanted })).sessions.map(({ title }) => title);

test('a session is found as soon as it is there, by what it is called now, and not once it is away', async () => {
  const id = await make('Weir', { place: 'Ashwick Quarry', date: '2026-05-14' });
  // Nobody has listed it yet.
  expect((await readCards([id])).size).toBe(0);
  expect(await titles({ text: 'weir quarry' })).toEqual(['Weir']);
  expect((await readCards([id])).size).toBe(1);
  await editSession(id, (old) => ({ ...old, title: 'Lock' }));
  expect(await titles({ text: 'weir' })).toEqual([]);
  expect(await titles({ text: 'lock 2026-05' })).toEqual(['Lock']);
  expect((await homeList()).names).toEqual({ kits: ['Foundry Set'], cameras: [expect.any(String)] });
  await deleteSession(id);
  expect([await titles(), await titles({ text: 'lock' })]).toEqual([[], []]);
  await restoreSession(id);
  expect([await titles(), await titles({ text: 'lock' })]).toEqual([['Lock'], ['Lock']]);
});

test('a card that holds is not made again', async () => {
  await make('Kept');
  await homeList();
  const made = async () =>
    (await store().models.SessionCard.findAll({ raw: true })).map((one) =>
      (one as unknown as { updatedAt: Date }).updatedAt.getTime(),
    );
  const before = await made();
  expect(await titles({ text: 'kept' })).toEqual(['Kept']);
  expect(await titles()).toContain('Kept');
  expect(await made()).toEqual(before);
});

test('figures and rating limits are in what is listed', async () => {
  const id = await make('Measured');
  const row = async () => (await homeList()).sessions.find((one) => one.id === id)!;
  expect(await row()).toMatchObject({ measured: false, finding: null });
  await measure(id, 3.6);
  expect(await row()).toMatchObject({ measured: true });
  // A filter 0.6 stop off is “close” by the usual limits, and true by wider ones.
  const verdict = async () => (await row()).beads.flatMap(({ verdict: word }) => word ?? []);
  const usual = await verdict();
  await writeSetting('bands', { ...boundsOf(DEFAULT_BANDS), strength: [0.9, 1.8] });
  expect(await verdict()).not.toEqual(usual);
  await writeSetting('bands', null);
  expect(await verdict()).toEqual(usual);
});

test('a kit shows what a sitting found that nobody has listed yet, however old it is', async () => {
  const id = await make('Shelved');
  const { kits } = describeSession(smallBench(), { ...KIT, name: 'Lone Kit' }) as unknown as { kits: KeptKit[] };
  await editSession(id, (old) => ({ ...old, kits }));
  await measure(id, 3.6);
  // Three newer sittings of it that weren't measured.
  for (let i = 0; i < 4; i++) await make(`Newer ${i}`, { kits });
  await writeKit(kits[0]);
  const [entry] = (await shelfKits()).filter(({ name }) => name === 'Lone Kit');
  const filter = kits[0].filters[0].id;
  expect(entry.beads!.find((bead) => bead.id === filter)?.found?.value).toBeCloseTo(3.6);
});

async function measure(session: string, stops: number): Promise<void> {
  const [filter] = (describeSession(smallBench(), KIT) as unknown as { kits: KeptKit[] }).kits[0].filters;
  const value = { value: stops, u95: 0.02 };
  const density = { stops: value, channels: { r: value, g: value, b: value }, error: { value: 0.6, u95: 0.02 }, byScene: [], budget: [] }; // prettier-ignore
  const verdict = { label: 'close', sentence: 'x' };
  const readings = { generator: 'x', createdAt: '2026-05-14', faults: [], filters: [{ filter: filter.id, kit: 'kit', nominalStops: 3, density, verdict, faults: [] }] }; // prettier-ignore
  await requestMeasure(session);
  const job = (await claimJob('w'))!;
  await finishJob(job, 'w', { state: 'done', readings: readings as unknown as Readings, inputHash: 'x'.repeat(64), progress: { done: 1, total: 1, take: null } }); // prettier-ignore
}
