/**
 * What `./glade up` starts, and `up` itself, killed with -9 at random moments while files are sent, a session is edited, sessions are
 * measured and backups made: everything that was acknowledged must be there afterwards, nothing half. With `--disk` nothing is killed, but the
 * disk (a small one in memory, which takes root to mount) is filled to its last bytes at random moments, and freed some seconds later.
 *
 * `npm run kills -- [TIMES] [SEED] [--disk]` on a data folder of its own, built before by `./glade up` or `./glade test`
 */
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtemp, readdir, readFile, rm, statfs } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { Upload } from 'tus-js-client';
import { latestJob, requestMeasure } from '../src/jobs/queue';
import { writeSession } from '../src/simulator/files';
import { randomPlan } from '../src/simulator/randomBench';
import { seededRandom } from '../src/simulator/random';
import { closeStore, createSession, editSession, latestReadings, loadSession, storeFile } from '../src/store';

const DISK = process.argv.includes('--disk');
const [times, seed] = process.argv.slice(2).filter((one) => !one.startsWith('--'));
const TIMES = Number(times ?? 20);
const random = seededRandom(`kills/${seed ?? Date.now()}`);
/** Database, files and backups of all that time: what is refused must be refused for what was filled, not for what was kept. */
const DISK_SIZE = `${1200 + 40 * TIMES}m`;
/** What is left at most when it is filled. */
const LEFT_BYTES = 3_000_000;
const PORT = 18_900;
const TARGETS = ['web.mjs', 'worker.mjs', 'mariadbd', 'up'] as const;
/** So long something may stay away after it was killed, seconds. */
const BACK_SECONDS = 60;

let place = '';
let up: ChildProcess;
const healthy = () =>
  fetch(`http://localhost:${PORT}/api/health`, { signal: AbortSignal.timeout(5000) }).then(
    (answer) => answer.ok,
    () => false,
  );

async function back(): Promise<number> {
  const start = Date.now();
  while (!(await healthy())) {
    if (Date.now() - start > 1000 * BACK_SECONDS) throw new Error(`Not back after ${BACK_SECONDS} s.`);
    await pause(100);
  }
  return (Date.now() - start) / 1000;
}

function startUp(): void {
  up = spawn('bash', ['glade', 'up', '--port', String(PORT)], { stdio: ['ignore', 'ignore', 'inherit'] });
}

/** A process that `up` started, by a word of its command line. */
async function childOf(parent: number, word: string): Promise<number | null> {
  for (const pid of await readdir('/proc')) {
    if (!/^\d+$/.test(pid)) continue;
    const [stat, words] = await Promise.all(
      ['stat', 'cmdline'].map((name) => readFile(`/proc/${pid}/${name}`, 'utf8').catch(() => '')),
    );
    const above = Number(/\) \w (\d+)/.exec(stat)?.[1]);
    if (words.includes(word) && (above === parent || (word === 'mariadbd' && words.includes(place))))
      return Number(pid);
  }
  return null;
}

let over = false;

/** What wasn't acknowledged when all was over: nobody's loss. */
class Unacknowledged extends Error {}

/** Tries again until it is acknowledged: what a person or a program would do. */
async function insisting<T>(work: () => Promise<T>): Promise<T> {
  for (let tries = 0; ; tries++) {
    try {
      return await work();
    } catch (error) {
      if (over) throw new Unacknowledged();
      if (tries > 200) throw error;
      await pause(300);
    }
  }
}

const done = { uploads: [] as string[], edits: 0, measured: [] as string[], backups: [] as string[] };

async function sendFiles(): Promise<void> {
  for (let i = 0; !over; i++) {
    const content = Buffer.from(`file ${i} `.repeat(40_000 + Math.round(80_000 * random.uniform())));
    const upload = await insisting(
      () =>
        new Promise<string>((resolve, reject) => {
          const endpoint = `http://localhost:${PORT}/api/uploads`;
          const sending = new Upload(content, { endpoint, chunkSize: 200_000, retryDelays: Array.from({ length: 100 }, () => 300), metadata: { filename: `${i}.bin` }, onSuccess: () => resolve(sending.url!), onError: reject }); // prettier-ignore
          sending.start();
        }),
    );
    const stored = await insisting(async () => {
      const body = JSON.stringify({ upload: upload.replace(/^.*\//, ''), waits: true });
      const headers = { 'content-type': 'application/json' };
      const answer = await fetch(`http://localhost:${PORT}/api/files`, { method: 'POST', headers, body });
      const { sha256, error } = (await answer.json()) as { sha256?: string; error?: string };
      if (!sha256) throw new Error(error);
      return sha256;
    });
    if (stored !== createHash('sha256').update(content).digest('hex')) throw new Error('Another file was stored.');
    done.uploads.push(stored);
  }
}

async function edit(session: string): Promise<void> {
  for (let i = 1; !over; i++) {
    await insisting(async () => {
      await editSession(session, (document) => ({ ...(document as object), title: `Edit ${i}` }) as typeof document);
    });
    done.edits = i;
    await pause(20);
  }
}

async function measure(document: unknown, files: Map<string, string>): Promise<void> {
  while (!over) {
    const id = await insisting(() => createSession(document, files));
    await insisting(() => requestMeasure(id));
    done.measured.push(id);
    await pause(4000 * random.uniform());
  }
}

async function backup(): Promise<void> {
  for (let i = 0; !over; i++) {
    const file = join(place, `kept-${i}.tar`);
    const code = await new Promise((resolve) => spawn('bash', ['glade', 'backup', file], { stdio: 'ignore' }).on('close', resolve)); // prettier-ignore
    if (code === 0) done.backups.push(file);
    await pause(3000);
  }
}

async function kill(): Promise<void> {
  const waits: Record<string, number[]> = {};
  for (let i = 0; i < TIMES; i++) {
    await pause(300 + 3000 * random.uniform());
    const target = TARGETS[Math.floor(random.uniform() * TARGETS.length)];
    if (target === 'up') {
      up.kill('SIGKILL');
      await pause(200);
      startUp();
    } else {
      const pid = await childOf(up.pid!, target);
      if (pid === null) continue;
      process.kill(pid, 'SIGKILL');
    }
    await pause(100);
    (waits[target] ??= []).push(await back());
  }
  for (const [target, list] of Object.entries(waits))
    console.log(`${target}: ${list.length} times killed, back after ${Math.max(...list).toFixed(1)} s at most`);
}

/** Fills the disk again and again; reading goes on meanwhile. */
async function fill(): Promise<void> {
  const filler = join(place, 'filler');
  let [asked, unread] = [0, 0];
  for (let i = 0; i < TIMES; i++) {
    await pause(500 + 3000 * random.uniform());
    const { bavail, bsize } = await statfs(place);
    const bytes = Math.max(1, Math.floor(bavail * bsize - LEFT_BYTES * random.uniform()));
    spawnSync('fallocate', ['-l', String(bytes), filler]);
    const end = Date.now() + 1000 + 4000 * random.uniform();
    while (Date.now() < end) {
      const answer = await fetch(`http://localhost:${PORT}/api/inbox`, { signal: AbortSignal.timeout(20_000) }).catch(
        () => null,
      );
      asked++;
      if (!answer?.ok) unread++;
      await pause(300);
    }
    await rm(filler);
    await back();
  }
  console.log(`Filled ${TIMES} times; of ${asked} lists that were asked for meanwhile ${unread} didn’t come.`);
}

async function look(session: string): Promise<string[]> {
  const wrong: string[] = [];
  await back();
  const { files } = (await (await fetch(`http://localhost:${PORT}/api/inbox`)).json()) as { files: { stored: { sha256: string } }[] }; // prettier-ignore
  const listed = files.map((one) => one.stored.sha256);
  for (const hash of done.uploads) {
    const times = listed.filter((one) => one === hash).length;
    if (times !== 1) wrong.push(`a file that was acknowledged is listed ${times} times`);
  }
  const title = String((await loadSession(session)).session.title);
  if (title !== `Edit ${done.edits}` && title !== `Edit ${done.edits + 1}`)
    wrong.push(`the last edit is “${title}”, acknowledged was ${done.edits}`);
  for (const id of done.measured) {
    const end = Date.now() + 600_000;
    let job = await latestJob(id);
    while (job?.state !== 'done' && job?.state !== 'failed' && Date.now() < end) {
      await pause(500);
      job = await latestJob(id);
    }
    const filters = (await latestReadings(id))?.readings.filters.length;
    if (job?.state !== 'done' || filters !== 2)
      wrong.push(`a session is ${job?.state} (${job?.error}), with ${filters} filters measured`);
  }
  for (const file of done.backups)
    if (spawnSync('tar', ['-tf', file]).status !== 0) wrong.push('a backup that was told as made is cut short');
  const check = spawnSync('bash', ['glade', 'check'], { encoding: 'utf8' });
  if (check.status !== 0) wrong.push(check.stdout + check.stderr);
  return wrong;
}

async function main(): Promise<void> {
  place = await mkdtemp(join(tmpdir(), 'glade-kills-'));
  if (DISK && spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK_SIZE}`, 'glade', place]).status !== 0)
    throw new Error('A small disk in memory could not be mounted: that takes root.');
  Object.assign(process.env, { GLADE_VAR: place });
  // Without the demo.
  spawnSync('touch', [join(place, 'demo-made')]);
  startUp();
  // It may have to be built.
  for (let i = 0; i < 6000 && !(await healthy()); i++) await pause(100);
  try {
    const folder = join(place, 'bench');
    const plan = { ...randomPlan('kills', { protocol: 'matched', bitDepth: 8, drift: 0, bend: 0, flicker: 0, repeats: 1 }), width: 480, height: 320 }; // prettier-ignore
    const bench = { ...plan, filters: plan.filters.slice(0, 2) };
    const names = await writeSession(bench, { id: 'kit', name: 'Kit' }, folder, 'png');
    const files = new Map<string, string>();
    for (const name of names) files.set(name, (await storeFile(join(folder, name), name)).sha256);
    const document: unknown = JSON.parse(await readFile(join(folder, 'session.glade.json'), 'utf8'));
    const edited = await createSession(document, files);
    const work = [sendFiles(), edit(edited), measure(document, files), backup()];
    await (DISK ? fill() : kill());
    over = true;
    for (const ended of await Promise.allSettled(work))
      if (ended.status === 'rejected' && !(ended.reason instanceof Unacknowledged)) throw ended.reason;
    const wrong = await look(edited);
    const { uploads, edits, measured, backups } = done;
    console.log(`${TIMES} times: ${uploads.length} files, ${edits} edits, ${measured.length} measurements and ${backups.length} backups acknowledged; ${wrong.length} lost or half.`); // prettier-ignore
    for (const one of wrong) console.log(`  ${one}`);
    process.exitCode = wrong.length === 0 ? 0 : 1;
  } finally {
    await closeStore();
    up.kill('SIGTERM');
    await new Promise((ended) => up.on('close', ended));
    if (DISK) spawnSync('umount', ['-l', place]);
    await rm(place, { recursive: true, force: true, maxRetries: 5 });
  }
}

void main();
