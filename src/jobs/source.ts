/** Stored sessions as a source of pictures: paths of the session, files of the media folder. */
import { readFile } from 'node:fs/promises';
import { type PictureSource } from '@/core/reading/source';
import { UnreadablePicture } from '@/core/reading/facts';
import { frameOf } from '@/media/clips/frames';
import { mediaReader } from '@/media/files';
import type { PictureThreads } from '@/media/threads';
import { damageOf, mediaPath } from '@/store/media';

/** @param files content hashes by the session's paths */
export function storedSource(files: ReadonlyMap<string, string>, threads: PictureThreads | null = null): PictureSource {
  // Figures of a file that changed on the disk would look like any others: each is held against its hash before it is read.
  const looked = new Map<string, Promise<string | null>>();
  const pathOf = async (file: string) => {
    const sha256 = files.get(file);
    if (!sha256) throw new UnreadablePicture(file, 'it was not among the files that were dropped.');
    const looking = looked.get(sha256) ?? damageOf(sha256);
    looked.set(sha256, looking);
    const damage = await looking;
    if (damage !== null) throw new UnreadablePicture(file, damage);
    return mediaPath(sha256);
  };
  return {
    ...mediaReader(pathOf, threads),
    identify(file) {
      const frame = frameOf(file);
      const sha256 = files.get(frame?.clip ?? file);
      return sha256 === undefined ? null : frame ? `${sha256}@${frame.moments.join()}` : sha256;
    },
    contentsOf: async () => files,
    async readText(file) {
      const sha256 = files.get(file);
      if (!sha256) throw new Error(`${file} was not among the files that were dropped.`);
      const damage = await damageOf(sha256);
      if (damage !== null) throw new Error(`${file}: ${damage}`);
      return readFile(mediaPath(sha256), 'utf8');
    },
  };
}
