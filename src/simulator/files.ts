/** Writes simulated pictures and their session file into a folder. */
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Picture } from '@/core/reading/window';
import { renderTake } from './bench';
import { planTakes } from './plan';
import { writeClipOf } from './clips';
import { describeSession, fileName } from './session';
import { writeDng } from './dng';
import type { BenchPlan, PlannedTake } from './truth';

/** Writes one picture losslessly; the ending of the path chooses TIFF or PNG. */
export async function writePicture(picture: Picture, path: string): Promise<void> {
  const { width, height, channels, data, bitDepth } = picture;
  let image = sharp(data, { raw: { width, height, channels } });
  // Without the color space named, 16-bit codes would be taken for 8-bit ones.
  if (bitDepth === 16) image = image.toColourspace(channels === 1 ? 'grey16' : 'rgb16');
  else if (channels === 1) image = image.toColourspace('b-w');
  if (path.endsWith('.png')) await image.png({ compressionLevel: 3 }).toFile(path);
  else await image.tiff({ compression: 'lzw', predictor: 'horizontal' }).toFile(path);
}

/** Codes of the stand-in sensor: black and a full well. */
const RAW = { black: 512, white: 16383 };

/** A linear picture of 16 bits as the mosaic of one color a pixel, with the exposure in its EXIF. */
async function writeRaw(picture: Picture, plan: BenchPlan, take: PlannedTake, path: string): Promise<void> {
  const { width, height, data } = picture;
  const codes = new Uint16Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const light = data[(y * width + x) * 3 + (y % 2) + (x % 2)] / 65535;
      codes[y * width + x] = Math.round(RAW.black + light * (RAW.white - RAW.black));
    }
  const moment = new Date(Date.parse(plan.startedAt) + take.minute * 60000).toISOString();
  await writeDng(
    { width, height, codes, ...RAW },
    {
      shutterSeconds: take.shutterSeconds,
      iso: take.iso,
      fNumber: 2.8,
      capturedAt: moment.slice(0, 19).replaceAll('-', ':').replace('T', ' '),
    },
    path,
  );
}

/** Writes a whole session; gives the paths of its pictures. */
export async function writeSession(
  plan: BenchPlan,
  kit: Record<string, unknown>,
  folder: string,
  ending: 'tif' | 'png' | 'dng' = 'tif',
): Promise<string[]> {
  await mkdir(folder, { recursive: true });
  const names: string[] = [];
  for (const take of planTakes(plan)) {
    if (plan.clips) {
      names.push(...(await writeClipOf(plan, take, folder)));
      continue;
    }
    for (let i = 0; i < take.repeats; i++) {
      const name = fileName(take, i, ending);
      const picture = renderTake(plan, take, i);
      if (ending === 'dng') await writeRaw(picture, plan, take, join(folder, name));
      else await writePicture(picture, join(folder, name));
      names.push(name);
    }
  }
  await writeFile(
    join(folder, 'session.glade.json'),
    `${JSON.stringify(describeSession(plan, kit, ending), null, 2)}\n`,
  );
  return names;
}
