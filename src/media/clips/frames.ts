/** Frames of clips as pictures: which ones to read, and each as facts and windows like a still's. */
import { resolveResponse } from '@/core/light';
import { joinLooks, lightOf, lookOf, type ClipLook, type Look, type Moment } from '@/core/look';
import type { Picture } from '@/core/patches';
import { previewOf } from '@/core/registration';
import {
  UnreadablePicture,
  type ChooseWindows,
  type FrameOfClip,
  type PictureFacts,
  type ReadWindows,
} from '@/core/source';
import { runChild } from '../children';
import { exchangesSides, storedRect, upright } from '../orientation';
import type { Inspected } from '../stills';
import { colorWindow, frameBytes, lumaWindow, sampledWindow, planesOf, type Planes } from './planes';
import { CLIP_LIMITS, probeClip, SAFE_INPUT, unreadableClip, type ClipFacts } from './probe';

/** Frames read of a clip: evenly over its span. */
const FRAMES = 9;
const LARGEST_BLOCK = 64;
const ENDINGS = /\.(mp4|mov|m4v|mkv)$/i;
const FRAME = /^(.*)#t=(\d+(?:\.\d+)?)$/;

export function isClip(name: string): boolean {
  return ENDINGS.test(name);
}

/** `run.mp4#t=2.500` is a frame of run.mp4; `null` for any other name. */
export function frameOf(name: string): { clip: string; seconds: number } | null {
  const match = FRAME.exec(name);
  return match && isClip(match[1]) ? { clip: match[1], seconds: Number(match[2]) } : null;
}

/** The frames of a clip that are measured. Throws UnreadablePicture. */
export async function framesOfClip(
  path: string,
  name: string,
  span?: { from: number; to: number },
): Promise<FrameOfClip[]> {
  const { seconds, framesPerSecond } = await probeClip(path, name);
  // The very last frame may end before the duration that is told.
  const end = Math.max(0, seconds - 1 / framesPerSecond);
  const from = Math.min(end, Math.max(0, span?.from ?? 0));
  const to = Math.min(end, span?.to ?? end);
  if (to < from || (span && span.from >= seconds))
    throw new UnreadablePicture(name, `the span asked for lies beyond its ${seconds.toFixed(1)} seconds.`);
  const count = Math.max(1, Math.min(FRAMES, Math.floor((to - from) * framesPerSecond) + 1));
  return Array.from({ length: count }, (_, i) => {
    const at = from + ((i + 0.5) * (to - from)) / count;
    return { file: `${name}#t=${at.toFixed(3)}`, seconds: at };
  });
}

/** Facts and windows of one frame, upright; windows asked for as luma come as gray pictures. Throws UnreadablePicture. */
export async function readFrame(
  path: string,
  name: string,
  seconds: number,
  choose: ChooseWindows,
  signal?: AbortSignal,
): Promise<ReadWindows> {
  const clip = await probeClip(path, name);
  const facts = factsOfFrame(clip, seconds);
  const planes = await decodeFrame(path, name, clip, seconds, signal);
  const whole = { x: 0, y: 0, width: clip.width, height: clip.height };
  const view = upright(lumaWindow(planes, clip, whole), clip.orientation);
  const windows = choose(facts, previewOf(view)).map((rect) => {
    const stored = storedRect(clip.orientation, rect, clip.width, clip.height);
    const window = rect.luma ? lumaWindow(planes, clip, stored) : colorWindow(planes, clip, stored);
    return upright(window, clip.orientation);
  });
  return { facts, windows };
}

/** Moments of a clip that are looked at when it arrives, its first and its last frame among them. */
const MOMENTS = 12;
/** Pixels across of what a look is taken from. */
const LOOK_PIXELS = 960;

/**
 * Facts and look of a clip, from moments evenly over all of it: a clip that is cut short is told when it arrives.
 *
 * @param show gets each moment's picture, sampled, in order: for the strip that is scrubbed through
 */
export async function inspectClip(
  path: string,
  name: string,
  show?: (picture: Picture) => void | Promise<void>,
): Promise<Inspected<ClipLook>> {
  const clip = await probeClip(path, name);
  const { seconds, framesPerSecond, codec } = clip;
  const end = Math.max(0, seconds - 1.5 / framesPerSecond);
  const count = Math.max(1, Math.min(MOMENTS, Math.floor(end * framesPerSecond) + 1));
  const facts = { ...factsOfFrame(clip, 0), clip: { seconds, framesPerSecond, codec } };
  const [decode] = resolveResponse({ kind: 'file' }, facts.encoding, () => '').decode;
  const looks: Look[] = [];
  const moments: Moment[] = [];
  for (let i = 0; i < count; i++) {
    const at = count === 1 ? 0 : (i * end) / (count - 1);
    const planes = await decodeFrame(path, name, clip, at);
    const picture = upright(sampledWindow(planes, clip, Math.ceil(clip.width / LOOK_PIXELS)), clip.orientation);
    const look = lookOf(picture);
    looks.push(look);
    moments.push({
      seconds: at,
      light: lightOf(look, [decode, decode, decode], 16),
      top: look.top,
      detail: look.detail,
    });
    await show?.(picture);
  }
  return { facts, look: { ...joinLooks(looks), moments } };
}

function factsOfFrame(clip: ClipFacts, seconds: number): PictureFacts {
  const [width, height] = exchangesSides(clip.orientation) ? [clip.height, clip.width] : [clip.width, clip.height];
  return {
    width,
    height,
    channels: 3,
    bitDepth: 16,
    encoding: clip.encoding,
    exposure: {},
    capturedAt: clip.startedAt === null ? null : new Date(Date.parse(clip.startedAt) + seconds * 1000).toISOString(),
    whiteBalance: null,
  };
}

async function decodeFrame(
  path: string,
  name: string,
  clip: ClipFacts,
  seconds: number,
  signal?: AbortSignal,
): Promise<Planes> {
  const bytes = frameBytes(clip);
  // Codecs decode whole blocks, beyond the frame's own edge.
  const pixels = (clip.width + LARGEST_BLOCK) * (clip.height + LARGEST_BLOCK);
  const input = ['-nostdin', '-v', 'error', ...SAFE_INPUT, '-max_alloc', '2000000000', '-max_pixels', String(pixels)];
  const frame = ['-threads', '2', '-noautorotate', '-ss', seconds.toFixed(4), '-i', `file:${path}`];
  const output = ['-map', '0:v:0', '-frames:v', '1', '-pix_fmt', clip.format.name, '-f', 'rawvideo', 'pipe:1'];
  let raw: Buffer;
  try {
    raw = await runChild('ffmpeg', [...input, ...frame, ...output], { ...CLIP_LIMITS, output: bytes }, signal);
  } catch (error) {
    throw unreadableClip(name, error);
  }
  if (raw.length !== bytes) throw new UnreadablePicture(name, 'the clip is cut short or damaged.');
  return planesOf(raw, clip);
}
