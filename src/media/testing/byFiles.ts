/** Sessions of stand-in cameras as their files: shot into a folder, read back, measured. For tests. */
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { measureSession } from '@/core/measure';
import { parseSession } from '@/core/session/parse';
import type { Readings } from '@/core/session/readings';
import type { CameraProfile } from '@/simulator/camera/profile';
import { shootSession } from '@/simulator/camera/shoot';
import { compareWithTruth, type Comparison } from '@/simulator/expected/compare';
import type { BenchPlan, PlannedTake } from '@/simulator/truth';
import { folderSource } from '../folder';

export interface ShotByFiles {
  readings: Readings;
  rows: Comparison[];
}

/** A session's file before it is read. */
export interface SessionFile {
  takes: { id: string; exposure?: object }[];
  rig: Record<string, unknown>;
  patches: { role: string }[];
}

/**
 * Shoots and measures a plan; edges are left out: pictures of tests are too small for them.
 *
 * @param darker bare pictures beside the plan's own, stops darker
 */
export async function measuredByFiles(
  plan: BenchPlan,
  profile: CameraProfile | ((take: PlannedTake) => CameraProfile),
  darker: readonly number[],
  change?: (file: SessionFile) => void,
): Promise<ShotByFiles> {
  const folder = await mkdtemp(join(tmpdir(), 'cameras-'));
  try {
    await shootSession(plan, profile, folder, darker);
    const file = JSON.parse(await readFile(join(folder, 'session.glade.json'), 'utf8')) as SessionFile;
    file.patches = file.patches.filter(({ role }) => role !== 'edge');
    change?.(file);
    const readings = await measureSession(parseSession(file), folderSource(folder), { createdAt: '', generator: '' });
    return { readings, rows: compareWithTruth(plan, readings) };
  } finally {
    await rm(folder, { recursive: true });
  }
}
