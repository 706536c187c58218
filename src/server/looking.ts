/** What the stages show of pictures beyond whole views: proposals of places, crops at the picture's own pixels. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { decodingFor } from '@/core/light/decoding';
import { responseAtHand } from '@/core/light/response';
import type { PixelRect } from '@/core/reading/window';
import { proposePatches, type Proposals } from '@/core/sitting/regions/propose';
import type { Rect, Session } from '@/core/session/schema';
import { openMedia } from '@/media/files';
import { readWindows } from '@/core/reading/source';
import { levelling, lightTables, partOf } from '@/media/shownFrames';
import { startThreads, type PictureThreads } from '@/media/threads';
import { fileShown, keptAverage, keptFrame, loadSession, mediaPath, storedPicture } from '@/store';
import { RequestError } from './http';

/** Pictures beyond this, decoded, are not looked through for places: the server has other work. */
const MOST_BYTES = 500_000_000;
/** Proposals kept: scenes are gone back to. */
const KEPT = 50;
/** Sides of a crop at most, pixels. */
const LARGEST_CROP = 640;

const kept = new Map<string, Promise<Proposals>>();
let threads: PictureThreads | null | undefined;

/** Proposes places on the first readable bare picture of a scene. Throws RequestError, UnreadablePicture, NoSuchSession. */
export async function proposeRegions(sessionId: string, sceneId: string): Promise<Proposals & { file: string }> {
  const { session, files } = await loadSession(sessionId);
  const scene = session.scenes.find((one) => one.id === sceneId);
  if (!scene) throw new RequestError(404, 'There is no such scene.');
  const candidates = session.takes
    .filter((take) => take.scene === sceneId && take.filter === null)
    .sort((a, b) => Number(a.role !== 'measure') - Number(b.role !== 'measure'))
    .flatMap((take) => take.files);
  for (const file of candidates) {
    const sha256 = files.get(file);
    const facts = sha256 === undefined ? null : await storedPicture(sha256);
    if (!sha256 || !facts) continue;
    if ((facts.width * facts.height * facts.channels * facts.bitDepth) / 8 > MOST_BYTES)
      throw new RequestError(422, `${file} is too large to look through: draw the places by hand.`);
    const key = JSON.stringify([sha256, scene.kind, session.rig.response, session.rig.colorSpace]);
    let found = kept.get(key);
    if (!found) {
      found = lookThrough(sha256, file, scene.kind, session);
      kept.set(key, found);
      found.catch(() => kept.delete(key));
      if (kept.size > KEPT) kept.delete([...kept.keys()][0]);
    }
    return { ...(await found), file };
  }
  throw new RequestError(422, 'There is no readable bare picture of this scene to look through.');
}

async function lookThrough(
  sha256: string,
  file: string,
  kind: Session['scenes'][number]['kind'],
  session: Session,
): Promise<Proposals> {
  const facts = (await storedPicture(sha256))!;
  const plain = { ...session, rig: { ...session.rig, response: responseAtHand(session.rig.response) } };
  const decoding = decodingFor(plain, facts.encoding, facts.bitDepth);
  threads ??= startThreads(join(process.cwd(), 'dist', 'thread.mjs'));
  if (threads && !facts.clip && !facts.raw) return threads.propose(mediaPath(sha256), file, kind, [decoding, decoding]);
  const { windows } = await readWindows(openMedia(mediaPath(sha256), file), ({ width, height }) => [
    { x: 0, y: 0, width, height },
  ]);
  return proposePatches(kind, windows[0], decoding.tables, decoding.luminance);
}

/**
 * A picture or a clip's frame as a small JPEG, levelled. Throws RequestError, UnreadablePicture, NoSuchSession.
 *
 * @param part of the frame, in fractions
 */
export async function frameOfSession(sessionId: string, file: string, part: Rect): Promise<Buffer> {
  const path = await keptFrame(await loadSession(sessionId), file, part);
  if (path === null) throw notThere(file);
  return readFile(path);
}

const notThere = (file: string) => new RequestError(404, `${file} is not among the session’s readable files.`);

/**
 * What a clip would have looked like with a longer shutter: its frame at a moment and the next one, and what lies between, averaged.
 *
 * @param degrees shutter angle; 360 is open from frame to frame
 * @throws RequestError, UnreadablePicture, NoSuchSession
 */
export async function averagedFrame(
  sessionId: string,
  clip: string,
  seconds: number,
  degrees: number,
): Promise<Buffer> {
  const path = await keptAverage(await loadSession(sessionId), clip, seconds, degrees);
  if (path === null) throw new RequestError(404, `${clip} is not among the session’s clips.`);
  return readFile(path);
}

/**
 * A part of a picture at its own pixels as a PNG, levelled: the bright side at one brightness, whatever the exposure was.
 * Throws RequestError, UnreadablePicture, NoSuchSession.
 */
export async function cropOf(sessionId: string, file: string, wanted: PixelRect): Promise<Buffer> {
  const shownFile = await fileShown(await loadSession(sessionId), file);
  if (!shownFile) throw notThere(file);
  const { facts } = shownFile;
  const tables = lightTables(shownFile);
  const x = Math.min(Math.max(0, wanted.x), facts.width - 1);
  const y = Math.min(Math.max(0, wanted.y), facts.height - 1);
  const width = Math.min(wanted.width, facts.width - x, LARGEST_CROP);
  const height = Math.min(wanted.height, facts.height - y, LARGEST_CROP);
  if (!(width >= 1 && height >= 1)) throw new RequestError(422, 'That rectangle holds no pixel.');
  const rect = { x, y, width, height };
  const { data } = await partOf(shownFile, rect);
  const light = Float64Array.from(data, (code, i) => tables[facts.channels === 3 ? i % 3 : 1][code]);
  const shown = Uint8Array.from(light, levelling(light));
  return sharp(shown, { raw: { width, height, channels: facts.channels } })
    .png()
    .toBuffer();
}
