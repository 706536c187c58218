/** A walk along a painted wall, filmed twice at another pace, with telemetry that tells the place. */
import { mkdir, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { seededUniforms } from '../src/core/formulas/statistics/seededNormals';
import type { Picture } from '../src/core/reading/window';
import { writeClip } from '@/simulator/clips';

const FRAME = { width: 480, height: 270 };
const PER_SECOND = 25;
/** Pixels that the wall moves by for each meter. */
const PIXELS_A_METER = 12;
export const METERS = 12;
/** Rows at the top whose signal tells the place, evenly from here to here. */
const TOLD_ROWS = 60;
export const TOLD = { from: 0.2, to: 0.8 };

interface Pace {
  seconds: number;
  /** Meters from the start at a moment. */
  place: (seconds: number) => number;
}

const PACES: Record<'bare' | 'nd8', Pace> = {
  bare: { seconds: 6, place: (seconds) => 2 * seconds },
  // Stands for half a second, then goes twice as fast.
  nd8: { seconds: 4, place: (seconds) => Math.min(METERS, Math.max(0, 4 * (seconds - 0.5))) },
};

/** Wall of blocks of chance signals, made once. */
function paintWall(): Float32Array {
  const next = seededUniforms(12);
  const width = FRAME.width + PIXELS_A_METER * METERS + 16;
  const wall = new Float32Array(width * FRAME.height);
  for (let block = 0; block < 900; block++) {
    const [x, y, w, h, signal] = [next() * width, next() * FRAME.height, 6 + 40 * next(), 6 + 30 * next(), next()];
    for (let v = Math.floor(y); v < Math.min(FRAME.height, y + h); v++)
      for (let u = Math.floor(x); u < Math.min(width, x + w); u++) wall[v * width + u] = 0.1 + 0.7 * signal;
  }
  return wall;
}

/** Writes session, clips and telemetry into a folder; gives all paths, the session's first. */
export async function filmWalk(folder: string): Promise<string[]> {
  await rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true });
  const wall = paintWall();
  const wallWidth = wall.length / FRAME.height;
  const frame = (meters: number) => (): Picture => {
    const data = new Uint16Array(FRAME.width * FRAME.height * 3);
    const shift = Math.round(meters * PIXELS_A_METER);
    const told = TOLD.from + ((TOLD.to - TOLD.from) * meters) / METERS;
    for (let y = 0; y < FRAME.height; y++)
      for (let x = 0; x < FRAME.width; x++) {
        const signal = y < TOLD_ROWS ? told : wall[y * wallWidth + x + shift];
        data.fill(Math.round(65_535 * signal), 3 * (y * FRAME.width + x), 3 * (y * FRAME.width + x) + 3);
      }
    return { ...FRAME, channels: 3, bitDepth: 16, data };
  };
  const paths: string[] = [];
  for (const [name, { seconds, place }] of Object.entries(PACES)) {
    const count = seconds * PER_SECOND;
    const frames = Array.from({ length: count }, (_, i) => frame(place(i / PER_SECOND)));
    const plan = { codec: 'h264', bits: 8, chroma: '420', range: 'limited', quality: 8, telemetry: true } as const;
    const path = join(folder, `${name}.mp4`);
    await writeClip(frames, FRAME, { ...plan, framesPerSecond: PER_SECOND, frames: count }, 'bt709', path);
    const time = (at: number) => new Date(Math.round(at * 1000)).toISOString().slice(11, 23).replace('.', ',');
    const cues = Array.from({ length: count }, (_, i) => {
      // 111,195 m a degree to the north.
      const latitude = (47 + place(i / PER_SECOND) / 111_195).toFixed(8);
      const words = `[iso: 100] [shutter: 1/100] [fnum: 2.8] [latitude: ${latitude}] [longitude: 8.0] [rel_alt: 2.0]`;
      return `${i + 1}\n${time(i / PER_SECOND)} --> ${time((i + 1) / PER_SECOND)}\n${words}\n`;
    });
    await writeFile(join(folder, `${name}.srt`), cues.join('\n'));
    paths.push(path, join(folder, `${name}.srt`));
  }
  const take = (id: string, filter: string | null) => ({
    id,
    filter,
    scene: 'wall',
    files: [`${id}.mp4`],
    telemetry: `${id}.srt`,
  });
  const session = {
    format: 'aurora-glade-session',
    version: 1,
    title: 'Along the wall',
    rig: { camera: 'Walk camera', aperture: 'fixed' },
    kits: [
      { id: 'kit', name: 'Walk kit', filters: [{ id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 } }] },
    ],
    scenes: [{ id: 'wall', kind: 'chart' }],
    takes: [take('bare', null), take('nd8', 'nd8')],
    patches: [],
  };
  const path = join(folder, 'session.glade.json');
  await writeFile(path, JSON.stringify(session));
  return [path, ...paths];
}
