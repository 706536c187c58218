/** Writes simulated pictures and their session file into a folder. */
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Picture } from '@/core/patches';
import { planTakes, renderTake } from './bench';
import { writeClipOf } from './clips';
import { describeSession, fileName } from './session';
import type { BenchPlan } from './truth';

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

/** Writes a whole session; gives the paths of its pictures. */
export async function writeSession(
  plan: BenchPlan,
  kit: Record<string, unknown>,
  folder: string,
  ending: 'tif' | 'png' = 'tif',
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
      await writePicture(renderTake(plan, take, i), join(folder, name));
      names.push(name);
    }
  }
  await writeFile(
    join(folder, 'session.glade.json'),
    `${JSON.stringify(describeSession(plan, kit, ending), null, 2)}\n`,
  );
  return names;
}
