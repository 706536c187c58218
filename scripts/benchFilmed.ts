/**
 * The bench filmed at 4K (chart and flat, H.264 8-bit and H.265 10-bit) measured against its truth: `npm run bench -- filmed [width]`.
 * Prints the largest errors beside what issue and method ask for; no assertions.
 */
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expectedCast } from '../src/simulator/expected/color';
import { expectedCorner } from '../src/simulator/expected/shading';
import { expectedKept } from '../src/simulator/expected/sharpness';
import { measureSession } from '../src/core/measure';
import { parseSessionText } from '../src/core/session/parse';
import { folderSource } from '../src/media/folder';
import { expectedStrength } from '../src/simulator/expected/strength';
import { writeSession } from '../src/simulator/files';
import { randomPlan } from '../src/simulator/randomBench';
import type { BenchPlan, ClipPlan } from '../src/simulator/truth';

const FILMED: Omit<ClipPlan, 'codec' | 'bits' | 'quality'> = {
  chroma: '420',
  range: 'limited',
  framesPerSecond: 25,
  frames: 9,
  telemetry: true,
};

/** Prints a line a codec. */
export async function benchFilmed(width = 3840): Promise<void> {
  const kind = { protocol: 'matched', bitDepth: 16, drift: 0, bend: 0, flicker: 0, repeats: 1 } as const;
  for (const clips of [
    { ...FILMED, codec: 'h264', bits: 8, quality: 16 },
    { ...FILMED, codec: 'h265', bits: 10, quality: 16 },
  ] as const) {
    const random = randomPlan(`filmed/${clips.codec}`, { ...kind, scenes: ['chart', 'flat'] });
    const plan: BenchPlan = {
      ...random,
      width,
      height: Math.round((width * 9) / 32) * 2,
      camera: { ...random.camera, response: 'bt709', blurPx: 0.8 },
      filters: random.filters.slice(0, 2),
      clips,
    };
    const folder = await mkdtemp(join(tmpdir(), 'glade-filmed-'));
    try {
      await writeSession(plan, { id: 'kit', name: 'Filmed' }, folder);
      const session = parseSessionText(await readFile(join(folder, 'session.glade.json'), 'utf8'));
      const readings = await measureSession(session, folderSource(folder), { createdAt: '', generator: '' });
      for (const truth of plan.filters) {
        const found = readings.filters.find((one) => one.filter === truth.id)!;
        const kept = expectedKept(plan, truth);
        const errors = {
          stop: (found.density?.stops.value ?? NaN) - expectedStrength(plan, truth),
          deltaE00: (found.cast?.deltaE00.value ?? NaN) - expectedCast(truth.stops).deltaE00,
          kept: Math.max(...(found.sharpness ?? []).map((one) => Math.abs(one.retained.value - kept))),
          corner: (found.shading?.worst?.value ?? NaN) - expectedCorner(plan, truth.cornerStops ?? 0),
        };
        const words = Object.entries(errors).map(([name, error]) => `${name} ${error.toFixed(4)}`);
        console.log(
          `${clips.codec} ${clips.bits} bit ${width} wide, ${truth.id}: ${words.join(', ')} of ${found.sharpness?.length ?? 0} edges, kept in truth ${kept.toFixed(3)} (asked: 0.03 stop, 0.4, 0.03)`,
        );
        for (const { code, message } of found.faults) console.log(`  ${code}: ${message}`);
      }
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  }
}
