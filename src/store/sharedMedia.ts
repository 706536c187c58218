/**
 * Media of backups that lie beside each other: each once, under its hash, in a folder that they share. A backup lists what it needs of it,
 * so that a night costs what came that day.
 */
import { constants } from 'node:fs';
import { copyFile, mkdir, open, readdir, readFile, rename, rm, stat } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { dirname, join } from 'node:path';
import { hashOfFile } from './media';

/** Name of the list in a backup: hashes, one a line. */
export const MEDIA_LIST = 'media.txt';
const HASH = /^[0-9a-f]{64}$/;

const placeOf = (folder: string, sha256: string) => join(folder, sha256.slice(0, 2), sha256);

/** Hashes of the media in a folder, in order; what is being written there is none of them. */
export async function hashesIn(folder: string): Promise<string[]> {
  const parts = (await readdir(folder).catch(() => [])).filter((part) => /^[0-9a-f]{2}$/.test(part));
  const names = await Promise.all(parts.map((part) => readdir(join(folder, part))));
  return names
    .flat()
    .filter((name) => HASH.test(name))
    .sort();
}

/** Copies a file so that it is seen under its name only when all of it lies on the disk. */
async function copyWhole(from: string, to: string): Promise<void> {
  await mkdir(dirname(to), { recursive: true });
  const temporary = `${to}.${randomUUID()}.part`;
  try {
    await copyFile(from, temporary, constants.COPYFILE_FICLONE);
    const file = await open(temporary, 'r');
    await file.sync();
    await file.close();
    await rename(temporary, to);
  } catch (error) {
    await rm(temporary, { force: true });
    throw error;
  }
}

/**
 * Brings a shared folder up to the library's media; gives the hashes that lie there whole and those that don't. What is there already in
 * its full length isn't copied again, and a file that was damaged in the library never takes the place of a sound copy.
 */
export async function shareMedia(library: string, shared: string): Promise<{ kept: string[]; damaged: string[] }> {
  const [kept, damaged]: [string[], string[]] = [[], []];
  for (const sha256 of await hashesIn(library)) {
    const [own, copy] = [placeOf(library, sha256), placeOf(shared, sha256)];
    const [is, was] = await Promise.all([own, copy].map((path) => stat(path).catch(() => null)));
    // Gone since it was listed: nothing names it any more.
    if (!is) continue;
    if (was?.size === is.size || (was && (await hashOfFile(copy)) === sha256)) kept.push(sha256);
    else if ((await hashOfFile(own)) === sha256) {
      await copyWhole(own, copy);
      kept.push(sha256);
    } else damaged.push(sha256);
  }
  return { kept, damaged };
}

/** Hashes of a list that was read from a backup. Throws an Error where it is none. */
export function listedMedia(text: string): string[] {
  const hashes = text.split('\n').filter((line) => line !== '');
  if (!hashes.every((one) => HASH.test(one))) throw new Error('The list of the backup’s pictures is damaged.');
  return hashes;
}

/** Copies what a backup lists out of the shared folder, each held against its hash. Throws an Error that counts what is missing. */
export async function fetchMedia(shared: string, list: string, into: string): Promise<number> {
  const hashes = listedMedia(await readFile(list, 'utf8'));
  const missing: string[] = [];
  for (const sha256 of hashes) {
    const from = placeOf(shared, sha256);
    if ((await hashOfFile(from).catch(() => null)) === sha256) await copyWhole(from, placeOf(into, sha256));
    else missing.push(sha256);
  }
  if (missing.length > 0)
    throw new Error(`${missing.length} of its ${hashes.length} pictures are not in ${shared}, or were damaged there, ${missing[0].slice(0, 12)}… first.`); // prettier-ignore
  return hashes.length;
}

/** Removes from a shared folder what no backup lists any more; how many files went. */
export async function pruneShared(shared: string, lists: readonly string[]): Promise<number> {
  const needed = new Set(lists.flatMap(listedMedia));
  const gone = (await hashesIn(shared)).filter((sha256) => !needed.has(sha256));
  for (const sha256 of gone) await rm(placeOf(shared, sha256), { force: true });
  return gone.length;
}
