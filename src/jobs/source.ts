/** Stored sessions as a source of pictures: paths of the session, files of the media folder. */
import { readFile } from 'node:fs/promises';
import { type PictureSource } from '@/core/reading/source';
import { UnreadablePicture } from '@/core/reading/facts';
import { frameOf } from '@/media/clips/frames';
import { mediaReader } from '@/media/files';
import type { PictureThreads } from '@/media/threads';
import { mediaPath } from '@/store/media';

/** @param files content hashes by the session's paths */
export function storedSource(files: ReadonlyMap<string, string>, threads: PictureThreads | null = null): PictureSource {
  const pathOf = (file: string) => {
    const sha256 = files.get(file);
    if (!sha256) throw new UnreadablePicture(file, 'it was not among the files that were dropped.');
    return mediaPath(sha256);
  };
  return {
    ...mediaReader(pathOf, threads),
    identify(file) {
      const frame = frameOf(file);
      const sha256 = files.get(frame?.clip ?? file);
      return sha256 === undefined ? null : frame ? `${sha256}@${frame.moments.join()}` : sha256;
    },
    async readText(file) {
      const sha256 = files.get(file);
      if (!sha256) throw new Error(`${file} was not among the files that were dropped.`);
      return readFile(mediaPath(sha256), 'utf8');
    },
  };
}
