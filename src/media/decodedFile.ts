/** A picture that a fenced child decoded into a file, for libvips to read. */
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { ChildFailed, runChild, type ChildLimits } from './children';

export interface DecodedFile {
  path: string;
  /** Takes it away. */
  release(): Promise<void>;
}

/**
 * What a program writes of a foreign file into a folder of its own. Rejects with ChildFailed.
 *
 * @param words of the command line; the program works in its folder
 * @param wanted name of the file that it is to have written
 */
export async function decodedBy(
  program: string,
  words: readonly string[],
  wanted: string,
  limits: Omit<ChildLimits, 'writes'>,
  signal?: AbortSignal,
): Promise<DecodedFile> {
  const folder = await mkdtemp(join(tmpdir(), 'glade-decoded-'));
  const release = () => rm(folder, { recursive: true, force: true });
  try {
    // Behind the fence the folder that may be written is where the program works.
    await runChild(program, words, { ...limits, writes: folder }, signal);
    // A link would have us read something else.
    const written = (await readdir(folder, { withFileTypes: true })).find((one) => one.isFile() && one.name === wanted);
    if (written === undefined) throw new ChildFailed('it holds no picture that can be read', '');
    return { path: resolve(folder, written.name), release };
  } catch (error) {
    await release();
    throw error;
  }
}
