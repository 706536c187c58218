/** Pictures for looking at: resized, turned upright, from their own encoding to sRGB. Measured is never from these. */
import { mkdir, rename, rm } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { dirname } from 'node:path';
import sharp from 'sharp';
import { linearTable, resolveResponse, responseAtHand, type FileEncoding } from '@/core/light';
import type { Response } from '@/core/session';
import type { Picture } from '@/core/patches';
import { UnreadablePicture, type PictureFacts } from '@/core/source';
import { readMedia } from './files';
import { MAX_PIXELS } from './stills';

/** sRGB code, 0–255, of linear light 0–1 (IEC 61966-2-1). */
export function srgbCode(light: number): number {
  const value = Math.min(1, Math.max(0, light));
  return Math.round(255 * (value <= 0.0031308 ? 12.92 * value : 1.055 * value ** (1 / 2.4) - 0.055));
}

/**
 * Writes a JPEG whose longer side is at most `size`. Responses that need a file or a bracket are shown as the file says.
 */
export async function writeRendition(
  source: string,
  target: string,
  size: number,
  facts: PictureFacts,
  response: Response,
): Promise<void> {
  const table = displayTable(response, facts.encoding, facts.bitDepth);
  const sixteen = facts.bitDepth === 16;
  try {
    if (facts.clip || facts.raw) {
      await writeShown(await wholePicture(source, facts.raw ? 'view.dng' : 'view.mp4'), table, size, target);
      return;
    }
    let image = sharp(source, { ignoreIcc: true, limitInputPixels: MAX_PIXELS, sequentialRead: true })
      .autoOrient()
      .resize({ width: size, height: size, fit: 'inside', withoutEnlargement: true });
    image = image.removeAlpha();
    if (sixteen) image = image.toColourspace(facts.channels === 1 ? 'grey16' : 'rgb16');
    const { data, info } = await image
      .raw(sixteen ? { depth: 'ushort' } : undefined)
      .toBuffer({ resolveWithObject: true });
    const codes = sixteen ? new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2) : data;
    const { width, height } = info;
    await writeShown({ width, height, channels: info.channels as 1 | 3, data: codes }, table, size, target);
  } catch (error) {
    throw new UnreadablePicture(source, `no view of it can be made (${(error as Error).message.split('\n')[0]}).`);
  }
}

/** A raw still, or the frame in the middle of a clip, whole. */
async function wholePicture(source: string, name: string): Promise<Codes> {
  const { windows } = await readMedia(source, name, ({ width, height }) => [{ x: 0, y: 0, width, height }]);
  return windows[0];
}

type Codes = Pick<Picture, 'width' | 'height' | 'channels' | 'data'>;

/** Writes codes as a JPEG in sRGB; the file appears whole or not at all. */
async function writeShown(
  { width, height, channels, data }: Codes,
  table: Uint8Array,
  size: number,
  target: string,
): Promise<void> {
  const shown = new Uint8Array(data.length);
  for (let i = 0; i < data.length; i++) shown[i] = table[data[i]];
  await mkdir(dirname(target), { recursive: true });
  const temporary = `${target}.${randomUUID()}`;
  try {
    await sharp(shown, { raw: { width, height, channels } })
      .resize({ width: size, height: size, fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: 88, chromaSubsampling: '4:4:4' })
      .toFile(temporary);
    await rename(temporary, target);
  } finally {
    await rm(temporary, { force: true });
  }
}

function displayTable(response: Response, encoding: FileEncoding, bitDepth: number): Uint8Array {
  let decode;
  try {
    [decode] = resolveResponse(responseAtHand(response, encoding), encoding, () => '').decode;
  } catch {
    // Points that make no curve: measuring says so; a picture is shown all the same.
    [decode] = resolveResponse({ kind: 'file' }, encoding, () => '').decode;
  }
  return Uint8Array.from(linearTable(decode, bitDepth), srgbCode);
}
