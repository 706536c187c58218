/**
 * Benchmarks: ratios and peaks, no assertions. `npm run bench`.
 *
 * 24-megapixel session: 5 filters × 3 repeats + 4 bare takes, LZW 16-bit TIFF. Measuring is compared with decoding the
 * same files alone with the same library and as many at a time, each in a process of its own.
 */
import { spawnSync } from 'node:child_process';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { measureSession } from '../src/core/measure';
import { parseSession } from '../src/core/session';
import { folderSource } from '../src/media/folder';
import { seededRandom } from '../src/simulator/random';

const WIDTH = 6000;
const HEIGHT = 4000;
const CONCURRENCY = 2;
const SELF = fileURLToPath(import.meta.url);

interface Outcome {
  seconds: number;
  cpuSeconds: number;
  peakMegabytes: number;
}

const FILTERS = Array.from({ length: 5 }, (_, i) => ({ id: `f${i}`, kind: 'nd', nominal: { stops: i + 2 } }));

function benchSession() {
  const takes = [0, 1, 2, 3].map((i) => ({ id: `bare-${i}`, filter: null as string | null, files: [`bare-${i}.tif`] }));
  for (const filter of FILTERS)
    takes.push({ id: filter.id, filter: filter.id, files: [0, 1, 2].map((i) => `${filter.id}-${i}.tif`) });
  return {
    format: 'aurora-glade-session',
    version: 1,
    rig: { aperture: 'fixed', response: { kind: 'srgb' } },
    kits: [{ filters: FILTERS }],
    scenes: [{ id: 'chart', kind: 'chart' }],
    takes: takes.map((take, i) => ({
      ...take,
      scene: 'chart',
      capturedAt: new Date(Date.UTC(2026, 4, 14, 9, i)).toISOString(),
      exposure: { shutter: '1/100', iso: 100 },
    })),
    patches: [{ id: 'gray', scene: 'chart', role: 'neutral', rect: { x: 0.45, y: 0.45, width: 0.1, height: 0.1 } }],
  };
}

/** Noise that compresses as badly as a sensor's, repeated in tiles to be made quickly. */
async function writePictures(folder: string, files: string[]): Promise<void> {
  const random = seededRandom('bench');
  const tile = 1000;
  const noise = Uint16Array.from({ length: tile * tile * 3 }, () => 28000 + 400 * random.normal());
  const data = new Uint16Array(WIDTH * HEIGHT * 3);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x += tile) {
      const from = (y % tile) * tile * 3;
      data.set(noise.subarray(from, from + Math.min(tile, WIDTH - x) * 3), (y * WIDTH + x) * 3);
    }
  const first = join(folder, files[0]);
  await sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 3 }, limitInputPixels: false })
    .toColourspace('rgb16')
    .tiff({ compression: 'lzw', predictor: 'horizontal' })
    .toFile(first);
  const { copyFile } = await import('node:fs/promises');
  for (const file of files.slice(1)) await copyFile(first, join(folder, file));
}

async function decodeAll(folder: string, files: string[]): Promise<void> {
  const queue = [...files];
  const run = async () => {
    for (let file = queue.shift(); file; file = queue.shift())
      await sharp(join(folder, file), { ignoreIcc: true, limitInputPixels: false, sequentialRead: true })
        .toColourspace('rgb16')
        .raw({ depth: 'ushort' })
        .toBuffer();
  };
  await Promise.all(Array.from({ length: CONCURRENCY }, run));
}

async function measureAll(folder: string): Promise<void> {
  await measureSession(parseSession(benchSession()), folderSource(folder), {
    createdAt: '2026-05-14T12:00:00Z',
    generator: 'bench',
    concurrency: CONCURRENCY,
  });
}

function inOwnProcess(mode: string, folder: string): Outcome {
  const child = spawnSync(process.execPath, ['--import', 'tsx', SELF, mode, folder], { encoding: 'utf8' });
  if (child.status !== 0) throw new Error(child.stderr);
  const { cpuSeconds, peakMegabytes, workSeconds } = JSON.parse(child.stdout.trim().split('\n').at(-1)!);
  return { seconds: workSeconds, cpuSeconds, peakMegabytes };
}

async function child(mode: string, folder: string, files: string[]): Promise<void> {
  sharp.cache(false);
  const started = performance.now();
  if (mode === 'decode') await decodeAll(folder, files);
  else await measureAll(folder);
  const usage = process.resourceUsage();
  console.log(
    JSON.stringify({
      workSeconds: (performance.now() - started) / 1000,
      cpuSeconds: (usage.userCPUTime + usage.systemCPUTime) / 1e6,
      peakMegabytes: usage.maxRSS / 1024,
    }),
  );
}

async function main(): Promise<void> {
  const files = benchSession().takes.flatMap((take) => take.files);
  const [mode, given] = process.argv.slice(2);
  if (mode) return child(mode, given, files);
  const folder = await mkdtemp(join(tmpdir(), 'glade-bench-'));
  try {
    await mkdir(folder, { recursive: true });
    await writePictures(folder, files);
    await writeFile(join(folder, 'session.glade.json'), JSON.stringify(benchSession()));
    console.log(`${files.length} pictures of ${(WIDTH * HEIGHT) / 1e6} megapixels, ${CONCURRENCY} at a time`);
    inOwnProcess('decode', folder);
    const rounds = [0, 1, 2].map(() => ({
      decode: inOwnProcess('decode', folder),
      measure: inOwnProcess('measure', folder),
    }));
    const best = (pick: (round: (typeof rounds)[number]) => number) => Math.min(...rounds.map(pick));
    const decode = best((round) => round.decode.seconds);
    const measure = best((round) => round.measure.seconds);
    console.log(
      `decode alone   ${decode.toFixed(2)} s   peak ${Math.max(...rounds.map((round) => round.decode.peakMegabytes)).toFixed(0)} MB`,
    );
    console.log(
      `measure        ${measure.toFixed(2)} s   peak ${Math.max(...rounds.map((round) => round.measure.peakMegabytes)).toFixed(0)} MB`,
    );
    console.log(`ratio          ${(measure / decode).toFixed(2)} (held to 1.2; peak held to 600 MB)`);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

void main();
