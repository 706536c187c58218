/** What the stages show of pictures beyond whole views: proposals of places, crops at the picture's own pixels. */
import { join } from 'node:path';
import sharp from 'sharp';
import { decodingFor } from '@/core/gather';
import { linearTable, resolveResponse, responseAtHand } from '@/core/light';
import type { PixelRect } from '@/core/patches';
import { proposePatches, type Proposals } from '@/core/regions';
import type { Session } from '@/core/session';
import { srgbCode } from '@/media/renditions';
import { frameOf } from '@/media/clips/frames';
import { readMedia } from '@/media/files';
import { readStillAgain } from '@/media/stills';
import { startThreads, type StillThreads } from '@/media/threads';
import { storedPicture, loadSession, mediaPath } from '@/store';
import { RequestError } from './http';

/** Pictures beyond this, decoded, are not looked through for places: the server has other work. */
const MOST_BYTES = 500_000_000;
/** Proposals kept: scenes are gone back to. */
const KEPT = 50;
/** Sides of a crop at most, pixels. */
const LARGEST_CROP = 640;
/** The bright side of a crop is shown at this share of white, so that crops of unlike exposure can be compared. */
const BRIGHT = 0.7;

const kept = new Map<string, Promise<Proposals>>();
let threads: StillThreads | null | undefined;

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
  const { windows } = await readMedia(mediaPath(sha256), file, ({ width, height }) => [{ x: 0, y: 0, width, height }]);
  return proposePatches(kind, windows[0], decoding.tables, decoding.luminance);
}

/**
 * A part of a picture at its own pixels as a PNG, levelled: the bright side at one brightness, whatever the exposure was.
 * Throws RequestError, UnreadablePicture, NoSuchSession.
 */
export async function cropOf(sessionId: string, file: string, wanted: PixelRect): Promise<Buffer> {
  const { session, files } = await loadSession(sessionId);
  const sha256 = files.get(frameOf(file)?.clip ?? file);
  const facts = sha256 === undefined ? null : await storedPicture(sha256);
  if (!sha256 || !facts) throw new RequestError(404, `${file} is not among the session’s readable files.`);
  const x = Math.min(Math.max(0, wanted.x), facts.width - 1);
  const y = Math.min(Math.max(0, wanted.y), facts.height - 1);
  const width = Math.min(wanted.width, facts.width - x, LARGEST_CROP);
  const height = Math.min(wanted.height, facts.height - y, LARGEST_CROP);
  if (!(width >= 1 && height >= 1)) throw new RequestError(422, 'That rectangle holds no pixel.');
  const rect = { x, y, width, height };
  const [window] =
    facts.clip || facts.raw
      ? (await readMedia(mediaPath(sha256), file, () => [rect])).windows
      : await readStillAgain(mediaPath(sha256), file, [rect]);
  const { decode } = resolveResponse(responseAtHand(session.rig.response, facts.encoding), facts.encoding, () => '');
  const tables = decode.map((one) => linearTable(one, facts.bitDepth));
  const light = Float64Array.from(window.data, (code, i) => tables[facts.channels === 3 ? i % 3 : 1][code]);
  const bright = [...light].sort((a, b) => a - b)[Math.floor(0.95 * light.length)];
  const gain = bright > 0 ? BRIGHT / bright : 1;
  const shown = Uint8Array.from(light, (value) => srgbCode(value * gain));
  return sharp(shown, { raw: { width, height, channels: facts.channels } })
    .png()
    .toBuffer();
}
