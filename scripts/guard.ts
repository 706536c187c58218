/**
 * Guards figures while code is moved: readings of seeded sessions of all kinds are written down before and compared after.
 * `npm run guard -- write FOLDER`, later `npm run guard -- compare FOLDER`. Every number must agree to 1e-9 of its size or absolutely, every
 * word exactly; `createdAt` and `generator` are left out. Run `npm run build:node` first: a part is measured on threads too.
 */
import { spawn } from 'node:child_process';
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { measureSession } from '../src/core/measure';
import { parseSessionText } from '../src/core/session/parse';
import type { Readings } from '../src/core/session/readings';
import type { Session } from '../src/core/session/schema';
import { type PictureSource } from '../src/core/reading/source';
import { UnreadablePicture } from '../src/core/reading/facts';
import type { Memory } from '../src/core/reading/memory';
import { previewOf } from '../src/core/laying/preview';
import { folderSource } from '../src/media/folder';
import { startThreads } from '../src/media/threads';
import { writeSession } from '../src/simulator/files';
import { randomPlan, type BenchKind } from '../src/simulator/randomBench';
import { randomKinds } from '../src/simulator/randomKinds';
import { randomWalk, wildWalk } from '../src/simulator/randomWalk';
import { simulateSession } from '../src/simulator/session';
import type { BenchPlan, ClipPlan, TrueFilter } from '../src/simulator/truth';

const THREAD = fileURLToPath(new URL('../dist/thread.mjs', import.meta.url));
const TOLERANCE = 1e-9;
const PROCESSES = 2;
const OPTIONS = { createdAt: '', generator: '' };
const KIND: BenchKind = { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 2 };
const FILM: ClipPlan = {
  codec: 'h264', bits: 8, chroma: '420', range: 'limited', quality: 12, framesPerSecond: 25, frames: 30, telemetry: true,
}; // prettier-ignore
const POLARIZER: TrueFilter = {
  id: 'pl', name: 'CPL', kind: 'polarizer', nominal: { stops: 1.5 }, stops: [1.5, 1.5, 1.5], polarizer: { axisDegrees: 90, extinctionStops: 10 },
}; // prettier-ignore

const bench = (seed: string, kind: Partial<BenchKind>, change: Partial<BenchPlan> = {}): BenchPlan => {
  const plan = randomPlan(`guard/${seed}`, { ...KIND, ...kind });
  return { ...plan, width: 900, height: 600, filters: plan.filters.slice(0, 3), ...change };
};

async function simulated(
  plan: BenchPlan,
  { change = () => undefined, wrap = (one) => one, previews = false }: {
    change?: (session: Session) => void;
    wrap?: (source: PictureSource) => PictureSource;
    previews?: boolean;
  } = {},
): Promise<Readings> {
  const { session, source } = simulateSession(plan, previews ? previewOf : undefined);
  change(session);
  return measureSession(session, wrap(source), OPTIONS);
} // prettier-ignore

/** The pictures as files, read as the application reads them. */
async function filed(plan: BenchPlan, ending: 'tif' | 'png' | 'dng' = 'tif', threaded = false): Promise<Readings> {
  const folder = await mkdtemp(join(tmpdir(), 'glade-guard-'));
  const threads = threaded ? startThreads(THREAD) : null;
  try {
    await writeSession(plan, { id: 'kit', name: 'Kit' }, folder, ending);
    const session = parseSessionText(await readFile(join(folder, 'session.glade.json'), 'utf8'));
    return await measureSession(session, folderSource(folder, threads), OPTIONS);
  } finally {
    await threads?.close();
    await rm(folder, { recursive: true, force: true });
  }
}

/** Measured, a patch moved, and measured again from what was kept. */
async function remembered(plan: BenchPlan): Promise<Readings> {
  const { session, source } = simulateSession(plan);
  const kept = new Map<string, unknown>();
  const memory: Memory = {
    recall: async (name) => structuredClone(kept.get(name)),
    keep: async (name, value) => void kept.set(name, structuredClone(value)),
  };
  const known = { ...source, identify: (file: string) => file };
  await measureSession(session, known, { ...OPTIONS, memory });
  const [first] = session.patches;
  first.rect = { ...first.rect, x: first.rect.x + 0.004 };
  return measureSession(session, known, { ...OPTIONS, memory });
}

const sky = {
  sun: { azimuth: 150, altitude: 40 }, altitude: 12, clarity: 0.75, pictures: 13,
}; // prettier-ignore
const walk = { width: 400, height: 224, protocol: 'matched', landscapes: 1 } as const;

const SESSIONS: Record<string, () => Promise<Readings>> = {
  'matched-whole': () => simulated(bench('whole', { scenes: ['chart', 'flat', 'flare'] })),
  'automatic-8-drift': () => simulated(bench('automatic', { protocol: 'automatic', bitDepth: 8, drift: 0.3 })),
  'locked-8-linear': () => simulated(bench('locked', { protocol: 'locked', bitDepth: 8, linear: true, scenes: ['chart', 'flat'] })),
  'bracket-8': () => simulated(bench('bracket', { protocol: 'automatic', bitDepth: 8, bracket: true, scenes: ['chart', 'flat'] })),
  'noise-flicker': () => simulated(bench('noise', { noisy: true, flicker: 0.004, drift: 0.1, repeats: 3 })),
  'field-alone': () => simulated(bench('field', { scenes: ['flat', 'flat-long'] })),
  'kinds-16': () => simulated({ ...randomKinds('guard/16', 16, 0.2), benchRing: [0, 90], scenes: ['chart', 'flat', 'screen', 'water', 'sky'], optics: { water: { surface: 'water', incidenceDegrees: 52 }, sky: { sunAngleDegrees: 88 } } }),
  'kinds-8': () => simulated(randomKinds('guard/8', 8, 0)),
  turn: () => simulated({ ...randomKinds('guard/turn', 16, 0), width: 320, height: 214, filters: [{ ...POLARIZER, polarizer: { axisDegrees: 0, extinctionStops: 8 } }], repeats: sky.pictures, scenes: ['turn'], turn: sky, polarization: { lightDegrees: 0, degree: 0.5 } }),
  'walk-stills': () => simulated({ ...randomWalk('guard', walk), filters: randomWalk('guard', { ...walk, filters: 2 }).filters }),
  'walk-wild': () => simulated({ ...wildWalk('guard-wild', false), width: 480, height: 270 }),
  'walk-polarized': () => { const plan = randomWalk('guard-pl', walk); return simulated({ ...plan, repeats: 2, filters: [POLARIZER], walk: { ...plan.walk, polarized: { sky: 0.6, water: 0.4 } } }); },
  'walk-elsewhere': () => simulated({ ...randomWalk('guard-else', walk), spoiled: [{ take: 'outdoor-f0', index: 0, elsewhere: true }] }),
  'walk-h264': () => filed(randomWalk('guard-264', { ...walk, clips: { codec: 'h264', bits: 8, quality: 18, response: 'bt709' } })),
  'walk-h265': () => filed(randomWalk('guard-265', { ...walk, protocol: 'locked', clips: { codec: 'h265', bits: 10, quality: 18, response: 'hlg' } }), 'tif', true),
  'walk-sway': () => filed(randomWalk('guard-sway', { ...walk, clips: { codec: 'h264', bits: 8, quality: 16, response: 'bt709' }, rate: { framesPerSecond: 25, frames: 52, keyEvery: 1 }, sway: { px: 5, hertz: 1.6 } })),
  'filmed-bench': () => { const plan = bench('filmed', { repeats: 1, scenes: ['chart', 'flat'] }, { width: 480, height: 320, clips: FILM }); return filed({ ...plan, camera: { ...plan.camera, response: 'bt709', blurPx: 0.9 } }, 'tif', true); },
  raw: () => { const plan = bench('raw', { repeats: 1, linear: true, scenes: ['chart', 'flat'] }); return filed({ ...plan, camera: { ...plan.camera, response: 'linear' } }, 'dng'); },
  'files-threads': () => filed(bench('files', { bitDepth: 8, scenes: ['chart', 'flat'] }), 'png', true),
  remembered: () => remembered(bench('remembered', { repeats: 1, scenes: ['chart', 'flat'] })),
  'light-jumps': () => simulated(bench('jump', {}, { lamps: { driftStops: 0, jump: { at: 0.55, stops: 0.2 } } })),
  clipped: () => simulated(bench('clipped', { scenes: ['chart', 'flat'] }, { bareLevel: 2.6 })),
  spoiled: () => simulated(bench('spoiled', {}, { spoiled: [{ take: 'chart-f0', index: 1, shakePx: [0.7, 0.7] }, { take: 'chart-f1', focusPx: { center: 0.2, corner: 1.4 } }, { take: 'chart-f2', movedPx: [6.4, -2.7], whiteBalance: 'cloudy', exposureStops: 1 }, { take: 'chart-bare-2', focusPx: { center: 0.5, corner: 0.5 } }] }), { previews: true }),
  'spoiled-kinds': () => simulated({ ...randomKinds('guard/spoiled', 16, 0), sweep: [5, 31, 57, 83, 109, 135, 161], spoiled: [{ take: 'screen-pl-3', notedDegrees: 20 }] }, { change: (session) => { delete session.takes.find((take) => take.filter === 'vnd')!.setting; } }),
  careless: () => simulated(bench('careless', { repeats: 1 }), {
    change: (session) => {
      const of = (id: string) => session.takes.find((take) => take.filter === id)!;
      delete of('f0').exposure.shutter;
      of('f1').whiteBalance = 'cloudy';
      session.rig.response = { kind: 'file' };
      session.rig.shutterMarks = 'nominal';
    },
    wrap: (source) => ({
      ...source,
      async open(file) {
        if (file.includes('f2')) throw new UnreadablePicture(file, 'the file is cut short or damaged.');
        return source.open(file);
      },
    }),
  }),
}; // prettier-ignore

/** Where two readings differ by more than the tolerance, by path. */
function differences(before: unknown, after: unknown, path = ''): string[] {
  if (typeof before === 'number' && typeof after === 'number') {
    const apart = Math.abs(before - after);
    return apart <= TOLERANCE * Math.max(1, Math.abs(before)) ? [] : [`${path}: ${before} → ${after}`];
  }
  if (typeof before !== 'object' || typeof after !== 'object' || before === null || after === null)
    return Object.is(before, after) ? [] : [`${path}: ${JSON.stringify(before)} → ${JSON.stringify(after)}`];
  const [a, b] = [before as Record<string, unknown>, after as Record<string, unknown>];
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].flatMap((key) => differences(a[key], b[key], `${path}/${key}`));
} // prettier-ignore

async function one(mode: string, folder: string, name: string): Promise<boolean> {
  const started = Date.now();
  const { createdAt: _at, generator: _by, ...readings } = await SESSIONS[name]();
  const text = JSON.stringify(readings);
  const file = join(folder, `${name}.json`);
  const seconds = `${((Date.now() - started) / 1000).toFixed(1)} s`;
  if (mode === 'write') {
    await writeFile(file, text);
    console.log(`${name}: written (${readings.filters.length} filters, ${seconds})`);
    return true;
  }
  const found = differences(JSON.parse(await readFile(file, 'utf8')), JSON.parse(text));
  console.log(`${name}: ${found.length === 0 ? 'equal' : `${found.length} differences`} (${seconds})`);
  for (const line of found.slice(0, 8)) console.log(`  ${line}`);
  return found.length === 0;
}

/** The same in a process of its own. */
function apart(mode: string, folder: string, name: string): Promise<boolean> {
  const child = spawn(process.execPath, [...process.execArgv, process.argv[1], mode, folder, name, '--apart'], {
    stdio: 'inherit',
  });
  return new Promise((resolve) => child.on('exit', (code) => resolve(code === 0)));
}

async function main(): Promise<void> {
  const [mode, folder, only] = process.argv.slice(2);
  if ((mode !== 'write' && mode !== 'compare') || !folder) {
    console.error('usage: npm run guard -- write FOLDER | compare FOLDER [NAME]');
    process.exitCode = 2;
    return;
  }
  await mkdir(folder, { recursive: true });
  if (process.argv.includes('--apart')) {
    process.exitCode = (await one(mode, folder, only)) ? 0 : 1;
    return;
  }
  const names = Object.keys(SESSIONS).filter((name) => !only || name.includes(only));
  const waiting = [...names];
  let equal = 0;
  const work = async () => {
    for (let name = waiting.shift(); name !== undefined; name = waiting.shift())
      if (await apart(mode, folder, name)) equal++;
  };
  await Promise.all(Array.from({ length: PROCESSES }, work));
  console.log(`${equal} of ${names.length} sessions ${mode === 'write' ? 'written' : 'equal'}`);
  if (equal < names.length) process.exitCode = 1;
}

void main();
