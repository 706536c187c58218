/** Frames and parts of pictures that stand beside figures, made once and kept like other views. */
import { createHash, randomUUID } from 'node:crypto';
import { mkdir, rename, rm, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { frameOf } from '@/media/clips/frames';
import { shownAverage, shownFrame, type FileShown } from '@/media/shownFrames';
import type { Rect } from '@/core/session/schema';
import { MediaError, mediaPath, storedPicture } from './media';
import { madeOnce, renditionPath } from './renditions';
import type { LoadedSession } from './sessions';

type Of = Pick<LoadedSession, 'session' | 'files'>;

/** A session's picture, or a clip or a frame of it, with what is stored of it; `null` where there is no such readable file. */
export async function fileShown(
  { session, files }: Of,
  name: string,
): Promise<(FileShown & { sha256: string }) | null> {
  const sha256 = files.get(frameOf(name)?.clip ?? name);
  const facts = sha256 === undefined ? null : await storedPicture(sha256);
  return sha256 && facts ? { path: mediaPath(sha256), name, facts, response: session.rig.response, sha256 } : null;
}

/** Path of a picture's or frame's part as a small levelled JPEG; `null` where there is no such file. Throws MediaError, UnreadablePicture. */
export async function keptFrame(of: Of, name: string, part: Rect): Promise<string | null> {
  const file = await fileShown(of, name);
  if (!file) return null;
  const { x, y, width, height } = part;
  return kept(file, [frameOf(name)?.moments, x, y, width, height], () => shownFrame(file, part));
}

/** Path of a clip's frame as a longer shutter would have drawn it; `null` where there is no such clip. Throws UnreadablePicture. */
export async function keptAverage(of: Of, name: string, seconds: number, degrees: number): Promise<string | null> {
  const file = await fileShown(of, name);
  if (!file?.facts.clip || frameOf(name)) return null;
  return kept(file, ['averaged', seconds, degrees], () => shownAverage(file, seconds, degrees));
}

/** @param asked what tells this view of the file from others */
async function kept(
  { sha256, response }: { sha256: string } & Pick<FileShown, 'response'>,
  asked: unknown,
  make: () => Promise<Buffer | null>,
): Promise<string> {
  const how = createHash('sha256')
    .update(JSON.stringify([response, asked]))
    .digest('hex')
    .slice(0, 16);
  const target = renditionPath(sha256, `shown-${how}.jpg`);
  return madeOnce(target, async () => {
    const jpeg = await make();
    if (!jpeg) throw new MediaError('That rectangle holds no pixel.');
    await mkdir(dirname(target), { recursive: true });
    const temporary = `${target}.${randomUUID()}`;
    try {
      await writeFile(temporary, jpeg);
      await rename(temporary, target);
    } finally {
      await rm(temporary, { force: true });
    }
  });
}
