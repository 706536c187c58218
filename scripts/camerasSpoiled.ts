/**
 * Sessions of stand-in cameras that were damaged by hand: how many strengths are off by more than three times their ± with nothing said.
 *
 * `npm run cameras-spoiled -- [sessions of each damage]`
 */
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { measureSession } from '../src/core/measure';
import { parseSession } from '../src/core/session/parse';
import type { CameraCheck } from '../src/core/session/cameraCheck';
import type { Readings } from '../src/core/session/readings';
import { folderSource } from '../src/media/folder';
import { shootCheck } from '../src/simulator/camera/check';
import { drawProfile, type CameraProfile } from '../src/simulator/camera/profile';
import { shootSession } from '../src/simulator/camera/shoot';
import { compareWithTruth } from '../src/simulator/expected/compare';
import { CHART_AND_WALL, randomPlan } from '../src/simulator/randomBench';
import type { BenchPlan, PlannedTake } from '../src/simulator/truth';

interface SessionFile {
  rig: { check?: CameraCheck };
  takes: { id: string; filter: string | null; exposure?: { iso?: number } }[];
}

interface Damage {
  name: string;
  darker: readonly number[];
  /** The camera as it stands at a take. */
  camera?: (own: CameraProfile, other: CameraProfile, take: PlannedTake) => CameraProfile;
  /** Whose check goes along. */
  check?: 'own' | 'other';
  change?: (file: SessionFile) => void;
}

const isExtra = ({ role }: PlannedTake) => role === 'bracket';

const DAMAGES: readonly Damage[] = [
  { name: 'style changed between bare and filtered, untold', darker: [1, 3], camera: (own, other, take) => (take.filter ? other : own) }, // prettier-ignore
  { name: 'style changed for one filter, told by EXIF', darker: [1, 3], camera: (own, other, take) => (take.filter?.id === 'f1' ? { ...other, settings: { contrast: 2 } } : { ...own, settings: { contrast: 0 } }) }, // prettier-ignore
  { name: 'darker bares of another style', darker: [1, 3], camera: (own, other, take) => (isExtra(take) ? other : own) },
  { name: 'a darker bare at a wrong exposure', darker: [1, 3], change: ({ takes }) => takes.filter(({ id }) => id === 'extra-2').forEach((take) => (take.exposure = { ...take.exposure, iso: 200 })) }, // prettier-ignore
  { name: 'check of another style, with a witness', darker: [3], check: 'other' },
  { name: 'check of another style, without a witness', darker: [], check: 'other' },
]; // prettier-ignore

/** Measures one damaged session; gives the faults' codes and the strengths' errors and ±. */
async function measure(seed: string, damage: Damage, protocol: BenchPlan['protocol']) {
  const drawn = randomPlan(seed, { ...CHART_AND_WALL, drift: 0.03, protocol });
  const plan = { ...drawn, width: 480, height: 320, filters: drawn.filters.slice(0, 3) };
  const [own, other] = [drawProfile(seed, 'processed'), drawProfile(`${seed}/other`, 'processed')];
  const folder = await mkdtemp(join(tmpdir(), 'spoiled-'));
  const read = async (name: string) => JSON.parse(await readFile(join(folder, name, 'session.glade.json'), 'utf8')) as SessionFile; // prettier-ignore
  const measured = (file: unknown, name: string): Promise<Readings> =>
    measureSession(parseSession(file), folderSource(join(folder, name)), { createdAt: '2026-05-01', generator: '' });
  try {
    const { camera, check, change } = damage;
    await shootSession(plan, camera ? (take) => camera(own, other, take) : own, join(folder, 'sitting'), damage.darker);
    const file = await read('sitting');
    if (check) {
      await shootCheck({ ...plan, seed: `${seed}/check` }, check === 'own' ? own : other, join(folder, 'check'));
      file.rig.check = (await measured(await read('check'), 'check')).check;
    }
    change?.(file);
    const readings = await measured(file, 'sitting');
    return compareWithTruth(plan, readings)
      .filter(({ measure: what, error }) => what === 'strength' && error !== null)
      .map(({ error, u95 }) => ({ off: Math.abs(error!) / u95!, told: told(readings) }));
  } finally {
    await rm(folder, { recursive: true });
  }
}

/** What is said to be wrong; `info` counts as a word, edges too short for their chart don't. */
const told = ({ faults, filters }: Readings) =>
  [...faults, ...filters.flatMap((one) => one.faults)].map(({ code }) => code).filter((code) => !/^(edge-unusable|processed)$/.test(code)); // prettier-ignore

async function main(): Promise<void> {
  const count = Number(process.argv[2] ?? 4);
  for (const damage of DAMAGES)
    for (const protocol of ['matched', 'locked'] as const) {
      const rows = [];
      for (let i = 0; i < count; i++) rows.push(...(await measure(`spoiled/${i}`, damage, protocol)));
      const far = rows.filter(({ off }) => off > 3);
      const silent = far.filter((row) => row.told.length === 0);
      const codes = [...new Set(far.flatMap((row) => row.told))].join(', ');
      console.log(`${damage.name}, ${protocol}: ${rows.length} of ${3 * count} given, ${rows.filter(({ off }) => off <= 1).length} held, ${far.length} off by over 3 × u95, ${silent.length} of them silent ${codes && `(${codes})`}`); // prettier-ignore
    }
}

void main();
