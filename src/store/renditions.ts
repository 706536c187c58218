/** Views of stored pictures, made once and kept. */
import { createHash } from 'node:crypto';
import { access } from 'node:fs/promises';
import { join } from 'node:path';
import { writeRendition, writeStrip } from '@/media/renditions';
import type { Response } from '@/core/session/schema';
import { readConfig } from './config';
import { store } from './database';
import { touch } from './purge';
import { MediaError, mediaPath, stripPath, type StoredFacts } from './media';
import { OncePerKey } from './turns';

/** Sizes of the longer side that exist. */
export const RENDITION_SIZES = [320, 1600] as const;
export type RenditionSize = (typeof RENDITION_SIZES)[number];

/** Where a view of a stored file lies, by what tells it from others of the file. */
export const renditionPath = (sha256: string, what: string) =>
  join(readConfig().renditionFolder, sha256.slice(0, 2), `${sha256}-${what}`);

const making = new OncePerKey<void>();

/**
 * Makes a file unless it is there; two windows that ask at once wait for one making.
 *
 * @param asker aborts when who asked has gone; `make` is told when all of them have
 */
export async function madeOnce(
  target: string,
  make: (givenUp: AbortSignal) => Promise<void>,
  asker?: AbortSignal,
): Promise<string> {
  const there = await access(target).then(
    () => true,
    () => false,
  );
  // What is looked at is kept longest.
  if (there) await touch(target);
  else await making.ask(target, make, asker);
  return target;
}

/** Path of a JPEG view. Throws MediaError or UnreadablePicture. */
export async function rendition(sha256: string, size: RenditionSize, response: Response): Promise<string> {
  const file = await store().models.File.findByPk(sha256);
  if (!file) throw new MediaError('There is no such file.');
  const facts = file.facts as unknown as StoredFacts;
  if (!facts.readable) throw new MediaError(facts.reason);
  const how = createHash('sha256').update(JSON.stringify(response)).digest('hex').slice(0, 10);
  const target = renditionPath(sha256, `${size}-${how}.jpg`);
  return madeOnce(target, () => writeRendition(mediaPath(sha256), target, size, facts.picture, response));
}

/** Path of a clip's strip of moments, made when the clip arrived, or again where it was purged; `null` for what is no clip. */
export async function stripOf(sha256: string): Promise<string | null> {
  const file = await store().models.File.findByPk(sha256);
  const facts = file?.facts as unknown as StoredFacts | undefined;
  if (!facts?.readable || !facts.picture.clip) return null;
  const target = stripPath(sha256);
  return madeOnce(target, () => writeStrip(mediaPath(sha256), target, facts.picture));
}
