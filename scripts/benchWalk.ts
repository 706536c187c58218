/**
 * An ordinary scene in ten 4K clips of a minute (H.264, 60 Mbit/s, a key frame a second): measuring it with `dist/measure.mjs`, beside ffmpeg
 * alone decoding the frames that are used, and the memory that all of its processes hold together. `npm run bench -- walk`; run
 * `npm run build:node` first. Reports the ratio and the peak; no assertions.
 */
import { spawn, type ChildProcess } from 'node:child_process';
import { link, mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { seededUniforms } from '../src/core/formulas/statistics/seededNormals';
import { frameOf, framesOfClip } from '../src/media/clips/frames';

const [WIDTH, HEIGHT] = [3840, 2160];
/** Around the frame, for the camera to move in. */
const MARGIN = 160;
const BARES = 3;
const FILTERS = 7;
/** The camera's way comes back to its beginning after so long; it is filmed once and repeated. */
const ROUND = 12;
const SECONDS = 60;
/** Of each clip whose motion is told, so many seconds are decoded (see `media/clips/motionFrames`). */
const MOTION_SECONDS = 10;

function run(words: string[]): Promise<number> {
  const started = performance.now();
  return new Promise((resolve, reject) => {
    const child = spawn('ffmpeg', ['-nostdin', '-v', 'error', '-y', ...words], {
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    child.on('error', reject);
    child.on('close', (code) =>
      code === 0 ? resolve((performance.now() - started) / 1000) : reject(new Error(`ffmpeg ended with ${code}`)),
    );
  });
}

/** A still of blotches of every size, larger than a frame. */
async function writeScene(path: string): Promise<void> {
  const [width, height] = [WIDTH + 2 * MARGIN, HEIGHT + 2 * MARGIN];
  const sum = new Float32Array(width * height);
  for (const [octave, size] of [3, 7, 18, 50, 140, 400].entries()) {
    const next = seededUniforms(octave + 1);
    const [columns, rows] = [Math.ceil(width / size) + 2, Math.ceil(height / size) + 2];
    const table = Float32Array.from({ length: columns * rows }, next);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const [u, v] = [Math.floor(x / size), Math.floor(y / size)];
        const [s, t] = [x / size - u, y / size - v];
        const at = v * columns + u;
        const upper = table[at] + s * (table[at + 1] - table[at]);
        const lower = table[at + columns] + s * (table[at + columns + 1] - table[at + columns]);
        sum[y * width + x] += upper + t * (lower - upper) - 0.5;
      }
  }
  const data = Uint8Array.from(sum, (one) => Math.min(235, Math.max(16, Math.round(112 + 62 * one))));
  await sharp(data, { raw: { width, height, channels: 1 } })
    .toColourspace('srgb')
    .png({ compressionLevel: 1 })
    .toFile(path);
}

async function writeClip(scene: string, path: string, shift: number, gains: string): Promise<void> {
  const at = (axis: string, turns: number) => `${axis}='${MARGIN}+${shift}+90*sin(2*PI*t*${turns}/${ROUND})'`;
  const filter = `crop=${WIDTH}:${HEIGHT}:${at('x', 1)}:${at('y', 2)},colorchannelmixer=${gains},noise=alls=4:allf=t`;
  const encoder = ['-c:v', 'libx264', '-preset', 'veryfast', '-b:v', '60M', '-g', '25', '-pix_fmt', 'yuv420p'];
  const tags = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709'];
  const piece = `${path}.piece.mp4`;
  await run(['-loop', '1', '-r', '25', '-t', String(ROUND), '-i', scene, '-vf', filter, ...encoder, ...tags, piece]);
  await run(['-stream_loop', String(SECONDS / ROUND - 1), '-i', piece, '-c', 'copy', path]);
  await rm(piece);
}

async function writeWalk(folder: string): Promise<string[]> {
  const scene = join(folder, 'scene.png');
  await writeScene(scene);
  const kit = {
    id: 'kit',
    filters: Array.from({ length: FILTERS }, (_, i) => ({ id: `f${i}`, kind: 'nd', nominal: { stops: 3 } })),
  };
  const takes = Array.from({ length: BARES + FILTERS }, (_, i) => {
    const bare = i % 4 === 0;
    const filter = bare ? null : `f${i - 1 - Math.floor(i / 4)}`;
    return {
      id: `take-${i}`,
      filter,
      scene: 'outdoor',
      files: [`take-${i}.mp4`],
      exposure: { shutter: bare ? '1/400' : '1/50', iso: 100, fNumber: 4 },
    };
  });
  const session = {
    format: 'aurora-glade-session',
    version: 1,
    title: 'Bench of a walk',
    kits: [kit],
    scenes: [{ id: 'outdoor', kind: 'outdoor' }],
    patches: [],
    takes,
  };
  await writeFile(join(folder, 'session.glade.json'), JSON.stringify(session));
  const made = new Map<boolean, string>();
  for (const { filter, files } of takes) {
    const path = join(folder, files[0]);
    const known = made.get(filter === null);
    if (known) await link(known, path);
    else {
      await writeClip(scene, path, filter === null ? 0 : 9, filter === null ? 'rr=1' : 'rr=0.98:bb=0.96');
      made.set(filter === null, path);
    }
  }
  await rm(scene);
  return takes.map(({ files }) => join(folder, files[0]));
}

/** Bytes that a process and all that it has started hold. */
async function heldBy(pid: number): Promise<number> {
  const pages = await readFile(`/proc/${pid}/statm`, 'utf8').then(
    (text) => Number(text.split(' ')[1]),
    () => 0,
  );
  const threads = await readdir(`/proc/${pid}/task`).catch(() => []);
  const children = await Promise.all(
    threads.map((one) => readFile(`/proc/${pid}/task/${one}/children`, 'utf8').catch(() => '')),
  );
  const below = await Promise.all(
    children
      .join(' ')
      .split(/\s+/)
      .filter(Boolean)
      .map((one) => heldBy(Number(one))),
  );
  return 4096 * pages + below.reduce((a, b) => a + b, 0);
}

function ended(child: ChildProcess): Promise<number | null> {
  return new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('close', resolve);
  });
}

/** Prints the ratio and the peak. */
export async function benchWalk(): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'glade-bench-walk-'));
  try {
    const clips = await writeWalk(folder);
    let alone = 0;
    for (const clip of clips)
      for (const { file } of await framesOfClip(clip, 'clip.mp4')) {
        const { moments } = frameOf(file)!;
        const seek = ['-threads', '2', '-ss', moments[0].toFixed(4), '-i', clip];
        alone += await run([...seek, '-frames:v', String(moments.length), '-f', 'null', '-']);
      }
    // Motion is told of a filter's first clip, and of bare's.
    for (const clip of clips.slice(0, FILTERS + 1))
      alone += await run(['-threads', '2', '-t', String(MOTION_SECONDS), '-i', clip, '-f', 'null', '-']);
    const started = performance.now();
    const child = spawn(process.execPath, ['dist/measure.mjs', folder, '--out', join(folder, 'readings.json')], {
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    let peak = 0;
    const watch = setInterval(() => void heldBy(child.pid!).then((bytes) => (peak = Math.max(peak, bytes))), 200);
    const code = await ended(child);
    clearInterval(watch);
    const ours = (performance.now() - started) / 1000;
    if (code !== 0) throw new Error(`measuring ended with ${code}`);
    const { filters } = JSON.parse(await readFile(join(folder, 'readings.json'), 'utf8')) as {
      filters: { density?: unknown }[];
    };
    const measured = filters.filter((one) => one.density).length;
    console.log(
      `${clips.length} clips of ${SECONDS} s at 4K: ffmpeg alone ${alone.toFixed(1)} s, measured in ${ours.toFixed(1)} s, ratio ${(ours / alone).toFixed(2)} (held to 3); peak of all processes ${(peak / 1e6).toFixed(0)} MB (held to 1200); ${measured} of ${FILTERS} filters with a strength`,
    );
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
