/** What the stages show of pictures beyond whole views: proposals of places, crops at the picture's own pixels. */
import { join } from 'node:path';
import sharp from 'sharp';
import { decodingFor } from '@/core/light/decoding';
import { linearTable } from '@/core/formulas/transfer/transfer';
import { resolveResponse, responseAtHand } from '@/core/light/response';
import { averagedShutter, type LightFrame } from '@/core/measures/motion/average';
import { motionBetween, pyramidOfFrame } from '@/core/measures/motion/flow';
import { pixelsOfRect, type Picture, type PixelRect } from '@/core/reading/window';
import { proposePatches, type Proposals } from '@/core/sitting/regions/propose';
import type { Rect, Session } from '@/core/session/schema';
import { srgbCode } from '@/media/renditions';
import { frameOf, framePair, isClip } from '@/media/clips/frames';
import { openMedia } from '@/media/files';
import { readWindows } from '@/core/reading/source';
import { readStillAgain } from '@/media/stills';
import { startThreads, type PictureThreads } from '@/media/threads';
import { storedPicture, loadSession, mediaPath } from '@/store';
import { RequestError } from './http';

/** Pictures beyond this, decoded, are not looked through for places: the server has other work. */
const MOST_BYTES = 500_000_000;
/** Proposals kept: scenes are gone back to. */
const KEPT = 50;
/** Sides of a crop at most, pixels. */
const LARGEST_CROP = 640;
/** Whole frames are shown at most so wide. */
const WIDEST_FRAME = 960;
const WIDEST_AVERAGED = 720;
/** The bright side of a crop is shown at this share of white, so that crops of unlike exposure can be compared. */
const BRIGHT = 0.7;

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

/** A picture or frame of a session, and what is stored of it. Throws RequestError, NoSuchSession. */
async function pictureOf(sessionId: string, file: string) {
  const { session, files } = await loadSession(sessionId);
  const sha256 = files.get(frameOf(file)?.clip ?? file);
  const facts = sha256 === undefined ? null : await storedPicture(sha256);
  if (!sha256 || !facts) throw new RequestError(404, `${file} is not among the session’s readable files.`);
  const read = async (rect: PixelRect): Promise<Picture> =>
    facts.clip || facts.raw
      ? (await readWindows(openMedia(mediaPath(sha256), file), () => [rect])).windows[0]
      : (await readStillAgain(mediaPath(sha256), file, [rect]))[0];
  const { decode } = resolveResponse(responseAtHand(session.rig.response, facts.encoding), facts.encoding, () => '');
  return { facts, read, tables: decode.map((one) => linearTable(one, facts.bitDepth)) };
}

/** What shows linear light so that its bright side is at one brightness, whatever the exposure was. */
function levelling(light: ArrayLike<number>): (value: number) => number {
  const bright = Array.from(light).sort((a, b) => a - b)[Math.floor(0.95 * light.length)];
  const gain = bright > 0 ? BRIGHT / bright : 1;
  return (value) => srgbCode(value * gain);
}

/**
 * A picture or a clip's frame as a small JPEG, levelled. Throws RequestError, UnreadablePicture, NoSuchSession.
 *
 * @param part of the frame, in fractions
 */
export async function frameOfSession(sessionId: string, file: string, part: Rect): Promise<Buffer> {
  const shown = smallLight(await lightOfPart(sessionId, file, part), WIDEST_FRAME);
  return jpegOf(shown, levelling(shown.data));
}

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
  const { files } = await loadSession(sessionId);
  const sha256 = files.get(clip);
  if (!sha256 || !isClip(clip)) throw new RequestError(404, `${clip} is not among the session’s clips.`);
  const pair = await framePair(mediaPath(sha256), clip, seconds);
  const whole = { x: 0, y: 0, width: 1, height: 1 };
  const [first, next] = await Promise.all(
    pair.files.map(async (file) => smallLight(await lightOfPart(sessionId, file, whole), WIDEST_AVERAGED)),
  );
  const [from, to] = [first, next].map((one) => pyramidOfFrame(grayOf(one)));
  const motion = motionBetween(from, to) ?? { dx: 0, dy: 0, rotation: 0 };
  return jpegOf(averagedShutter(first, next, motion, degrees / 360), levelling(first.data));
}

async function lightOfPart(sessionId: string, file: string, part: Rect): Promise<LightFrame> {
  const { facts, read, tables } = await pictureOf(sessionId, file);
  const rect = pixelsOfRect(part, facts.width, facts.height);
  if (!rect) throw new RequestError(422, 'That rectangle holds no pixel.');
  const { data, channels, width, height } = await read(rect);
  const light = Float32Array.from(data, (code, i) => tables[channels === 3 ? i % 3 : 1][code]);
  return { width, height, channels, data: light };
}

/** A frame's light in cells, so that it is at most so wide. */
function smallLight({ width: wide, height: high, channels, data }: LightFrame, most: number): LightFrame {
  const cell = Math.max(1, Math.ceil(wide / most));
  const [width, height] = [Math.floor(wide / cell), Math.floor(high / cell)];
  const light = new Float32Array(width * height * channels);
  for (let y = 0; y < height * cell; y++)
    for (let x = 0; x < width * cell; x++)
      for (let c = 0; c < channels; c++)
        light[(Math.floor(y / cell) * width + Math.floor(x / cell)) * channels + c] +=
          data[(y * wide + x) * channels + c] / (cell * cell);
  return { width, height, channels, data: light };
}

/** Codes of luma, near enough for laying frames on each other. */
function grayOf({ width, height, channels, data }: LightFrame) {
  const gray = new Float32Array(width * height);
  for (let i = 0; i < gray.length; i++) {
    const at = i * channels;
    const light = channels === 3 ? (data[at] + 2 * data[at + 1] + data[at + 2]) / 4 : data[at];
    gray[i] = Math.sqrt(Math.max(0, light));
  }
  return { width, height, data: gray };
}

function jpegOf({ width, height, channels, data }: LightFrame, shown: (value: number) => number): Promise<Buffer> {
  return sharp(Uint8Array.from(data, shown), { raw: { width, height, channels } }).jpeg({ quality: 88 }).toBuffer();
}

/**
 * A part of a picture at its own pixels as a PNG, levelled: the bright side at one brightness, whatever the exposure was.
 * Throws RequestError, UnreadablePicture, NoSuchSession.
 */
export async function cropOf(sessionId: string, file: string, wanted: PixelRect): Promise<Buffer> {
  const { facts, read, tables } = await pictureOf(sessionId, file);
  const x = Math.min(Math.max(0, wanted.x), facts.width - 1);
  const y = Math.min(Math.max(0, wanted.y), facts.height - 1);
  const width = Math.min(wanted.width, facts.width - x, LARGEST_CROP);
  const height = Math.min(wanted.height, facts.height - y, LARGEST_CROP);
  if (!(width >= 1 && height >= 1)) throw new RequestError(422, 'That rectangle holds no pixel.');
  const rect = { x, y, width, height };
  const { data } = await read(rect);
  const light = Float64Array.from(data, (code, i) => tables[facts.channels === 3 ? i % 3 : 1][code]);
  const shown = Uint8Array.from(light, levelling(light));
  return sharp(shown, { raw: { width, height, channels: facts.channels } })
    .png()
    .toBuffer();
}
