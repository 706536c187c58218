/**
 * Walks before ordinary scenes, by seed: how far figures lie from the truth, and how often u95 holds it.
 * `npm run walks [-- [count] [kind] [--photos FOLDER]]`; kinds: stills, stills-auto, h264, h265, locked, cloud, sway (whose shutter angles are
 * told by the blur), wild and wild-clips (everything drawn, two filters each). With a folder of
 * photographs these are the scenes instead of painted ones; `--photos debian` takes those of Debian's packages of wallpapers, which are
 * fetched by apt for the time being.
 */
import { execFileSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { measureSession } from '../src/core/measure';
import { parseSessionText } from '../src/core/session/parse';
import type { Readings } from '../src/core/session/readings';
import { folderSource } from '../src/media/folder';
import { compareWithTruth, type Comparison } from '../src/simulator/expected/compare';
import { coverageTable } from '../src/simulator/expected/coverage';
import { writeSession } from '../src/simulator/files';
import { blurTexture, PAINT_BLUR, REACH, type Landscape } from '../src/simulator/landscape';
import { randomWalk, wildWalk, type WalkKind } from '../src/simulator/randomWalk';
import { simulateSession } from '../src/simulator/session';
import type { BenchPlan } from '../src/simulator/truth';
import { setLandscape } from '../src/simulator/walk';

const FULL = { width: 1920, height: 1080 };
const SMALL = { width: 640, height: 360 };
const KINDS: Record<string, WalkKind | 'wild'> = {
  stills: { ...SMALL, protocol: 'matched', landscapes: 3 },
  'stills-auto': { ...SMALL, protocol: 'automatic', landscapes: 3 },
  h264: { ...FULL, protocol: 'matched', clips: { codec: 'h264', bits: 8, quality: 18, response: 'bt709' }, landscapes: 2 },
  h265: { ...FULL, protocol: 'automatic', clips: { codec: 'h265', bits: 10, quality: 18, response: 'hlg' }, landscapes: 2 },
  locked: { ...FULL, protocol: 'locked', clips: { codec: 'h265', bits: 10, quality: 18, response: 'bt709' }, landscapes: 2 },
  sway: { ...SMALL, protocol: 'matched', clips: { codec: 'h264', bits: 8, quality: 18, response: 'bt709' }, rate: { framesPerSecond: 25, frames: 52, keyEvery: 1 }, sway: { px: 7, hertz: 1.6 }, landscapes: 2 },
  cloud: { ...SMALL, protocol: 'matched', cloud: 0.6, landscapes: 3 },
  wild: 'wild',
  'wild-clips': 'wild',
}; // prettier-ignore

async function measured(plan: BenchPlan): Promise<Readings> {
  const options = { createdAt: plan.startedAt, generator: 'walks' };
  if (!plan.clips) {
    const { session, source } = simulateSession(plan);
    return measureSession(session, source, options);
  }
  const folder = await mkdtemp(join(tmpdir(), 'glade-walk-'));
  try {
    await writeSession(plan, { id: 'kit', name: 'Kit' }, folder);
    const session = parseSessionText(await readFile(join(folder, 'session.glade.json'), 'utf8'));
    return await measureSession(session, folderSource(folder), options);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Shutter angles seen against those that were shot, in shares of the angle, as they are held to. */
function anglesOf(plan: BenchPlan, { filters }: Readings): string[] {
  return plan.filters.flatMap(({ id }) => {
    const motion = filters.find((one) => one.filter === id)?.motion;
    return [motion, motion?.bare].flatMap((one) => {
      if (!one?.shutterAngle) return [];
      const { shutterAngle, seenAngle } = one;
      const off = seenAngle ? `${(100 * (seenAngle.value / shutterAngle - 1)).toFixed(1)} %` : 'withheld';
      return [`${shutterAngle.toFixed(0)}°: ${off}`];
    });
  });
}

/** A photograph as a scene: its middle, as large as painted ones are, in light. */
async function photoLandscape(path: string, { width, height }: BenchPlan): Promise<Landscape> {
  const density = 1.6 * (width / 2);
  const size = { width: Math.ceil(2 * REACH * density), height: Math.ceil((2 * REACH * density * height) / width) };
  const { data } = await sharp(path)
    .resize(size.width, size.height, { fit: 'cover' })
    .removeAlpha()
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const table = Float32Array.from({ length: 256 }, (_, code) => {
    const v = code / 255;
    return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  });
  const light = Float32Array.from(data, (code) => Math.max(0.002, 0.9 * table[code]));
  blurTexture(light, size.width, size.height, 3, 1.6 * PAINT_BLUR);
  return { back: { ...size, density, light } };
}

/** Packages that ship photographs. */
const WALLPAPERS = ['mate-backgrounds', 'gnome-backgrounds', 'lomiri-wallpapers-20.04'];

/** Fetches and unpacks Debian's wallpapers into a folder; none is installed. */
function fetchWallpapers(folder: string): void {
  for (const name of WALLPAPERS)
    try {
      execFileSync('apt-get', ['download', name], { cwd: folder, stdio: 'ignore' });
    } catch {
      console.log(`${name} can’t be fetched; the others go on.`);
    }
  for (const name of readdirSync(folder).filter((one) => one.endsWith('.deb')))
    execFileSync('dpkg-deb', ['-x', join(folder, name), folder]);
}

/** Photographs of a folder that are large enough to be walked before: drawings and tiles of a few colors tell little. */
async function photosIn(folder: string): Promise<string[]> {
  const names = await readdir(folder, { recursive: true });
  const found: string[] = [];
  for (const name of names.filter((one) => /\.(jpe?g|webp)$/i.test(one)).sort()) {
    const path = join(folder, name);
    const { width = 0, height = 0 } = await sharp(path)
      .metadata()
      .catch(() => ({ width: 0, height: 0 }));
    if (width >= 1600 && height >= 900) found.push(path);
  }
  return found;
}

async function main(): Promise<void> {
  const { values, positionals } = parseArgs({ options: { photos: { type: 'string' } }, allowPositionals: true });
  const count = Number(positionals[0] ?? 6);
  let folder = values.photos;
  if (folder === 'debian') {
    folder = await mkdtemp(join(tmpdir(), 'glade-wallpapers-'));
    fetchWallpapers(folder);
  }
  const photos = folder ? await photosIn(folder) : [];
  if (folder) console.log(`${photos.length} photographs`);
  for (const [name, kind] of Object.entries(KINDS)) {
    if (positionals[1] && positionals[1] !== name) continue;
    const all: Comparison[] = [];
    const started = Date.now();
    for (let i = 0; i < count; i++) {
      const plan = kind === 'wild' ? wildWalk(`${name}-${i}`, name === 'wild-clips') : randomWalk(`${name}-${i}`, kind);
      if (photos.length > 0) {
        plan.walk!.landscape = photos[i % photos.length];
        setLandscape(plan, await photoLandscape(photos[i % photos.length], plan));
      }
      const readings = await measured(plan);
      const rows = compareWithTruth(plan, readings);
      all.push(...rows);
      const faults = [...readings.faults, ...readings.filters.flatMap((one) => one.faults)].map(({ code }) => code);
      const part = (what: Comparison['measure']) =>
        rows.filter((row) => row.measure === what).map(({ error, u95 }) => `${error?.toFixed(3)}±${u95?.toFixed(3)}`).join(' '); // prettier-ignore
      console.log(
        `${plan.title}: stops ${part('strength')}  corners ${part('corner')}  kept ${part('kept at ¼')}  a* ${part('a*')}  b* ${part('b*')}  ${[...new Set(faults)].join(' ')}`,
      );
      if (plan.walk?.sway) console.log(`  ${anglesOf(plan, readings).join(', ')}`);
    }
    console.log(`\n${name}: ${count} walks, ${((Date.now() - started) / 1000 / count).toFixed(1)} s each`);
    console.log(`${coverageTable(all).join('\n')}\n`);
  }
  if (values.photos === 'debian' && folder) await rm(folder, { recursive: true, force: true });
}

void main();
