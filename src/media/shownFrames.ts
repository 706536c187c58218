/** Pictures and frames of clips beside their figures: small, and levelled, so that pictures of unlike exposure can be compared. */
import sharp from 'sharp';
import { linearTable } from '@/core/formulas/transfer/transfer';
import { resolveResponse, responseAtHand } from '@/core/light/response';
import { averagedShutter, type LightFrame } from '@/core/measures/motion/average';
import { motionBetween, pyramidOfFrame } from '@/core/measures/motion/flow';
import { pixelsOfRect, type Picture, type PixelRect } from '@/core/reading/window';
import type { PictureFacts } from '@/core/reading/facts';
import { readWindows } from '@/core/reading/source';
import type { Rect, Response } from '@/core/session/schema';
import { framePair } from './clips/frames';
import { openMedia } from './files';
import { srgbCode } from './renditions';
import { readStillAgain } from './stills';

/** Whole frames are shown at most so wide. */
const WIDEST_FRAME = 960;
const WIDEST_AVERAGED = 720;
/** The bright side is shown at this share of white. */
const BRIGHT = 0.7;
/** Share of the pixels that are darker than the bright side. */
const DARKER = 0.95;

/** A file that is shown: where it lies, the name that it is read by, and how its codes become light. */
export interface FileShown {
  path: string;
  /** `run.mp4`, or a frame of it: `run.mp4#t=2.48`. */
  name: string;
  facts: Pick<PictureFacts, 'clip' | 'raw' | 'encoding' | 'bitDepth' | 'channels' | 'width' | 'height'>;
  response: Response;
}

/** A part of a picture, or of a clip's frame, in its own codes. Throws UnreadablePicture. */
export async function partOf({ path, name, facts }: FileShown, rect: PixelRect): Promise<Picture> {
  return facts.clip || facts.raw
    ? (await readWindows(openMedia(path, name), () => [rect])).windows[0]
    : (await readStillAgain(path, name, [rect]))[0];
}

/** Linear light of a file's codes, by channel. */
export function lightTables({ facts, response }: FileShown): Float64Array[] {
  const { decode } = resolveResponse(responseAtHand(response, facts.encoding), facts.encoding, () => '');
  return decode.map((one) => linearTable(one, facts.bitDepth));
}

/** What shows linear light so that its bright side is at one brightness, whatever the exposure was. */
export function levelling(light: ArrayLike<number>): (value: number) => number {
  const bright = Float64Array.from(light).sort()[Math.floor(DARKER * light.length)];
  const gain = bright > 0 ? BRIGHT / bright : 1;
  return (value) => srgbCode(value * gain);
}

/**
 * A picture's light in cells, so that it is at most so wide; what doesn't fill a cell at the right and below is left out.
 *
 * @param tables linear light of codes, by channel
 * @param most pixels across
 */
export function lightInCells(
  { width: wide, height: high, channels, data }: Pick<Picture, 'width' | 'height' | 'channels' | 'data'>,
  tables: readonly Float64Array[],
  most: number,
): LightFrame {
  const cell = Math.max(1, Math.ceil(wide / most));
  const [width, height] = [Math.floor(wide / cell), Math.floor(high / cell)];
  const light = new Float32Array(width * height * channels);
  for (let c = 0; c < channels; c++) {
    const table = tables[channels === 3 ? c : 1];
    const row = new Float64Array(width);
    for (let y = 0; y < height; y++) {
      row.fill(0);
      for (let line = y * cell; line < (y + 1) * cell; line++)
        for (let x = 0, at = line * wide * channels + c; x < width; x++)
          for (let i = 0; i < cell; i++, at += channels) row[x] += table[data[at]];
      for (let x = 0; x < width; x++) light[(y * width + x) * channels + c] = row[x] / (cell * cell);
    }
  }
  return { width, height, channels, data: light };
}

/**
 * A picture or a clip's frame as a small JPEG, levelled. Throws UnreadablePicture.
 *
 * @param part of the frame, in fractions
 * @returns `null` where the part holds no pixel
 */
export async function shownFrame(file: FileShown, part: Rect): Promise<Buffer | null> {
  const rect = pixelsOfRect(part, file.facts.width, file.facts.height);
  if (!rect) return null;
  const light = lightInCells(await partOf(file, rect), lightTables(file), WIDEST_FRAME);
  return jpegOf(light, levelling(light.data));
}

/**
 * What a clip would have looked like with a longer shutter: its frame at a moment and the next one, and what lies between, averaged.
 *
 * @param clip by its own name, without a moment
 * @param degrees shutter angle; 0 is as shot, 360 is open from frame to frame
 * @throws UnreadablePicture
 */
export async function shownAverage(clip: FileShown, seconds: number, degrees: number): Promise<Buffer> {
  const pair = await framePair(clip.path, clip.name, seconds);
  const { width, height } = clip.facts;
  const tables = lightTables(clip);
  const shown = (name: string) =>
    partOf({ ...clip, name }, { x: 0, y: 0, width, height }).then((whole) =>
      lightInCells(whole, tables, WIDEST_AVERAGED),
    );
  if (degrees === 0) {
    const asShot = await shown(pair.files[0]);
    return jpegOf(asShot, levelling(asShot.data));
  }
  const [first, next] = await Promise.all(pair.files.map(shown));
  const [from, to] = [first, next].map((one) => pyramidOfFrame(grayOf(one)));
  const motion = motionBetween(from, to) ?? { dx: 0, dy: 0, rotation: 0 };
  return jpegOf(averagedShutter(first, next, motion, degrees / 360), levelling(first.data));
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
  const codes = new Uint8Array(data.length);
  for (let i = 0; i < codes.length; i++) codes[i] = shown(data[i]);
  return sharp(codes, { raw: { width, height, channels } }).jpeg({ quality: 88 }).toBuffer();
}
