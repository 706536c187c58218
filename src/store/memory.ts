/**
 * What measures took from pictures, kept on disk so that measuring again reads only what changed. A folder for each build of the
 * program: figures of another build are never taken. Losing any of it costs time, never a figure.
 */
import { createHash, randomUUID } from 'node:crypto';
import { mkdir, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { deserialize, serialize } from 'node:v8';
import type { Memory } from '@/core/reading/memory';
import { readConfig } from './config';
import { touch } from './purge';

/** @param build names the program's build */
export function diskMemory(build: string, folder = join(readConfig().varFolder, 'memory')): Memory {
  const pathOf = (name: string) => {
    const hash = createHash('sha256').update(name).digest('hex');
    return join(folder, build, hash.slice(0, 2), hash);
  };
  return {
    async recall(name) {
      try {
        const value: unknown = deserialize(await readFile(pathOf(name)));
        await touch(pathOf(name));
        return value;
      } catch {
        // Missing or damaged: it is read from the picture again.
        return undefined;
      }
    },
    async keep(name, value) {
      const path = pathOf(name);
      const partial = `${path}.${randomUUID()}`;
      try {
        await mkdir(dirname(path), { recursive: true });
        await writeFile(partial, serialize(value));
        await rename(partial, path);
      } catch {
        // A full disk must not stop a measurement that needs none of this.
        await rm(partial, { force: true }).catch(() => undefined);
      }
    },
  };
}

/** Removes what other builds have kept. */
export async function forgetOtherBuilds(build: string, folder = join(readConfig().varFolder, 'memory')): Promise<void> {
  const builds = await readdir(folder).catch(() => []);
  await Promise.all(
    builds.filter((one) => one !== build).map((one) => rm(join(folder, one), { recursive: true, force: true })),
  );
}
