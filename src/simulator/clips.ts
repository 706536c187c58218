/** The stand-in camera films: frames of a take through ffmpeg's encoders, with telemetry beside the clip. */
import { spawn } from 'node:child_process';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Picture } from '@/core/reading/window';
import { renderTake } from './bench';
import { clipName, telemetryName } from './session';
import type { BenchPlan, ClipPlan, PlannedTake } from './truth';

/** Transfer tags of the responses that a clip can carry. */
const TRANSFERS: Readonly<Record<string, string>> = {
  bt709: 'bt709',
  srgb: 'iec61966-2-1',
  linear: 'linear',
  hlg: 'arib-std-b67',
};

/**
 * Films a take; gives the names of the files written.
 *
 * @param render a frame's picture; as the plan's own camera draws it when left out
 */
export async function writeClipOf(
  plan: BenchPlan,
  take: PlannedTake,
  folder: string,
  render: (index: number) => Picture = (index) => renderTake(plan, take, index),
): Promise<string[]> {
  const clips = plan.clips!;
  const { response } = plan.camera;
  const frames = Array.from({ length: clips.frames }, (_, i) => () => render(i));
  const transfer = typeof response === 'string' ? (TRANSFERS[response] ?? 'unknown') : 'unknown';
  await writeClip(frames, plan, clips, transfer, join(folder, clipName(take)));
  if (!clips.telemetry) return [clipName(take)];
  await writeFile(join(folder, telemetryName(take)), telemetryOf(take, clips));
  return [clipName(take), telemetryName(take)];
}

/** A cue a frame, as a camera writes them. */
function telemetryOf(take: PlannedTake, { frames, framesPerSecond }: ClipPlan): string {
  const time = (seconds: number) => new Date(Math.round(seconds * 1000)).toISOString().slice(11, 23).replace('.', ',');
  return Array.from({ length: frames }, (_, i) => {
    const [from, to] = [i / framesPerSecond, (i + 1) / framesPerSecond];
    const values = `[iso: ${take.iso}] [shutter: ${take.shutterText}] [fnum: 280] [ev: 0] [ct: 5600]`;
    return `${i + 1}\n${time(from)} --> ${time(to)}\n${values}\n`;
  }).join('\n');
}

/**
 * Encodes pictures of 16 bits as a clip.
 *
 * @param transfer ffmpeg's name of the transfer for the tags, "unknown" for none
 */
export function writeClip(
  frames: readonly (() => Picture)[],
  { width, height }: { width: number; height: number },
  { codec, bits, chroma, range, quality, framesPerSecond, keyEvery }: ClipPlan,
  transfer: string,
  path: string,
): Promise<void> {
  const format = `yuv${chroma}p${bits === 8 ? '' : '10le'}`;
  const limits = range === 'limited' ? 'tv' : 'pc';
  const words = ['-nostdin', '-v', 'error', '-y', '-f', 'rawvideo', '-pix_fmt', 'rgb48le', '-s', `${width}x${height}`];
  const input = ['-r', String(framesPerSecond), '-i', 'pipe:0'];
  const convert = `format=gbrp16le,zscale=matrixin=gbr:rangein=full:matrix=709:range=${range}:dither=none:filter=bilinear,format=${format}`;
  const tags = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', transfer, '-color_range', limits];
  // A camera's encoder is a simple one too, for the sake of its battery.
  const encoder =
    codec === 'h264'
      ? ['-c:v', 'libx264', '-preset', 'veryfast', '-crf', String(quality)]
      : ['-c:v', 'libx265', '-preset', 'ultrafast', '-x265-params', `crf=${quality}:log-level=error`, '-tag:v', 'hvc1'];
  if (keyEvery) encoder.push('-g', String(keyEvery));
  const child = spawn('ffmpeg', [...words, ...input, '-vf', convert, ...encoder, ...tags, '-pix_fmt', format, path], {
    stdio: ['pipe', 'ignore', 'pipe'],
  });
  let said = '';
  child.stderr.on('data', (part: Buffer) => (said += part.toString()));
  const ended = new Promise<void>((resolve, reject) => {
    child.on('error', reject);
    child.on('close', (code) => (code === 0 ? resolve() : reject(new Error(`ffmpeg ended with ${code}: ${said}`))));
  });
  const feed = async () => {
    for (const render of frames) {
      const { data } = render();
      const wide = data instanceof Uint16Array ? data : Uint16Array.from(data, (code) => code * 257);
      const bytes = Buffer.from(wide.buffer, wide.byteOffset, wide.byteLength);
      if (!child.stdin.write(bytes)) await Promise.race([ended, new Promise((go) => child.stdin.once('drain', go))]);
    }
    child.stdin.end();
  };
  child.stdin.on('error', () => undefined);
  return Promise.all([feed(), ended]).then(() => undefined);
}
