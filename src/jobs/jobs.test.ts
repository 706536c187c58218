/** Store, queue and worker against a real database and real processes. */
import { inRequest } from '@/log/log';
import { spawn, type ChildProcess } from 'node:child_process';
import { access, mkdtemp, readdir, rm, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { planTakes } from '@/simulator/plan';
import { writeSession } from '@/simulator/files';
import { randomPlan } from '@/simulator/randomBench';
import { describeSession } from '@/simulator/session';
import type { Readings } from '@/core/session/readings';
import {
  createSession,
  deleteSession,
  editSession,
  inputHash,
  latestReadings,
  listSessions,
  loadSession,
  MediaError,
  mediaPath,
  migrate,
  NoSuchSession,
  purgeDeleted,
  purgeFolder,
  readConfig,
  restoreSession,
  SessionError,
  storeFile,
  storeStream,
  touch,
  writeSetting,
} from '@/store';
import { closeStore, store } from '@/store/database';
import { freshDatabase } from '@/store/testing';
import {
  claimJob,
  finishJob,
  giveBack,
  heartbeat,
  latestJob,
  requestCancel,
  requestMeasure,
  waitingJobs,
} from './queue';

import { runWorker } from './worker';

const DATABASE = 'glade_jobs_test';
const plan = {
  ...randomPlan('jobs', { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 4 }),
  width: 600,
  height: 400,
};
const document = { ...describeSession(plan, { id: 'kit', name: 'Kit', extra: [1, 2] }), plan: { kept: true } };
let folder: string;
let files: Map<string, string>;

beforeAll(async () => {
  await freshDatabase(DATABASE);
  folder = await mkdtemp(join(tmpdir(), 'glade-jobs-'));
  files = new Map();
  for (const name of await writeSession(plan, { id: 'kit' }, folder))
    files.set(name, (await storeFile(join(folder, name), name)).sha256);
}, 600_000);

afterAll(async () => {
  // A test that fails half way must not leave its workers behind.
  for (const child of children) child.kill('SIGKILL');
  await closeStore();
  await rm(folder, { recursive: true, force: true });
});

const children: ChildProcess[] = [];
function startWorker(): ChildProcess {
  const child = spawn(process.execPath, ['dist/worker.mjs'], {
    env: { ...process.env, GLADE_DATABASE: DATABASE },
    stdio: 'inherit',
  });
  children.push(child);
  return child;
}

async function until(what: () => Promise<boolean>, seconds: number): Promise<void> {
  const end = Date.now() + 1000 * seconds;
  while (!(await what())) {
    if (Date.now() > end) throw new Error(`it did not happen within ${seconds} s`);
    await new Promise((resolve) => setTimeout(resolve, 60));
  }
}

const gone = (child: ChildProcess) =>
  new Promise<number | null>((resolve) =>
    child.exitCode !== null || child.signalCode ? resolve(child.exitCode) : child.on('exit', resolve),
  );

describe('store', () => {
  test('a session comes back as it was given, unknown keys, order and all', async () => {
    const id = await createSession(document, files);
    const loaded = await loadSession(id);
    expect(JSON.stringify(loaded.document)).toBe(JSON.stringify(document));
    expect(loaded.files).toEqual(files);
  });

  test('a session of the short form comes back in its short form', async () => {
    const {
      kits,
      patches: _patches,
      rig: _rig,
      ...rest
    } = document as unknown as Record<string, unknown> & { kits: { filters: unknown[] }[] };
    const short = { ...rest, kit: { filters: kits[0].filters } };
    const id = await createSession(short, files);
    expect(JSON.stringify((await loadSession(id)).document)).toBe(JSON.stringify(short));
  });

  test('what is no session is refused with its problems', async () => {
    await expect(createSession({ ...document, version: 3 }, files)).rejects.toThrow(SessionError);
    await expect(loadSession('00000000-0000-0000-0000-000000000000')).rejects.toThrow(NoSuchSession);
  });

  test('an edit that makes it invalid changes nothing', async () => {
    const id = await createSession(document, files);
    await expect(editSession(id, (now) => ({ ...now, scenes: [] }))).rejects.toThrow(SessionError);
    expect(JSON.stringify((await loadSession(id)).document)).toBe(JSON.stringify(document));
  });

  test('two edits at once are both kept', async () => {
    const id = await createSession(document, files);
    await Promise.all(
      [1, 2, 3, 4].map((n) => editSession(id, (now) => ({ ...now, title: 'edited', [`edit${n}`]: n }))),
    );
    expect((await loadSession(id)).document).toMatchObject({ edit1: 1, edit2: 2, edit3: 3, edit4: 4 });
  });

  test('readings depend on files and patches, not on plan, log and blind votes', async () => {
    const loaded = await loadSession(await createSession(document, files));
    const before = inputHash(loaded);
    Object.assign(loaded.session, { plan: { log: [] }, blindRounds: [{}] });
    expect(inputHash(loaded)).toBe(before);
    loaded.session.patches[0].rect.x += 0.01;
    expect(inputHash(loaded)).not.toBe(before);
  });

  test('what was put away a month ago goes with its media, what another session names stays', async () => {
    const only = await storeStream(Readable.from([Buffer.from('only of the one that goes')]), 'only.txt');
    const [gone, stays] = await Promise.all([
      createSession(document, new Map([...files, ['only.txt', only.sha256]])),
      createSession(document, files),
    ]);
    await deleteSession(gone);
    await purgeDeleted();
    await restoreSession(gone);
    expect((await loadSession(gone)).files.get('only.txt')).toBe(only.sha256);
    await deleteSession(gone);
    await purgeDeleted(Date.now() + 31 * 86_400_000);
    await restoreSession(gone);
    await expect(loadSession(gone)).rejects.toThrow(NoSuchSession);
    await expect(access(mediaPath(only.sha256))).rejects.toThrow('ENOENT');
    for (const sha256 of (await loadSession(stays)).files.values()) await access(mediaPath(sha256));
  });

  test('a folder is purged by least use', async () => {
    const views = await mkdtemp(join(folder, 'views-'));
    for (const [i, name] of ['old', 'used', 'new'].entries()) {
      await writeFile(join(views, name), Buffer.alloc(1000));
      await utimes(join(views, name), i, i);
    }
    await touch(join(views, 'old'));
    await purgeFolder(views, 2000);
    expect((await readdir(views)).sort()).toEqual(['new', 'old']);
  });

  test('put away and brought back', async () => {
    const id = await createSession(document, files);
    await deleteSession(id);
    expect((await listSessions()).some((session) => session.id === id)).toBe(false);
    await expect(loadSession(id)).rejects.toThrow(NoSuchSession);
    await restoreSession(id);
    expect((await loadSession(id)).id).toBe(id);
  });

  test('a file is stored once, under its hash; an incomplete one not at all', async () => {
    const first = await storeStream(Readable.from([Buffer.from('abc')]), 'abc.txt', 3);
    // SHA-256 of "abc" (FIPS 180-2, appendix B.1).
    expect(first.sha256).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
    expect(first.facts).toEqual({
      readable: false,
      reason: 'it is no picture of a kind that is read (TIFF, PNG, JPEG, WebP, HEIC, AVIF, JPEG XL).',
    });
    expect((await storeStream(Readable.from([Buffer.from('abc')]), 'other.txt')).sha256).toBe(first.sha256);
    await expect(storeStream(Readable.from([Buffer.from('ab')]), 'abc.txt', 3)).rejects.toThrow('arrived incomplete');
    expect(() => mediaPath('../../etc/passwd')).toThrow(MediaError);
  });

  test('migrations run once', async () => expect(await migrate()).toEqual([]));
});

describe('queue', () => {
  const readings = { filters: [], faults: [] } as unknown as Readings;
  const done = {
    state: 'done' as const,
    readings,
    inputHash: 'x'.repeat(64),
    progress: { done: 1, total: 1, take: null },
  };

  test('a job is claimed by one worker only', async () => {
    const id = await createSession(document, files);
    const job = await requestMeasure(id);
    expect((await requestMeasure(id)).id).toBe(job.id);
    const claims = await Promise.all(['a', 'b', 'c'].map((worker) => claimJob(worker)));
    expect(claims.filter(Boolean)).toHaveLength(1);
    const owner = ['a', 'b', 'c'][claims.findIndex(Boolean)];
    expect(await heartbeat(job.id, 'stranger', done.progress)).toBe('lost');
    expect(await heartbeat(job.id, owner, done.progress)).toBe('go on');
    expect(await finishJob(job, 'stranger', done)).toBe(false);
    expect(await finishJob(job, owner, done)).toBe(true);
    expect(await finishJob(job, owner, done)).toBe(false);
    expect(await store().models.Readings.count({ where: { sessionId: id } })).toBe(1);
  });

  test('an abandoned job is taken over, the late first worker writes nothing', async () => {
    const id = await createSession(document, files);
    const job = await requestMeasure(id);
    await claimJob('slow');
    await store().sequelize.query(
      'UPDATE jobs SET heartbeat_at = UTC_TIMESTAMP(3) - INTERVAL 1 MINUTE WHERE id = :id',
      { replacements: { id: job.id } },
    );
    expect((await claimJob('fresh'))?.id).toBe(job.id);
    expect(await finishJob(job, 'slow', done)).toBe(false);
    expect(await finishJob(job, 'fresh', done)).toBe(true);
  });

  test('a job that is given back waits as if it hadn’t been begun; only whoever has it gives it back', async () => {
    const id = await createSession(document, files);
    const { id: job } = await requestMeasure(id);
    for (let round = 0; round < 5; round++) {
      expect((await claimJob('one'))?.id).toBe(job);
      await giveBack(job, 'another');
      expect(await claimJob('another')).toBeNull();
      await giveBack(job, 'one');
      expect((await latestJob(id))?.state).toBe('queued');
    }
    await requestCancel(job);
  });

  test('a live sitting goes before all others; what is measured makes way, and goes on afterwards', async () => {
    const [long, live] = [await createSession(document, files), await createSession(document, files)];
    const { id: longJob } = await requestMeasure(long);
    expect((await claimJob('one'))?.id).toBe(longJob);
    const { id: liveJob } = await requestMeasure(live);
    const { id: other } = await requestMeasure(await createSession(document, files));
    const { progress } = done;
    // Nobody waits with the camera in hand: one after the other.
    expect(await heartbeat(longJob, 'one', progress)).toBe('go on');
    await writeSetting('live', { session: live, wanted: 0.02, after: 0, since: '' });
    expect(await heartbeat(longJob, 'one', progress)).toBe('make way');
    await giveBack(longJob, 'one');
    expect((await claimJob('one'))?.id).toBe(liveJob);
    // Its own job makes way for nothing, and others of it only while one waits.
    expect(await heartbeat(liveJob, 'one', progress)).toBe('go on');
    expect((await claimJob('two'))?.id).toBe(longJob);
    expect(await heartbeat(longJob, 'two', progress)).toBe('go on');
    expect((await claimJob('three'))?.id).toBe(other);
    await writeSetting('live', null);
    for (const [job, worker] of [[longJob, 'two'], [liveJob, 'one'], [other, 'three']] as const) await finishJob({ id: job, sessionId: long }, worker, { state: 'cancelled' }); // prettier-ignore
  });

  test('a worker leaves a long measurement for a live one, and ends both', async () => {
    const [long, live] = [await createSession(document, files), await createSession(document, files)];
    const stop = new AbortController();
    const lines: Record<string, unknown>[] = [];
    await requestMeasure(long);
    const working = runWorker(stop.signal, (_, about) => lines.push(about ?? {}));
    await until(async () => (await latestJob(long))?.state === 'running', 30);
    await writeSetting('live', { session: live, wanted: 0.02, after: 0, since: '' });
    // The worker's lines lead back to the request that asked.
    const request = '3f0d3d0e-0000-4000-8000-000000000001';
    await inRequest(request, () => requestMeasure(live));
    expect((await latestJob(live))?.request).toBe(request);
    await until(async () => (await latestJob(live))?.state === 'done', 120);
    await until(async () => (await latestJob(long))?.state === 'done', 120);
    stop.abort();
    await working;
    await writeSetting('live', null);
    const [first, second] = await Promise.all([latestReadings(live), latestReadings(long)]);
    expect(first!.readings.filters).toEqual(second!.readings.filters);
    expect(lines.map(({ session, request: by }) => [session, by])).toEqual([[live, request], [long, undefined]]); // prettier-ignore
  });

  test('a job that keeps killing its worker is given up', async () => {
    const id = await createSession(document, files);
    const job = await requestMeasure(id);
    for (let i = 0; i < 4; i++) {
      await claimJob(`worker ${i}`);
      await store().sequelize.query(
        'UPDATE jobs SET heartbeat_at = UTC_TIMESTAMP(3) - INTERVAL 1 MINUTE WHERE id = :id',
        { replacements: { id: job.id } },
      );
    }
    expect(await latestJob(id)).toMatchObject({ state: 'failed', error: expect.stringContaining('died 3 times') });
  });

  test('cancelling a waiting job ends it at once; a new one can be asked for', async () => {
    const id = await createSession(document, files);
    const job = await requestMeasure(id);
    await requestCancel(job.id);
    expect((await latestJob(id))?.state).toBe('cancelled');
    expect((await requestMeasure(id)).id).not.toBe(job.id);
    await requestCancel(job.id + 1);
  });

  test('what waits, runs, or failed last is listed, of sessions that are there', async () => {
    const of = async (id: string) =>
      (await waitingJobs(50)).filter(({ sessionId }) => sessionId === id).map(({ state, progress }) => [state, progress.done]); // prettier-ignore
    const id = await createSession({ ...document, title: 'Waiting' }, files);
    expect(await of(id)).toEqual([]);
    const job = await requestMeasure(id);
    expect(await of(id)).toEqual([['queued', 0]]);
    expect((await waitingJobs(50)).find(({ sessionId }) => sessionId === id)?.title).toBe('Waiting');
    await claimJob('w');
    await heartbeat(job.id, 'w', { done: 3, total: 9, take: null });
    expect(await of(id)).toEqual([['running', 3]]);
    await finishJob(job, 'w', { state: 'failed', error: 'The disk is full.' });
    expect(await of(id)).toEqual([['failed', 3]]);
    await deleteSession(id);
    expect(await of(id)).toEqual([]);
    await restoreSession(id);
    // Asked for again, the old failure is past.
    const again = await requestMeasure(id);
    expect(await of(id)).toEqual([['queued', 0]]);
    await claimJob('w');
    await finishJob(again, 'w', done);
    expect(await of(id)).toEqual([]);
  });
});

describe('worker processes', () => {
  test('measure, stop when asked to, and survive kill -9 with no reading lost or doubled', async () => {
    const id = await createSession(document, files);
    const first = startWorker();
    await requestMeasure(id);
    await until(async () => ((await latestJob(id))?.progress.done ?? 0) > 0, 30);
    first.kill('SIGKILL');
    await gone(first);
    expect((await latestJob(id))?.state).toBe('running');
    const second = startWorker();
    const killed = Date.now();
    await until(async () => (await latestJob(id))?.state === 'done', 45);
    expect(Date.now() - killed).toBeLessThan(40_000);
    expect(await store().models.Readings.count({ where: { sessionId: id } })).toBe(1);
    expect((await latestReadings(id))!.readings.filters).toHaveLength(plan.filters.length);

    // What was taken from these pictures before would make it too fast to be stopped.
    await rm(join(readConfig().varFolder, 'memory'), { recursive: true, force: true });
    const cancelled = await createSession(document, files);
    await requestMeasure(cancelled);
    await until(async () => (await latestJob(cancelled))?.state === 'running', 20);
    await requestCancel((await latestJob(cancelled))!.id);
    await until(async () => ['cancelled', 'done'].includes((await latestJob(cancelled))!.state), 20);
    expect((await latestJob(cancelled))?.state).toBe('cancelled');
    expect(await latestReadings(cancelled)).toBeNull();

    second.kill('SIGTERM');
    expect(await gone(second)).toBe(0);
  }, 600_000);

  test('the plan has the takes that the pictures were written for', () =>
    expect(files.size).toBe(planTakes(plan).length * plan.repeats));
});
