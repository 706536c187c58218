/** Pictures for looking at: resized, turned upright, from their own encoding to sRGB. Measured is never from these. */
import { mkdir, rename, rm } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { dirname } from 'node:path';
import sharp from 'sharp';
import { linearTable } from '@/core/formulas/transfer/transfer';
import { resolveResponse, responseAtHand, type FileEncoding } from '@/core/light/response';
import type { Response } from '@/core/session/schema';
import type { Picture } from '@/core/reading/window';
import { UnreadablePicture, type PictureFacts } from '@/core/reading/facts';
import { inspectMedia, openMedia } from './files';
import { readWindows } from '@/core/reading/source';
import { stillInSmall } from './stills';

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
  try {
    if (facts.clip || facts.raw) {
      await writeShown(await wholePicture(source, facts.raw ? 'view.dng' : 'view.mp4'), table, size, target);
      return;
    }
    await writeShown(await stillInSmall(source, size), table, size, target);
  } catch (error) {
    throw new UnreadablePicture(source, `no view of it can be made (${(error as Error).message.split('\n')[0]}).`);
  }
}

/** A raw still, or the frame in the middle of a clip, whole. */
async function wholePicture(source: string, name: string): Promise<Codes> {
  const { windows } = await readWindows(openMedia(source, name), ({ width, height }) => [
    { x: 0, y: 0, width, height },
  ]);
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

/** Width of one moment in a strip. */
export const STRIP_WIDTH = 240;

/** Gathers the moments of a clip, side by side in one JPEG in sRGB, to be scrubbed through under the pointer. */
export function startStrip() {
  const tiles: { data: Uint16Array; width: number; height: number }[] = [];
  return {
    /** A moment's picture, 16-bit codes of three channels; it is made small at once. */
    add({ width, height, data }: Picture): void {
      const step = Math.max(1, Math.ceil(width / STRIP_WIDTH));
      const [w, h] = [Math.floor(width / step), Math.floor(height / step)];
      const small = new Uint16Array(w * h * 3);
      for (let y = 0, out = 0; y < h; y++)
        for (let x = 0; x < w; x++)
          for (let c = 0; c < 3; c++) {
            let sum = 0;
            for (let j = 0; j < step; j++)
              for (let i = 0; i < step; i++) sum += data[((y * step + j) * width + x * step + i) * 3 + c];
            small[out++] = sum / (step * step);
          }
      tiles.push({ data: small, width: w, height: h });
    },
    async write(target: string, encoding: FileEncoding): Promise<void> {
      const [{ width, height }] = tiles;
      const table = displayTable({ kind: 'file' }, encoding, 16);
      const all = new Uint8Array(width * tiles.length * height * 3);
      tiles.forEach((tile, n) => {
        for (let y = 0; y < height; y++)
          for (let x = 0; x < 3 * width; x++)
            all[(y * tiles.length + n) * 3 * width + x] = table[tile.data[3 * y * width + x]];
      });
      await mkdir(dirname(target), { recursive: true });
      const temporary = `${target}.${randomUUID()}`;
      await sharp(all, { raw: { width: width * tiles.length, height, channels: 3 } })
        .jpeg({ quality: 82 })
        .toFile(temporary);
      await rename(temporary, target);
    },
  };
}

/** Writes the strip of a stored clip. */
export async function writeStrip(source: string, target: string, facts: PictureFacts): Promise<void> {
  const strip = startStrip();
  await inspectMedia(source, 'view.mp4', strip.add);
  await strip.write(target, facts.encoding);
}
