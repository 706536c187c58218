/** What a clip's container and stream say: size, rotation, codes, transfer, times. Read by ffprobe in a child process. */
import { stat } from 'node:fs/promises';
import type { MeanSteps } from '@/core/light/camera/compression';
import type { FileEncoding } from '@/core/light/response';
import { UnreadablePicture } from '@/core/reading/facts';
import { ChildFailed, runChild } from '../children';
import { encodingOfTags } from '../colorTags';
import { CLIP_LIMITS, SAFE_INPUT } from './limits';
import { readClipSteps } from './quantizer';

/** How samples of a decoded frame lie in its planes. */
export interface PixelFormat {
  name: string;
  bits: 8 | 10 | 12;
  /** Chroma samples are this many times fewer across and down. */
  across: 1 | 2;
  down: 1 | 2;
}

export interface ClipFacts {
  /** Stored size, before rotation. */
  width: number;
  height: number;
  /** EXIF-like orientation, 1–8, that turns the stored frame upright. */
  orientation: number;
  seconds: number;
  /** The container's first time stamp: times of the clip count from it. */
  startSeconds: number;
  framesPerSecond: number;
  /** True where every frame is shown equally long, from 0 on: its times need not be looked up. */
  even: boolean;
  format: PixelFormat;
  range: 'limited' | 'full';
  /** Weights of red and blue in luma. */
  matrix: { kr: number; kb: number };
  /** Where chroma samples sit between luma samples, in luma pixels from the first of their group. */
  chromaAt: { x: number; y: number };
  encoding: FileEncoding;
  /** ISO 8601, the start of the clip. */
  startedAt: string | null;
  codec: string;
  /** How coarsely its key frames keep means; `null` where the codec doesn't tell. */
  steps: MeanSteps | null;
}

const FORMATS: Readonly<Record<string, Omit<PixelFormat, 'name'>>> = {
  yuv420p: { bits: 8, across: 2, down: 2 },
  yuvj420p: { bits: 8, across: 2, down: 2 },
  yuv422p: { bits: 8, across: 2, down: 1 },
  yuvj422p: { bits: 8, across: 2, down: 1 },
  yuv444p: { bits: 8, across: 1, down: 1 },
  yuvj444p: { bits: 8, across: 1, down: 1 },
  yuv420p10le: { bits: 10, across: 2, down: 2 },
  yuv422p10le: { bits: 10, across: 2, down: 1 },
  yuv444p10le: { bits: 10, across: 1, down: 1 },
  yuv420p12le: { bits: 12, across: 2, down: 2 },
  yuv422p12le: { bits: 12, across: 2, down: 1 },
  yuv444p12le: { bits: 12, across: 1, down: 1 },
};

/** ITU-R BT.601-7, BT.709-6, BT.2020-2. */
const MATRICES = {
  bt601: { kr: 0.299, kb: 0.114 },
  bt709: { kr: 0.2126, kb: 0.0722 },
  bt2020: { kr: 0.2627, kb: 0.0593 },
} as const;

const LARGEST_SIDE = 16_384;

interface Stream {
  codec_name?: string;
  width?: number;
  height?: number;
  pix_fmt?: string;
  color_range?: string;
  color_space?: string;
  color_transfer?: string;
  color_primaries?: string;
  chroma_location?: string;
  start_time?: string;
  nb_frames?: string;
  avg_frame_rate?: string;
  r_frame_rate?: string;
  duration?: string;
  tags?: Record<string, string>;
  side_data_list?: { rotation?: number }[];
}

const known = new Map<string, Promise<ClipFacts>>();
const MOST_KNOWN = 200;

/** Facts of a clip. Throws UnreadablePicture with a sentence; `name` is what people call the file. */
export async function probeClip(path: string, name: string): Promise<ClipFacts> {
  const info = await stat(path).catch(() => null);
  if (!info) throw new UnreadablePicture(name, 'there is no such file.');
  const key = `${path} ${info.size} ${info.mtimeMs}`;
  let facts = known.get(key);
  if (!facts) {
    facts = probe(path, name);
    known.set(key, facts);
    facts.catch(() => known.delete(key));
    if (known.size > MOST_KNOWN) known.delete([...known.keys()][0]);
  }
  return facts;
}

async function probe(path: string, name: string): Promise<ClipFacts> {
  let text: string;
  try {
    const words = ['-v', 'error', ...SAFE_INPUT, '-of', 'json', '-select_streams', 'v:0'];
    const entries = [
      '-show_entries',
      'stream:stream_side_data=rotation:stream_tags:format=duration,start_time:format_tags',
    ];
    const output = await runChild('ffprobe', [...words, ...entries, '-i', `file:${path}`], {
      ...CLIP_LIMITS,
      output: 1_000_000,
      reads: path,
    });
    text = output.toString('utf8');
  } catch (error) {
    throw unreadableClip(name, error);
  }
  const { streams = [], format = {} } = JSON.parse(text) as {
    streams?: Stream[];
    format?: { duration?: string; start_time?: string; tags?: Record<string, string> };
  };
  const [stream] = streams;
  if (!stream?.width || !stream.height) throw new UnreadablePicture(name, 'it holds no video.');
  if (Math.max(stream.width, stream.height) > LARGEST_SIDE)
    throw new UnreadablePicture(name, `${stream.width} × ${stream.height} pixels are more than can be read.`);
  const samples = FORMATS[stream.pix_fmt ?? ''];
  if (!samples)
    throw new UnreadablePicture(
      name,
      `its pixels are stored as ${stream.pix_fmt ?? 'something unknown'}, which can’t be read yet.`,
    );
  const seconds = Number(stream.duration ?? format.duration ?? NaN);
  const framesPerSecond = rateOf(stream.avg_frame_rate) ?? rateOf(stream.r_frame_rate) ?? 25;
  if (!(seconds > 0)) throw new UnreadablePicture(name, 'it doesn’t say how long it is; is it complete?');
  const range = stream.color_range === 'pc' || stream.pix_fmt!.startsWith('yuvj') ? 'full' : 'limited';
  return {
    width: stream.width,
    height: stream.height,
    orientation: orientationOf(stream),
    seconds,
    startSeconds: Number(format.start_time ?? 0) || 0,
    framesPerSecond,
    even: isEven(stream, seconds),
    format: { name: stream.pix_fmt!, ...samples },
    range,
    matrix: matrixOf(stream),
    chromaAt: chromaOf(stream, samples),
    encoding: encodingOfTags(stream.color_transfer ?? '', stream.color_primaries ?? '', 'clip'),
    startedAt: timeOf(stream.tags?.creation_time ?? format.tags?.creation_time),
    codec: stream.codec_name ?? 'unknown',
    steps: await readClipSteps(path, { codec: stream.codec_name ?? '', bits: samples.bits, range }),
  };
}

/** Whether all frames are shown equally long: told for sure only where the container counts them (MP4, MOV). */
function isEven(
  { avg_frame_rate: average, r_frame_rate: rate, start_time: start, nb_frames: count }: Stream,
  seconds: number,
) {
  const perSecond = rateOf(rate);
  return (
    perSecond !== null &&
    average === rate &&
    Math.abs(Number(start ?? NaN)) < 1e-4 &&
    Math.abs(Number(count ?? NaN) - seconds * perSecond) < 0.5
  );
}

/** A child's failure as a sentence about the clip. */
export function unreadableClip(name: string, error: unknown): UnreadablePicture {
  if (error instanceof UnreadablePicture) return error;
  if (!(error instanceof ChildFailed)) throw error;
  if (/moov atom not found|Invalid data|End of file|EBML|truncat|partial file/i.test(error.said))
    return new UnreadablePicture(name, 'the clip is cut short or damaged.');
  if (/not whitelisted|whitelist/i.test(error.said))
    return new UnreadablePicture(name, 'it is not an MP4, MOV or MKV clip, or it points to other files.');
  return new UnreadablePicture(
    name,
    `${error.reason}${error.said ? ` (${error.said.replace(/^\[.*?\]\s*/, '')})` : ''}.`,
  );
}

function rateOf(text: string | undefined): number | null {
  const match = /^(\d+)\/(\d+)$/.exec(text ?? '');
  const rate = match ? Number(match[1]) / Number(match[2]) : NaN;
  return rate > 0 && Number.isFinite(rate) ? rate : null;
}

/** The display matrix' rotation counts counter-clockwise; whole quarters alone are turned. */
function orientationOf(stream: Stream): number {
  const rotation =
    stream.side_data_list?.find((one) => one.rotation !== undefined)?.rotation ?? Number(stream.tags?.rotate ?? 0) * -1;
  const clockwise = (((-rotation % 360) + 360) % 360) / 90;
  return [1, 6, 3, 8][Math.round(clockwise) % 4];
}

/** The tagged matrix; where it is missing, the usual guess by size. */
function matrixOf({ color_space: tag, height = 0 }: Stream): ClipFacts['matrix'] {
  if (tag === 'bt709') return MATRICES.bt709;
  if (tag?.startsWith('bt2020')) return MATRICES.bt2020;
  if (tag === 'smpte170m' || tag === 'bt470bg') return MATRICES.bt601;
  return height >= 700 ? MATRICES.bt709 : MATRICES.bt601;
}

/** MPEG-2's siting (left) unless the stream says otherwise. */
function chromaOf(
  { chroma_location: tag }: Stream,
  { across, down }: Omit<PixelFormat, 'name'>,
): ClipFacts['chromaAt'] {
  const left = tag !== 'center' && tag !== 'top' && tag !== 'bottom';
  const top = tag === 'topleft' || tag === 'top';
  const bottom = tag === 'bottomleft' || tag === 'bottom';
  return { x: across === 2 && !left ? 0.5 : 0, y: down === 1 || top ? 0 : bottom ? 1 : 0.5 };
}

function timeOf(text: string | undefined): string | null {
  return text !== undefined && !Number.isNaN(Date.parse(text)) ? new Date(Date.parse(text)).toISOString() : null;
}
