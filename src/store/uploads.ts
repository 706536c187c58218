/**
 * Files on their way in: the tus protocol writes them piece by piece below the media folder, a restart of browser or server goes on
 * where it was. A whole one is hashed and filed; only then is it acknowledged.
 */
import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { link, mkdir, open, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { readConfig } from './config';
import { MediaError, mediaPath, registerFile, type StoredFile } from './media';

/** Uploads that nobody went on with are thrown away after a week. */
const KEPT_DAYS = 7;
const TAKEN = '.taken';

/** Where pieces are written: on the same disk as the media. */
export function uploadFolder(): string {
  return join(readConfig().mediaFolder, 'uploads');
}

function uploadPath(id: string): string {
  if (!/^[\w-]{8,64}$/.test(id)) throw new MediaError('That is not an upload.');
  return join(uploadFolder(), id);
}

interface UploadNote {
  size?: number;
  metadata?: Record<string, string | null>;
}

async function readNote<T>(path: string): Promise<T | null> {
  try {
    return JSON.parse(await readFile(path, 'utf8')) as T;
  } catch {
    return null;
  }
}

/** The whole file of an upload and its name, where it is still on its way. Throws MediaError where it isn't complete. */
async function wholeUpload(id: string): Promise<{ path: string; name: string; bytes: number }> {
  const path = uploadPath(id);
  const note = await readNote<UploadNote>(`${path}.json`);
  const info = await stat(path).catch(() => null);
  const name = note?.metadata?.filename ?? 'the file';
  if (!note || !info) throw new MediaError('That upload is not known here (any more); drop the file again.');
  if (info.size !== note.size)
    throw new MediaError(`${name} has not arrived whole yet (${info.size} of ${note.size ?? '?'} bytes).`);
  return { path, name, bytes: info.size };
}

/**
 * Files a complete upload under its hash. Asked again, it gives the same answer: a browser may not have heard the first.
 * Throws MediaError.
 */
export async function takeUpload(id: string): Promise<StoredFile & { name: string }> {
  const path = uploadPath(id);
  const taken = await readNote<{ sha256: string; bytes: number; name: string }>(`${path}${TAKEN}`);
  if (taken) return { ...(await registerFile(taken.sha256, taken.bytes, taken.name)), name: taken.name };
  const { name, bytes } = await wholeUpload(id);
  await sync(path);
  const sha256 = await hashOf(path);
  const target = mediaPath(sha256);
  await mkdir(dirname(target), { recursive: true });
  // A second name, then the note, then the first name goes: whenever this is cut off, nothing is lost.
  await link(path, target).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'EEXIST') throw error;
  });
  const stored = await registerFile(sha256, bytes, name);
  const partial = `${path}.${randomUUID()}`;
  await writeFile(partial, JSON.stringify({ sha256, bytes, name }));
  await rename(partial, `${path}${TAKEN}`);
  await forgetUpload(id);
  return { ...stored, name };
}

/** A complete upload as a file of its own, for what isn't kept as it is (bundles). Throws MediaError. */
export async function openUpload(id: string): Promise<{ path: string; name: string }> {
  return wholeUpload(id);
}

/** Removes an upload's pieces. */
export async function forgetUpload(id: string): Promise<void> {
  const path = uploadPath(id);
  await Promise.all([rm(path, { force: true }), rm(`${path}.json`, { force: true })]);
}

/** Throws away what nobody went on with. */
export async function purgeUploads(now = Date.now()): Promise<void> {
  const folder = uploadFolder();
  for (const name of await readdir(folder).catch(() => [])) {
    const info = await stat(join(folder, name)).catch(() => null);
    if (info && now - info.mtimeMs > KEPT_DAYS * 86_400_000) await rm(join(folder, name), { force: true });
  }
}

async function sync(path: string): Promise<void> {
  const file = await open(path, 'r+');
  try {
    await file.sync();
  } finally {
    await file.close();
  }
}

async function hashOf(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(path, { highWaterMark: 1 << 20 })) hash.update(chunk as Buffer);
  return hash.digest('hex');
}
