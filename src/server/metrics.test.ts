/** The numbers of the program: counted by the database, told as Prometheus reads them. */
import { smallBench } from '@/core/testing/worked';
import { claimJob, finishJob, requestCancel, requestMeasure } from '@/jobs/queue';
import { describeSession } from '@/simulator/session';
import { addToInbox, closeStore, createSession, deleteSession, libraryCounts } from '@/store';
import { store } from '@/store/database';
import { freshDatabase } from '@/store/testing';
import { metricsText } from './metrics';

beforeAll(() => freshDatabase('glade_metrics'));
afterAll(closeStore);

/** Samples of the text format 0.0.4: a name, labels, a number; what begins with a sharp is told to people. */
const samplesOf = (text: string): Map<string, number> =>
  new Map(
    text.split('\n').flatMap((line): [string, number][] => {
      if (line === '' || line.startsWith('#')) return [];
      const [, name, value] = /^([a-z_][a-z\d_]*(?:\{[^}]*\})?) (\S+)$/i.exec(line)!;
      return [[name, Number(value)]];
    }),
  );

test('an empty library: nothing is counted, no time is made up', async () => {
  expect(await libraryCounts()).toMatchObject({
    sessions: 0,
    files: 0,
    bytes: 0,
    arrived: 0,
    jobs: { queued: 0, running: 0, done: 0, failed: 0, cancelled: 0 },
    oldestQueuedSeconds: 0,
    meanMeasureSeconds: null,
  });
  expect(samplesOf((await metricsText()).text).get('glade_measure_seconds_mean')).toBeNaN();
});

test('sessions, media, files that arrived and measurements by state', async () => {
  const document = describeSession(smallBench(), { id: 'kit' });
  const [waiting, running, failed, stopped, away] = await Promise.all([1, 2, 3, 4, 5].map(() => createSession(document, new Map()))); // prettier-ignore
  await deleteSession(away);
  const { File, Job } = store().models;
  const sha256 = 'a'.repeat(64);
  await File.create({ sha256, bytes: 5_000_000_000, facts: { readable: false, reason: 'x' } });
  await addToInbox('a.png', sha256, 'drop');
  await requestMeasure(failed);
  const job = (await claimJob('w'))!;
  await finishJob(job, 'w', { state: 'failed', error: 'The disk is full.' });
  await requestMeasure(running);
  await claimJob('w');
  await requestCancel((await requestMeasure(stopped)).id);
  const { id } = await requestMeasure(waiting);
  // It has waited for a minute.
  await store().sequelize.query('UPDATE jobs SET created_at = created_at - INTERVAL 60 SECOND WHERE id = :id', { replacements: { id } }); // prettier-ignore

  const figures = await libraryCounts();
  expect(figures).toMatchObject({
    sessions: 4,
    files: 1,
    bytes: 5_000_000_000,
    arrived: 1,
    jobs: { queued: 1, running: 1, done: 0, failed: 1, cancelled: 1 },
    meanMeasureSeconds: null,
  });
  expect(figures.oldestQueuedSeconds).toBeGreaterThanOrEqual(60);
  expect(figures.oldestQueuedSeconds).toBeLessThan(600);
  expect(figures.databaseSeconds).toBeGreaterThan(0);

  const { text, type } = await metricsText();
  expect(type).toMatch(/^text\/plain; version=0\.0\.4/);
  const samples = samplesOf(text);
  expect(samples.get('glade_sessions')).toBe(4);
  expect(samples.get('glade_media_bytes')).toBe(5e9);
  expect(samples.get('glade_jobs{state="failed"}')).toBe(1);
  expect(samples.get('glade_jobs{state="done"}')).toBe(0);
  expect(samples.get('process_resident_memory_bytes')).toBeGreaterThan(1e6);
  // Each name says what it is.
  for (const name of ['glade_sessions', 'glade_jobs', 'glade_database_seconds'])
    expect(text).toMatch(new RegExp(`# HELP ${name} .+\n# TYPE ${name} gauge`));

  // Ended within the hour: what it took counts. The failed one took no time that is worth telling.
  await Job.update({ state: 'done' }, { where: { id } });
  const mean = (await libraryCounts()).meanMeasureSeconds!;
  expect(mean).toBeGreaterThanOrEqual(60);
  expect(mean).toBeLessThan(600);
});
