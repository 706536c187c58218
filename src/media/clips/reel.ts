/**
 * Reels: a clip's frames, small, a couple of seconds a file, to be played and scrubbed. Each is a JPEG of the clip's own R′G′B′ codes in
 * eight bits, so that light is made of them as of the clip. At rest the frame's own pixels are looked at; measured is never from these.
 */
import { randomUUID } from 'node:crypto';
import { mkdir, rename, rm, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { REEL_SECONDS } from '@/core/viewing/pyramid';
import { UnreadablePicture } from '@/core/reading/facts';
import { runChild } from '../children';
import { exchangesSides } from '../orientation';
import { onScreen, timesNear } from './frames';
import { CLIP_LIMITS, SAFE_INPUT } from './limits';
import { probeClip, unreadableClip, type ClipFacts } from './probe';

/** The longer side of a frame at most. */
const REEL_PIXELS = 960;
const LARGEST_REEL = 200_000_000;

/** What stands before a reel's JPEGs: when each is shown, seconds, and how long it is, bytes. */
export interface ReelHead {
  times: number[];
  sizes: number[];
}

/**
 * Writes one reel: the length of its head (32 bits, little-endian), the head as JSON, the frames' JPEGs. The file appears whole or not at
 * all. Throws UnreadablePicture.
 *
 * @param part counts from 0, {@link REEL_SECONDS} each
 */
export async function writeReel(source: string, name: string, target: string, part: number): Promise<void> {
  const clip = await probeClip(source, name);
  const [from, to] = [part * REEL_SECONDS, (part + 1) * REEL_SECONDS];
  const times = (await timesNear(source, name, clip, [from, from + REEL_SECONDS / 2, to])).filter(
    (time) => time >= from - 5e-4 && time < Math.min(to, clip.seconds) - 5e-4,
  );
  if (from > clip.seconds) throw new UnreadablePicture(name, 'the clip is not so long.');
  const frames = times.length === 0 ? [] : await smallFrames(source, name, clip, times);
  const head: ReelHead = { times: times.slice(0, frames.length), sizes: frames.map((frame) => frame.length) };
  const words = Buffer.from(JSON.stringify(head));
  const length = Buffer.alloc(4);
  length.writeUInt32LE(words.length);
  await mkdir(dirname(target), { recursive: true });
  const temporary = `${target}.${randomUUID()}`;
  try {
    await writeFile(temporary, Buffer.concat([length, words, ...frames]));
    await rename(temporary, target);
  } finally {
    await rm(temporary, { force: true });
  }
}

/** Time of the frame that is on the screen at a moment of a clip, seconds. Throws UnreadablePicture. */
export async function frameTime(source: string, name: string, moment: number): Promise<number> {
  const clip = await probeClip(source, name);
  const shown = await timesNear(source, name, clip, [Math.min(moment, clip.seconds)]);
  return shown[onScreen(shown, moment)] ?? 0;
}

async function smallFrames(source: string, name: string, clip: ClipFacts, times: readonly number[]): Promise<Buffer[]> {
  const [width, height] = exchangesSides(clip.orientation) ? [clip.height, clip.width] : [clip.width, clip.height];
  const shrink = Math.min(1, REEL_PIXELS / Math.max(width, height));
  const [w, h] = [width, height].map((side) => Math.max(2, Math.round(side * shrink)));
  // JPEG's own matrix is BT.601's in full range (ITU-T T.871).
  const matrix = `in_color_matrix=${matrixName(clip)}:in_range=${clip.range}:out_color_matrix=bt601:out_range=full`;
  const filter = `scale=${w}:${h}:flags=area+accurate_rnd+full_chroma_int:${matrix},format=yuvj444p`;
  const input = ['-nostdin', '-v', 'error', ...SAFE_INPUT, '-max_alloc', '2000000000', '-threads', '2'];
  const start = ['-ss', Math.max(0, times[0] - 5e-4).toFixed(4), '-i', `file:${source}`];
  const output = ['-map', '0:v:0', '-fps_mode', 'passthrough', '-frames:v', String(times.length), '-vf', filter];
  const format = ['-c:v', 'mjpeg', '-q:v', '2', '-f', 'image2pipe', 'pipe:1'];
  try {
    const limits = { ...CLIP_LIMITS, output: LARGEST_REEL, reads: source };
    return apart(await runChild('ffmpeg', [...input, ...start, ...output, ...format], limits));
  } catch (error) {
    throw unreadableClip(name, error);
  }
}

function matrixName({ matrix: { kr } }: ClipFacts): string {
  return kr === 0.2126 ? 'bt709' : kr === 0.2627 ? 'bt2020' : 'bt601';
}

/** JPEGs that were written one after the other: inside of one its first three bytes can't stand (ITU-T T.81, B.1.1.5). */
function apart(bytes: Buffer): Buffer[] {
  const starts: number[] = [];
  const mark = Buffer.from([0xff, 0xd8, 0xff]);
  for (let at = bytes.indexOf(mark); at >= 0; at = bytes.indexOf(mark, at + 3)) starts.push(at);
  return starts.map((start, i) => bytes.subarray(start, starts[i + 1] ?? bytes.length));
}
