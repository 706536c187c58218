/** A folder of files as the core's source of pictures. Paths stay inside the folder. */
import { readFile, realpath } from 'node:fs/promises';
import { join, sep } from 'node:path';
import { type PictureSource } from '@/core/reading/source';
import { UnreadablePicture } from '@/core/reading/facts';
import { contentsOf } from './contents';
import { mediaReader } from './files';
import type { PictureThreads } from './threads';

/** Where a session's path lies; throws UnreadablePicture for one that leaves the folder, by link or by name. */
async function inside(root: string, file: string): Promise<string> {
  let path: string;
  try {
    path = await realpath(join(root, file));
  } catch {
    throw new UnreadablePicture(file, 'there is no such file.');
  }
  const base = await realpath(root);
  if (path !== base && !path.startsWith(base + sep))
    throw new UnreadablePicture(file, 'it lies outside the session’s folder.');
  return path;
}

/** Pictures of a session whose files lie in a folder. */
export function folderSource(root: string, threads: PictureThreads | null = null): PictureSource {
  return {
    ...mediaReader((file) => inside(root, file), threads),
    async contentsOf(files) {
      const paths = await Promise.all(files.map((file) => inside(root, file).catch(() => null)));
      const contents = await contentsOf(paths.filter((path) => path !== null));
      return new Map(
        files.flatMap((file, i) => {
          const content = paths[i] === null ? undefined : contents.get(paths[i]);
          return content === undefined ? [] : [[file, content] as const];
        }),
      );
    },
    async readText(file) {
      return readFile(await inside(root, file), 'utf8');
    },
  };
}
