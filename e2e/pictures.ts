/** Small simulated benches as files, for tests that drop them. */
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { writeSession } from '@/simulator/files';
import type { BenchPlan } from '@/simulator/truth';

export const BENCH: BenchPlan = {
  title: 'Dropped bench',
  seed: 'e2e',
  width: 600,
  height: 400,
  camera: { response: 'srgb', bitDepth: 8, fullWell: 12000, readNoise: 3, falloffStops: 0.4, blurPx: 0.6 },
  lamps: { driftStops: 0.05 },
  protocol: 'matched',
  bareLevel: 0.9,
  filters: [
    { id: 'nd4', name: 'ND4', kind: 'nd', nominal: { ndFactor: 4 }, stops: [2.02, 2.02, 2.02] },
    { id: 'nd8', name: 'ND8', kind: 'nd', nominal: { ndFactor: 8 }, stops: [3.9, 3.8, 3.7] },
  ],
  repeats: 1,
  bareEvery: 1,
  startedAt: '2026-05-14T09:02:00Z',
  scenes: ['chart'],
};

/** Films the bench instead, with telemetry beside each clip; gives the paths of clips and telemetry. */
export async function filmBench(folder: string): Promise<string[]> {
  await rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true });
  const clips = { codec: 'h264', bits: 8, chroma: '420', range: 'limited', quality: 12 } as const;
  const camera = { ...BENCH.camera, bitDepth: 16, response: 'bt709' } as const;
  const plan = { ...BENCH, camera, clips: { ...clips, framesPerSecond: 25, frames: 5, telemetry: true } };
  const names = await writeSession(plan, { id: 'kit', name: 'Filmed kit' }, folder);
  return names.map((name) => join(folder, name));
}

/** Writes the bench's pictures and session file into a folder of the test's; gives the paths of the pictures. */
export async function writeBench(folder: string): Promise<string[]> {
  await rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true });
  const names = await writeSession(BENCH, { id: 'kit', name: 'Dropped kit' }, folder, 'png');
  return names.map((name) => join(folder, name));
}
