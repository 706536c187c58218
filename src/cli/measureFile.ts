/** Measures what lies behind a path: a session file, its folder, or a bundle. Loaded once there is something to measure. */
import { mkdtemp, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { measureSession } from '@/core/measure';
import { parseSessionText, SessionError } from '@/core/session/parse';
import type { Readings } from '@/core/session/readings';
import { GENERATOR } from '@/core/version';
import { BundleError, readSessionFile, SESSION_FILE, unpackBundle } from '@/media/bundle';
import { folderSource } from '@/media/folder';
import { startThreads } from '@/media/threads';
import { CommandError } from './commandError';

/** The folder and session file behind PATH; bundles are unpacked into a folder that the caller removes. */
async function openSession(path: string): Promise<{ file: string; temporary: string | null }> {
  const info = await stat(path).catch(() => null);
  if (!info) throw new CommandError([`${path}: there is no such file.`], 2);
  if (info.isDirectory()) return openSession(join(path, SESSION_FILE));
  if (!/\.zip$/i.test(path)) return { file: path, temporary: null };
  const temporary = await mkdtemp(join(tmpdir(), 'glade-measure-'));
  try {
    const names = await unpackBundle(path, join(temporary, 'bundle'));
    if (!names.includes(SESSION_FILE)) throw new BundleError(`The bundle has no ${SESSION_FILE} at its root.`);
  } catch (error) {
    await rm(temporary, { recursive: true, force: true });
    throw new CommandError([`${path}: ${(error as Error).message}`], 2);
  }
  return { file: join(temporary, 'bundle', SESSION_FILE), temporary };
}

function progressLine(): ((progress: { done: number; total: number; take: string }) => void) | undefined {
  if (!process.stderr.isTTY) return undefined;
  return ({ done, total, take }) => {
    process.stderr.write(`\r\x1b[K${done} of ${total} pictures: ${take}${done === total ? '\r\x1b[K' : ''}`);
  };
}

/** @param filter the only one to measure. Throws {@link CommandError}. */
export async function measureFile(path: string, filter?: string): Promise<Readings> {
  const { file, temporary } = await openSession(path);
  try {
    const session = parsed(await readSessionFile(file));
    if (filter !== undefined && !session.kits.some((kit) => kit.filters.some((one) => one.id === filter)))
      throw new CommandError(
        [
          `--filter: no filter “${filter}” in this session; it has ${session.kits.flatMap((kit) => kit.filters.map((one) => one.id)).join(', ') || 'none'}.`,
        ],
        1,
      );
    const threads = startThreads(fileURLToPath(new URL('./thread.mjs', import.meta.url)));
    return await measureSession(session, folderSource(dirname(resolve(file)), threads), {
      concurrency: threads?.count,
      filter,
      createdAt: new Date().toISOString(),
      generator: GENERATOR,
      onProgress: progressLine(),
    });
  } finally {
    if (temporary) await rm(temporary, { recursive: true, force: true });
  }
}

function parsed(text: string) {
  try {
    return parseSessionText(text);
  } catch (error) {
    throw error instanceof SessionError ? new CommandError(error.problems, 2) : error;
  }
}
