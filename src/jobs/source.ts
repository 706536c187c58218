/** Stored sessions as a source of pictures: paths of the session, files of the media folder. */
import { readFile } from 'node:fs/promises';
import { UnreadablePicture, type PictureSource } from '@/core/source';
import { readStill } from '@/media/stills';
import { mediaPath } from '@/store/media';

export function storedSource(files: ReadonlyMap<string, string>): PictureSource {
  return {
    async read(file, choose) {
      const sha256 = files.get(file);
      if (!sha256) throw new UnreadablePicture(file, 'it was not among the files that were dropped.');
      return readStill(mediaPath(sha256), file, choose);
    },
    async readText(file) {
      const sha256 = files.get(file);
      if (!sha256) throw new Error(`${file} was not among the files that were dropped.`);
      return readFile(mediaPath(sha256), 'utf8');
    },
  };
}
