/** Every frame of a stretch of a clip, small and gray, for telling how the camera moves. */
import type { MotionFrame } from '@/core/reading/source';
import { runChild } from '../children';
import { exchangesSides } from '../orientation';
import { timesNear } from './frames';
import { CLIP_LIMITS, SAFE_INPUT } from './limits';
import { probeClip, unreadableClip } from './probe';

/** Width of the small frames: fine enough for a fiftieth of a pixel of theirs. */
const ACROSS = 480;
/** Seconds decoded at a time, and at most. */
const PART_SECONDS = 2;
const MOST_SECONDS = 10;

/** Bits a pixel from which on a codec leaves frames their own fine detail; below, it takes much of it over from the frame before. Seen over simulated clips. */
const GENEROUS_BITS = 1;

interface Packet {
  /** When its frame is shown, seconds from the clip's start. */
  seconds: number;
  bytes: number;
  isKey: boolean;
}

/** Packets of a stretch of a clip, as the container tells of them; nothing is decoded. */
async function packetsOf(
  path: string,
  name: string,
  startSeconds: number,
  from: number,
  to: number,
): Promise<Packet[]> {
  const span = `${Math.max(0, from + startSeconds).toFixed(3)}%${(to + startSeconds).toFixed(3)}`;
  const words = ['-v', 'error', ...SAFE_INPUT, '-show_entries', 'packet=pts_time,size,flags', '-select_streams', 'v:0'];
  try {
    const out = await runChild('ffprobe', [...words, '-of', 'csv=p=0', '-read_intervals', span, `file:${path}`], {
      ...CLIP_LIMITS,
      output: 20_000_000,
      reads: path,
    });
    return out
      .toString()
      .split('\n')
      .flatMap((line) => {
        const [time, bytes, flags = ''] = line.split(',');
        const seconds = Number(time) - startSeconds;
        return Number.isFinite(seconds) && bytes
          ? [{ seconds, bytes: Number(bytes), isKey: flags.startsWith('K') }]
          : [];
      });
  } catch (error) {
    throw unreadableClip(name, error);
  }
}

/** Frames from the beginning of a span on, for ten seconds at most. Rejects with UnreadablePicture. */
export async function* motionFrames(
  path: string,
  name: string,
  span?: { from: number; to: number },
  signal?: AbortSignal,
): AsyncGenerator<MotionFrame> {
  const clip = await probeClip(path, name);
  const [width, height] = exchangesSides(clip.orientation) ? [clip.height, clip.width] : [clip.width, clip.height];
  const shrink = Math.min(1, ACROSS / width);
  const [w, h] = [width, height].map((side) => 2 * Math.round((side * shrink) / 2));
  const from = Math.max(0, span?.from ?? 0);
  const to = Math.min(clip.seconds, span?.to ?? clip.seconds, from + MOST_SECONDS);
  const packets = await packetsOf(path, name, clip.startSeconds, from, to);
  const bits = packets.reduce((sum, { bytes }) => sum + 8 * bytes, 0) / Math.max(1, packets.length);
  const isGenerous = bits >= GENEROUS_BITS * clip.width * clip.height;
  const keys = packets.filter(({ isKey }) => isKey).map(({ seconds }) => seconds);
  const parts: number[] = [];
  for (let start = from; start < to - 1e-3; start += PART_SECONDS) parts.push(start);
  // While one part is looked at, the next is decoded.
  let next = parts.length > 0 ? decode(parts[0]) : null;
  for (const i of parts.keys()) {
    const { times, samples } = await next!;
    next = i + 1 < parts.length ? decode(parts[i + 1]) : null;
    // Whoever stops looking leaves it to itself.
    next?.catch(() => {});
    for (const [k, seconds] of times.entries()) {
      const at = k * w * h;
      if (at + w * h > samples.length) return;
      const data = new Float32Array(w * h);
      for (let j = 0; j < data.length; j++) data[j] = samples[at + j] / 65_535;
      const ownDetail = isGenerous || keys.some((key) => Math.abs(key - seconds) < 2e-3);
      yield { seconds, frame: { width: w, height: h, data }, pixel: width / w, ownDetail };
    }
  }

  async function decode(start: number): Promise<{ times: number[]; samples: Uint16Array }> {
    const end = Math.min(to, start + PART_SECONDS);
    const times = (await timesNear(path, name, clip, [start, (start + end) / 2, end])).filter(
      (time) => time >= start - 5e-4 && time < end - 5e-4,
    );
    if (times.length === 0) return { times, samples: new Uint16Array() };
    const input = ['-nostdin', '-v', 'error', ...SAFE_INPUT, '-max_alloc', '2000000000', '-threads', '2'];
    const where = ['-ss', Math.max(0, times[0] - 5e-4).toFixed(4), '-i', `file:${path}`];
    const filter = `scale=${w}:${h}:flags=area+accurate_rnd,format=gray16le`;
    const output = ['-map', '0:v:0', '-fps_mode', 'passthrough', '-frames:v', String(times.length), '-vf', filter];
    try {
      const limits = { ...CLIP_LIMITS, output: (times.length + 1) * w * h * 2, reads: path };
      const raw = await runChild('ffmpeg', [...input, ...where, ...output, '-f', 'rawvideo', 'pipe:1'], limits, signal);
      return { times, samples: new Uint16Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.byteLength)) };
    } catch (error) {
      throw unreadableClip(name, error);
    }
  }
}
