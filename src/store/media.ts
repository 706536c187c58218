/**
 * The content-addressed media folder: each file once, under its SHA-256. A write goes to a temporary name, is synced
 * and renamed, so that no half file is ever visible.
 */
import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { access, mkdir, open, rename, rm, statfs } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Readable } from 'node:stream';
import { UnreadablePicture, type PictureFacts } from '@/core/source';
import { inspectMedia } from '@/media/files';
import { readConfig } from './config';
import { store } from './database';
import type { Json } from './models';

/** Facts of a stored file, or the reason why it can't be read as a picture. */
export type StoredFacts = { readable: true; picture: PictureFacts } | { readable: false; reason: string };

export interface StoredFile {
  sha256: string;
  bytes: number;
  facts: StoredFacts;
}

/** A file that could not be taken in, with a sentence for people. */
export class MediaError extends Error {}

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
  const { bavail, bsize } = await statfs(mediaFolder);
  if ((expectedBytes ?? 0) + RESERVE_BYTES > bavail * bsize)
    throw new MediaError(`There is not enough room on the disk for ${name}; free some space and drop it again.`);
  const temporary = join(mediaFolder, 'incoming', randomUUID());
  const hash = createHash('sha256');
  let bytes = 0;
  const file = await open(temporary, 'wx');
  try {
    for await (const chunk of stream) {
      hash.update(chunk as Buffer);
      bytes += (chunk as Buffer).length;
      await file.write(chunk as Buffer);
    }
    if (expectedBytes !== undefined && bytes !== expectedBytes)
      throw new MediaError(`${name} arrived incomplete (${bytes} of ${expectedBytes} bytes); drop it again.`);
    await file.sync();
    await file.close();
    const sha256 = hash.digest('hex');
    const target = mediaPath(sha256);
    if (await exists(target)) await rm(temporary);
    else {
      await mkdir(dirname(target), { recursive: true });
      await rename(temporary, target);
    }
    return await registerFile(sha256, bytes, name);
  } catch (error) {
    await file.close().catch(() => undefined);
    await rm(temporary, { force: true });
    throw error;
  }
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

/** What a stored picture says of itself; `null` where it is unknown or can't be read. */
export async function storedPicture(sha256: string): Promise<PictureFacts | null> {
  const row = await store().models.File.findByPk(sha256);
  const facts = row?.facts as unknown as StoredFacts | undefined;
  return facts?.readable ? facts.picture : null;
}

async function registerFile(sha256: string, bytes: number, name: string): Promise<StoredFile> {
  const { File } = store().models;
  const known = await File.findByPk(sha256);
  // A file that couldn't be read is looked at again: a newer program, or a decoder installed since, may read it.
  if (known && (known.facts as unknown as StoredFacts).readable)
    return { sha256, bytes: Number(known.bytes), facts: known.facts as unknown as StoredFacts };
  const facts = await factsOf(mediaPath(sha256), name);
  await File.upsert({ sha256, bytes, facts: facts as unknown as Json });
  return { sha256, bytes, facts };
}

async function factsOf(path: string, name: string): Promise<StoredFacts> {
  try {
    return { readable: true, picture: await inspectMedia(path, name) };
  } catch (error) {
    if (error instanceof UnreadablePicture) return { readable: false, reason: error.reason };
    throw error;
  }
}

async function exists(path: string): Promise<boolean> {
  return access(path).then(
    () => true,
    () => false,
  );
}
