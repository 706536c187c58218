/** A live sitting at the server: files that arrive are laid and measured, spoiled takes come up again, and nothing of another page is taken. */
import { randomUUID } from 'node:crypto';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makePlan, planRequestSchema } from '@/core/sitting/planning/plan';
import { logOf } from '@/core/sitting/planning/shootLog';
import { plannedOf } from '@/core/sitting/planning/planned';
import type { ShotMistake } from '@/core/sitting/live/mistakes';
import { BENCH_RIG } from '@/core/testing/rig';
import { latestJob } from '@/jobs/queue';
import { developPicture, shootTake } from '@/simulator/card';
import {
  addToInbox,
  clearInbox,
  closeStore,
  createSession,
  deleteSession,
  listInbox,
  loadSession,
  restoreSession,
  storeFile,
  uploadFolder,
} from '@/store';
import { freshDatabase } from '@/store/testing';
import { endLive, look, shootAgain, startLive } from './live';
import { liveSheet, takeLivePicture } from './liveSheet';
import { liveSitting } from './liveSetting';
import { addTaps } from './taps';

const KIT = {
  id: 'kit',
  name: 'Kit',
  filters: [4, 8].map((ndFactor) => ({
    id: `nd${ndFactor}`,
    name: `ND${ndFactor}`,
    kind: 'nd',
    nominal: { ndFactor },
  })),
};
const REQUEST = planRequestSchema.parse({ kit: KIT, rig: BENCH_RIG, scenes: ['chart'], ev100: 14, fNumber: 2.8, slowest: 1, bareEvery: 2 }); // prettier-ignore

let folder = '';
let id = '';
let nowMs = Date.parse('2026-05-14T09:00:00Z');

beforeAll(async () => {
  await freshDatabase('glade_live');
  folder = await mkdtemp(join(tmpdir(), 'glade-live-'));
  id = await createSession(
    {
      format: 'aurora-glade-session',
      version: 1,
      title: 'Live',
      rig: { camera: 'Stand-in', response: { kind: 'srgb' } },
      kits: [KIT],
      scenes: [{ id: 'chart', kind: 'chart' }],
      takes: [],
      patches: [],
      plan: { request: REQUEST, takes: makePlan(REQUEST).takes },
    },
    new Map(),
  );
});
afterAll(async () => {
  await closeStore();
  await rm(folder, { recursive: true, force: true });
});

/** Shoots a take two minutes later; gives the names of its pictures, none of which lies anywhere yet. */
async function shoot(take: string, mistake: ShotMistake | null = null): Promise<{ name: string; sha256: string }[]> {
  nowMs += 120_000;
  const { session } = await loadSession(id);
  const { bench, pictures } = shootTake(plannedOf(session), session.kits[0].filters, 'live', take, mistake, nowMs);
  const shot = [];
  for (const picture of pictures) {
    const { sha256 } = await storeFile(await developPicture(bench, picture, folder), picture.name);
    shot.push({ name: picture.name, sha256 });
  }
  return shot;
}
const arrive = async (files: { name: string; sha256: string }[], source: 'watch' | 'drop' = 'watch') => {
  for (const { name, sha256 } of files) await addToInbox(name, sha256, source);
};
/** Looks until places to measure are there, as an open page does. */
const placed = async () => {
  for (;;) {
    const state = await look(id);
    if ((await loadSession(id)).session.patches.length > 0) return look(id);
    expect(state.placeless).toEqual([]);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
};
const takesNow = async () =>
  Object.fromEntries((await loadSession(id)).session.takes.map((take) => [take.id, take.files.length]));

test('from the first file to the end', async () => {
  const bare = plannedOf((await loadSession(id)).session)[0].id;
  const [early, ...first] = await shoot(bare);
  // What came before the sitting began isn't its own, nor is what is dropped on New session.
  await arrive([early]);
  await startLive(id, 0.05);
  expect(await liveSitting()).toMatchObject({ session: id, wanted: 0.05 });
  await arrive(first, 'drop');
  expect((await look(id)).view.ahead[0]).toMatchObject({ planned: bare, why: 'planned' });
  expect(await takesNow()).toEqual({});
  expect(await listInbox()).toHaveLength(2);

  await arrive(await shoot(bare));
  // Laid at once; places are looked for meanwhile.
  expect((await look(id)).view.ahead[0]).toMatchObject({ filter: 'nd4', why: 'planned' });
  expect(await takesNow()).toEqual({ [bare]: 2 });
  const begun = await placed();
  // Places are proposed on the first bare picture, and measuring is asked for.
  expect((await loadSession(id)).session.patches.some(({ role }) => role === 'neutral')).toBe(true);
  expect((await latestJob(id))?.state).toBe('queued');
  expect(begun.placeless).toEqual([]);
  expect(begun.view.ahead[0]).toMatchObject({ filter: 'nd4', why: 'planned' });

  // A burst belongs together, however odd its pictures look; spoiled beyond doubt it is left out whole, and comes up again.
  const [one, other] = await shoot('chart-nd4', 'clipped');
  await arrive([one]);
  await look(id);
  expect(await takesNow()).toEqual({ [bare]: 2, 'chart-nd4': 1 });
  await arrive([other]);
  const spoiled = await look(id);
  expect(await takesNow()).toEqual({ [bare]: 2 });
  expect(spoiled.leftOut).toMatchObject([{ take: 'chart-nd4', files: [one.name, other.name] }]);
  expect(spoiled.view.ahead[0]).toMatchObject({ planned: 'chart-nd4', why: 'planned' });
  const { session, files } = await loadSession(id);
  expect(logOf(session)).toMatchObject([{ kind: 'redo', take: 'chart-nd4', text: expect.stringMatching(/clipped.* Look which filter is on\./) as unknown }]); // prettier-ignore
  // Its files are still the session's.
  expect([files.get(one.name), files.get(other.name)]).toEqual([one.sha256, other.sha256]);

  // The run sheet says it in short.
  expect(await liveSheet(id)).toMatchObject({ on: true, title: '0 of 2 filters within ±0.05', alarms: [], waits: [], measuring: true, laid: [bare] }); // prettier-ignore

  await arrive(await shoot('chart-nd4'));
  expect((await look(id)).view.alarms).toEqual([]);
  expect(await takesNow()).toEqual({ [bare]: 2, 'chart-nd4': 2 });
  // A person may leave a take out as well; one that isn't there changes nothing.
  await shootAgain(id, 'chart-nd4', 'The wrong one.');
  await shootAgain(id, 'gone', 'Not there.');
  expect((await look(id)).leftOut.map(({ take }) => take)).toEqual(['chart-nd4', 'chart-nd4']);

  await endLive('another');
  expect(await liveSitting()).not.toBeNull();
  await endLive(id);
  expect(await liveSitting()).toBeNull();
  expect(await look(id)).toMatchObject({ on: false, other: null });
});

test('a phone sends pictures while its sitting goes on, and no others', async () => {
  await expect(takeLivePicture(id, 'x')).rejects.toThrow('isn’t looked at now: press Start on its page Live');
  expect(await liveSheet(id)).toEqual({ on: false, title: '', alarms: [], waits: [], measuring: false, laid: [] });
  await startLive(id, 0.05);
  const before = (await loadSession(id)).session.takes.length;
  // What the tus server leaves of an upload.
  const upload = randomUUID();
  await mkdir(uploadFolder(), { recursive: true });
  const note = { id: upload, size: 4, metadata: { filename: 'chart-bare-9.jpg' } };
  await writeFile(join(uploadFolder(), upload), 'none');
  await writeFile(join(uploadFolder(), `${upload}.json`), JSON.stringify(note));
  const { sha256 } = await takeLivePicture(id, upload);
  expect((await listInbox()).at(-1)).toMatchObject({ source: 'watch', path: 'chart-bare-9.jpg' });
  // Asked again, as by a phone whose line broke before the answer, it is the same.
  expect((await takeLivePicture(id, upload)).sha256).toBe(sha256);
  // What is no picture lies nowhere, and the sheet says so.
  const sheet = await liveSheet(id);
  expect(sheet.waits).toEqual([expect.stringMatching(/^chart-bare-9\.jpg waits: /)]);
  expect((await loadSession(id)).session.takes).toHaveLength(before);
  await clearInbox([sha256]);
  await endLive(id);
});

test('“Redo” tapped on the sheet leaves a laid take out while the sitting is live, and taking it back brings it again', async () => {
  const redo = (tapId: string) => ({ id: tapId, kind: 'redo' as const, take: 'chart-nd8', at: new Date(nowMs).toISOString() }); // prettier-ignore
  await arrive(await shoot('chart-nd8'));
  // While it isn't live a tap is only a tap.
  await addTaps(id, [redo('tap-early')], nowMs);
  await startLive(id, 0.05);
  await arrive(await shoot('chart-nd8'));
  expect((await look(id)).laid).toContain('chart-nd8');
  const late = await addTaps(id, [redo('tap-late')], nowMs + 300_000);
  expect(late.told).toMatch(/^“Redo” of chart-nd8 came late, and newer pictures may lie there: nothing was left out\./);
  expect((await look(id)).laid).toContain('chart-nd8');
  const { entries, told } = await addTaps(id, [redo('tap-soon')], nowMs + 1000);
  expect(told).toBeNull();
  expect(entries.map((one) => one.id)).toContain('tap-soon');
  expect((await look(id)).laid).not.toContain('chart-nd8');
  // Sent again by a phone that got no answer it changes nothing, also where new pictures lie there.
  await arrive(await shoot('chart-nd8'));
  expect((await look(id)).laid).toContain('chart-nd8');
  await addTaps(id, [redo('tap-soon')], nowMs + 2000);
  expect((await look(id)).laid).toContain('chart-nd8');
  await addTaps(id, [redo('tap-again')], nowMs + 2000);
  await addTaps(id, [{ id: 'tap-undone', kind: 'undo', of: 'tap-again', at: new Date(nowMs).toISOString() }], nowMs);
  expect((await look(id)).laid).toContain('chart-nd8');
  await endLive(id);
});

test('another sitting takes its place; one that is gone begins none', async () => {
  await startLive(id, 0.02);
  const { session } = await loadSession(id);
  const second = await createSession({ ...session, title: 'Second', takes: [] }, new Map());
  await startLive(second, 0.1);
  expect(await look(id)).toMatchObject({ on: false, other: second });
  // One that was put away isn't pointed to.
  await deleteSession(second);
  expect(await look(id)).toMatchObject({ on: false, other: null });
  await restoreSession(second);
  expect(await look(second)).toMatchObject({ on: true, wanted: 0.1 });
  await expect(startLive('gone', 0.1)).rejects.toThrow('There is no session gone');
});

test('what fits nowhere waits, with the reason', async () => {
  await startLive(id, 0.02);
  const file = await storeFile(join(__dirname, '..', 'ui', 'testing', 'render.tsx'), 'odd.jpg');
  await addToInbox('odd.jpg', file.sha256, 'watch');
  const { unlaid } = await look(id);
  expect(unlaid).toMatchObject([{ path: 'odd.jpg' }]);
  expect(unlaid[0].why).not.toBe('');
});

test('under light that fell, a filter isn’t taken for a mark of a variable one that comes later in the plan', async () => {
  const vnd = { id: 'vnd', name: 'VND 2–5', kind: 'variable-nd', nominal: { stopsRange: [2, 5] } };
  const kit = { ...KIT, filters: [KIT.filters[0], vnd] };
  const request = planRequestSchema.parse({ ...REQUEST, kit });
  const { session } = await loadSession(id);
  const before = id;
  id = await createSession(
    { ...session, kits: [kit], takes: [], patches: [], plan: { request, takes: makePlan(request).takes } },
    new Map(),
  );
  await startLive(id, 0.05);
  const [bare] = plannedOf((await loadSession(id)).session);
  // Both expect two stops at one setting, and the picture is three stops darker than bare: nearer to the variable filter's range.
  for (const [take, mistake] of [
    [bare.id, null],
    ['chart-nd4', 'light'],
  ] as const) {
    await arrive(await shoot(take, mistake));
    await look(id);
  }
  expect(await takesNow()).toEqual({ [bare.id]: 2, 'chart-nd4': 2 });
  await arrive(await shoot('chart-vnd-m2'));
  expect((await look(id)).view.ahead.find(({ mark }) => mark !== undefined)).toMatchObject({ mark: 3 });
  expect(await takesNow()).toMatchObject({ 'chart-vnd-m2': 2 });
  await endLive(id);
  id = before;
});
