/**
 * Benchmarks: ratios, peaks and exponents, no assertions. `npm run bench`, `npm run bench -- quick` for a tenth of the pixels, `-- first` for
 * the first line alone, `-- clips` for clips alone,
 * `-- filmed` for what 4K clips of the bench measure against the truth, `-- lists` for lists with much in them,
 * `-- compare` for the viewing room, `-- walk` for an ordinary scene in ten 4K clips of a minute.
 *
 * A session of chart and flat at 24 megapixels: 5 filters × 3 repeats + bares on each scene, LZW 16-bit TIFF, everything
 * measured (strength, cast, twelve edges, shading). Measuring is compared with decoding the same files alone with the same
 * library and as many at a time, each in a process of its own. Then one patch is moved and the session measured again, with
 * what the application keeps on disk. Run `npm run build:node` first: the threads are those of the built program.
 */
import { spawnSync } from 'node:child_process';
import { copyFile, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { measureSession } from '../src/core/measure';
import { parseSession } from '../src/core/session/parse';
import type { Session } from '../src/core/session/schema';
import { folderSource } from '../src/media/folder';
import { startThreads } from '../src/media/threads';
import type { Memory } from '../src/core/reading/memory';
import { diskMemory } from '../src/store/memory';
import { renderTake } from '../src/simulator/bench';
import { planTakes } from '../src/simulator/plan';
import { writePicture } from '../src/simulator/files';
import { randomPlan } from '../src/simulator/randomBench';
import { describeSession, fileName } from '../src/simulator/session';
import type { BenchPlan } from '../src/simulator/truth';
import { benchClips } from './benchClips';
import { benchCompare } from './benchCompare';
import { benchFilmed } from './benchFilmed';
import { benchLists } from './benchLists';
import { benchWalk } from './benchWalk';

const CONCURRENCY = 2;
const ROUNDS = 2;
const THREAD = fileURLToPath(new URL('../dist/thread.mjs', import.meta.url));
const SELF = fileURLToPath(import.meta.url);

interface Outcome {
  seconds: number;
  peakMegabytes: number;
  /** Of measuring again after one patch was moved. */
  againSeconds?: number;
}

interface Size {
  width: number;
  height: number;
  repeats: number;
}

function planOf({ width, height, repeats }: Size): BenchPlan {
  const kind = { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats } as const;
  const plan = { ...randomPlan('bench', { ...kind, scenes: ['chart', 'flat'] }), width, height };
  return { ...plan, camera: { ...plan.camera, response: 'srgb' } };
}

function sessionOf(size: Size): Session {
  return parseSession(describeSession(planOf(size), { id: 'kit', name: 'Bench' }));
}

const filesOf = (size: Size) => sessionOf(size).takes.flatMap((take) => take.files);

/** Renders a bare and a filtered picture a scene and copies them: only their light differs from the other filters'. */
async function writePictures(folder: string, size: Size): Promise<void> {
  const plan = planOf(size);
  const made = new Map<string, string>();
  for (const take of planTakes(plan))
    for (let i = 0; i < take.repeats; i++) {
      const path = join(folder, fileName(take, i));
      const kind = `${take.scene}/${take.filter ? 'filtered' : 'bare'}`;
      const known = made.get(kind);
      if (known) await copyFile(known, path);
      else {
        await writePicture(renderTake(plan, take, i), path);
        made.set(kind, path);
      }
    }
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

/** Measures once, and again after one patch was moved; gives the seconds of the second time. */
async function measureTwice(folder: string, session: Session): Promise<{ seconds: number; againSeconds: number }> {
  const threads = startThreads(THREAD);
  if (!threads) throw new Error('dist/thread.mjs is not there: run npm run build:node first.');
  const kept = await mkdtemp(join(tmpdir(), 'glade-bench-memory-'));
  const source = { ...folderSource(folder, threads), identify: (file: string) => file };
  const run = async (memory?: Memory) => {
    const started = performance.now();
    await measureSession(session, source, {
      createdAt: '2026-05-14T12:00:00Z',
      generator: 'bench',
      concurrency: threads.count,
      memory,
    });
    return (performance.now() - started) / 1000;
  };
  try {
    const memory = diskMemory('bench', kept);
    const seconds = await run(memory);
    const [gray] = session.patches;
    gray.rect = { ...gray.rect, x: gray.rect.x + 0.002 };
    return { seconds, againSeconds: await run(memory) };
  } finally {
    await threads.close();
    await rm(kept, { recursive: true, force: true });
  }
}

function inOwnProcess(mode: string, folder: string, size: Size): Outcome {
  const child = spawnSync(process.execPath, ['--import', 'tsx', SELF, mode, folder, JSON.stringify(size)], {
    encoding: 'utf8',
  });
  if (child.status !== 0) throw new Error(child.stderr);
  return JSON.parse(child.stdout.trim().split('\n').at(-1)!);
}

async function child(mode: string, folder: string, size: Size): Promise<void> {
  sharp.cache(false);
  const session = sessionOf(size);
  const started = performance.now();
  const times =
    mode === 'decode'
      ? await decodeAll(folder, filesOf(size)).then(() => ({ seconds: (performance.now() - started) / 1000 }))
      : await measureTwice(folder, session);
  console.log(JSON.stringify({ ...times, peakMegabytes: process.resourceUsage().maxRSS / 1024 }));
}

/** Best of several rounds, decoding and measuring by turns. */
function compare(folder: string, size: Size, rounds: number): { decode: Outcome; measure: Outcome } {
  inOwnProcess('decode', folder, size);
  const all = Array.from({ length: rounds }, () => ({
    decode: inOwnProcess('decode', folder, size),
    measure: inOwnProcess('measure', folder, size),
  }));
  const best = (pick: 'decode' | 'measure'): Outcome => ({
    seconds: Math.min(...all.map((round) => round[pick].seconds)),
    peakMegabytes: Math.max(...all.map((round) => round[pick].peakMegabytes)),
    againSeconds: Math.min(...all.map((round) => round[pick].againSeconds ?? Infinity)),
  });
  return { decode: best('decode'), measure: best('measure') };
}

async function withPictures<T>(size: Size, work: (folder: string) => T): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'glade-bench-'));
  try {
    await writePictures(folder, size);
    return work(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

function report(title: string, size: Size, { decode, measure }: { decode: Outcome; measure: Outcome }): void {
  console.log(
    `${title.padEnd(26)}${String(filesOf(size).length).padStart(3)} pictures  decode ${decode.seconds.toFixed(2).padStart(6)} s  measure ${measure.seconds.toFixed(2).padStart(6)} s  ratio ${(measure.seconds / decode.seconds).toFixed(2)}  peak ${measure.peakMegabytes.toFixed(0)} MB (decoding alone ${decode.peakMegabytes.toFixed(0)} MB)  again after moving a patch ${((100 * measure.againSeconds!) / measure.seconds).toFixed(0)} % of the first time`,
  );
}

async function main(): Promise<void> {
  const [mode, folder, size] = process.argv.slice(2);
  if (mode === 'decode' || mode === 'measure') return child(mode, folder, JSON.parse(size));
  if (mode === 'clips') return benchClips();
  if (mode === 'compare') return benchCompare();
  if (mode === 'lists') return benchLists(Number(process.argv[3] ?? NaN) || undefined);
  if (mode === 'walk') return benchWalk();
  if (mode === 'filmed') return benchFilmed(folder === undefined ? undefined : Number(folder));
  const scale = mode === 'quick' ? 0.33 : 1;
  const sized = (width: number, repeats: number): Size => ({
    width: Math.round(width * scale),
    height: Math.round((width * scale * 2) / 3),
    repeats,
  });
  const full = sized(6000, 3);
  const whole = await withPictures(full, (at) => compare(at, full, ROUNDS));
  report('24 MP, 3 repeats', full, whole);
  if (mode === 'first') return;
  const quarter = sized(3000, 3);
  const small = await withPictures(quarter, (at) => compare(at, quarter, ROUNDS));
  report('6 MP, 3 repeats', quarter, small);
  const once = sized(6000, 1);
  const few = await withPictures(once, (at) => compare(at, once, ROUNDS));
  report('24 MP, 1 repeat', once, few);
  const exponent = (a: Outcome, b: Outcome, factor: number) =>
    (Math.log(a.seconds / b.seconds) / Math.log(factor)).toFixed(2);
  console.log(
    `time grows with pixels to the power ${exponent(whole.measure, small.measure, 4)}, with pictures to ${exponent(whole.measure, few.measure, filesOf(full).length / filesOf(once).length)}`,
  );
  console.log('held to: ratio 1.5, peak 900 MB, exponents 1, again 15 %');
  await benchClips();
}

void main();
