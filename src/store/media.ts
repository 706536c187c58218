/**
 * The content-addressed media folder: each file once, under its SHA-256. A write goes to a temporary name, is synced
 * and renamed, so that no half file is ever visible.
 */
import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { access, mkdir, open, readFile, rename, rm, stat, statfs } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import pLimit from 'p-limit';
import { UnreadablePicture, type PictureFacts } from '@/core/reading/facts';
import type { FileReading, StoredFile } from '@/core/sitting/intake/arrived';
import { joinedCues, parseSubRip } from '@/core/session/subrip';
import { inspectMedia } from '@/media/files';
import { startStrip } from '@/media/renditions';
import { readConfig } from './config';
import { store } from './database';
import type { Json } from './models';

export type { StoredFile };
export type StoredFacts = FileReading;

/** A file that could not be taken in, with a sentence for people. */
export class MediaError extends Error {}

/** Room is asked for again while so much comes: others write too, and some don't say how long they are. */
const ASK_FOR_ROOM_EVERY = 64_000_000;
/** Kept free on the disk at all times. */
const RESERVE_BYTES = 500_000_000;

/** Where a stored file lies. */
export function mediaPath(sha256: string): string {
  if (!/^[0-9a-f]{64}$/.test(sha256)) throw new MediaError('That is not the hash of a stored file.');
  return join(readConfig().mediaFolder, sha256.slice(0, 2), sha256);
}

/**
 * Takes in a stream and files it under its hash; a file that is there already is not stored twice.
 *
 * @param name the name people know it by, for messages and the check of its ending
 * @param expectedBytes what the sender announced; a shorter or longer stream is refused
 */
export async function storeStream(stream: Readable, name: string, expectedBytes?: number): Promise<StoredFile> {
  const { mediaFolder } = readConfig();
  await mkdir(join(mediaFolder, 'incoming'), { recursive: true });
  await checkRoom(expectedBytes ?? 0, name);
  const temporary = join(mediaFolder, 'incoming', randomUUID());
  const hash = createHash('sha256');
  let [bytes, asked] = [0, 0];
  const file = await open(temporary, 'wx');
  try {
    for await (const chunk of stream) {
      hash.update(chunk as Buffer);
      bytes += (chunk as Buffer).length;
      // All of it, however often the system has to be asked.
      await file.writeFile(chunk as Buffer);
      if (bytes - asked > ASK_FOR_ROOM_EVERY) {
        asked = bytes;
        await checkRoom(Math.max(0, (expectedBytes ?? 0) - bytes), name);
      }
    }
    if (expectedBytes !== undefined && bytes !== expectedBytes)
      throw new MediaError(`${name} arrived incomplete (${bytes} of ${expectedBytes} bytes); drop it again.`);
    await file.sync();
    await file.close();
    const sha256 = hash.digest('hex');
    if ((await hashOfFile(temporary)) !== sha256)
      throw new MediaError(`${name} doesn’t lie on the disk as it came; drop it again, and have the disk looked at.`);
    await fileUnder(sha256, temporary);
    return await registerFile(sha256, bytes, name);
  } catch (error) {
    await file.close().catch(() => undefined);
    await rm(temporary, { force: true });
    if ((error as NodeJS.ErrnoException).code === 'ENOSPC')
      throw new MediaError(`The disk is full: nothing of ${name} was kept. Free some room and drop it again.`);
    throw error;
  }
}

/** SHA-256 of a file as it lies on the disk, in hexadecimal. */
export async function hashOfFile(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}

/** Files that were found whole, by what would change with them: a day's measurings need not read each for its hash again. */
const foundWhole = new Map<string, string>();
const MOST_FOUND = 20_000;

/**
 * What is wrong with a stored file, as the end of a sentence; `null` where it is as it was dropped. Its content is read once for that, and
 * again when its size or time on the disk has changed.
 */
export async function damageOf(sha256: string): Promise<string | null> {
  const path = mediaPath(sha256);
  const info = await stat(path).catch(() => null);
  if (!info) return 'it is gone from the disk since; drop it again.';
  const mark = `${info.size} ${info.mtimeMs} ${info.ino}`;
  if (foundWhole.get(sha256) === mark) return null;
  if ((await hashOfFile(path)) !== sha256) return 'it was damaged on the disk since; drop it again.';
  if (foundWhole.size > MOST_FOUND) foundWhole.clear();
  foundWhole.set(sha256, mark);
  return null;
}

/** The same as far as a glance tells: whether it is there, and as long as it was. */
export async function visibleDamageOf({ sha256, bytes }: { sha256: string; bytes: number }): Promise<string | null> {
  const info = await stat(mediaPath(sha256)).catch(() => null);
  if (!info) return 'gone from the disk since; drop it again';
  return info.size === bytes ? null : 'damaged on the disk since; drop it again';
}

/** Bytes that are free on the disk of the data. */
export async function freeBytes(): Promise<number> {
  const { bavail, bsize } = await statfs(readConfig().varFolder);
  return bavail * bsize;
}

/** Throws MediaError, with how much is missing, where the disk has no room for so many bytes more. */
export async function checkRoom(bytes: number, what: string): Promise<void> {
  const { mediaFolder } = readConfig();
  await mkdir(mediaFolder, { recursive: true });
  const { bavail, bsize } = await statfs(mediaFolder);
  const free = Math.max(0, bavail * bsize - RESERVE_BYTES);
  if (bytes > free)
    throw new MediaError(
      `There is not enough room for ${what}: it takes ${gigabytes(bytes)}, ${gigabytes(free)} are free. Free ${gigabytes(bytes - free)} and try again.`,
    );
}

function gigabytes(bytes: number): string {
  return bytes < 1e9 ? `${Math.ceil(bytes / 1e6)} MB` : `${(bytes / 1e9).toFixed(1)} GB`;
}

/** Files a complete, synced file under its hash; the same content is there once. One that was damaged since is healed by what came. */
export async function fileUnder(sha256: string, temporary: string): Promise<void> {
  const target = mediaPath(sha256);
  if ((await exists(target)) && (await hashOfFile(target)) === sha256) return rm(temporary);
  await mkdir(dirname(target), { recursive: true });
  await rename(temporary, target);
  // A name is kept only once its folder is.
  const folder = await open(dirname(target), 'r');
  await folder.sync();
  await folder.close();
}

/** Takes in a file of the server's own disk, by copy. */
export async function storeFile(path: string, name: string): Promise<StoredFile> {
  return storeStream(createReadStream(path), name);
}

/** Upright sizes of stored pictures by hash; files that can't be read are left out. */
export async function framesOf(hashes: readonly string[]): Promise<Record<string, { width: number; height: number }>> {
  if (hashes.length === 0) return {};
  const rows = await store().models.File.findAll({ where: { sha256: [...hashes] } });
  return Object.fromEntries(
    rows.flatMap((row) => {
      const facts = row.facts as unknown as StoredFacts;
      return facts.readable ? [[row.sha256, { width: facts.picture.width, height: facts.picture.height }]] : [];
    }),
  );
}

/** Stored files by hash, with their facts and looks. */
export async function storedFiles(hashes: readonly string[]): Promise<Map<string, StoredFile>> {
  if (hashes.length === 0) return new Map();
  const rows = await store().models.File.findAll({ where: { sha256: [...new Set(hashes)] } });
  const files = rows.map(({ sha256, bytes, facts }) => ({
    sha256,
    bytes: Number(bytes),
    facts: facts as unknown as StoredFacts,
  }));
  return new Map(files.map((file) => [file.sha256, file]));
}

/** What a stored picture says of itself; `null` where it is unknown or can't be read. */
export async function storedPicture(sha256: string): Promise<PictureFacts | null> {
  const row = await store().models.File.findByPk(sha256);
  const facts = row?.facts as unknown as StoredFacts | undefined;
  return facts?.readable ? facts.picture : null;
}

/** Enters a file that lies under its hash, with what it says of itself. */
export async function registerFile(sha256: string, bytes: number, name: string): Promise<StoredFile> {
  const { File } = store().models;
  const known = (await File.findByPk(sha256))?.facts as unknown as StoredFacts | undefined;
  // A file that couldn't be read is looked at again: a newer program, or a decoder installed since, may read it.
  if (known?.readable && known.look) {
    // It is wanted again: the purge must not take it before a session names it.
    await File.update({ bytes }, { where: { sha256 } });
    return { sha256, bytes, facts: known };
  }
  const facts = await looking(() => factsOf(sha256, name));
  await File.upsert({ sha256, bytes, facts: facts as unknown as Json });
  return { sha256, bytes, facts };
}

/** Files looked at side by side: each holds a frame or two of a clip, or rows of a still. */
const looking = pLimit(2);

async function factsOf(sha256: string, name: string): Promise<StoredFacts> {
  const path = mediaPath(sha256);
  if (/\.srt$/i.test(name)) return telemetryOf(path);
  const strip = startStrip();
  try {
    const { facts, look } = await inspectMedia(path, name, strip.add);
    if (facts.clip) await strip.write(stripPath(sha256), facts.encoding);
    return { readable: true, picture: facts, look };
  } catch (error) {
    if (error instanceof UnreadablePicture) return { readable: false, reason: error.reason };
    throw error;
  }
}

/** Where the strip of a clip's moments lies. */
export function stripPath(sha256: string): string {
  return join(readConfig().renditionFolder, sha256.slice(0, 2), `${sha256}-strip.jpg`);
}

/** Telemetry is small: a minute at sixty cues a second is half a megabyte. */
const MOST_TELEMETRY_BYTES = 50_000_000;

async function telemetryOf(path: string): Promise<StoredFacts> {
  try {
    if ((await stat(path)).size > MOST_TELEMETRY_BYTES) throw new Error('it is too large for telemetry.');
    const cues = joinedCues(parseSubRip(await readFile(path, 'utf8')));
    return { readable: false, reason: 'it is telemetry, no picture.', telemetry: cues };
  } catch (error) {
    return { readable: false, reason: (error as Error).message };
  }
}

async function exists(path: string): Promise<boolean> {
  return access(path).then(
    () => true,
    () => false,
  );
}
