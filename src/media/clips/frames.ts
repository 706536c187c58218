/** Frames of clips as pictures: which ones to read, and each as facts and windows like a still's. */
import { resolveResponse } from '@/core/light/response';
import { joinLooks, lightOf, lookOf, type ClipLook, type Look, type Moment } from '@/core/sitting/intake/look';
import type { Picture } from '@/core/reading/window';
import type { FrameOfClip, OpenPicture } from '@/core/reading/source';
import { UnreadablePicture, type PictureFacts } from '@/core/reading/facts';
import { runChild, streamChild } from '../children';
import { exchangesSides, storedRect, upright } from '../orientation';
import type { Inspected } from '../stills';
import { colorWindow, frameBytes, lumaPreview, lumaWindow, planesOf, sampledWindow, type Planes } from './planes';
import { CLIP_LIMITS, SAFE_INPUT } from './limits';
import { probeClip, unreadableClip, type ClipFacts } from './probe';

/** Frames read of a clip: evenly over its span. */
const FRAMES = 9;
/** Frames in a row of which the sharpest is taken: a gust or a step shakes one, seldom all. */
const IN_A_ROW = 3;
/** Frames are looked for this far from where they are wanted, seconds: the slowest cameras show one a second. */
const NEAR = 1;
const LARGEST_BLOCK = 64;
const ENDINGS = /\.(mp4|mov|m4v|mkv)$/i;
const FRAME = /^(.*)#t=(\d+(?:\.\d+)?(?:,\d+(?:\.\d+)?)*)$/;

export function isClip(name: string): boolean {
  return ENDINGS.test(name);
}

/**
 * `run.mp4#t=2.480,2.520,2.560` is the sharpest of these frames of run.mp4; `null` for any other name. Times are the frames' own, so
 * that clips of variable frame rate are read as they are shown.
 */
export function frameOf(name: string): { clip: string; moments: number[] } | null {
  const match = FRAME.exec(name);
  return match && isClip(match[1]) ? { clip: match[1], moments: match[2].split(',').map(Number) } : null;
}

/**
 * The frames of a clip that are measured: evenly over the span, each the sharpest of a few in a row. Throws UnreadablePicture.
 *
 * @param count how many single frames, where each shows something else; nine stretches when left out
 */
export async function framesOfClip(
  path: string,
  name: string,
  span?: { from: number; to: number },
  count?: number,
): Promise<FrameOfClip[]> {
  const clip = await probeClip(path, name);
  const { seconds, framesPerSecond } = clip;
  // The very last frame may end before the duration that is told.
  const end = Math.max(0, seconds - 1 / framesPerSecond);
  const from = Math.min(end, Math.max(0, span?.from ?? 0));
  const to = Math.min(end, span?.to ?? end);
  if (to < from || (span && span.from >= seconds))
    throw new UnreadablePicture(name, `the span asked for lies beyond its ${seconds.toFixed(1)} seconds.`);
  const stretches = Math.max(1, Math.min(count ?? FRAMES, Math.floor((to - from) * framesPerSecond + 0.01) + 1));
  // A frame is shown until the next one: the last one's time counts too.
  const stretch = (to - from + 1 / framesPerSecond) / stretches;
  const middles = Array.from({ length: stretches }, (_, i) => from + (i + 0.5) * stretch);
  const shown = await timesNear(path, name, clip, middles);
  const inARow = count === undefined ? IN_A_ROW : 1;
  const used = new Set<number>();
  return middles.flatMap((middle) => {
    // The frame that is on the screen at this moment, and those after it that belong to the same stretch.
    const first = Math.max(
      0,
      shown.findLastIndex((time) => time <= middle + 5e-4),
    );
    const reach = Math.min(middle + stretch / 2 - 5e-4, to + 5e-4);
    const row = shown.slice(first, first + inARow).filter((time, i) => (i === 0 || time < reach) && !used.has(time));
    if (row.length === 0) return [];
    for (const time of row) used.add(time);
    return [{ file: `${name}#t=${row.map((time) => time.toFixed(4)).join(',')}`, seconds: row[0] }];
  });
}

/** Names of the frame that is shown at a moment and of the next one, and the seconds between them. Throws UnreadablePicture. */
export async function framePair(
  path: string,
  name: string,
  moment: number,
): Promise<{ files: [string, string]; interval: number }> {
  const clip = await probeClip(path, name);
  const shown = await timesNear(path, name, clip, [moment]);
  const first = Math.min(onScreen(shown, moment), shown.length - 2);
  if (first < 0) throw new UnreadablePicture(name, 'it has one frame alone.');
  const [from, to] = [shown[first], shown[first + 1]];
  return { files: [from, to].map((time) => `${name}#t=${time.toFixed(4)}`) as [string, string], interval: to - from };
}

/** Index of the frame that is shown at a moment; the first where it comes later. */
export function onScreen(shown: readonly number[], moment: number): number {
  return Math.max(
    0,
    shown.findLastIndex((time) => time <= moment + 5e-4),
  );
}

/** Times at which frames are shown, around some moments, in order; read from the container, nothing is decoded. */
export async function timesNear(
  path: string,
  name: string,
  clip: ClipFacts,
  moments: readonly number[],
): Promise<number[]> {
  const { even, seconds, startSeconds, framesPerSecond } = clip;
  if (even)
    return Array.from({ length: Math.max(1, Math.round(seconds * framesPerSecond)) }, (_, i) => i / framesPerSecond);
  const intervals = moments.map((moment) => {
    const at = moment + startSeconds;
    return `${Math.max(0, at - NEAR).toFixed(3)}%${(at + NEAR).toFixed(3)}`;
  });
  const entries = ['-show_entries', 'packet=pts_time', '-select_streams', 'v:0', '-of', 'csv=p=0'];
  let text: string;
  try {
    const words = ['-v', 'error', ...SAFE_INPUT, ...entries, '-read_intervals', intervals.join(',')];
    text = (
      await runChild('ffprobe', [...words, `file:${path}`], { ...CLIP_LIMITS, output: 20_000_000, reads: path })
    ).toString();
  } catch (error) {
    throw unreadableClip(name, error);
  }
  const times = text.split(/[\s,]+/).flatMap((word) => (/^-?\d/.test(word) ? Number(word) - startSeconds : []));
  // A first frame before the start is shown at it.
  const start = Math.min(...times);
  if (!Number.isFinite(start)) throw new UnreadablePicture(name, 'the clip is cut short or damaged.');
  return [...new Set(times)].filter((time) => time >= 0 || time === start).sort((a, b) => a - b);
}

/**
 * Opens the sharpest of a few frames, upright; windows asked for as luma come as gray pictures. Rejects with UnreadablePicture.
 *
 * @param moments times of frames in a row, as {@link framesOfClip} names them
 * @param threads of the decoder: each holds frames of its own
 */
export async function openFrame(
  path: string,
  name: string,
  moments: readonly number[],
  { signal, threads = 2 }: { signal?: AbortSignal; threads?: number } = {},
): Promise<OpenPicture> {
  const clip = await probeClip(path, name);
  let sharpest = 0;
  let most = -1;
  let planes: Planes | null = null;
  const look = (seen: Planes, i: number) => {
    const detail = moments.length > 1 ? detailOf(seen, clip) : 0;
    if (detail <= most) return false;
    [sharpest, most, planes] = [i, detail, seen];
    return true;
  };
  await decodeFrames(path, name, clip, { seconds: moments[0], count: moments.length, threads }, look, signal);
  return {
    facts: factsOfFrame(clip, moments[sharpest]),
    preview: lumaPreview(planes!, clip),
    windows: async (rects) =>
      rects.map((rect) => {
        const stored = storedRect(clip.orientation, rect, clip.width, clip.height);
        const window = rect.luma ? lumaWindow(planes!, clip, stored) : colorWindow(planes!, clip, stored);
        return upright(window, clip.orientation);
      }),
    close: () => (planes = null),
  };
}

/** Energy of fine detail in luma over its brightness; frames in a row differ by their blur alone. */
function detailOf({ luma }: Planes, { width, height }: ClipFacts): number {
  let [energy, level] = [0, 0];
  for (let y = 8; y < height - 8; y += 16)
    for (let x = 2, at = y * width + 2; x < width - 2; x++, at++) {
      const across = luma[at + 2] - luma[at - 2];
      const down = luma[at + 2 * width] - luma[at - 2 * width];
      energy += across * across + down * down;
      level += luma[at];
    }
  return level > 0 ? energy / level ** 2 : 0;
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
  const { seconds, framesPerSecond } = clip;
  const end = Math.max(0, seconds - 1.5 / framesPerSecond);
  const count = Math.max(1, Math.min(MOMENTS, Math.floor(end * framesPerSecond) + 1));
  const facts = factsOfFrame(clip, 0);
  const [decode] = resolveResponse({ kind: 'file' }, facts.encoding, () => '').decode;
  const looks: Look[] = [];
  const moments: Moment[] = [];
  const wanted = Array.from({ length: count }, (_, i) => (count === 1 ? 0 : (i * end) / (count - 1)));
  const shown = await timesNear(path, name, clip, wanted);
  for (const at of new Set(wanted.map((moment) => shown[onScreen(shown, moment)]))) {
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
    frameSeconds: seconds,
    clip: {
      seconds: clip.seconds,
      framesPerSecond: clip.framesPerSecond,
      codec: clip.codec,
      bits: clip.format.bits,
      ...(clip.steps ? { steps: clip.steps } : {}),
    },
    capturedAt: clip.startedAt === null ? null : new Date(Date.parse(clip.startedAt) + seconds * 1000).toISOString(),
    whiteBalance: null,
  };
}

async function decodeFrame(path: string, name: string, clip: ClipFacts, seconds: number): Promise<Planes> {
  let planes!: Planes;
  await decodeFrames(path, name, clip, { seconds, count: 1, threads: 2 }, (seen) => {
    planes = seen;
    return true;
  });
  return planes;
}

/**
 * Decodes frames in a row from a moment on; fewer where the clip ends, at least one. Of 4K frames a few would be much to hold: each is
 * looked at as it comes.
 *
 * @param look says whether it holds on to a frame; else its memory is used again
 */
async function decodeFrames(
  path: string,
  name: string,
  clip: ClipFacts,
  { seconds, count, threads }: { seconds: number; count: number; threads: number },
  look: (planes: Planes, index: number) => boolean,
  signal?: AbortSignal,
): Promise<void> {
  const bytes = frameBytes(clip);
  // Codecs decode whole blocks, beyond the frame's own edge.
  const pixels = (clip.width + LARGEST_BLOCK) * (clip.height + LARGEST_BLOCK);
  const input = ['-nostdin', '-v', 'error', ...SAFE_INPUT, '-max_alloc', '2000000000', '-max_pixels', String(pixels)];
  // A hair before the frame's own time: rounding must not lead to the next one.
  const start = Math.max(0, seconds - 5e-4).toFixed(4);
  const where = ['-threads', String(threads), '-noautorotate', '-ss', start, '-i', `file:${path}`];
  // Frames as they are, none doubled or left out to even the rate.
  const output = ['-map', '0:v:0', '-fps_mode', 'passthrough', '-frames:v', String(count)];
  const format = ['-pix_fmt', clip.format.name, '-f', 'rawvideo', 'pipe:1'];
  let frame: Buffer | null = null;
  let [filled, index] = [0, 0];
  const take = (part: Buffer) => {
    for (let from = 0; from < part.length;) {
      frame ??= Buffer.allocUnsafeSlow(bytes);
      const taken = part.copy(frame, filled, from);
      from += taken;
      filled += taken;
      if (filled < bytes) continue;
      filled = 0;
      if (look(planesOf(frame, clip), index++)) frame = null;
    }
  };
  try {
    const limits = { ...CLIP_LIMITS, output: count * bytes, reads: path };
    await streamChild('ffmpeg', [...input, ...where, ...output, ...format], limits, take, signal);
  } catch (error) {
    throw unreadableClip(name, error);
  }
  if (index === 0 || filled > 0) throw new UnreadablePicture(name, 'the clip is cut short or damaged.');
}
