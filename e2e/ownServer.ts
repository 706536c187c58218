/**
 * An application of a test file's own, on the same database server: what waits in its inbox, and what is killed, is nobody else's.
 */
import { expect } from '@playwright/test';
import { spawn, type ChildProcess } from 'node:child_process';
import { copyFile, mkdir } from 'node:fs/promises';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { closeStore } from '@/store';
import { freshDatabase } from '@/store/testing';
import { test as base } from './shared';

export class OwnServer {
  private readonly children: ChildProcess[] = [];
  private readonly before = { ...process.env };

  private constructor(
    readonly folder: string,
    readonly port: number,
  ) {}

  get url(): string {
    return `http://localhost:${this.port}`;
  }

  /** Makes an empty database and data folder, and points this process and what it starts at them. */
  static async make(folder: string, database: string): Promise<OwnServer> {
    const own = new OwnServer(folder, await freePort());
    await mkdir(folder, { recursive: true });
    await copyFile(join(process.env.GLADE_VAR!, 'database.json'), join(folder, 'database.json'));
    process.env.GLADE_VAR = folder;
    await freshDatabase(database);
    return own;
  }

  /** Starts a program of the application, which ends with the tests at the latest. */
  start(words: string[]): ChildProcess {
    const child = spawn(process.execPath, words, { env: { ...process.env }, stdio: 'ignore' });
    this.children.push(child);
    return child;
  }

  startWorker(): ChildProcess {
    return this.start(['dist/worker.mjs']);
  }

  /** Starts the web server; it answers when this resolves. */
  async startWeb(): Promise<ChildProcess> {
    const child = this.start(['dist/web.mjs', String(this.port)]);
    const health = () =>
      fetch(`${this.url}/api/health`).then(
        (answer) => answer.status,
        () => 0,
      );
    await expect.poll(health, { timeout: 150_000 }).toBe(200);
    return child;
  }

  async end(): Promise<void> {
    for (const child of this.children) child.kill('SIGKILL');
    await closeStore();
    for (const name of ['GLADE_VAR', 'GLADE_DATABASE'] as const) {
      const value = this.before[name];
      if (value === undefined) delete process.env[name];
      else process.env[name] = value;
    }
  }
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });
}

/** Tests whose pages are an own server's. */
export const test = base.extend<object, { own: OwnServer }>({
  own: [
    async ({}, use, info) => {
      const name = `glade_own_${info.workerIndex}`;
      const own = await OwnServer.make(join(info.project.outputDir, `own-${info.workerIndex}`), name);
      await own.startWeb();
      own.startWorker();
      await use(own);
      await own.end();
    },
    { scope: 'worker', timeout: 300_000 },
  ],
  // eslint-disable-next-line react-hooks/rules-of-hooks -- a fixture of the test runner, no hook
  baseURL: ({ own }, use) => use(own.url),
});
