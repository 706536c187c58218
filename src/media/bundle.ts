/**
 * `.glade.zip` bundles: a session file with its media in a zip. Names inside are checked before anything is written,
 * and sizes while it is: a small archive must not fill the disk.
 */
import { createWriteStream, type ReadStream } from 'node:fs';
import { mkdir, readFile, rm, stat, statfs } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Transform } from 'node:stream';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import yazl from 'yazl';
import { MOST_TEXT_BYTES, TOO_LARGE } from '@/core/session/limits';
import { SessionError } from '@/core/session/parse';

/** The session file's name, in a folder and at the root of a bundle. */
export const SESSION_FILE = 'session.glade.json';

const MAX_ENTRIES = 20_000;
const MAX_BYTES = 200_000_000_000;
/** Pictures hardly shrink; an entry that grows more than this is no picture. */
const MAX_GROWTH = 1000;

/** A bundle that can't be used, with a sentence for people. */
export class BundleError extends Error {}

/**
 * Unpacks a bundle into an empty folder. Throws {@link BundleError}; what was written so far is removed then.
 *
 * @returns the paths inside, as written
 */
export async function unpackBundle(zipPath: string, target: string): Promise<string[]> {
  const files: string[] = [];
  const names = new Set<string>();
  await mkdir(target, { recursive: true });
  try {
    const packed = (await stat(zipPath)).size;
    const zip = await openZip(zipPath);
    let budget = Math.min(MAX_BYTES, Math.max(64e6, packed * MAX_GROWTH), (await freeBytes(target)) * 0.9);
    await eachEntry(zip, async (entry) => {
      if (entry.fileName.endsWith('/')) return;
      const name = safeName(entry.fileName);
      if (files.length >= MAX_ENTRIES) throw new BundleError(`The bundle holds more than ${MAX_ENTRIES} files.`);
      if (names.has(name)) throw new BundleError(`The bundle holds “${name}” twice.`);
      names.add(name);
      const path = join(target, name);
      await mkdir(dirname(path), { recursive: true });
      // A document is refused as it streams, before anybody has held it.
      let document = name === SESSION_FILE ? MOST_TEXT_BYTES : Infinity;
      const limit = new Transform({
        transform(chunk: Buffer, _encoding, done) {
          budget -= chunk.length;
          document -= chunk.length;
          if (budget < 0) return done(new BundleError('The bundle unpacks to more than there is room for.'));
          done(document < 0 ? new BundleError(`${SESSION_FILE}: ${TOO_LARGE}.`) : null, chunk);
        },
      });
      await pipeline(await openEntry(zip, entry), limit, createWriteStream(path, { flags: 'wx' }));
      files.push(name);
    });
  } catch (error) {
    await rm(target, { recursive: true, force: true });
    if (error instanceof BundleError) throw error;
    throw new BundleError(`The bundle can’t be unpacked: ${(error as Error).message}.`);
  }
  return files;
}

/** The text of a session's file. Throws SessionError for one that can't be read, or is larger than any session. */
export async function readSessionFile(path: string): Promise<string> {
  try {
    if ((await stat(path)).size > MOST_TEXT_BYTES) throw new SessionError([`session: ${TOO_LARGE}`]);
    return await readFile(path, 'utf8');
  } catch (error) {
    if (error instanceof SessionError) throw error;
    throw new SessionError([`session: the file can’t be read (${(error as NodeJS.ErrnoException).code})`]);
  }
}

/** Writes a bundle as a stream: the session's text at the root, media beside it. */
export function packBundle(
  sessionText: string,
  media: readonly { name: string; path: string }[],
): NodeJS.ReadableStream {
  const zip = new yazl.ZipFile();
  // A fixed time makes equal sessions give equal bundles.
  const mtime = new Date('2000-01-01T00:00:00Z');
  zip.addBuffer(Buffer.from(sessionText), SESSION_FILE, { mtime });
  for (const { name, path } of media) zip.addFile(path, safeName(name), { mtime, compress: false });
  zip.end();
  return zip.outputStream;
}

/** A name that stays inside; throws {@link BundleError} for one that doesn't. */
function safeName(name: string): string {
  const plain = name.replace(/\\/g, '/');
  if (
    plain.startsWith('/') ||
    /^[A-Za-z]:/.test(plain) ||
    plain.includes('\0') ||
    plain.split('/').some((part) => part === '..' || part === '')
  )
    throw new BundleError(`The bundle names a file outside itself (“${name}”).`);
  return plain;
}

async function freeBytes(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder);
  return bavail * bsize;
}

function openZip(path: string): Promise<ZipFile> {
  return new Promise((resolve, reject) =>
    yauzl.open(
      path,
      { lazyEntries: true, autoClose: true, strictFileNames: false, decodeStrings: true },
      (error, zip) =>
        error || !zip ? reject(new BundleError('This isn’t a zip archive, or it is damaged.')) : resolve(zip),
    ),
  );
}

function openEntry(zip: ZipFile, entry: Entry): Promise<ReadStream> {
  return new Promise((resolve, reject) =>
    zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream as unknown as ReadStream))),
  );
}

function eachEntry(zip: ZipFile, work: (entry: Entry) => Promise<void>): Promise<void> {
  return new Promise((resolve, reject) => {
    const fail = (error: unknown) => {
      zip.close();
      reject(error);
    };
    zip.on('entry', (entry: Entry) => work(entry).then(() => zip.readEntry(), fail));
    zip.on('end', () => resolve());
    zip.on('error', fail);
    zip.readEntry();
  });
}
