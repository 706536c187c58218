/** `./glade watch FOLDER`: files that a card reader writes into a folder are taken in as they become complete, and wait on “New session”. */
import { open, stat } from 'node:fs/promises';
import { relative, resolve, sep } from 'node:path';
import { watch } from 'chokidar';
import { addToInbox, checkRoom, closeStore, MediaError, storeFile } from '@/store';

const WANTED =
  /\.(tiff?|png|jpe?g|webp|hei[cf]|hif|avif|jxl|mp4|mov|m4v|mkv|dng|raw|cr2|cr3|nef|arw|raf|orf|rw2|pef|srw|srt)$/i;
/** A file that hasn't grown for so long is complete; one whose end is there is so at once. */
const STILL_MS = 2000;
const POLL_MS = 50;

/** Takes in what is in the folder and what comes; ends when the signal does. */
export async function watchFolder(folder: string, signal: AbortSignal, say: (line: string) => void): Promise<void> {
  const root = resolve(folder);
  if (!(await stat(root).catch(() => null))?.isDirectory()) throw new Error(`There is no folder ${folder}.`);
  const queue: string[] = [];
  let working: Promise<void> | null = null;
  const takeAll = async () => {
    for (let path = queue.shift(); path !== undefined && !signal.aborted; path = queue.shift())
      await takeOne(root, path, say);
    working = null;
  };
  const watcher = watch(root, {
    followSymlinks: false,
    // Names that begin with a dot are a card reader's or an editor's own.
    ignored: (path) =>
      path !== root &&
      relative(root, path)
        .split(sep)
        .some((part) => part.startsWith('.')),
  });
  watcher.on('add', (path) => {
    if (!WANTED.test(path)) return;
    void whole(path, signal).then(() => {
      queue.push(path);
      working ??= takeAll();
    });
  });
  watcher.on('error', (error) => say(`The folder can’t be watched: ${(error as Error).message}`));
  say(`Watching ${root}. Ctrl-C ends it; what was taken in stays.`);
  await new Promise<void>((done) => {
    if (signal.aborted) done();
    else signal.addEventListener('abort', () => done(), { once: true });
  });
  await watcher.close();
  await (working as Promise<void> | null);
}

/** Waits until a file is complete: a JPEG when its end is there, any other when it hasn't grown for a while; or until it is gone. */
async function whole(path: string, signal: AbortSignal): Promise<void> {
  let [bytes, since] = [-1, Date.now()];
  while (!signal.aborted) {
    const size = await stat(path).then(
      (found) => found.size,
      () => null,
    );
    if (size === null || (size > 0 && size === bytes && (await hasEnd(path, size)))) return;
    if (size !== bytes) [bytes, since] = [size, Date.now()];
    else if (Date.now() - since >= STILL_MS) return;
    await new Promise((resolve) => setTimeout(resolve, POLL_MS));
  }
}

const JPEG_ENDING = /\.jpe?g$/i;

/** Whether a JPEG ends with the marker that ends one (ITU-T T.81, B.1.1.3). */
async function hasEnd(path: string, size: number): Promise<boolean> {
  if (!JPEG_ENDING.test(path) || size < 4) return false;
  const file = await open(path).catch(() => null);
  if (!file) return false;
  try {
    const { buffer } = await file.read(Buffer.alloc(2), 0, 2, size - 2);
    return buffer[0] === 0xff && buffer[1] === 0xd9;
  } finally {
    await file.close();
  }
}

async function takeOne(root: string, path: string, say: (line: string) => void): Promise<void> {
  const name = relative(root, path).split(sep).join('/');
  try {
    await checkRoom((await stat(path)).size, name);
    const { sha256, facts } = await storeFile(path, name);
    await addToInbox(name, sha256, 'watch');
    say(facts.readable || facts.telemetry ? `Taken in: ${name}` : `Taken in, but unreadable: ${name}: ${facts.reason}`);
  } catch (error) {
    // It stays where it is: what could not be taken in now is taken in when the watch is started again.
    const reason = error instanceof MediaError ? error.message : (error as Error).message;
    say(`Not taken in: ${name}: ${reason}`);
  }
}

async function main(): Promise<void> {
  const [folder] = process.argv.slice(2);
  if (!folder) throw new Error('Name the folder to watch: ./glade watch FOLDER');
  const controller = new AbortController();
  for (const name of ['SIGTERM', 'SIGINT'] as const) process.on(name, () => controller.abort());
  await watchFolder(folder, controller.signal, (line) => console.log(line));
}

main()
  .catch((error: Error) => {
    console.error(error.message);
    process.exitCode = 1;
  })
  .finally(() => closeStore());
