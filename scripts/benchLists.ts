/**
 * Lists with much in them: 500 measured sessions and 200 kits, answered by the built application from a database of its own beside that of
 * `./glade up`, which must run and hold a measured session: `npm run bench -- lists`. Prints the median and the 95th percentile of whole answers.
 */
import { spawn } from 'node:child_process';
import { setTimeout as wait } from 'node:timers/promises';
import { closeStore, createSession, latestReadingsOf, listSessions, loadSession, writeKit } from '../src/store';
import { store } from '../src/store/database';
import { freshDatabase } from '../src/store/testing';
import { forEachConcurrently } from '../src/core/reading/concurrently';
import { parseKitShorthand } from '../src/core/sitting/kits/shorthand';

const SESSIONS = 500;
const KITS = 200;
const ASKED = 80;
const PORT = 18_490;
const PAGES = ['/', '/kits', '/plan'];

export async function benchLists(): Promise<void> {
  const known = await listSessions(200);
  const readings = await latestReadingsOf(known.map((one) => one.id));
  const measured = known.find((one) => readings.has(one.id));
  if (!measured) throw new Error('There is no measured session: run ./glade up first.');
  const { document } = await loadSession(measured.id);
  await freshDatabase('glade_bench');
  const { Job, Readings } = store().models;
  const { filters } = parseKitShorthand('ND4 8 16 32 64 CPL');
  await forEachConcurrently(
    Array.from({ length: SESSIONS }, (_, i) => i),
    8,
    async (i) => {
      const id = await createSession({ ...document, title: `Sitting ${i}` }, new Map());
      const job = await Job.create({
        sessionId: id,
        kind: 'measure',
        state: 'done',
        attempts: 1,
        worker: null,
        heartbeatAt: null,
        cancelRequested: false,
        progress: {},
        error: null,
      });
      await Readings.create({
        sessionId: id,
        jobId: job.id,
        inputHash: '0'.repeat(64),
        document: readings.get(measured.id) as unknown as Record<string, unknown>,
      });
    },
  );
  await forEachConcurrently(
    Array.from({ length: KITS }, (_, i) => i),
    8,
    async (i) => {
      await writeKit({ id: 'kit', name: `Kit ${i}`, filters });
    },
  );
  await closeStore();

  const server = spawn(
    process.execPath,
    ['node_modules/next/dist/bin/next', 'start', '-H', '127.0.0.1', '-p', String(PORT)],
    {
      env: { ...process.env, GLADE_DATABASE: 'glade_bench' },
      stdio: 'ignore',
    },
  );
  try {
    await answered();
    for (const page of PAGES) {
      const times: number[] = [];
      for (let i = 0; i < ASKED + 5; i++) {
        const start = performance.now();
        const answer = await fetch(`http://127.0.0.1:${PORT}${page}`);
        await answer.text();
        if (!answer.ok) throw new Error(`${page} answers ${answer.status}.`);
        if (i >= 5) times.push(performance.now() - start);
      }
      times.sort((a, b) => a - b);
      const at = (share: number) => times[Math.floor(share * (times.length - 1))].toFixed(0);
      console.log(`${SESSIONS} sessions, ${KITS} kits: ${page.padEnd(6)} median ${at(0.5)} ms, 95 % ${at(0.95)} ms`);
    }
  } finally {
    server.kill();
  }
}

async function answered(): Promise<void> {
  for (let i = 0; i < 200; i++) {
    const answer = await fetch(`http://127.0.0.1:${PORT}/api/health`).catch(() => null);
    if (answer?.ok) return;
    await wait(100);
  }
  throw new Error('The application does not answer.');
}
