/** Stored sessions as a source of pictures: paths of the session, files of the media folder. */
import { readFile } from 'node:fs/promises';
import type { PlanReading } from '@/core/gather';
import { UnreadablePicture, type PictureSource } from '@/core/source';
import { readStill, readStillAgain } from '@/media/stills';
import type { StillThreads } from '@/media/threads';
import { mediaPath } from '@/store/media';

/** @param files content hashes by the session's paths */
export function storedSource(files: ReadonlyMap<string, string>, threads: StillThreads | null = null): PictureSource {
  const pathOf = (file: string) => {
    const sha256 = files.get(file);
    if (!sha256) throw new UnreadablePicture(file, 'it was not among the files that were dropped.');
    return mediaPath(sha256);
  };
  return {
    ...(threads && {
      readReduced: async (file: string, plan: PlanReading) => threads.readReduced(pathOf(file), file, plan),
    }),
    read: async (file, choose) => readStill(pathOf(file), file, choose),
    readAgain: async (file, rects) => readStillAgain(pathOf(file), file, rects),
    identify: (file) => files.get(file) ?? null,
    async readText(file) {
      const sha256 = files.get(file);
      if (!sha256) throw new Error(`${file} was not among the files that were dropped.`);
      return readFile(mediaPath(sha256), 'utf8');
    },
  };
}
