/**
 * Server, worker and browser killed with -9 at random moments of uploading and measuring: nothing that was acknowledged is lost, and no
 * half file is seen. Six moments by default; GLADE_KILLS=50 for the long run.
 */
import { chromium, expect, test } from '@playwright/test';
import { createHash } from 'node:crypto';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Upload } from 'tus-js-client';
import { latestJob, requestMeasure } from '@/jobs/queue';
import { seededRandom } from '@/simulator/random';
import { createSession, latestReadings, storeFile } from '@/store';
import { OwnServer } from './ownServer';
import { writeBench } from './pictures';
import { whole } from './shared';

const MOMENTS = Number(process.env.GLADE_KILLS ?? 6);
const random = seededRandom('kills');
let own: OwnServer;

test.skip(!process.env.GLADE_VAR, 'needs the database of the application');
test.describe.configure({ mode: 'serial' });

test.beforeAll(async ({}, info) => {
  own = await OwnServer.make(info.outputPath('var'), 'glade_kills_test');
});
test.afterAll(() => own.end());

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** The picture with a different last comment: other content, another hash, still a picture. */
async function variants(
  count: number,
  info: { outputPath: (...parts: string[]) => string },
): Promise<{ name: string; content: Buffer }[]> {
  const [sound] = await writeBench(info.outputPath('bench'));
  const content = await readFile(sound);
  return Array.from({ length: count }, (_, i) => ({
    name: `bare ${i}.png`,
    content: Buffer.concat([content, Buffer.from(`variant ${i} ${'.'.repeat(600_000)}`)]),
  }));
}

async function upload({ name, content }: { name: string; content: Buffer }): Promise<string> {
  const url = await new Promise<string>((resolve, reject) => {
    const sending = new Upload(content, {
      endpoint: `${own.url}/api/uploads`,
      chunkSize: 200_000,
      retryDelays: Array.from({ length: 600 }, () => 250),
      metadata: { filename: name },
      onSuccess: () => resolve(sending.url!),
      onError: reject,
    });
    sending.start();
  });
  for (let attempt = 0; ; attempt++) {
    try {
      const answer = await fetch(`${own.url}/api/files`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ upload: url.replace(/^.*\//, ''), waits: true }),
      });
      const { sha256, error } = (await answer.json()) as { sha256?: string; error?: string };
      if (!sha256) throw new Error(error);
      return sha256;
    } catch (error) {
      if (attempt > 80) throw error;
      await pause(250);
    }
  }
}

/** Every file that is seen under a hash is whole. */
async function checkMedia(): Promise<Set<string>> {
  const seen = new Set<string>();
  const media = join(own.folder, 'media');
  for (const part of await readdir(media))
    if (/^[0-9a-f]{2}$/.test(part))
      for (const name of await readdir(join(media, part))) {
        const hash = createHash('sha256')
          .update(await readFile(join(media, part, name)))
          .digest('hex');
        expect(hash).toBe(name);
        seen.add(name);
      }
  return seen;
}

async function waiting(): Promise<string[]> {
  const answer = await fetch(`${own.url}/api/inbox`);
  const { files } = (await answer.json()) as { files: { stored: { sha256: string } }[] };
  return files.map((one) => one.stored.sha256);
}

test('the server is killed while files arrive', async ({}, info) => {
  test.setTimeout(900_000);
  const kills = Math.round(0.6 * MOMENTS);
  let server = await own.startWeb();
  const acknowledged: string[] = [];
  let killed = 0;
  const killer = (async () => {
    while (killed < kills) {
      await pause(80 + 700 * random.uniform());
      server.kill('SIGKILL');
      killed++;
      server = await own.startWeb();
    }
  })();
  let round = 0;
  while (killed < kills) {
    const files = (await variants(3, info)).map((file) => ({
      ...file,
      name: `round ${round} ${file.name}`,
      content: Buffer.concat([file.content, Buffer.from(String(round))]),
    }));
    acknowledged.push(...(await Promise.all(files.map(upload))));
    round++;
  }
  await killer;
  const seen = await checkMedia();
  expect(acknowledged.filter((hash) => !seen.has(hash))).toEqual([]);
  const listed = await waiting();
  expect(acknowledged.filter((hash) => !listed.includes(hash))).toEqual([]);
  expect(new Set(listed).size).toBe(listed.length);
  server.kill('SIGKILL');
});

/** All processes of the browser with this profile, as /proc lists them. */
async function killBrowser(profile: string): Promise<void> {
  for (const pid of await readdir('/proc')) {
    if (!/^\d+$/.test(pid)) continue;
    const words = await readFile(`/proc/${pid}/cmdline`, 'utf8').catch(() => '');
    if (!words.includes(`user-data-dir=${profile}`)) continue;
    try {
      process.kill(Number(pid), 'SIGKILL');
    } catch {
      // It went with its parent.
    }
  }
}

test('the browser is killed while it sends; dropped again, all arrive once', async ({}, info) => {
  test.setTimeout(900_000);
  const server = await own.startWeb();
  const files = await variants(4, info);
  const paths = await Promise.all(
    files.map(async ({ name, content }) => {
      const path = info.outputPath(name);
      // Each several pieces long.
      await writeFile(path, Buffer.concat([content, Buffer.alloc(30_000_000, name)]));
      return path;
    }),
  );
  const profile = info.outputPath('profile');
  const open = async () => {
    const context = await chromium.launchPersistentContext(profile, {
      executablePath: process.env.GLADE_CHROMIUM ?? '/usr/bin/chromium-headless-shell',
      args: ['--no-sandbox'],
    });
    const page = await context.newPage();
    whole(page);
    await page.goto(`${own.url}/sessions/new`);
    await page.getByLabel('Files', { exact: true }).setInputFiles(paths);
    return { context, page };
  };
  for (let i = 0; i < Math.round(0.2 * MOMENTS); i++) {
    await open();
    await pause(60 + 600 * random.uniform());
    await killBrowser(profile);
    await pause(300);
  }
  const { context, page } = await open();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Match 4 pictures to filters', {
    timeout: 400_000,
  });
  await context.close();
  const seen = await checkMedia();
  const hashes = await Promise.all(
    paths.map(async (path) =>
      createHash('sha256')
        .update(await readFile(path))
        .digest('hex'),
    ),
  );
  expect(hashes.filter((hash) => !seen.has(hash))).toEqual([]);
  const listed = await waiting();
  expect(hashes.map((hash) => listed.filter((one) => one === hash).length)).toEqual([1, 1, 1, 1]);
  server.kill('SIGKILL');
});

test('the worker is killed while it measures; another one finishes', async ({}, info) => {
  test.setTimeout(900_000);
  const paths = await writeBench(info.outputPath('bench'));
  const document = JSON.parse(await readFile(join(info.outputPath('bench'), 'session.glade.json'), 'utf8')) as unknown;
  const names = paths.map((path) => path.replace(/^.*\//, ''));
  const stored = await Promise.all(paths.map((path, i) => storeFile(path, names[i])));
  const files = new Map(names.map((name, i) => [name, stored[i].sha256]));
  for (let i = 0; i < Math.round(0.2 * MOMENTS); i++) {
    const id = await createSession(document, files);
    await requestMeasure(id);
    const worker = own.startWorker();
    await pause(400 + 1200 * random.uniform());
    worker.kill('SIGKILL');
    // Half a reading is none: what is there is whole.
    const early = await latestReadings(id);
    if (early) expect(early.readings.filters).toHaveLength(2);
    const next = own.startWorker();
    await expect.poll(async () => (await latestJob(id))?.state, { timeout: 400_000 }).toBe('done');
    expect((await latestReadings(id))?.readings.filters).toHaveLength(2);
    next.kill('SIGKILL');
  }
});
