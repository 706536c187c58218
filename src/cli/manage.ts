/** Housekeeping for `./glade`: `manage migrate`, `manage waiting`, `manage demo`, `manage simulate FOLDER`, `manage camera SESSION FOLDER`. */
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { latestJob, requestMeasure } from '@/jobs/queue';
import { camera, shootNext } from './camera';
import { logOf, readLog } from '@/core/sitting/planning/shootLog';
import { plannedOf } from '@/core/sitting/planning/planned';
import { developPicture, MISHAPS, shootPlan } from '@/simulator/card';
import { drawProfile } from '@/simulator/camera/profile';
import { shootSession } from '@/simulator/camera/shoot';
import { writeSession } from '@/simulator/files';
import { demoBenches, demoSessions, demoShelf, type DemoSession } from '@/simulator/demo';
import {
  addToInbox,
  allBenches,
  closeStore,
  createSession,
  listKits,
  listRigs,
  listSessions,
  loadSession,
  migrate,
  migrationsWaiting,
  storeFile,
  writeBench,
  writeKit,
  writeRig,
  writeSetting,
} from '@/store';

/** Demo sessions rendered at a time. */
const SIDE_BY_SIDE = 2;

const SESSIONS = demoSessions();

/** Puts the scenario's kits, rigs and other benches on the shelf where they aren't there yet. */
async function addShelf(): Promise<void> {
  const { kits, rigs } = demoShelf();
  const known = new Set([...(await listKits()), ...(await listRigs())].map((one) => one.name));
  for (const rig of rigs) if (!known.has(String(rig.camera))) await writeRig(rig);
  for (const kit of [...kits].reverse()) if (!known.has(String(kit.name))) await writeKit(kit);
  const others = new Set((await allBenches()).map(({ item }) => item.name));
  for (const bench of demoBenches()) if (!others.has(bench.name)) await writeBench(bench);
}

/** Adds the scenario's sessions that aren't there yet, side by side: rendering is the whole work. `without` names those that aren't wanted by how their seeds begin. */
async function addDemo(without: readonly string[]): Promise<void> {
  await addShelf();
  const known = new Set((await listSessions(10_000)).map((session) => session.title));
  const missing = SESSIONS.filter(
    ({ plan }) => !known.has(plan.title) && !without.some((one) => plan.seed.startsWith(one)),
  );
  const of = missing.length;
  let made = 0;
  // The first page tells how far it is.
  const tell = () => writeSetting('demo', made < of ? { made, of, at: new Date().toISOString() } : null);
  const running = new Set<ChildProcess>();
  for (const name of ['SIGTERM', 'SIGINT'] as const)
    process.once(name, () => {
      for (const child of running) child.kill();
      process.exit(1);
    });
  const addNext = async (): Promise<void> => {
    for (let next = missing.shift(); next; next = missing.shift()) {
      await tell();
      const child = spawn(process.execPath, [process.argv[1], 'demo-session', next.plan.seed], { stdio: 'inherit' });
      running.add(child);
      const code = await new Promise<number | null>((resolve) => child.on('exit', resolve));
      running.delete(child);
      if (code !== 0) throw new Error(`“${next.plan.title}” could not be rendered.`);
      made++;
    }
    await tell();
  };
  await Promise.all(Array.from({ length: SIDE_BY_SIDE }, addNext));
}

/** Writes the pictures of a session of the scenario and what describes them; gives the pictures' paths. */
function writeDemo({ plan, kit, ending, drawnBy }: DemoSession, folder: string): Promise<string[]> {
  if (!drawnBy) return writeSession(plan, kit, folder, ending);
  return shootSession(plan, drawProfile(drawnBy.seed, drawnBy.kind), folder, drawnBy.darker, kit);
}

/** Renders one session of the scenario, stores it and queues it when it is shown measured. */
async function addDemoSession(demo: DemoSession): Promise<void> {
  const { measure, plan } = demo;
  const folder = await mkdtemp(join(tmpdir(), 'glade-demo-'));
  try {
    console.log(`Rendering “${plan.title}” …`);
    const names = await writeDemo(demo, folder);
    const files = new Map<string, string>();
    for (const name of names) files.set(name, (await storeFile(join(folder, name), name)).sha256);
    const described: unknown = JSON.parse(await readFile(join(folder, 'session.glade.json'), 'utf8'));
    const id = await createSession(described, files);
    if (measure) {
      await requestMeasure(id);
      await measured(id);
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Shoots a session's plan on the simulated bench; prints the files of its card, stored, as JSON. */
async function practice(sessionId: string, mishaps: string): Promise<void> {
  const { session } = await loadSession(sessionId);
  const filters = session.kits.flatMap((kit) => kit.filters);
  const chosen = MISHAPS.filter((one) => mishaps.split(',').includes(one));
  const planned = plannedOf(session);
  // A sitting that ended now.
  const start = Date.now() - planned.length * 80_000;
  const tapped = new Map(
    readLog(planned, logOf(session))
      .filter((one) => one.state !== 'open')
      .map((one) => [one.take.id, one.state === 'skipped' ? null : one.doneMs]),
  );
  const { bench, pictures } = shootPlan(planned, filters, `practice ${sessionId}`, start, chosen, tapped);
  const folder = await mkdtemp(join(tmpdir(), 'glade-card-'));
  try {
    const files: { path: string; sha256: string }[] = [];
    for (const picture of pictures) {
      const path = await developPicture(bench, picture, folder);
      const { sha256 } = await storeFile(path, picture.name);
      // Until it is laid it waits like any other file that has arrived.
      await addToInbox(picture.name, sha256, 'drop');
      files.push({ path: picture.name, sha256 });
    }
    process.stdout.write(JSON.stringify(files));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Waits until a running worker has measured a session, so that the first visit finds a verdict; gives up after two minutes. */
async function measured(sessionId: string): Promise<void> {
  const end = Date.now() + 120_000;
  while (Date.now() < end) {
    const job = await latestJob(sessionId);
    if (job && !['queued', 'running'].includes(job.state)) return;
    await new Promise((resolve) => setTimeout(resolve, 300));
  }
}

async function main(): Promise<void> {
  const [command, folder] = process.argv.slice(2);
  if (command === 'migrate') {
    for (const name of await migrate()) console.log(`Migrated: ${name}`);
  } else if (command === 'waiting') console.log((await migrationsWaiting()).join(' '));
  else if (command === 'demo') await addDemo(folder === '--without' ? process.argv[4].split(',') : []);
  else if (command === 'practice' && folder) await practice(folder, process.argv[4] ?? '');
  else if (command === 'shoot-next' && folder) await shootNext(folder, process.argv[4] ?? '');
  else if (command === 'camera') await camera(process.argv.slice(3));
  else if (command === 'demo-session') {
    const wanted = SESSIONS.find(({ plan }) => plan.seed === folder);
    if (!wanted) throw new Error(`The scenario has no session “${folder}”.`);
    await addDemoSession(wanted);
  } else if (command === 'simulate' && folder) {
    const existing = await readdir(folder).catch(() => []);
    if (existing.length > 0) throw new Error(`${folder} is not empty; name a new folder.`);
    for (const demo of SESSIONS) await writeDemo(demo, join(folder, demo.plan.seed));
  } else throw new Error('usage: manage migrate | waiting | demo | simulate FOLDER');
}

try {
  await main();
} catch (error) {
  console.error((error as Error).message);
  process.exitCode = 1;
} finally {
  await closeStore();
}
