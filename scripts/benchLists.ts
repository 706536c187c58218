/**
 * Lists with much in them: 10,000 measured sessions of 100 kits with all their takes and files, answered by the built application from a
 * database of its own beside that of `./glade up`, which must run and hold a measured session: `npm run bench -- lists [sessions]`. Prints the
 * median and the 95th percentile of whole answers, and the server's memory.
 */
import { spawn } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { setTimeout as wait } from 'node:timers/promises';
import { closeStore, createSession, latestReadings, listSessions, loadSession, writeKit } from '../src/store';
import { store } from '../src/store/database';
import { freshDatabase } from '../src/store/testing';

const KITS = 100;
const ASKED = 60;
const PORT = 18_490;
const PAGES = ['/', '/?text=sitting+1234', '/?text=bench+2026', '/?kit=Kit+42', '/?sort=title', '/kits', '/plan'];

/** Copies every session of the library until there are so many, by the database itself: what a page costs is asked here, not what writing costs. */
async function multiply(first: string, sessions: number): Promise<void> {
  const { sequelize } = store();
  const query = (sql: string, replacements: Record<string, unknown> = {}) => sequelize.query(sql, { replacements });
  // The n-th copy's id is told by its number: rows of all tables are made side by side.
  const id = "CONCAT('00000000-0000-4000-8000-', LPAD(n.seq, 12, '0'))";
  const numbers = `FROM seq_1_to_${sessions - 1} n`;
  const rows = { first };
  await query(`INSERT INTO rigs (name, data, created_at, updated_at) SELECT r.name, r.data, r.created_at, r.updated_at FROM rigs r JOIN sessions s ON s.rig_id = r.id WHERE s.id = :first`, rows); // prettier-ignore
  await query(`INSERT INTO sessions (id, title, rig_id, data, deleted_at, created_at, updated_at) SELECT ${id}, CONCAT('Sitting ', n.seq, ', bench ', n.seq MOD 7), s.rig_id, JSON_SET(s.data, '$.frame.title', CONCAT('Sitting ', n.seq, ', bench ', n.seq MOD 7)), NULL, s.created_at - INTERVAL n.seq HOUR, s.updated_at ${numbers} JOIN sessions s WHERE s.id = :first`, rows); // prettier-ignore
  await query(`INSERT INTO kits (session_id, \`key\`, position, data, created_at, updated_at) SELECT ${id}, k.\`key\`, k.position, JSON_SET(k.data, '$.data.name', CONCAT('Kit ', n.seq MOD ${KITS})), k.created_at, k.updated_at ${numbers} JOIN kits k WHERE k.session_id = :first`, rows); // prettier-ignore
  await query(`INSERT INTO filters (session_id, kit_id, \`key\`, position, data, created_at, updated_at) SELECT k.session_id, k.id, f.\`key\`, f.position, f.data, f.created_at, f.updated_at FROM kits k JOIN filters f ON f.session_id = :first WHERE k.session_id <> :first`, rows); // prettier-ignore
  for (const [table, columns] of [
    ['scenes', ''],
    ['takes', 'scene_key, filter_key, '],
    ['patches', 'scene_key, '],
  ] as const)
    await query(`INSERT INTO ${table} (session_id, \`key\`, position, ${columns}data, created_at, updated_at) SELECT ${id}, t.\`key\`, t.position, ${columns}t.data, t.created_at, t.updated_at ${numbers} JOIN ${table} t WHERE t.session_id = :first`, rows); // prettier-ignore
  await query(`INSERT INTO session_files (session_id, path, sha256, created_at, updated_at) SELECT ${id}, f.path, f.sha256, f.created_at, f.updated_at ${numbers} JOIN session_files f WHERE f.session_id = :first`, rows); // prettier-ignore
  await query(`INSERT INTO jobs (session_id, kind, state, attempts, worker, heartbeat_at, cancel_requested, progress, error, created_at, updated_at) SELECT ${id}, j.kind, j.state, 1, NULL, NULL, FALSE, j.progress, NULL, j.created_at, j.updated_at ${numbers} JOIN jobs j WHERE j.session_id = :first`, rows); // prettier-ignore
  await query(`INSERT INTO readings (session_id, job_id, input_hash, document, created_at, updated_at) SELECT j.session_id, j.id, r.input_hash, r.document, r.created_at, r.updated_at FROM jobs j JOIN readings r ON r.session_id = :first WHERE j.session_id <> :first`, rows); // prettier-ignore
}

export async function benchLists(sessions = 10_000): Promise<void> {
  const known = await listSessions(200);
  let measured: Awaited<ReturnType<typeof loadSession>> | null = null;
  let readings: Awaited<ReturnType<typeof latestReadings>> = null;
  for (const { id } of known) {
    readings = await latestReadings(id);
    if (readings) measured = await loadSession(id);
    if (measured) break;
  }
  if (!measured || !readings) throw new Error('There is no measured session: run ./glade up first.');
  const { document, files } = measured;
  await freshDatabase('glade_bench');
  const { File, Job, Readings } = store().models;
  await File.bulkCreate([...new Set(files.values())].map((sha256) => ({ sha256, bytes: 1, facts: { readable: false, reason: 'bench' } }))); // prettier-ignore
  const first = await createSession({ ...document, title: 'Sitting 0, bench 0' }, files);
  const job = await Job.create({
    sessionId: first,
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
    sessionId: first,
    jobId: job.id,
    inputHash: '0'.repeat(64),
    document: readings.readings as unknown as Record<string, unknown>,
  });
  await multiply(first, sessions);
  const [{ id: kit, filters }] = measured.session.kits;
  for (let i = 0; i < KITS; i++) await writeKit({ id: kit, name: `Kit ${i}`, filters });
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
    // Cards are made once, after the first time that something is searched.
    const start = performance.now();
    for (let behind = true; behind; await wait(500))
      behind = (await (await fetch(`http://127.0.0.1:${PORT}/?text=sitting`)).text()).includes(
        'made ready for searching',
      );
    console.log(`${sessions} sessions, ${files.size} files each: cards made in ${((performance.now() - start) / 1000).toFixed(0)} s`); // prettier-ignore
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
      console.log(`${sessions} sessions, ${KITS} kits: ${page.padEnd(20)} median ${at(0.5)} ms, 95 % ${at(0.95)} ms`);
    }
    const status = await readFile(`/proc/${server.pid}/status`, 'utf8');
    console.log(`the server's memory: ${Math.round(Number(/VmRSS:\s+(\d+)/.exec(status)?.[1]) / 1024)} MB`);
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
