/**
 * Benchmark of clips: nine frames each of ten 60-second 4K clips (H.264, 60 Mbit/s, a key frame a second), as the application reads them, beside
 * ffmpeg alone decoding the same frames with the same seeks. `npm run bench -- clips`. Reports the ratio; no assertions.
 */
import { spawn } from 'node:child_process';
import { link, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readWindows } from '../src/core/reading/source';
import { frameOf, framesOfClip, openFrame } from '../src/media/clips/frames';

const CLIPS = 10;
const SECONDS = 60;
const SIDE_BY_SIDE = 2;

function run(words: string[]): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn('ffmpeg', ['-nostdin', '-v', 'error', '-y', ...words], {
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    child.on('error', reject);
    child.on('close', (code) => (code === 0 ? resolve() : reject(new Error(`ffmpeg ended with ${code}`))));
  });
}

/** A moving pattern with grain at 4K, at a camera's bit rate; three seconds are encoded and repeated. */
async function writeClips(folder: string): Promise<string[]> {
  const piece = join(folder, 'piece.mp4');
  const source = `testsrc2=size=3840x2160:rate=25:duration=3,noise=alls=6:allf=t`;
  const encoder = ['-c:v', 'libx264', '-preset', 'veryfast', '-b:v', '60M', '-g', '25', '-pix_fmt', 'yuv420p'];
  await run(['-f', 'lavfi', '-i', source, ...encoder, piece]);
  const names = Array.from({ length: CLIPS }, (_, i) => join(folder, `clip-${i}.mp4`));
  await run(['-stream_loop', String(SECONDS / 3 - 1), '-i', piece, '-c', 'copy', names[0]]);
  for (const name of names.slice(1)) await link(names[0], name);
  return names;
}

async function sideBySide<T>(items: readonly T[], work: (item: T) => Promise<void>): Promise<number> {
  const queue = [...items];
  const started = performance.now();
  const next = async () => {
    for (let item = queue.shift(); item !== undefined; item = queue.shift()) await work(item);
  };
  await Promise.all(Array.from({ length: SIDE_BY_SIDE }, next));
  return (performance.now() - started) / 1000;
}

/** Prints the ratio. */
export async function benchClips(): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'glade-bench-clips-'));
  try {
    const clips = await writeClips(folder);
    let [alone, ours, count] = [0, 0, 0];
    // By turns, clip by clip: what else the machine does falls on both.
    for (const clip of clips) {
      const frames = (await framesOfClip(clip, 'clip.mp4')).map(({ file }) => ({
        file,
        moments: frameOf(file)!.moments,
      }));
      count += frames.length;
      alone += await sideBySide(frames, ({ moments }) => {
        const seek = ['-threads', '2', '-ss', moments[0].toFixed(4), '-i', clip];
        return run([...seek, '-frames:v', String(moments.length), '-f', 'null', '-']);
      });
      const started = performance.now();
      await framesOfClip(clip, 'clip.mp4');
      ours += (performance.now() - started) / 1000;
      ours += await sideBySide(frames, async ({ file, moments }) => {
        const patch = { x: 1600, y: 900, width: 480, height: 320 };
        await readWindows(openFrame(clip, file, moments), () => [patch, { ...patch, x: 400, luma: true }]);
      });
    }
    console.log(
      `${count} frames of ${CLIPS} clips at 4K: ffmpeg alone ${alone.toFixed(1)} s, read ${ours.toFixed(1)} s, ratio ${(ours / alone).toFixed(2)} (held to 1.2)`,
    );
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
