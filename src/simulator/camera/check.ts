/** The pictures of a camera's check, shot by a stand-in camera: an even wall over eight stops, twice, and a chart at four exposures. */
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { shutterMark, snapShutterMark } from '@/core/formulas/optics/exposure';
import { fileName } from '../session';
import { planTakes } from '../plan';
import type { BenchPlan, PlannedTake, SimulatedScene } from '../truth';
import type { CameraProfile } from './profile';
import { writeDeveloped } from './shoot';

/** Stops darker than bare: of the wall, whose level is a stop below white, and of the chart. */
const DOWN = [-2 / 3, 0, 1, 2, 3, 4, 5, 6, 22 / 3];
/** Back again, between those, and at the first once more. */
const UP = [19 / 3, 16 / 3, 13 / 3, 10 / 3, 7 / 3, 4 / 3, 1 / 3, -1 / 3, -2 / 3];
const OF_CHART = [0, 1, 3, 5];

const SLOWER = 2 ** 8;

/** Times as they are, or of the third-stop series: exact powers, written as cameras engrave them. */
export type ShutterMarks = 'as they are' | 'engraved';

/** The takes of a check: 22 pictures. */
export function checkTakes(plan: BenchPlan, marks: ShutterMarks = 'as they are'): PlannedTake[] {
  const takes = planTakes({ ...plan, filters: [], scenes: ['flat', 'chart'] });
  const bareOf = (scene: SimulatedScene) => takes.find((take) => take.scene === scene)!;
  const list: [SimulatedScene, number][] = [
    ...[...DOWN, ...UP].map((stops): [SimulatedScene, number] => ['flat', stops]),
    ...OF_CHART.map((stops): [SimulatedScene, number] => ['chart', stops]),
  ];
  return list.map(([scene, stops], i) => {
    const wanted = bareOf(scene).shutterSeconds * 2 ** -stops;
    const shutterSeconds = marks === 'engraved' ? snapShutterMark(wanted) : wanted;
    // The stand-in's lamps are bright: by whole stops less light, shutters are those of a real one.
    const shown = marks === 'engraved' ? Math.round(1 / shutterMark(wanted * SLOWER)) : (1 / wanted).toFixed(3);
    return {
      ...bareOf(scene),
      id: `check-${i + 1}`,
      role: 'bracket',
      minute: 0.25 * i,
      lampStops: plan.lamps.driftStops * (i / (list.length - 1)),
      shutterSeconds,
      shutterText: `1/${shown}`,
      repeats: 1,
    };
  });
}

/** Writes a check's pictures and the session that describes them into a folder: no filters, the whole frames looked at. */
export async function shootCheck(
  plan: BenchPlan,
  profile: CameraProfile,
  folder: string,
  marks?: ShutterMarks,
): Promise<void> {
  await mkdir(folder, { recursive: true });
  const ending = profile.jpeg ? 'jpg' : 'png';
  const takes = checkTakes(plan, marks);
  for (const take of takes) await writeDeveloped(plan, take, 0, profile, join(folder, fileName(take, 0, ending)));
  const whole = { x: 0, y: 0, width: 1, height: 1 };
  const session = {
    format: 'aurora-glade-session',
    version: 1,
    title: `Check of ${plan.title}`,
    rig: { camera: 'Stand-in', aperture: 'variable', response: { kind: 'file' } },
    kits: [],
    scenes: [
      { id: 'flat', kind: 'flat' },
      { id: 'chart', kind: 'chart' },
    ],
    patches: [
      { id: 'wall', scene: 'flat', role: 'field', rect: whole },
      { id: 'gray', scene: 'chart', role: 'neutral', rect: whole },
    ],
    takes: takes.map((take) => ({
      id: take.id,
      filter: null,
      scene: take.scene,
      role: 'bracket',
      files: [fileName(take, 0, ending)],
      capturedAt: new Date(Date.parse(plan.startedAt) + take.minute * 60_000).toISOString(),
      exposure: { shutter: take.shutterText, iso: take.iso, fNumber: 2.8 },
    })),
  };
  await writeFile(join(folder, 'session.glade.json'), JSON.stringify(session, null, 2));
}
